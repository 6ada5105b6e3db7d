package weft.server.event;

/** How many listen to changes through this server. */
public interface Listening {

    /** Their number now. */
    int count();
}
