package mellow.server.recording;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import mellow.server.people.SignedIn;
import mellow.server.recording.RecordingService.AlikeReply;
import mellow.server.recording.RecordingService.LineChoice;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Which lines recordings speak. */
@RestController
@RequestMapping("/api")
class RecordingController {

    private final RecordingService recordings;

    RecordingController(RecordingService recordings) {
        this.recordings = recordings;
    }

    /**
     * The line that a recording speaks.
     *
     * @param table the table of the line, by its name in addresses
     * @param key the line's key
     * @param context its context, null for none
     */
    record LineRequest(
            @NotBlank @Size(max = 200) String table,
            @NotBlank @Size(max = 1000) String key,
            @Nullable @Size(max = 1000) String context) {}

    /**
     * Where the lines of a table's recordings are.
     *
     * @param lines their table, by its name in addresses
     * @param tie whether they are tied, and not only told
     */
    record AlikeRequest(@NotBlank @Size(max = 200) String lines, boolean tie) {}

    /** Says which line a recording speaks; said again of the same one, the recording is taken to fit it as it is now. */
    @PutMapping("/entries/{entry}/line")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void tie(@PathVariable long entry, @RequestBody @Valid LineRequest request, @AuthenticationPrincipal SignedIn me) {
        recordings.tie(me.id(), entry, new LineChoice(request.table(), request.key(), request.context()));
    }

    /** A recording speaks no line any more. */
    @DeleteMapping("/entries/{entry}/line")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void untie(@PathVariable long entry, @AuthenticationPrincipal SignedIn me) {
        recordings.untie(me.id(), entry);
    }

    /** Finds the lines of all recordings of a table that have none yet, by their keys. */
    @PostMapping("/tables/{table}/recordings")
    AlikeReply alike(
            @PathVariable String table,
            @RequestBody @Valid AlikeRequest request,
            @AuthenticationPrincipal SignedIn me) {
        return recordings.alike(me.id(), table, request.lines(), request.tie());
    }
}
