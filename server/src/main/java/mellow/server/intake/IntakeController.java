package mellow.server.intake;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import java.io.IOException;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import mellow.core.merge.Arrival;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.server.file.Uploads;
import mellow.server.people.SignedIn;
import org.jspecify.annotations.Nullable;
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
    private final IntakeReplies replies;
    private final Previews previews;
    private final Pushing pushing;
    private final Uploads uploads;

    IntakeController(
            IntakeService intakes, IntakeReplies replies, Previews previews, Pushing pushing, Uploads uploads) {
        this.intakes = intakes;
        this.replies = replies;
        this.previews = previews;
        this.pushing = pushing;
        this.uploads = uploads;
    }

    /** Uploads a file, its bytes as the body, and says how it was read. Refuses a file that cannot be read, and keeps nothing of it. */
    @PostMapping(consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE, params = "!table")
    @ResponseStatus(HttpStatus.CREATED)
    IntakeReply upload(@RequestParam String name, HttpServletRequest request, @AuthenticationPrincipal SignedIn me)
            throws IOException {
        intakes.requireMayUpload(me.id(), name);
        return uploads.receive(
                me.id(),
                request,
                bytes -> IntakeService.refuseSize(name, bytes),
                content -> replies.reply(me.id(), intakes.bring(me.id(), name, content)));
    }

    /**
     * For programs: takes a file into a table at once, its bytes as the body, by a policy that people would otherwise choose on the screen; answers with what
     * was done, or with what would be.
     *
     * @param table the table, by its name in addresses
     * @param dryRun only say what would be done
     * @param arrival how texts arrive: SETTLED, OFFERED or PENCILLED
     * @param meaning whether rewritten sources changed their meaning: CHANGED, FIX, or KEEP to leave them
     * @param gone what becomes of entries that the file lost: REMOVE or KEEP; as the file covers the table when not given
     * @param conflicts what becomes of texts that both sides changed: OFFER, TAKE or KEEP
     */
    @PostMapping(consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE, params = "table")
    PreviewReply push(
            @RequestParam String name,
            @RequestParam String table,
            @RequestParam(defaultValue = "false") boolean dryRun,
            @RequestParam(defaultValue = "SETTLED") Arrival arrival,
            @RequestParam(defaultValue = "CHANGED") Choice meaning,
            @RequestParam(required = false) @Nullable Choice gone,
            @RequestParam(defaultValue = "OFFER") Choice conflicts,
            @RequestParam(required = false) @Nullable String language,
            HttpServletRequest request,
            @AuthenticationPrincipal SignedIn me)
            throws IOException {
        Pushing.Policy policy = new Pushing.Policy(table, arrival, false, policy(meaning, gone, conflicts));
        return uploads.receive(
                me.id(),
                request,
                bytes -> IntakeService.refuseSize(name, bytes),
                content -> pushing.push(me.id(), name, content, language, policy, dryRun));
    }

    /**
     * For programs: takes all files of a ZIP archive in at once, sorted into sets as a person's drop is; all of them or nothing. Answers with what was done, or
     * with what would be.
     *
     * @param table the only table that anything may go into, by its name in addresses; those that the files tell when not given
     * @param dryRun only say what would be done
     * @param skip go on without files that cannot go in
     * @param arrival how texts arrive: SETTLED, OFFERED or PENCILLED
     * @param meaning whether rewritten sources changed their meaning: CHANGED, FIX, or KEEP to leave them
     * @param gone what becomes of entries that the files lost: REMOVE or KEEP; as they cover the table when not given
     * @param conflicts what becomes of texts that both sides changed: OFFER, TAKE or KEEP
     */
    @PostMapping(value = "/sets", consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
    Pushing.PushReply pushSets(
            @RequestParam(required = false) @Nullable String table,
            @RequestParam(defaultValue = "false") boolean dryRun,
            @RequestParam(defaultValue = "false") boolean skip,
            @RequestParam(defaultValue = "SETTLED") Arrival arrival,
            @RequestParam(defaultValue = "CHANGED") Choice meaning,
            @RequestParam(required = false) @Nullable Choice gone,
            @RequestParam(defaultValue = "OFFER") Choice conflicts,
            HttpServletRequest request,
            @AuthenticationPrincipal SignedIn me)
            throws IOException {
        Pushing.Policy policy = new Pushing.Policy(table, arrival, skip, policy(meaning, gone, conflicts));
        return uploads.receive(
                me.id(),
                request,
                bytes -> IntakeService.refuseSize("the archive", bytes),
                content -> pushing.push(me.id(), content, policy, dryRun));
    }

    private static Map<ChangeKind, Choice> policy(Choice meaning, @Nullable Choice gone, Choice conflicts) {
        Map<ChangeKind, Choice> policy = new EnumMap<>(ChangeKind.class);
        policy.put(ChangeKind.SOURCES_REWRITTEN, meaning);
        policy.put(ChangeKind.SOURCE_CONFLICTS, meaning);
        policy.put(ChangeKind.CONFLICTS, conflicts);
        if (gone != null) {
            policy.put(ChangeKind.GONE_FROM_FILE, gone);
        }
        return policy;
    }

    /** The newest intakes, 50 at a time; {@code before} is the number of the last one seen. */
    @GetMapping
    List<IntakeReply.Listed> all(
            @RequestParam(defaultValue = "9223372036854775807") long before, @AuthenticationPrincipal SignedIn me) {
        return replies.all(me.id(), before);
    }

    @GetMapping("/{id}")
    IntakeReply one(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        return replies.reply(me.id(), id);
    }

    /** Corrects how the file is read and says where it goes; what is null is found out. */
    @PutMapping("/{id}/options")
    IntakeReply decide(
            @PathVariable long id, @Valid @RequestBody IntakeOptions options, @AuthenticationPrincipal SignedIn me) {
        intakes.decide(me.id(), id, options);
        return replies.reply(me.id(), id);
    }

    /** Says where a set goes, which of its files holds the sources, what each is and which stay out. */
    @PutMapping("/{id}/set")
    IntakeReply decideSet(
            @PathVariable long id, @Valid @RequestBody Sets.SetChoice choice, @AuthenticationPrincipal SignedIn me) {
        intakes.decideSet(me.id(), id, choice);
        return replies.reply(me.id(), id);
    }

    /** What the file would do, or how far finding that out is. Changes nothing. {@code fresh} compares anew when the table has changed since. */
    @GetMapping("/{id}/preview")
    Previews.ComparedReply preview(
            @PathVariable long id,
            @RequestParam(defaultValue = "false") boolean fresh,
            @AuthenticationPrincipal SignedIn me) {
        return previews.preview(me.id(), id, fresh);
    }

    /** Lines of one kind of what the file would do, in the file's order; {@code find} keeps those that hold these words. */
    @GetMapping("/{id}/lines")
    LineStore.Page lines(
            @PathVariable long id,
            @RequestParam ChangeKind kind,
            @RequestParam(defaultValue = "") String find,
            @RequestParam(defaultValue = "0") int from,
            @RequestParam(defaultValue = "100") int size,
            @AuthenticationPrincipal SignedIn me) {
        return previews.lines(me.id(), id, kind, find, from, size);
    }

    /** Decides what is done about lines, or about all of a kind; answers with the sums as they are then. */
    @PutMapping("/{id}/choices")
    Previews.ComparedReply choose(
            @PathVariable long id,
            @Valid @RequestBody Previews.ChoiceRequest choice,
            @AuthenticationPrincipal SignedIn me) {
        return previews.choose(me.id(), id, choice);
    }

    /** What taking it back would do. Changes nothing. */
    @GetMapping("/{id}/undo")
    Undoing.UndoReply undoing(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        return intakes.undoing(me.id(), id);
    }

    /** Starts taking it back; {@code all} puts back what was changed since, too. The intake then tells how it goes. */
    @PostMapping("/{id}/undo")
    @ResponseStatus(HttpStatus.ACCEPTED)
    IntakeReply undo(
            @PathVariable long id,
            @RequestParam(defaultValue = "false") boolean all,
            @AuthenticationPrincipal SignedIn me) {
        intakes.startUndo(me.id(), id, all);
        return replies.reply(me.id(), id);
    }

    /** Starts taking the file in; the intake then tells how it goes. */
    @PostMapping("/{id}/apply")
    @ResponseStatus(HttpStatus.ACCEPTED)
    IntakeReply apply(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        intakes.start(me.id(), id);
        return replies.reply(me.id(), id);
    }

    /** Cancels taking in before it has committed. */
    @PostMapping("/{id}/cancel")
    IntakeReply cancel(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        intakes.cancel(me.id(), id);
        return replies.reply(me.id(), id);
    }

    /** Leaves the file alone. */
    @DeleteMapping("/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void leave(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        intakes.leave(me.id(), id);
    }
}
