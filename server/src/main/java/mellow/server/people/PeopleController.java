package mellow.server.people;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Objects;
import mellow.server.people.Invitations.Invitation;
import mellow.server.people.PeopleDesk.Definition;
import mellow.server.people.PeopleDesk.PersonRow;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The people of the ledger, and invitations. */
@RestController
class PeopleController {

    private final PeopleDesk desk;
    private final Attempts attempts;
    private final Door door;

    PeopleController(PeopleDesk desk, Attempts attempts, Door door) {
        this.desk = desk;
        this.attempts = attempts;
        this.door = door;
    }

    /** Everyone with their rights; those whose access has ended come last. Names to sign in with and when somebody was here are for coordinators. */
    @GetMapping("/api/people")
    List<PersonRow> all(@AuthenticationPrincipal SignedIn me) {
        return desk.shown(me.id());
    }

    /** Adds a person; the reply holds the invitation's secret, which is shown only now. */
    @PostMapping("/api/people")
    @ResponseStatus(HttpStatus.CREATED)
    Invitation add(@Valid @RequestBody Definition wanted, @AuthenticationPrincipal SignedIn me) {
        return desk.add(me.id(), wanted);
    }

    /** Changes a person's name and rights. */
    @PutMapping("/api/people/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void edit(@PathVariable long id, @Valid @RequestBody Definition wanted, @AuthenticationPrincipal SignedIn me) {
        desk.edit(me.id(), id, wanted);
    }

    /** Makes a new invitation in place of earlier ones. */
    @PostMapping("/api/people/{id}/invitation")
    Invitation invite(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        return desk.invite(me.id(), id);
    }

    /** Ends a person's access at once. */
    @PostMapping("/api/people/{id}/end")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void end(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        desk.end(me.id(), id);
    }

    /** Gives an ended access back. */
    @PostMapping("/api/people/{id}/resume")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void resume(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        desk.resume(me.id(), id);
    }

    /** Whom an invitation is for; for everybody who has its link. */
    @GetMapping("/api/invitations/{token}")
    Invited invited(@PathVariable String token, HttpServletRequest request) {
        Attempts.Attempt attempt = attempts.invitation(request.getRemoteAddr());
        PersonRow person = desk.invited(token);
        attempt.succeeded();
        return new Invited(person.name(), Objects.requireNonNull(person.signIn()));
    }

    /** Takes an invitation: sets the password and signs in. */
    @PostMapping("/api/invitations/{token}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void accept(
            @PathVariable String token,
            @Valid @RequestBody Acceptance acceptance,
            HttpServletRequest request,
            HttpServletResponse response) {
        Attempts.Attempt attempt = attempts.invitation(request.getRemoteAddr());
        Door.Entering entering = desk.accept(token, acceptance.password());
        attempt.succeeded();
        door.enter(entering, false, request, response);
    }

    record Invited(String name, String signIn) {}

    record Acceptance(@NotBlank @Size(max = 200) String password) {}
}
