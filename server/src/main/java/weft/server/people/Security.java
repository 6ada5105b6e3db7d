package weft.server.people;

import jakarta.servlet.DispatcherType;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.net.InetAddress;
import java.util.Set;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpStatus;
import org.springframework.jdbc.datasource.DelegatingDataSource;
import org.springframework.security.authorization.AuthorizationDecision;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.annotation.web.configuration.EnableWebSecurity;
import org.springframework.security.config.annotation.web.configurers.AbstractHttpConfigurer;
import org.springframework.security.config.http.SessionCreationPolicy;
import org.springframework.security.config.observation.SecurityObservationSettings;
import org.springframework.security.crypto.factory.PasswordEncoderFactories;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.access.AccessDeniedHandler;
import org.springframework.security.web.csrf.CsrfException;
import org.springframework.security.web.firewall.RequestRejectedHandler;
import org.springframework.transaction.support.TransactionOperations;
import org.springframework.web.servlet.FlashMap;
import org.springframework.web.servlet.FlashMapManager;
import weft.core.door.Person;
import weft.server.http.Problem;
import weft.server.http.Signed;
import weft.store.Database;

/** Which part of the API is whose. What goes by a door is decided by the door. */
@Configuration(proxyBeanMethods = false)
@EnableWebSecurity
class Security {

    private static final String[] BUILDERS = {
        "/api/forms/**",
        "/api/tables/**",
        "/api/adoptable/**",
        "/api/imports/**",
        "/api/messages/**",
        "/api/schemas/**",
        "/api/pictures/**"
    };
    private static final String[] ADMINISTRATORS = {
        "/api/people/**", "/api/groups/**", "/api/audit/**", "/api/sessions/**"
    };
    /** Where one comes in. */
    private static final String[] NOBODY = {"/api/session", "/api/invitations/*"};

    private static final Set<String> COMING_IN = Set.of("/api/session");

    @Bean
    SecurityFilterChain chain(HttpSecurity http, SignedIn signedIn, WriteTokens tokens, Issuer issuer) {
        issuer.comeBy(http);
        return http.securityContext(context -> context.securityContextRepository(signedIn))
                .csrf(csrf -> csrf.csrfTokenRepository(tokens)
                        .csrfTokenRequestHandler(tokens)
                        .ignoringRequestMatchers(Bearers::bears))
                .sessionManagement(sessions -> sessions.sessionCreationPolicy(SessionCreationPolicy.NEVER))
                .requestCache(AbstractHttpConfigurer::disable)
                .formLogin(AbstractHttpConfigurer::disable)
                .httpBasic(AbstractHttpConfigurer::disable)
                .logout(AbstractHttpConfigurer::disable)
                .headers(AbstractHttpConfigurer::disable)
                .authorizeHttpRequests(
                        requests -> requests.dispatcherTypeMatchers(DispatcherType.ASYNC, DispatcherType.ERROR)
                                .permitAll()
                                .requestMatchers(NOBODY)
                                .permitAll()
                                .requestMatchers(ADMINISTRATORS)
                                .hasAuthority(Person.ADMINISTRATORS)
                                .requestMatchers(BUILDERS)
                                .hasAuthority(Person.BUILDERS)
                                .requestMatchers("/api/doors/**")
                                .authenticated()
                                .requestMatchers("/api/**")
                                .hasAuthority(Signed.PERSON)
                                .requestMatchers("/actuator/prometheus")
                                .access((_, asked) -> new AuthorizationDecision(fromHere(asked.getRequest())))
                                .anyRequest()
                                .permitAll())
                .exceptionHandling(refusing -> refusing.authenticationEntryPoint(
                                (_, response, _) -> Problem.nobody().answer(response))
                        .accessDeniedHandler(denied()))
                .build();
    }

    /** Whether it was asked on this machine itself, and not passed on by a proxy on it. */
    private static boolean fromHere(HttpServletRequest request) {
        return InetAddress.ofLiteral(request.getRemoteAddr()).isLoopbackAddress()
                && request.getHeader("X-Forwarded-For") == null
                && request.getHeader("Forwarded") == null;
    }

    private static AccessDeniedHandler denied() {
        return (request, response, e) ->
                refusal(request, e instanceof CsrfException).answer(response);
    }

    private static Problem refusal(HttpServletRequest request, boolean token) {
        if (!Signed.anybody()
                && !COMING_IN.contains(request.getRequestURI())
                && !request.getRequestURI().startsWith("/api/invitations/")) {
            return Problem.nobody();
        }
        return token
                ? Problem.forbidden(
                        "Ask GET /api/session first, and send the cookie XSRF-TOKEN that it sets in the header"
                                + " X-XSRF-TOKEN.")
                : new Problem(HttpStatus.FORBIDDEN, "This is for others to do, not for you.");
    }

    /** Addresses that no browser would send are told like any other fault. */
    @Bean
    RequestRejectedHandler rejected() {
        return (_, response, _) -> Problem.malformed("The address is not written as addresses are.")
                .answer(response);
    }

    @Bean
    PasswordEncoder passwordEncoder() {
        return PasswordEncoderFactories.createDelegatingPasswordEncoder();
    }

    /** Nobody observes the filters, each of which would be timed. */
    @Bean
    SecurityObservationSettings unobserved() {
        return SecurityObservationSettings.noObservations();
    }

    /** Half a session does no harm, so that nothing that is asked of one needs a transaction round it. */
    @Bean
    TransactionOperations springSessionTransactionOperations() {
        return TransactionOperations.withoutTransaction();
    }

    /** No request leaves word for the next, so none needs its session for that. */
    @Bean
    FlashMapManager flashMapManager() {
        return new FlashMapManager() {
            @Override
            public @Nullable FlashMap retrieveAndUpdate(HttpServletRequest request, HttpServletResponse response) {
                return null;
            }

            @Override
            public void saveOutputFlashMap(FlashMap map, HttpServletRequest request, HttpServletResponse response) {
                // None is filled.
            }
        };
    }

    /** Where sessions are kept: one that only the database closes. */
    @Bean
    DataSource dataSource(Database database) {
        return new DelegatingDataSource(database.source());
    }
}
