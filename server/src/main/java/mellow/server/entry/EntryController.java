package mellow.server.entry;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.concurrent.TimeUnit;
import mellow.core.text.Shape;
import mellow.server.common.Refusal;
import mellow.server.entry.EntryService.Changed;
import mellow.server.entry.EntryService.Rewritten;
import mellow.server.entry.EntryStory.EntryLine;
import mellow.server.file.Pictures;
import mellow.server.file.Uploads;
import mellow.server.people.SignedIn;
import org.jspecify.annotations.Nullable;
import org.springframework.http.CacheControl;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Making and changing entries, their story and pictures. */
@RestController
class EntryController {

    private final EntryService entries;
    private final EntryUndo undoing;
    private final EntryReader reader;
    private final PictureService pictures;
    private final Uploads uploads;

    EntryController(
            EntryService entries, EntryUndo undoing, EntryReader reader, PictureService pictures, Uploads uploads) {
        this.entries = entries;
        this.undoing = undoing;
        this.reader = reader;
        this.pictures = pictures;
        this.uploads = uploads;
    }

    /** Makes an entry in a table. */
    @PostMapping("/api/tables/{table}/entries")
    @ResponseStatus(HttpStatus.CREATED)
    Changed create(
            @PathVariable String table, @Valid @RequestBody NewEntry wanted, @AuthenticationPrincipal SignedIn me) {
        Shape shape = Shape.of(wanted.shape())
                .orElseThrow(() -> Refusal.unacceptable(
                        "unknown-shape",
                        "An entry is plain, plural, states or asset, not “{shape}”.",
                        Map.of("field", "shape", "shape", wanted.shape())));
        return entries.create(me.id(), table, shape, wanted.description(), wanted.source(), wanted.after());
    }

    /** An entry with all that is said about it. */
    @GetMapping("/api/entries/{id}")
    EntryReply entry(@PathVariable long id) {
        return reader.entry(id);
    }

    /** Entries that were removed from a table, the last one first, at most 500. */
    @GetMapping("/api/tables/{table}/removed-entries")
    List<EntryReply> removed(@PathVariable String table) {
        return reader.removed(table);
    }

    /** The entry's story, newest first, at most 200 lines. */
    @GetMapping("/api/entries/{id}/story")
    List<EntryLine> story(@PathVariable long id) {
        return reader.story(id);
    }

    /** Tags of the languages whose texts would go stale if the source changed its meaning now. */
    @GetMapping("/api/entries/{id}/going-stale")
    List<String> goingStale(@PathVariable long id) {
        return entries.goingStale(id);
    }

    /** Changes what is said about an entry; a new key or context renames it and keeps everything. */
    @PutMapping("/api/entries/{id}")
    Changed describe(@PathVariable long id, @Valid @RequestBody EntryEdit edit, @AuthenticationPrincipal SignedIn me) {
        return entries.describe(me.id(), id, edit.version(), edit.description());
    }

    /** Rewrites an entry's source. */
    @PostMapping("/api/entries/{id}/source")
    Changed rewrite(@PathVariable long id, @Valid @RequestBody SourceEdit edit, @AuthenticationPrincipal SignedIn me) {
        return entries.rewrite(me.id(), id, edit.version(), edit.source(), edit.meaningChanged());
    }

    /** Rewrites several sources as one change; those that moved on meanwhile stay as they are and are named. */
    @PostMapping("/api/entries/sources")
    Changed rewriteMany(@Valid @RequestBody ManySources wanted, @AuthenticationPrincipal SignedIn me) {
        return entries.rewriteMany(me.id(), wanted.sources(), wanted.meaningChanged());
    }

    /** Puts an entry back to how it was before a line of its story. */
    @PostMapping("/api/entries/{id}/story/{line}/put-back")
    Changed putBackLine(
            @PathVariable long id,
            @PathVariable long line,
            @Valid @RequestBody LinePutBack wanted,
            @AuthenticationPrincipal SignedIn me) {
        return undoing.putBackLine(me.id(), id, wanted.version(), line, wanted.meaningChanged());
    }

    /** Changes several entries' section or tags, or whether they are for translation. */
    @PostMapping("/api/entries/description")
    Changed describeMany(@Valid @RequestBody ManyDescriptions wanted, @AuthenticationPrincipal SignedIn me) {
        return entries.describeMany(
                me.id(), wanted.entries(), wanted.section(), wanted.addTags(), wanted.translatable());
    }

