package mellow.server.people;

import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Clock;
import java.time.Duration;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.Optional;
import mellow.server.common.Hashes;
import mellow.server.common.Secrets;
import org.springframework.http.HttpHeaders;
import org.springframework.http.ResponseCookie;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Knows browsers again in which somebody has signed in. That opens nothing; only failed attempts elsewhere do not count in them. */
@Component
class Browsers {

    static final String COOKIE = "MELLOW_BROWSER";
    static final Duration KNOWN = Duration.ofDays(180);
    private static final int TOKEN_BYTES = 24;
    private static final int LONGEST_TOKEN = 64;

    private final JdbcClient jdbc;
    private final Clock clock;

    Browsers(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** The secret of the browser, if {@code signIn} signed in with it before. */
    Optional<String> known(String signIn, HttpServletRequest request) {
        return token(request).filter(token -> jdbc.sql(
                        """
                        select exists (select 1 from known_browser b join person p on p.id = b.person_id
                            where b.token_hash = :hash and p.sign_in = :signIn and b.seen_at > :since)
                        """)
                .param("hash", Hashes.sha256(token))
                .param("signIn", signIn)
                .param("since", clock.instant().minus(KNOWN).atOffset(ZoneOffset.UTC))
                .query(Boolean.class)
                .single());
    }

    /** Knows the browser from now on. */
    void remember(long person, HttpServletRequest request, HttpServletResponse response) {
        String token = token(request).orElseGet(this::newToken);
        jdbc.sql(
                        """
                        insert into known_browser (token_hash, person_id, seen_at) values (:hash, :person, :now)
                        on conflict (token_hash, person_id) do update set seen_at = excluded.seen_at
                        """)
                .param("hash", Hashes.sha256(token))
                .param("person", person)
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .update();
        ResponseCookie cookie = ResponseCookie.from(COOKIE, token)
                .path("/api")
                .httpOnly(true)
                .secure(request.isSecure())
                .sameSite("Lax")
                .maxAge(KNOWN)
                .build();
        response.addHeader(HttpHeaders.SET_COOKIE, cookie.toString());
    }

    /** Forgets those that have not been seen for long. */
    int forget() {
        return jdbc.sql("delete from known_browser where seen_at < :since")
                .param("since", clock.instant().minus(KNOWN).atOffset(ZoneOffset.UTC))
                .update();
    }

    private String newToken() {
        return Secrets.made(TOKEN_BYTES);
    }

    private static Optional<String> token(HttpServletRequest request) {
        return Optional.ofNullable(request.getCookies()).stream()
                .flatMap(Arrays::stream)
                .filter(cookie -> cookie.getName().equals(COOKIE))
                .map(Cookie::getValue)
                .filter(token -> !token.isEmpty() && token.length() <= LONGEST_TOKEN)
                .findFirst();
    }
}
