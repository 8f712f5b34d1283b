package mellow.server.code;

import jakarta.servlet.http.HttpServletRequest;
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
import java.util.Set;
import mellow.server.code.CodeLists.Asked;
import mellow.server.code.CodeReplies.CodeEntry;
import mellow.server.code.CodeReplies.CodeOverview;
import mellow.server.code.CodeReplies.DifferingText;
import mellow.server.code.CodeReplies.MisfitValues;
import mellow.server.code.CodeReplies.MissingKey;
import mellow.server.code.CodeReplies.ScanReply;
import mellow.server.code.CodeReplies.TextWithoutKey;
import mellow.server.code.CodeTaking.Taken;
import mellow.server.code.CodeTaking.TakenKey;
import mellow.server.code.CodeTaking.TakenText;
import mellow.server.code.CodeUses.CodePlace;
import mellow.server.code.Scanning.Seen;
import mellow.server.common.Refusal;
import mellow.server.file.Uploads;
import mellow.server.people.SignedIn;
import mellow.server.run.RunService;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
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
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The code of products: looking through it, what was found, and what becomes of that. */
@RestController
class CodeController {

    private final Scanning scanning;
    private final CodeSettingsService settings;
    private final CodeEntries entries;
    private final CodeLists lists;
    private final CodeTaking taking;
    private final CodePatch patch;
    private final CodeUses uses;
    private final RunService runs;
    private final Uploads uploads;

    CodeController(
            Scanning scanning,
            CodeSettingsService settings,
            CodeEntries entries,
            CodeLists lists,
            CodeTaking taking,
            CodePatch patch,
            CodeUses uses,
            RunService runs,
            Uploads uploads) {
        this.scanning = scanning;
        this.settings = settings;
        this.entries = entries;
        this.lists = lists;
        this.taking = taking;
        this.patch = patch;
        this.uses = uses;
        this.runs = runs;
        this.uploads = uploads;
    }

    /** How the code of a product stands to its tables, in figures. */
    @GetMapping("/api/products/{product}/code")
    CodeOverview overview(@PathVariable String product) {
        return lists.overview(product);
    }

    /** How the code names keys. */
    @GetMapping("/api/products/{product}/code/settings")
    CodeSettings settings(@PathVariable String product) {
        return settings.of(product);
    }

    /** Changes how the code names keys. */
    @PutMapping("/api/products/{product}/code/settings")
    CodeSettings change(
            @PathVariable String product,
            @Valid @RequestBody CodeSettings wanted,
            @AuthenticationPrincipal SignedIn me) {
        return settings.change(me.id(), product, wanted);
    }

    /** All keys of the product, one per line, for programs that look through its code. */
    @GetMapping(value = "/api/products/{product}/code/keys", produces = "text/plain;charset=UTF-8")
    String keys(@PathVariable String product) {
        return String.join("\n", entries.keys(product));
    }

