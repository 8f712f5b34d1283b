package mellow.server.intake;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import java.io.IOException;
import java.util.List;
import mellow.core.format.Limits;
import mellow.server.file.FileStore;
import mellow.server.people.SignedIn;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Bringing files in. */
@RestController
@RequestMapping("/api/intakes")
class IntakeController {

    private final IntakeService intakes;

    IntakeController(IntakeService intakes) {
        this.intakes = intakes;
    }

    /** Uploads a file, its bytes as the body, and says how it was read. Refuses a file that cannot be read, and keeps nothing of it. */
    @PostMapping(consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
    @ResponseStatus(HttpStatus.CREATED)
    IntakeReply upload(@RequestParam String name, HttpServletRequest request, @AuthenticationPrincipal SignedIn me)
            throws IOException {
        IntakeService.refuseSize(name, request.getContentLengthLong());
        byte[] content = FileStore.read(request.getInputStream(), Limits.DEFAULT.bytes());
        IntakeService.refuseSize(name, content.length);
        return intakes.reply(me.id(), intakes.upload(me.id(), name, content));
    }

    /** The newest intakes, 50 at a time; {@code before} is the number of the last one seen. */
    @GetMapping
    List<IntakeReply.Listed> all(
            @RequestParam(defaultValue = "9223372036854775807") long before, @AuthenticationPrincipal SignedIn me) {
        return intakes.all(me.id(), before);
    }

    @GetMapping("/{id}")
    IntakeReply one(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        return intakes.reply(me.id(), id);
    }

    /** Corrects how the file is read and says where it goes; what is null is found out. */
    @PutMapping("/{id}/options")
    IntakeReply decide(
            @PathVariable long id, @Valid @RequestBody IntakeOptions options, @AuthenticationPrincipal SignedIn me) {
        intakes.decide(me.id(), id, options);
        return intakes.reply(me.id(), id);
    }

    /** What the file would do. Changes nothing. */
    @GetMapping("/{id}/preview")
    PreviewReply preview(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        return intakes.preview(me.id(), id);
    }

    /** Starts taking the file in; the intake then tells how it goes. */
    @PostMapping("/{id}/apply")
    @ResponseStatus(HttpStatus.ACCEPTED)
    IntakeReply apply(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        intakes.start(me.id(), id);
        return intakes.reply(me.id(), id);
    }

    /** Cancels taking in before it has committed. */
    @PostMapping("/{id}/cancel")
    IntakeReply cancel(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        intakes.cancel(me.id(), id);
        return intakes.reply(me.id(), id);
    }

    /** Leaves the file alone. */
    @DeleteMapping("/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void leave(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        intakes.leave(me.id(), id);
    }
}
