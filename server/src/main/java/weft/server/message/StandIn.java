package weft.server.message;

import jakarta.mail.MessagingException;
import jakarta.mail.internet.MimeMessage;
import java.util.concurrent.atomic.AtomicInteger;
import org.jspecify.annotations.Nullable;
import org.springframework.mail.MailSendException;
import org.springframework.mail.javamail.JavaMailSenderImpl;

/** Takes every message as a mail server would and passes none on, for as long as no mail server is set. */
final class StandIn extends JavaMailSenderImpl {

    private final AtomicInteger taken = new AtomicInteger();

    /** How many messages it has taken. */
    int taken() {
        return taken.get();
    }

    @Override
    protected void doSend(MimeMessage[] messages, Object @Nullable [] originals) {
        for (var message : messages) {
            try {
                // What can't be sent is found here too.
                message.saveChanges();
                taken.incrementAndGet();
            } catch (MessagingException e) {
                throw new MailSendException("The message can't be sent.", e);
            }
        }
    }
}
