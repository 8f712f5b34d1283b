package mellow.server.bell;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.time.Instant;
import java.util.List;
import mellow.server.bell.BellService.Notice;
import mellow.server.people.SignedIn;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Notices for who is signed in. */
@RestController
class BellController {

    private final BellService bell;

    BellController(BellService bell) {
        this.bell = bell;
    }

    /** What waits for one and what became of what one did, the newest first. */
    @GetMapping("/api/bell")
    List<Notice> notices(@AuthenticationPrincipal SignedIn me) {
        return bell.notices(me.id());
    }

    /** One has looked at the notices up to a time. */
    @PutMapping("/api/bell/seen")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void seen(@Valid @RequestBody Seen seen, @AuthenticationPrincipal SignedIn me) {
        bell.seen(me.id(), seen.until());
    }

    /** Up to when: the time of the newest notice that was shown. */
    record Seen(@NotNull Instant until) {}
}
