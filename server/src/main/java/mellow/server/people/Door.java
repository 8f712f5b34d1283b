package mellow.server.people;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.List;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.authority.SimpleGrantedAuthority;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.authentication.session.SessionAuthenticationStrategy;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.stereotype.Component;

/** Opens a session for someone who has shown who they are. */
@Component
class Door {

    private final SecurityContextRepository contexts;
    private final SessionAuthenticationStrategy sessions;

    Door(SecurityContextRepository contexts, SessionAuthenticationStrategy sessions) {
        this.contexts = contexts;
        this.sessions = sessions;
    }

    void enter(SignedIn person, HttpServletRequest request, HttpServletResponse response) {
        var authentication = UsernamePasswordAuthenticationToken.authenticated(
                person, null, List.of(new SimpleGrantedAuthority("PERSON")));
        sessions.onAuthentication(authentication, request, response);
        SecurityContext context = SecurityContextHolder.createEmptyContext();
        context.setAuthentication(authentication);
        SecurityContextHolder.setContext(context);
        contexts.saveContext(context, request, response);
    }
}
