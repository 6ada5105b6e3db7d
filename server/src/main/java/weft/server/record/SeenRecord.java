package weft.server.record;

/** A record to be removed or taken back, with the version that was seen of it. */
record SeenRecord(long id, int version) {

    /** So many at once. */
    static final int MOST = 200;
}
