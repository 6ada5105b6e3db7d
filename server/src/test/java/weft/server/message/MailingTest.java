package weft.server.message;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jakarta.mail.internet.MimeMessage;
import java.io.ByteArrayInputStream;
import java.net.InetAddress;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.mail.MailException;
import org.subethamail.smtp.RejectException;
import org.subethamail.smtp.server.SMTPServer;
import weft.server.TestServer;
import weft.store.message.Outbox;

/** What a mail server on the other side gets, by SMTP (RFC 5321) and as a message (RFC 5322). */
@ExtendWith(TestServer.class)
class MailingTest {

    private final List<MimeMessage> came = Collections.synchronizedList(new ArrayList<>());
    private final SMTPServer server = SMTPServer.port(0)
            .bindAddress(InetAddress.getLoopbackAddress())
            .messageHandler((_, from, to, data) -> {
                if (to.startsWith("nobody@")) {
                    throw new RejectException(550, "No such person here");
                }
                came.add(read(data));
            })
            .build();

    MailingTest() {
        server.start();
    }

    @AfterEach
    void stop() {
        server.stop();
    }

    private static MimeMessage read(byte[] data) {
        try {
            return new MimeMessage(null, new ByteArrayInputStream(data));
        } catch (jakarta.mail.MessagingException e) {
            throw new IllegalStateException(e);
        }
    }

    private static Mailing mailing(String host, int port) {
        return new Mailing(TestServer.part(Outbox.class), "weft@quillbeck.example", host, port, "", "", false);
    }

    private static Outbox.Message message(String to) {
        var at = OffsetDateTime.parse("2026-08-01T09:30:00Z");
        return new Outbox.Message(
                7,
                "bookings",
                1L,
                to,
                "Booking 12\nfor Saffi",
                "Størrelse: 3 m²",
                "odile",
                at,
                at,
                0,
                Outbox.State.WAITING,
                "");
    }

    @Test
    void aMessageComesAsItWasWrittenAndUnderTheSameNameEachTime() throws Exception {
        var mailing = mailing("127.0.0.1", server.getPortAllocated());
        mailing.send(message("saffi@quillbeck.example"));
        mailing.send(message("saffi@quillbeck.example"));
        assertThat(came).hasSize(2);
        var mail = came.getFirst();
        assertThat(mail.getSubject()).isEqualTo("Booking 12 for Saffi");
        assertThat(mail.getContent().toString().strip()).isEqualTo("Størrelse: 3 m²");
        assertThat(mail.getFrom()[0]).hasToString("weft@quillbeck.example");
        assertThat(mail.getMessageID()).isEqualTo(came.getLast().getMessageID());
        assertThat(mailing.standsIn()).isFalse();
    }

    @Test
    void whatTheMailServerRefusesOrDoesNotAnswerFailsAndIsSaid() {
        var mailing = mailing("127.0.0.1", server.getPortAllocated());
        assertThatThrownBy(() -> mailing.send(message("nobody@quillbeck.example")))
                .isInstanceOf(MailException.class)
                .hasMessageContaining("No such person here");
        assertThat(mailing.sendAtOnce("saffi@quillbeck.example", "Invitation", "Come in."))
                .isTrue();
        server.stop();
        assertThat(mailing.sendAtOnce("saffi@quillbeck.example", "Invitation", "Come in."))
                .isFalse();
        assertThat(came).hasSize(1);
    }

    @Test
    void withoutAMailServerMessagesAreTakenAndNothingLeaves() throws Exception {
        var mailing = mailing("", 0);
        mailing.send(message("saffi@quillbeck.example"));
        assertThat(mailing.taken()).isEqualTo(1);
        assertThat(mailing.sendAtOnce("saffi@quillbeck.example", "Invitation", "Come in."))
                .isFalse();
        assertThat(came).isEmpty();
    }
}