    /** Looks through the code: the body is a ZIP archive of it, of at most 200 MB. It is not kept. */
    @PostMapping(value = "/api/products/{product}/code/scans", consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
    @ResponseStatus(HttpStatus.ACCEPTED)
    ScanBegun archive(
            @PathVariable String product,
            @RequestParam String name,
            HttpServletRequest body,
            @AuthenticationPrincipal SignedIn me)
            throws IOException {
        scanning.requireMay(me.id(), product);
        return uploads.receive(
                me.id(),
                body,
                CodeController::requireSize,
                content -> new ScanBegun(scanning.archive(me.id(), product, name, content)));
    }

    /** Keeps what a program found in the code: the body is what the scan command writes, a file per line. */
    @PostMapping(value = "/api/products/{product}/code/findings", consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
    @ResponseStatus(HttpStatus.ACCEPTED)
    ScanBegun findings(
            @PathVariable String product,
            @RequestParam String name,
            @RequestParam @Min(0) @Max(10_000_000) int files,
            @RequestParam @Min(0) @Max(10_000_000_000L) long lines,
            @RequestParam @Min(0) int ignored,
            @RequestParam @Min(0) int binary,
            @RequestParam @Min(0) int large,
            HttpServletRequest body,
            @AuthenticationPrincipal SignedIn me)
            throws IOException {
        scanning.requireMay(me.id(), product);
        Seen seen = new Seen(files, lines, ignored, binary, large);
        return uploads.receive(
                me.id(),
                body,
                CodeController::requireSize,
                content -> new ScanBegun(scanning.found(me.id(), product, name, seen, content)));
    }

    private static void requireSize(long bytes) {
        if (bytes > Scanning.LARGEST_ARCHIVE) {
            throw Refusal.tooLarge(
                    "archive-too-large",
                    "An archive of code may have at most 200 MB; look through it with the scan command instead.");
        }
    }

    /** A look through the code. */
    @GetMapping("/api/products/{product}/code/scans/{scan}")
    ScanReply scan(@PathVariable String product, @PathVariable long scan) {
        return lists.scan(product, scan);
    }

    /** Stops a look that is not through. */
    @DeleteMapping("/api/products/{product}/code/scans/{scan}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void stop(@PathVariable String product, @PathVariable long scan, @AuthenticationPrincipal SignedIn me) {
        scanning.requireMay(me.id(), product);
        lists.scan(product, scan);
        runs.cancel(Scanning.RUN, scan);
    }

    /** Keys that the code uses and no table has, at most 200 after a key in a context. */
    @GetMapping("/api/products/{product}/code/missing")
    List<MissingKey> missing(
            @PathVariable String product,
            @RequestParam(defaultValue = "") String after,
            @RequestParam(defaultValue = "") String afterContext) {
        return lists.missing(product, new Asked(after, afterContext));
    }

    /** Entries that the code uses, maybe uses, uses in tests only or does not use; at most 200 after a key. */
    @GetMapping("/api/products/{product}/code/entries")
    List<CodeEntry> entries(
            @PathVariable String product,
            @RequestParam String how,
            @RequestParam(defaultValue = "") String after,
            @RequestParam(defaultValue = "0") long afterId) {
        return lists.entries(product, how, after, afterId);
    }

    /** Places whose text differs from the source, the first 200. */
    @GetMapping("/api/products/{product}/code/differing")
    List<DifferingText> differing(@PathVariable String product) {
        return lists.differing(product);
    }

    /** Places that put other values in than the text has places for, the first 200. */
    @GetMapping("/api/products/{product}/code/misfits")
    List<MisfitValues> misfits(@PathVariable String product) {
        return lists.misfits(product);
    }

    /** Texts without keys of a look about which that was decided, at most 200 after a number; the look has to be the last. */
    @GetMapping("/api/products/{product}/code/texts")
    List<TextWithoutKey> texts(
            @PathVariable String product,
            @RequestParam long scan,
            @RequestParam(defaultValue = "open") String decision,
            @RequestParam(defaultValue = "0") int after) {
        return lists.texts(product, scan, decision, after);
    }

    /** Makes entries of keys that no table has. */
    @PostMapping("/api/products/{product}/code/missing/take")
    Taken takeKeys(
            @PathVariable String product, @Valid @RequestBody KeysToTake wanted, @AuthenticationPrincipal SignedIn me) {
        return taking.keys(
                me.id(),
                product,
                wanted.scan(),
                wanted.table(),
                wanted.section(),
                wanted.keys().stream()
                        .map(one -> new TakenKey(one.name(), one.context(), one.key(), one.source()))
                        .toList());
    }

    /** Makes entries of texts without keys. */
    @PostMapping("/api/products/{product}/code/texts/take")
    Taken takeTexts(
            @PathVariable String product,
            @Valid @RequestBody TextsToTake wanted,
            @AuthenticationPrincipal SignedIn me) {
        return taking.texts(
                me.id(),
                product,
                wanted.scan(),
                wanted.table(),
                wanted.section(),
                wanted.texts().stream()
                        .map(one -> new TakenText(one.position(), one.key()))
                        .toList());
    }

    /** Puts texts off, ignores them for good, or opens them again. */
    @PostMapping("/api/products/{product}/code/texts/decision")
    Decided decide(
            @PathVariable String product,
            @Valid @RequestBody TextsToDecide wanted,
            @AuthenticationPrincipal SignedIn me) {
        return new Decided(
                taking.decide(me.id(), product, wanted.scan(), wanted.decision(), Set.copyOf(wanted.texts())));
    }

    /** The patch that puts keys where the texts were that were taken. */
    @GetMapping(value = "/api/products/{product}/code/patch", produces = "text/x-diff")
    ResponseEntity<byte[]> patch(@PathVariable String product) {
        return ResponseEntity.ok()
                .contentType(new MediaType("text", "x-diff", StandardCharsets.UTF_8))
                .header(
                        HttpHeaders.CONTENT_DISPOSITION,
                        ContentDisposition.attachment()
                                .filename(product + ".patch", StandardCharsets.UTF_8)
                                .build()
                                .toString())
                .body(patch.of(product).getBytes(StandardCharsets.UTF_8));
    }

    /** Where the code of products uses an entry, at most 200 places. */
    @GetMapping("/api/entries/{id}/code")
    List<CodePlace> uses(@PathVariable long id) {
        return uses.of(id);
    }

    record ScanBegun(long scan) {}

    record Decided(int texts) {}

    /**
     * Keys to be made entries.
     *
     * @param scan the look that was seen
     * @param table the table's name in addresses
     * @param section the heading they stand under, empty for none
     */
    record KeysToTake(
            long scan,
            @NotBlank String table,
            @NotNull @Size(max = 300) String section,
            @NotEmpty @Size(max = 5_000) List<@Valid KeyToTake> keys) {}

    /**
     * A key to be made an entry.
     *
     * @param name as the code names it
     * @param context in which it does, empty for any
     * @param key as the entry shall be called
     * @param source what it says
     */
    record KeyToTake(
            @NotBlank @Size(max = 1000) String name,
            @Size(max = 1000) String context,
            @NotBlank @Size(max = 1000) String key,
            @NotBlank String source) {

        KeyToTake {
            context = context == null ? "" : context;
        }
    }

    /**
     * Texts to be made entries.
     *
     * @param scan the look that was seen
     */
    record TextsToTake(
            long scan,
            @NotBlank String table,
            @NotNull @Size(max = 300) String section,
            @NotEmpty @Size(max = 5_000) List<@Valid TextToTake> texts) {}

    /** @param position its number in the look */
    record TextToTake(int position, @NotBlank @Size(max = 1000) String key) {}

    /** @param decision later, ignored or open */
    record TextsToDecide(
            long scan, @NotBlank String decision, @NotEmpty @Size(max = 200_000) List<@NotNull Integer> texts) {}
}
