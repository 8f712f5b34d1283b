package mellow.server.people;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Bean;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.authority.SimpleGrantedAuthority;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.authentication.session.SessionAuthenticationStrategy;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.session.web.http.CookieSerializer;
import org.springframework.session.web.http.DefaultCookieSerializer;
import org.springframework.stereotype.Component;

/**
 * Opens sessions for those who have shown who they are, and says whether an open one still holds: while the person's access goes on and nobody has closed
 * their doors since they signed in, two weeks at the longest, half a day unused unless they chose to stay.
 */
@Component
class Door {

    static final Duration LONGEST = Duration.ofDays(14);
    private static final Duration UNUSED = Duration.ofHours(12);
    private static final String NUMBER = "mellow.door";
    private static final String SINCE = "mellow.since";
    private static final String STAY = "mellow.stay";
    private static final String USED = "mellow.used";
    /** Noting every use would write at every request. */
    private static final Duration NOTED_EVERY = Duration.ofMinutes(1);

    private static final String STANDS =
            """
            select p.door, p.coordinator or exists (select 1 from person_right r where r.person_id = p.id) may_read from person p
            where p.id = :person and p.ended_at is null
            """;

    private final SecurityContextRepository contexts;
    private final SessionAuthenticationStrategy sessions;
    private final JdbcClient jdbc;
    private final Clock clock;

    Door(SecurityContextRepository contexts, SessionAuthenticationStrategy sessions, JdbcClient jdbc, Clock clock) {
        this.contexts = contexts;
        this.sessions = sessions;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** Browsers keep the cookie of somebody who stays when they are closed. */
    @Bean
    static CookieSerializer sessionCookie() {
        DefaultCookieSerializer cookie = new DefaultCookieSerializer();
        cookie.setCookieName("MELLOW");
        cookie.setUseHttpOnlyCookie(true);
        cookie.setSameSite("Lax");
        cookie.setRememberMeRequestAttribute(STAY);
        return cookie;
    }

    /**
     * Someone who has shown who they are.
     *
     * @param door the number of their door when they did
     */
    record Entering(SignedIn person, int door) {}

    /** {@code stay}: the session does not end by being unused. */
    void enter(Entering entering, boolean stay, HttpServletRequest request, HttpServletResponse response) {
        var authentication = UsernamePasswordAuthenticationToken.authenticated(
                entering.person(), null, List.of(new SimpleGrantedAuthority("PERSON")));
        sessions.onAuthentication(authentication, request, response);
        HttpSession session = request.getSession();
        if (stay) {
            request.setAttribute(STAY, true);
            session.setAttribute(STAY, true);
        } else {
            session.removeAttribute(STAY);
        }
        session.setMaxInactiveInterval((int) LONGEST.toSeconds());
        session.setAttribute(NUMBER, entering.door());
        session.setAttribute(SINCE, clock.instant().toEpochMilli());
        session.setAttribute(USED, clock.instant().toEpochMilli());
        SecurityContext context = SecurityContextHolder.createEmptyContext();
        context.setAuthentication(authentication);
        SecurityContextHolder.setContext(context);
        contexts.saveContext(context, request, response);
    }

    /**
     * What somebody signed in may do at all.
     *
     * @param reads they have a right in some language, or all of them
     */
    record Standing(boolean reads) {}

    /**
     * Empty when the session does not hold any more, or the person's access has ended.
     *
     * @param used whether the request is one that a person causes; a page that only listens uses nothing
     */
    Optional<Standing> standing(SignedIn person, @Nullable HttpSession session, boolean used) {
        Object number = session == null ? null : session.getAttribute(NUMBER);
        if (session != null && over(session)) {
            return Optional.empty();
        }
        if (session != null && used && older(session, USED, NOTED_EVERY)) {
            session.setAttribute(USED, clock.instant().toEpochMilli());
        }
        return jdbc.sql(STANDS)
                .param("person", person.id())
                .query((row, n) -> number == null || number.equals(row.getInt("door"))
                        ? Optional.of(new Standing(row.getBoolean("may_read")))
                        : Optional.<Standing>empty())
                .optional()
                .flatMap(found -> found);
    }

    private boolean over(HttpSession session) {
        return older(session, SINCE, LONGEST) || (session.getAttribute(STAY) == null && older(session, USED, UNUSED));
    }

    private boolean older(HttpSession session, String what, Duration than) {
        return session.getAttribute(what) instanceof Long at
                && Instant.ofEpochMilli(at).plus(than).isBefore(clock.instant());
    }
}
