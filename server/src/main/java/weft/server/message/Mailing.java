package weft.server.message;

import jakarta.mail.MessagingException;
import jakarta.mail.internet.MimeMessage;
import java.util.Optional;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.mail.MailException;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.mail.javamail.JavaMailSenderImpl;
import org.springframework.mail.javamail.MimeMessageHelper;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import weft.store.message.Outbox;
import weft.store.message.Outbox.Message;

/** Sends what is in the outbox by SMTP: to the mail server of the settings, or, where none is set, to a stand-in that only keeps it. */
@Component
public class Mailing {

    private static final int PATIENCE_MILLIS = 10_000;

    private final Outbox outbox;
    private final JavaMailSender sender;
    private final String from;
    private final Optional<StandIn> standIn;

    Mailing(
            Outbox outbox,
            @Value("${weft.mail.from}") String from,
            @Value("${weft.mail.host}") String host,
            @Value("${weft.mail.port}") int port,
            @Value("${weft.mail.user}") String user,
            @Value("${weft.mail.password}") String password,
            @Value("${weft.mail.starttls}") boolean starttls) {
        this.outbox = outbox;
        this.from = from;
        standIn = host.isBlank() ? Optional.of(new StandIn()) : Optional.empty();
        var smtp = standIn.<JavaMailSenderImpl>map(server -> server).orElseGet(JavaMailSenderImpl::new);
        if (!host.isBlank()) {
            smtp.setHost(host);
            smtp.setPort(port);
            if (!user.isBlank()) {
                smtp.setUsername(user);
                smtp.setPassword(password);
                smtp.getJavaMailProperties().put("mail.smtp.auth", "true");
            }
            smtp.getJavaMailProperties().put("mail.smtp.starttls.enable", starttls);
            smtp.getJavaMailProperties().put("mail.smtp.starttls.required", starttls);
        }
        smtp.setDefaultEncoding("UTF-8");
        for (var limit : new String[] {"connectiontimeout", "timeout", "writetimeout"}) {
            smtp.getJavaMailProperties().put("mail.smtp." + limit, PATIENCE_MILLIS);
        }
        this.sender = smtp;
    }

    /** Whether messages only go to the stand-in. */
    boolean standsIn() {
        return standIn.isPresent();
    }

    /** How many messages the stand-in has taken. */
    int taken() {
        return standIn.map(StandIn::taken).orElse(0);
    }

    @Scheduled(initialDelayString = "PT2S", fixedDelayString = "PT1S")
    void sendAll() {
        while (outbox.sendNext(this::send)) {
            // Until none is due.
        }
    }

    /** Sends a message that is kept nowhere; says whether a mail server took it. The stand-in takes none of those. */
    public boolean sendAtOnce(String to, String subject, String text) {
        if (standsIn()) {
            return false;
        }
        try {
            sender.send(mime(to, subject, text));
            return true;
        } catch (MessagingException | MailException e) {
            return false;
        }
    }

    void send(Message message) throws Exception {
        var mime = mime(message.to(), message.subject(), message.text());
        // The same message tried again is known by its name.
        mime.setHeader(
                "Message-ID",
                "<weft-" + message.id() + "-" + message.writtenAt().toEpochSecond() + "@weft>");
        sender.send(mime);
    }

    private MimeMessage mime(String to, String subject, String text) throws MessagingException {
        var mime = sender.createMimeMessage();
        var helper = new MimeMessageHelper(mime, false, "UTF-8");
        helper.setFrom(from);
        helper.setTo(to);
        helper.setSubject(subject.replaceAll("\\s+", " "));
        helper.setText(text);
        return mime;
    }
}
