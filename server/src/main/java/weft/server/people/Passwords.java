package weft.server.people;

import java.nio.charset.StandardCharsets;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Component;
import weft.core.table.Faults;
import weft.store.people.People;

/** Passwords: chosen, and held against what is kept of them. */
@Component
public class Passwords {

    /** The password of the demo's people, which the page for signing in tells while it is theirs. */
    public static final String OF_DEMO = "river-watch";

    private static final int SHORTEST = 10;
    /** More the encoder does not take. */
    private static final int LONGEST_BYTES = 72;

    private final PasswordEncoder encoder;
    /** Made beside the start, which would wait for it. */
    private final CompletableFuture<String> nobodys;

    Passwords(PasswordEncoder encoder) {
        this.encoder = encoder;
        this.nobodys = CompletableFuture.supplyAsync(() -> Objects.requireNonNull(encoder.encode("nobody's")));
    }

    /**
     * A password as it is kept.
     *
     * @throws Faults when it is none that may be chosen
     */
    public String encoded(String password, String name) {
        if (password.length() < SHORTEST) {
            throw new Faults("password", "A password has " + SHORTEST + " characters or more; four words do well.");
        }
        if (password.getBytes(StandardCharsets.UTF_8).length > LONGEST_BYTES) {
            throw new Faults("password", "A password has 72 letters and digits at most.");
        }
        if (password.equalsIgnoreCase(name)) {
            throw new Faults("password", "Choose a password that is not the name.");
        }
        return encoder.encode(password);
    }

    /** Whether that is the person's password. It takes the same time where there is no such person. */
    boolean match(String password, Optional<People.Account> person) {
        boolean alike = encoder.matches(
                password, person.flatMap(People.Account::password).orElseGet(nobodys::join));
        return alike && person.flatMap(People.Account::password).isPresent();
    }
}
