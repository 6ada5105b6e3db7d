package weft.store.message;

import static weft.store.schema.Tables.MESSAGE;

import java.time.Clock;
import java.time.Duration;
import java.time.OffsetDateTime;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;

/**
 * Messages that entries wrote. Each is sent by one server at a time and marked in the same transaction that holds it, so
 * that it goes out once; only a server that dies between the mail server's yes and its own mark would send one again.
 */
public final class Outbox {

    /** After so many tries a message is given up. */
    public static final int TRIES = 8;

    private static final int LONGEST_FAILURE = 400;

    private final DSLContext sql;
    private final Clock clock;

    /** In the database that those queries go to. */
    public Outbox(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
    }

    /** What has become of a message. */
    public enum State {
        WAITING,
        SENT,
        /** It was tried so often that it is tried no more. */
        GIVEN_UP,
        /** The entry that wrote it was taken back before it went out. */
        TAKEN_BACK
    }

    /**
     * A message.
     *
     * @param failure why the last try failed, or empty
     */
    public record Message(
            long id,
            String form,
            Long record,
            String to,
            String subject,
            String text,
            String by,
            OffsetDateTime writtenAt,
            OffsetDateTime sentAt,
            int tries,
            State state,
            String failure) {}

    /** Sends one message. */
    public interface Sender {
        /**
         * Sends it.
         *
         * @throws Exception when it could not be sent
         */
        void send(Message message) throws Exception;
    }

    /** Puts a message into it that no entry wrote. */
    public void write(String to, String subject, String text, String by) {
        sql.insertInto(MESSAGE)
                .set(MESSAGE.FORM_ID, "")
                .set(MESSAGE.RECIPIENT, to)
                .set(MESSAGE.SUBJECT, subject)
                .set(MESSAGE.TEXT, text)
                .set(MESSAGE.BY, by)
                .execute();
    }

    /** How many are not sent yet and will be tried. */
    public int waiting() {
        return sql.fetchCount(MESSAGE, MESSAGE.NEXT_TRY_AT.isNotNull());
    }

    /** How many were given up. */
    public int givenUp() {
        return sql.fetchCount(
                MESSAGE,
                MESSAGE.NEXT_TRY_AT.isNull().and(MESSAGE.SENT_AT.isNull()).andNot(MESSAGE.TAKEN_BACK));
    }

    /** Sends the next message that is due, if there is one; says whether there was. */
    public boolean sendNext(Sender sender) {
        return sql.transactionResult(inner -> {
            var due = inner.dsl()
                    .selectFrom(MESSAGE)
                    .where(MESSAGE.NEXT_TRY_AT.le(OffsetDateTime.now(clock)))
                    .orderBy(MESSAGE.NEXT_TRY_AT, MESSAGE.ID)
                    .limit(1)
                    .forUpdate()
                    .skipLocked()
                    .fetchOptional();
            due.ifPresent(row -> {
                int tries = row.get(MESSAGE.TRIES) + 1;
                var failure = tried(sender, message(row));
                inner.dsl()
                        .update(MESSAGE)
                        .set(MESSAGE.TRIES, tries)
                        .set(MESSAGE.SENT_AT, failure.isEmpty() ? OffsetDateTime.now(clock) : null)
                        .set(MESSAGE.FAILURE, failure.orElse(null))
                        .set(MESSAGE.NEXT_TRY_AT, failure.isEmpty() || tries >= TRIES ? null : later(tries))
                        .where(MESSAGE.ID.eq(row.get(MESSAGE.ID)))
                        .execute();
            });
            return due.isPresent();
        });
    }

    /** Why it could not be sent; empty when it was. */
    private static Optional<String> tried(Sender sender, Message message) {
        try {
            sender.send(message);
            return Optional.empty();
        } catch (Exception e) {
            var words = String.valueOf(e.getMessage()).lines().findFirst().orElse("");
            return Optional.of(words.substring(0, Math.min(LONGEST_FAILURE, words.length())));
        }
    }

    /** Each pause is four times the one before: from 5 seconds to some hours. */
    private OffsetDateTime later(int tries) {
        return OffsetDateTime.now(clock).plus(Duration.ofSeconds(5).multipliedBy(1L << (2 * tries - 2)));
    }

    /** Tries one that was given up, or waits, again right away. */
    public boolean again(long id) {
        return sql.update(MESSAGE)
                        .set(MESSAGE.NEXT_TRY_AT, OffsetDateTime.now(clock))
                        .set(MESSAGE.TRIES, 0)
                        .where(MESSAGE.ID.eq(id))
                        .and(MESSAGE.SENT_AT.isNull())
                        .andNot(MESSAGE.TAKEN_BACK)
                        .execute()
                == 1;
    }

    /**
     * Messages, the latest first.
     *
     * @param before only those before this id; 0 for the latest
     */
    public List<Message> latest(long before, int limit) {
        return sql.selectFrom(MESSAGE)
                .where(before > 0 ? MESSAGE.ID.lt(before) : DSL.noCondition())
                .orderBy(MESSAGE.ID.desc())
                .limit(limit)
                .fetch(Outbox::message);
    }

    private static State state(Record row) {
        if (row.get(MESSAGE.SENT_AT) != null) {
            return State.SENT;
        }
        if (row.get(MESSAGE.TAKEN_BACK)) {
            return State.TAKEN_BACK;
        }
        return row.get(MESSAGE.NEXT_TRY_AT) == null ? State.GIVEN_UP : State.WAITING;
    }

    private static Message message(Record row) {
        return new Message(
                row.get(MESSAGE.ID),
                row.get(MESSAGE.FORM_ID),
                row.get(MESSAGE.RECORD_ID),
                row.get(MESSAGE.RECIPIENT),
                row.get(MESSAGE.SUBJECT),
                row.get(MESSAGE.TEXT),
                row.get(MESSAGE.BY),
                row.get(MESSAGE.WRITTEN_AT),
                row.get(MESSAGE.SENT_AT),
                row.get(MESSAGE.TRIES),
                state(row),
                row.get(MESSAGE.FAILURE) == null ? "" : row.get(MESSAGE.FAILURE));
    }
}
