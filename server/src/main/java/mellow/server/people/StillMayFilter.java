package mellow.server.people;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.io.IOException;
import java.util.Optional;
import mellow.server.common.ProblemWriter;
import mellow.server.common.RequestPath;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Asks at every request whether the person may still be here at all, and lets those without any right see nothing but who they are. What they may do beyond
 * that is asked in the services; this closes every endpoint that forgets it.
 */
class StillMayFilter extends OncePerRequestFilter {

    private static final String OWN = "/api/session";
    private static final String LISTENING = "/api/live";

    private final Door door;
    private final ProblemWriter problems;

    StillMayFilter(Door door, ProblemWriter problems) {
        this.door = door;
        this.problems = problems;
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws IOException, ServletException {
        Authentication authentication = SecurityContextHolder.getContext().getAuthentication();
        if (authentication == null || !(authentication.getPrincipal() instanceof SignedIn me)) {
            chain.doFilter(request, response);
            return;
        }
        request.setAttribute(SignedIn.KNOWN, true);
        boolean own = RequestPath.of(request).equals(OWN);
        HttpSession session = request.getSession(false);
        Optional<Door.Standing> standing =
                door.standing(me, session, !RequestPath.of(request).equals(LISTENING));
        if (standing.isEmpty()) {
            if (session != null) {
                session.invalidate();
            }
            SecurityContextHolder.clearContext();
            if (own) {
                // Nobody is signed in; the page asks who they are.
                chain.doFilter(request, response);
                return;
            }
            problems.write(
                    response, HttpStatus.UNAUTHORIZED, "signed-out", "You are not signed in any more; sign in again.");
        } else if (!standing.get().reads() && !own && RequestPath.isApi(request)) {
            problems.write(
                    response,
                    HttpStatus.FORBIDDEN,
                    "no-right",
                    "You have no right in any language yet; ask a coordinator for one.");
        } else {
            chain.doFilter(request, response);
        }
    }
}
