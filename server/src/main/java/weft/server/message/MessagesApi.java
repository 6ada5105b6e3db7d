package weft.server.message;

import java.time.OffsetDateTime;
import java.util.List;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.server.http.Problem;
import weft.store.message.Outbox;
import weft.store.message.Outbox.Message;
import weft.store.people.People;

/** The outbox as one looks at it. */
@RestController
class MessagesApi {

    private static final int PAGE = 50;

    private final Outbox outbox;
    private final Mailing mailing;
    private final People people;

    MessagesApi(Outbox outbox, Mailing mailing, People people) {
        this.outbox = outbox;
        this.people = people;
        this.mailing = mailing;
    }

    /**
     * A message.
     *
     * @param failure why the last try failed, or empty
     */
    record MessageJson(
            long id,
            String form,
            String to,
            String subject,
            String text,
            String by,
            OffsetDateTime writtenAt,
            @Nullable OffsetDateTime sentAt,
            Outbox.State state,
            String failure) {
        static MessageJson of(Message message, UnaryOperator<String> titles) {
            return new MessageJson(
                    message.id(),
                    message.form(),
                    message.to(),
                    message.subject(),
                    message.text(),
                    titles.apply(message.by()),
                    message.writtenAt(),
                    message.sentAt(),
                    message.state(),
                    message.failure());
        }
    }

    /**
     * Messages, the latest first.
     *
     * @param standIn whether they only go to the stand-in, since no mail server is set
     * @param taken how many the stand-in has taken since the start
     * @param next leads on; none at the end
     */
    record MessagesJson(
            boolean standIn,
            int taken,
            List<MessageJson> messages,
            @Nullable Long next) {}

    @GetMapping("/api/messages")
    MessagesJson messages(@RequestParam(defaultValue = "0") long before) {
        var page = outbox.latest(before, PAGE);
        var titles = people.titles(page.stream().map(Message::by).toList());
        return new MessagesJson(
                mailing.standsIn(),
                mailing.taken(),
                page.stream().map(each -> MessageJson.of(each, titles)).toList(),
                page.size() < PAGE ? null : page.getLast().id());
    }

    /** Tries a message again right away. */
    @PostMapping("/api/messages/{id}/again")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void again(@PathVariable long id) {
        if (!outbox.again(id)) {
            throw Problem.unknown("message " + id + " that waits to be sent");
        }
    }
}
