package mellow.server.people;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.util.Locale;
import java.util.TreeMap;
import mellow.server.common.Refusal;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.csrf.CsrfToken;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Signing in and out, and who is signed in. */
@RestController
@RequestMapping("/api/session")
class SessionController {

    private final PeopleService people;
    private final AttemptLimit attempts;
    private final Door door;

    SessionController(PeopleService people, AttemptLimit attempts, Door door) {
        this.people = people;
        this.attempts = attempts;
        this.door = door;
    }

    /** Who is signed in, with their rights; {@code person} is null when nobody is. Also hands out the CSRF cookie. */
    @GetMapping
    SessionReply session(@AuthenticationPrincipal @Nullable SignedIn me, CsrfToken csrf) {
        csrf.getToken();
        if (me != null) {
            people.here(me.id());
        }
        return new SessionReply(me == null ? null : person(me));
    }

    @PostMapping
    SessionReply signIn(
            @Valid @RequestBody SignInRequest body, HttpServletRequest request, HttpServletResponse response) {
        String name = body.signIn().strip().toLowerCase(Locale.ROOT);
        attempts.count(name, request.getRemoteAddr());
        SignedIn person = people.authenticate(body.signIn(), body.password())
                .orElseThrow(
                        () -> Refusal.unauthorized("wrong-sign-in", "This name and password do not belong together."));
        attempts.forgive(name, request.getRemoteAddr());
        door.enter(person, request, response);
        return new SessionReply(person(person));
    }

    @DeleteMapping
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void signOut(HttpServletRequest request) {
        HttpSession session = request.getSession(false);
        if (session != null) {
            session.invalidate();
        }
        SecurityContextHolder.clearContext();
    }

    private PersonReply person(SignedIn me) {
        Rights rights = people.rights(me.id());
        TreeMap<String, String> levels = new TreeMap<>();
        rights.levels().forEach((language, level) -> levels.put(language.value(), level.word()));
        return new PersonReply(me.id(), me.signIn(), me.fullName(), rights.coordinator(), levels);
    }

    record SignInRequest(@NotBlank @Size(max = 200) String signIn, @NotBlank @Size(max = 200) String password) {}

    record SessionReply(@Nullable PersonReply person) {}

    record PersonReply(long id, String signIn, String name, boolean coordinator, TreeMap<String, String> levels) {}
}
