package weft.server.people;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.core.Authentication;
import org.springframework.security.oauth2.client.registration.ClientRegistration;
import org.springframework.security.oauth2.client.registration.ClientRegistrationRepository;
import org.springframework.security.oauth2.client.registration.ClientRegistrations;
import org.springframework.security.oauth2.core.oidc.user.OidcUser;
import org.springframework.stereotype.Component;
import weft.core.table.Faults;
import weft.store.people.Audit.Deed;
import weft.store.people.Groups;
import weft.store.people.People;

/**
 * Signing in by OpenID Connect (Core 1.0, the authorisation code flow), where an issuer is set. Who comes so for the first time
 * becomes a person; which groups they are in is the issuer's to say where a claim for it is set.
 */
@Component
class Issuer {

    private static final Logger LOG = LoggerFactory.getLogger(Issuer.class);
    private static final String ID = "issuer";

    private final People people;
    private final Groups known;
    private final SignedIn sessions;
    private final AuditTrail told;
    private final Settings settings;
    private volatile @Nullable ClientRegistration registration;

    /**
     * What is set.
     *
     * @param issuer its address; empty for none
     * @param title what the page for signing in calls it
     * @param name the claim that is the name to sign in with
     * @param groups the claim with the names of groups; empty where groups are seen to in Weft
     */
    private record Settings(String issuer, String client, String secret, String title, String name, String groups) {}

    Issuer(
            People people,
            Groups known,
            SignedIn sessions,
            AuditTrail told,
            @Value("${weft.oidc.issuer}") String issuer,
            @Value("${weft.oidc.client}") String client,
            @Value("${weft.oidc.secret}") String secret,
            @Value("${weft.oidc.title}") String title,
            @Value("${weft.oidc.name-claim}") String name,
            @Value("${weft.oidc.groups-claim}") String groups) {
        this.people = people;
        this.known = known;
        this.sessions = sessions;
        this.told = told;
        this.settings = new Settings(issuer, client, secret, title, name, groups);
    }

    /** What the page for signing in calls it; empty when none is set. */
    Optional<String> title() {
        return settings.issuer().isBlank() ? Optional.empty() : Optional.of(settings.title());
    }

    /** Where signing in by it begins. */
    static String begins() {
        return "/oauth2/authorization/" + ID;
    }

    /** Lets people come by it, where it is set. */
    void comeBy(HttpSecurity http) {
        if (settings.issuer().isBlank()) {
            return;
        }
        ClientRegistrationRepository one = id -> id.equals(ID) ? registration() : null;
        http.oauth2Login(login -> login.clientRegistrationRepository(one)
                .loginPage("/")
                .successHandler((request, response, came) -> came(request, response, came))
                .failureHandler((request, response, e) -> {
                    LOG.warn("an issuer let nobody in: {}", e.getClass().getSimpleName());
                    told.of("nobody", Deed.SIGN_IN_FAILED, "by " + settings.title());
                    response.sendRedirect("/?refused");
                }));
    }

    /** Looked up when it is first needed, so that Weft starts while the issuer does not answer. */
    private ClientRegistration registration() {
        var known = registration;
        if (known == null) {
            known = ClientRegistrations.fromIssuerLocation(settings.issuer())
                    .registrationId(ID)
                    .clientId(settings.client())
                    .clientSecret(settings.secret())
                    .scope("openid", "profile", "email")
                    .redirectUri("{baseUrl}/login/oauth2/code/{registrationId}")
                    .build();
            registration = known;
        }
        return known;
    }

    private void came(HttpServletRequest request, HttpServletResponse response, Authentication came)
            throws IOException {
        var user = (OidcUser) Objects.requireNonNull(came.getPrincipal());
        var person = person(user);
        if (person.isEmpty() || person.get().stopped()) {
            SignedIn.end(request);
            told.of(named(user).orElse("nobody"), Deed.SIGN_IN_FAILED, "by " + settings.title());
            response.sendRedirect("/?refused");
            return;
        }
        sessions.begin(request, person.get());
        told.of(person.get().name(), Deed.SIGNED_IN, "by " + settings.title());
        response.sendRedirect("/");
    }

    private Optional<String> named(OidcUser user) {
        return Optional.ofNullable(user.getClaimAsString(settings.name()))
                .map(name -> name.strip().toLowerCase(Locale.ROOT))
                .filter(name -> !name.isEmpty());
    }

    /** The person of that name, made or brought up to date by what the issuer says; empty when they can be none. */
    private Optional<People.Account> person(OidcUser user) {
        var name = named(user);
        var known = name.flatMap(people::named);
        try {
            var said = name.map(each -> new People.Edited(
                    each,
                    Optional.ofNullable(user.getFullName()).orElse(each),
                    Optional.ofNullable(user.getEmail()),
                    groups(user)
                            .orElseGet(() -> known.map(People.Account::groups).orElse(List.of())),
                    known.map(People.Account::stopped).orElse(false)));
            return known.isPresent()
                    ? said.flatMap(each -> people.change(known.get().id(), each))
                    : said.map(each -> people.add(each, Optional.empty(), false));
        } catch (Faults e) {
            LOG.warn(
                    "whom an issuer sends can be no person: {}",
                    e.faults().getFirst().where());
            return Optional.empty();
        }
    }

    /** The groups that the issuer says, of those that there are; empty where groups are seen to in Weft. */
    private Optional<List<String>> groups(OidcUser user) {
        if (settings.groups().isBlank()) {
            return Optional.empty();
        }
        var said = user.getClaims().get(settings.groups()) instanceof Collection<?> several
                ? several.stream().map(String::valueOf).toList()
                : List.<String>of();
        return Optional.of(known.all().stream()
                .filter(group -> said.stream()
                        .anyMatch(each -> each.equalsIgnoreCase(group.name()) || each.equalsIgnoreCase(group.title())))
                .map(Groups.Group::name)
                .toList());
    }
}
