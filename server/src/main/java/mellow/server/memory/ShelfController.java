package mellow.server.memory;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import mellow.core.format.Limits;
import mellow.server.common.Refusal;
import mellow.server.file.Uploads;
import mellow.server.language.LanguageService;
import mellow.server.memory.MemoryUnits.Side;
import mellow.server.memory.MemoryUnits.UnitsFound;
import mellow.server.memory.Shelves.Shelf;
import mellow.server.memory.Shelves.ShelfFilled;
import mellow.server.people.SignedIn;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
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

/** Shelves, and units of the memory. */
@RestController
@RequestMapping("/api/memory")
class ShelfController {

    private final Shelves shelves;
    private final MemoryUnits units;
    private final LanguageService languages;
    private final Uploads uploads;

    ShelfController(Shelves shelves, MemoryUnits units, LanguageService languages, Uploads uploads) {
        this.shelves = shelves;
        this.units = units;
        this.languages = languages;
        this.uploads = uploads;
    }

    /** All shelves; coordinators only. */
    @GetMapping("/shelves")
    List<Shelf> all(@AuthenticationPrincipal SignedIn me) {
        return shelves.all(me.id());
    }

    /** Makes a shelf of a TMX file, its bytes as the body; coordinators only. */
    @PostMapping(value = "/shelves", consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
    @ResponseStatus(HttpStatus.CREATED)
    ShelfFilled add(
            @RequestParam String name,
            @RequestParam String file,
            HttpServletRequest request,
            @AuthenticationPrincipal SignedIn me)
            throws IOException {
        shelves.requireMayBring(me.id());
        return uploads.receive(
                me.id(), request, ShelfController::refuseSize, content -> shelves.add(me.id(), name, file, content));
    }

    /** Adds what a shelf does not have of another file; coordinators only. */
    @PostMapping(value = "/shelves/{id}/files", consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
    ShelfFilled addTo(
            @PathVariable long id,
            @RequestParam String file,
            HttpServletRequest request,
            @AuthenticationPrincipal SignedIn me)
            throws IOException {
        shelves.requireMayBring(me.id());
        return uploads.receive(
                me.id(), request, ShelfController::refuseSize, content -> shelves.addTo(me.id(), id, file, content));
    }

    private static void refuseSize(long bytes) {
        if (bytes > Limits.DEFAULT.bytes()) {
            throw Refusal.tooLarge(
                    "file-too-large",
                    "The file is larger than {most} MB, and that is the limit.",
                    Map.of("most", Limits.DEFAULT.bytes() >> 20));
        }
    }

    /** Changes a shelf's name, rank and deduction; coordinators only. */
    @PutMapping("/shelves/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void change(@PathVariable long id, @Valid @RequestBody ShelfEdit edit, @AuthenticationPrincipal SignedIn me) {
        shelves.change(me.id(), id, edit.name(), edit.rank(), edit.deduction());
    }

    /** Takes a shelf away; coordinators only. */
    @DeleteMapping("/shelves/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        shelves.remove(me.id(), id, true);
    }

    /** Puts a shelf back; coordinators only. */
    @PostMapping("/shelves/{id}/put-back")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void putBack(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        shelves.remove(me.id(), id, false);
    }

    /** A shelf as a TMX file; coordinators only. */
    @GetMapping("/shelves/{id}/tmx")
    void write(@PathVariable long id, HttpServletResponse response, @AuthenticationPrincipal SignedIn me)
            throws IOException {
        shelves.requireMayBring(me.id());
        response.setContentType("application/xml");
        response.setHeader(
                HttpHeaders.CONTENT_DISPOSITION,
                ContentDisposition.attachment()
                        .filename(
                                shelves.name(id).replaceAll("[^\\p{L}\\p{N} ._-]", "_") + ".tmx",
                                StandardCharsets.UTF_8)
                        .build()
                        .toString());
        shelves.write(me.id(), id, response.getOutputStream());
    }

    /** Looks for words on a side, or for similar sources; at most 100. */
    @GetMapping("/units")
    UnitsFound find(
            @RequestParam String from, @RequestParam String to, @RequestParam Side side, @RequestParam String words) {
        return units.find(languages.parse(from), languages.parse(to), side, words);
    }

    /** Mends the text of a unit of a shelf; coordinators only. */
    @PutMapping("/units/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void mend(@PathVariable long id, @Valid @RequestBody UnitEdit edit, @AuthenticationPrincipal SignedIn me) {
        units.mend(me.id(), id, edit.version(), edit.text());
    }

    /** Takes units of shelves out, or puts them back; coordinators only. Of several that say the same, all but one: so units are merged. */
    @PostMapping("/units/removal")
    UnitsRemoved remove(@Valid @RequestBody UnitRemoval removal, @AuthenticationPrincipal SignedIn me) {
        return new UnitsRemoved(units.remove(me.id(), removal.units(), removal.away()));
    }

    /** @param deduction in percent */
    record ShelfEdit(
            @NotBlank @Size(max = 120) String name, @Min(0) @Max(1000) int rank, @Min(0) @Max(50) int deduction) {}

    /** @param version that was seen */
    record UnitEdit(@NotNull @Size(max = 1_000_000) String text, @Min(0) long version) {}

    /** @param away false puts them back */
    record UnitRemoval(@NotEmpty @Size(max = 200) List<@NotNull Long> units, boolean away) {}

    record UnitsRemoved(int units) {}
}
