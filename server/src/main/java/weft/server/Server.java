package weft.server;

import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;

/** What Spring puts together, on the database that {@code weft.database.url} names. {@link WeftServer} starts it. */
@SpringBootApplication(proxyBeanMethods = false)
public class Server {

    /** Called to learn what it is made of, so that a start need not find that out: Spring's processing ahead of time. */
    public static void main(String... args) {
        SpringApplication.run(Server.class, args);
    }
}