    /** Moves entries within their table or into another; texts and story go with them. */
    @PostMapping("/api/entries/place")
    Changed move(@Valid @RequestBody Move move, @AuthenticationPrincipal SignedIn me) {
        return entries.move(me.id(), move.entries(), move.table(), move.after(), move.addLanguages());
    }

    /** Takes entries out of sight. */
    @PostMapping("/api/entries/removal")
    Changed remove(@Valid @RequestBody Several several, @AuthenticationPrincipal SignedIn me) {
        return entries.remove(me.id(), several.entries());
    }

    /** Puts removed entries back. */
    @PostMapping("/api/entries/put-back")
    Changed putBack(@Valid @RequestBody Several several, @AuthenticationPrincipal SignedIn me) {
        return entries.putBack(me.id(), several.entries());
    }

    /** Sets the picture that shows where an entry is used: the body is a PNG, JPEG or WebP file of at most 5 MB. */
    @PutMapping("/api/entries/{id}/picture")
    Changed setPicture(@PathVariable long id, HttpServletRequest body, @AuthenticationPrincipal SignedIn me)
            throws IOException {
        pictures.requireMay(me.id());
        return uploads.receive(me.id(), body, Pictures::requireSize, content -> pictures.set(me.id(), id, content));
    }

    /** Takes the picture away. */
    @DeleteMapping("/api/entries/{id}/picture")
    Changed dropPicture(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        return entries.picture(me.id(), id, null);
    }

    /** A picture; its number changes when the picture does. */
    @GetMapping("/api/pictures/{picture}")
    ResponseEntity<byte[]> picture(@PathVariable long picture) {
        PictureService.Shown shown = pictures.load(picture);
        return ResponseEntity.ok()
                .contentType(MediaType.parseMediaType(shown.mediaType()))
                .cacheControl(
                        CacheControl.maxAge(365, TimeUnit.DAYS).cachePrivate().immutable())
                .body(shown.content());
    }

    /**
     * An entry to be made.
     *
     * @param shape plain, plural, states or asset
     * @param source its source by form: "other" for a plain one
     * @param after the entry it follows, null for the end of the table
     */
    record NewEntry(
            @NotBlank String shape,
            @Valid @NotNull Description description,
            @NotEmpty TreeMap<String, String> source,
            @Nullable Long after) {}

    /** @param version the version that was seen */
    record EntryEdit(@Min(0) int version, @Valid @NotNull Description description) {}

    /**
     * A source to be rewritten.
     *
     * @param version the version that was seen
     * @param source the new source by form
     * @param meaningChanged whether texts made for earlier sources go stale
     */
    record SourceEdit(@Min(0) int version, @NotEmpty TreeMap<String, String> source, boolean meaningChanged) {}

    /** @param meaningChanged whether texts made for earlier sources go stale */
    record ManySources(@NotEmpty @Size(max = 5_000) List<@Valid Rewritten> sources, boolean meaningChanged) {}

    record LinePutBack(@Min(0) int version, boolean meaningChanged) {}

    /**
     * What several entries shall have in common; what is null stays.
     *
     * @param addTags tags to add to theirs
     */
    record ManyDescriptions(
            @NotEmpty List<Long> entries,
            @Nullable @Size(max = 300) String section,
            @Nullable @Size(max = 30) List<@NotBlank @Size(max = 60) String> addTags,
            @Nullable Boolean translatable) {}

    /**
     * Where entries shall go.
     *
     * @param table the table's name in addresses
     * @param after the entry they follow, null for the end
     * @param addLanguages whether the table may get the languages that their texts need
     */
    record Move(@NotEmpty List<Long> entries, @NotBlank String table, @Nullable Long after, boolean addLanguages) {}

    record Several(@NotEmpty List<Long> entries) {}

    /**
     * An entry.
     *
     * @param source its source by form
     * @param picture the number of its picture, null for none
     */
    record EntryReply(
            long id,
            String table,
            String shape,
            Description description,
            SortedMap<String, String> source,
            int sourceRevision,
            int meaningRevision,
            @Nullable Long picture,
            int version,
            boolean removed) {}
}
