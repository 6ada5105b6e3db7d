package weft.server.http;

import java.util.ArrayList;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.security.authentication.AbstractAuthenticationToken;
import org.springframework.security.core.authority.AuthorityUtils;
import org.springframework.security.core.context.SecurityContextHolder;
import weft.core.door.Pass.Comer;
import weft.core.door.Person;

/**
 * Who comes with a request, as Spring Security carries them: a person who is signed in, whose groups are their authorities; a
 * program that goes through one door as a person; or whoever has the secret address of a door.
 */
public final class Signed extends AbstractAuthenticationToken {

    /** What a person has who is signed in, and nobody else. */
    public static final String PERSON = "signed in";

    private final transient Comer comer;
    private final transient Optional<String> door;

    private Signed(Comer comer, Optional<String> door, String... authorities) {
        super(AuthorityUtils.createAuthorityList(authorities));
        this.comer = comer;
        this.door = door;
        setAuthenticated(true);
    }

    /** A person who is signed in. */
    public static Signed of(Person person) {
        var authorities = new ArrayList<>(person.groups());
        authorities.add(PERSON);
        return new Signed(new Comer.SignedIn(person), Optional.empty(), authorities.toArray(String[]::new));
    }

    /** A program that goes through that door as that person. */
    public static Signed program(Person person, String door) {
        return new Signed(new Comer.SignedIn(person), Optional.of(door));
    }

    /** Whoever has the secret address of that door. */
    public static Signed byLink(String door) {
        return new Signed(new Comer.ByLink(door), Optional.of(door));
    }

    private static Optional<Signed> now() {
        return SecurityContextHolder.getContext().getAuthentication() instanceof Signed signed
                ? Optional.of(signed)
                : Optional.empty();
    }

    /** Whether anybody comes with this request who is let in somewhere. */
    public static boolean anybody() {
        return now().isPresent();
    }

    /** The person that comes with this request; empty when nobody known does. */
    public static Optional<Person> person() {
        return now().flatMap(signed ->
                signed.comer instanceof Comer.SignedIn(var person) ? Optional.of(person) : Optional.empty());
    }

    /** Whether what comes with this request leads through one door only: a program, or whoever has a secret address. */
    public static boolean byBearer() {
        return now().filter(signed -> signed.door.isPresent()).isPresent();
    }

    /** How whoever asks comes to that door; empty when they may not even ask for it. */
    public static Optional<Comer> comer(String door) {
        return now().filter(
                        signed -> signed.door.filter(only -> !only.equals(door)).isEmpty())
                .map(signed -> signed.comer);
    }

    @Override
    public Object getPrincipal() {
        return comer;
    }

    @Override
    public @Nullable Object getCredentials() {
        return null;
    }

    @Override
    public String getName() {
        return switch (comer) {
            case Comer.SignedIn(var person) -> person.name();
            case Comer.Trying(var person) -> person.name();
            case Comer.ByLink(var id) -> "by the door " + id;
        };
    }

    @Override
    public boolean equals(@Nullable Object other) {
        return other instanceof Signed signed && signed.comer.equals(comer) && signed.door.equals(door);
    }

    @Override
    public int hashCode() {
        return comer.hashCode();
    }
}
