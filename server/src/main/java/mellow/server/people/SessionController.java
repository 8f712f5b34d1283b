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
    private final Attempts attempts;
    private final Browsers browsers;
    private final Door door;
    private final Doors doors;

    SessionController(PeopleService people, Attempts attempts, Browsers browsers, Door door, Doors doors) {
        this.people = people;
        this.attempts = attempts;
        this.browsers = browsers;
        this.door = door;
        this.doors = doors;
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
        Attempts.Attempt attempt = browsers.known(name, request)
                .map(browser -> attempts.knownSignIn(name, browser))
                .orElseGet(() -> attempts.signIn(name, request.getRemoteAddr()));
        Door.Entering entering = people.authenticate(body.signIn(), body.password())
                .orElseThrow(
                        () -> Refusal.unauthorized("wrong-sign-in", "This name and password do not belong together."));
        attempt.succeeded();
        browsers.remember(entering.person().id(), request, response);
        door.enter(entering, Boolean.TRUE.equals(body.stay()), request, response);
        return new SessionReply(person(entering.person()));
    }

    @DeleteMapping
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void signOut(HttpServletRequest request) {
        HttpSession session = request.getSession(false);
        if (session != null) {
            session.invalidate();
        }
        SecurityContextHolder.clearContext();
        doors.moved();
    }

    private PersonReply person(SignedIn me) {
        Rights rights = people.rights(me.id());
        TreeMap<String, String> levels = new TreeMap<>();
        rights.levels().forEach((language, level) -> levels.put(language.value(), level.word()));
        return new PersonReply(me.id(), me.signIn(), me.fullName(), rights.coordinator(), levels);
    }

    /** {@code stay}: the session lasts two weeks, also unused; otherwise it ends after half a day without a request. */
    record SignInRequest(
            @NotBlank @Size(max = 200) String signIn,
            @NotBlank @Size(max = 200) String password,
            @Nullable Boolean stay) {}

    record SessionReply(@Nullable PersonReply person) {}

    record PersonReply(long id, String signIn, String name, boolean coordinator, TreeMap<String, String> levels) {}
}
