package mellow.server.token;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.server.common.ProblemWriter;
import mellow.server.common.RequestPath;
import mellow.server.people.SignedIn;
import mellow.server.token.TokenService.Holder;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.annotation.web.configurers.AbstractHttpConfigurer;
import org.springframework.security.config.http.SessionCreationPolicy;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.authentication.AnonymousAuthenticationFilter;
import org.springframework.web.filter.OncePerRequestFilter;

/** Lets programs in that send a token (RFC 6750 §2.1), to taking files in and sending them out and to nothing else. They have no session. */
@Configuration
class TokenSecurity {

    private static final String BEARER = "Bearer ";
    private static final Pattern EXPORT = Pattern.compile("/api/tables/([^/]+)/export/[^/]+");

    /** What a build asks when it has a product delivered. */
    private static final Pattern DELIVERY =
            Pattern.compile("/api/products/[^/]+/deliveries(/run|/try|/[0-9]+/(archive|files|file))?");

    /** What a build asks when it has its code looked through. */
    private static final Pattern CODE =
            Pattern.compile("/api/products/[^/]+/code(/settings|/keys|/findings|/missing|/patch|/scans/[0-9]+)?");

    @Bean
    @Order(1)
    SecurityFilterChain programs(HttpSecurity http, TokenService tokens, ProblemWriter problems) throws Exception {
        return http.securityMatcher(request -> bearer(request).isPresent())
                .csrf(AbstractHttpConfigurer::disable)
                .sessionManagement(sessions -> sessions.sessionCreationPolicy(SessionCreationPolicy.STATELESS))
                .requestCache(cache -> cache.disable())
                .authorizeHttpRequests(requests -> requests.anyRequest().authenticated())
                .addFilterBefore(new TokenFilter(tokens, problems), AnonymousAuthenticationFilter.class)
                .build();
    }

    private static Optional<String> bearer(HttpServletRequest request) {
        return Optional.ofNullable(request.getHeader("Authorization"))
                .filter(header -> header.regionMatches(true, 0, BEARER, 0, BEARER.length()))
                .map(header -> header.substring(BEARER.length()).strip());
    }

    /** Whether the token is good for a request. */
    static boolean allows(Holder holder, String method, String path, String table) {
        Matcher export = EXPORT.matcher(path);
        if (method.equals("GET") && export.matches()) {
            return holder.sendsOut()
                    && (holder.table() == null || holder.table().equals(export.group(1)));
        }
        if (DELIVERY.matcher(path).matches()) {
            boolean starts = method.equals("POST") && path.endsWith("/deliveries");
            return holder.sendsOut() && holder.table() == null && (starts || method.equals("GET"));
        }
        // A build looks through its product's code: keys and habits come, places go.
        if (CODE.matcher(path).matches()) {
            boolean tells = method.equals("POST") && path.endsWith("/findings");
            return holder.takesIn() && holder.table() == null && (tells || method.equals("GET"));
        }
        // A folder may tell its tables itself, if the token is good for all of them.
        boolean folder = path.equals("/api/intakes/sets") && (holder.table() == null || !table.isEmpty());
        boolean takes = method.equals("POST") && (folder || (path.equals("/api/intakes") && !table.isEmpty()));
        return takes
                && holder.takesIn()
                && (holder.table() == null || holder.table().equals(table));
    }

    private static final class TokenFilter extends OncePerRequestFilter {
        private final TokenService tokens;
        private final ProblemWriter problems;

        TokenFilter(TokenService tokens, ProblemWriter problems) {
            this.tokens = tokens;
            this.problems = problems;
        }

        @Override
        protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
                throws IOException, ServletException {
            Optional<Holder> holder = bearer(request).flatMap(tokens::holder);
            if (holder.isEmpty()) {
                problems.write(
                        response,
                        HttpStatus.UNAUTHORIZED,
                        "unknown-token",
                        "This token is unknown, has expired or was ended.");
                return;
            }
            String table = Optional.ofNullable(request.getParameter("table")).orElse("");
            if (!allows(holder.get(), request.getMethod(), RequestPath.of(request), table)) {
                problems.write(
                        response,
                        HttpStatus.FORBIDDEN,
                        "not-for-this-token",
                        "This token may "
                                + String.join(" and ", uses(holder.get()))
                                + (holder.get().table() == null
                                        ? ""
                                        : " in " + holder.get().table())
                                + ", and nothing else.");
                return;
            }
            request.setAttribute(SignedIn.KNOWN, true);
            SecurityContext context = SecurityContextHolder.createEmptyContext();
            context.setAuthentication(
                    new UsernamePasswordAuthenticationToken(holder.get().person(), null, List.of()));
            SecurityContextHolder.setContext(context);
            chain.doFilter(request, response);
        }

        private static List<String> uses(Holder holder) {
            List<String> uses = new ArrayList<>();
            if (holder.takesIn()) {
                uses.add("take files in");
            }
            if (holder.sendsOut()) {
                uses.add("send files out");
            }
            return uses;
        }
    }
}
