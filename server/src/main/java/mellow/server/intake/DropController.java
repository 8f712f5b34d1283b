package mellow.server.intake;

import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import mellow.server.file.Uploads;
import mellow.server.people.SignedIn;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Bringing many files at once: begin, add each, sort. */
@RestController
@RequestMapping("/api/drops")
class DropController {

    private final Drops drops;
    private final IntakeReplies replies;
    private final Uploads uploads;

    DropController(Drops drops, IntakeReplies replies, Uploads uploads) {
        this.drops = drops;
        this.replies = replies;
        this.uploads = uploads;
    }

    /** Begins: files can be added to it until it is sorted. */
    @PostMapping
    @ResponseStatus(HttpStatus.CREATED)
    DropReply begin(@AuthenticationPrincipal SignedIn me) {
        return drops.reply(me.id(), drops.begin(me.id()));
    }

    /** Adds a file, its bytes as the body; a ZIP archive adds all its files. {@code name} is its path among the others. */
    @PostMapping(value = "/{id}/files", consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
    @ResponseStatus(HttpStatus.CREATED)
    DropReply add(
            @PathVariable long id,
            @RequestParam String name,
            HttpServletRequest request,
            @AuthenticationPrincipal SignedIn me)
            throws IOException {
        drops.requireMayAdd(me.id(), id);
        return uploads.receive(me.id(), request, bytes -> IntakeService.refuseSize(name, bytes), content -> {
            drops.add(me.id(), id, name, content);
            return drops.reply(me.id(), id);
        });
    }

    /** Sorts the files into sets and files by themselves, each an intake; the answer tells how far that is. */
    @PostMapping("/{id}/sort")
    DropReply sort(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        return drops.sort(me.id(), id);
    }

    /** How they stand. */
    @GetMapping("/{id}")
    DropReply one(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        return drops.reply(me.id(), id);
    }

    /** Makes an intake of a file that stands apart. */
    @PostMapping("/{id}/alone")
    @ResponseStatus(HttpStatus.CREATED)
    IntakeReply alone(@PathVariable long id, @RequestParam String name, @AuthenticationPrincipal SignedIn me) {
        return replies.reply(me.id(), drops.takeAlone(me.id(), id, name));
    }
}
