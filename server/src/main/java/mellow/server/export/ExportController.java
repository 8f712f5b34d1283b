package mellow.server.export;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mellow.core.format.FileFormat;
import mellow.core.format.registry.Formats;
import mellow.core.format.registry.Losses;
import mellow.server.common.Refusal;
import mellow.server.export.ExportService.Outgoing;
import mellow.server.export.Order.Untranslated;
import mellow.server.language.LanguageService;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Sending a table out as a file. */
@RestController
@RequestMapping("/api/tables/{table}/export")
class ExportController {

    private final ExportService exports;
    private final LanguageService languages;

    ExportController(ExportService exports, LanguageService languages) {
        this.exports = exports;
        this.languages = languages;
    }

    /** The files that can be written in place, the largest first. */
    @GetMapping("/files")
    List<String> files(@PathVariable String table) {
        return exports.paths(table);
    }

    /**
     * Fresh files of the table; a ZIP archive when the format holds one language in a file and several are asked for.
     *
     * @param format the name of a format
     * @param in the languages, all when empty
     * @param untranslated what stands where there is no text: empty, source or fallback
     * @param only states of which an entry has to have one in any of the languages, all entries when empty
     * @param leaveOut go on without the entries that the format cannot hold
     * @param pattern how files are named, with {table}, {language} and {ext}
     */
    @GetMapping("/fresh")
    void fresh(
            @PathVariable String table,
            @RequestParam(defaultValue = "csv") String format,
            @RequestParam(defaultValue = "") List<String> in,
            @RequestParam(defaultValue = "empty") String untranslated,
            @RequestParam(defaultValue = "false") boolean onlySettled,
            @RequestParam(defaultValue = "") Set<String> only,
            @RequestParam(defaultValue = "comma") String delimiter,
            @RequestParam(defaultValue = "true") boolean guard,
            @RequestParam(defaultValue = "false") boolean leaveOut,
            @RequestParam(defaultValue = "{table}-{language}.{ext}") String pattern,
            HttpServletResponse response)
            throws IOException {
        Order order = new Order(
                known(format),
                languages.parse(in),
                untranslated(untranslated),
                onlySettled,
                only,
                delimiter(delimiter),
                guard,
                leaveOut,
                pattern);
        try (Outgoing file = exports.fresh(table, order)) {
            send(file, response);
        }
    }

    /**
     * What fresh files of a format would not hold, before they are sent.
     *
     * @param counts by aspect how many entries or texts are concerned: context, note, reference, section, limit, not_for_translation, state, untranslated,
     *     plural_forms, line_breaks
     * @param refused keys of entries that the format cannot hold at all, a hundred at most; nothing can be sent while there are any
     * @param refusedCount how many there are
     * @param why the sentence about the first of them, null when there is none
     */
    record LossesReply(Map<String, Integer> counts, List<String> refused, int refusedCount, @Nullable String why) {}

    /** What fresh files would not hold; the parameters are those of the file. */
    @GetMapping("/losses")
    LossesReply losses(
            @PathVariable String table,
            @RequestParam(defaultValue = "csv") String format,
            @RequestParam(defaultValue = "") List<String> in,
            @RequestParam(defaultValue = "empty") String untranslated,
            @RequestParam(defaultValue = "false") boolean onlySettled,
            @RequestParam(defaultValue = "") Set<String> only) {
        Order order = new Order(
                known(format),
                languages.parse(in),
                untranslated(untranslated),
                onlySettled,
                only,
                ',',
                true,
                false,
                "");
        Losses losses = exports.losses(table, order);
        Map<String, Integer> counts = new LinkedHashMap<>();
        losses.counts().forEach((aspect, count) -> counts.put(aspect.word(), count));
        return new LossesReply(
                counts, losses.refused(), losses.refusedCount(), losses.why().isEmpty() ? null : losses.why());
    }

    private static FileFormat known(String format) {
        return Formats.named(format)
                .orElseThrow(() -> Refusal.unacceptable(
                        "unknown-format",
                        "There is no format “{format}”.",
                        Map.of("field", "format", "format", format)));
    }

    /** Files that were taken in, with only the changed texts replaced: the same bytes when nothing changed. Several, {@code file} given more than once, come as a ZIP archive. */
    @GetMapping("/in-place")
    void inPlace(
            @PathVariable String table,
            @RequestParam String file,
            HttpServletRequest request,
            HttpServletResponse response)
            throws IOException {
        // As a list, a name with a comma would be taken apart.
        try (Outgoing written = exports.inPlace(table, List.of(request.getParameterValues("file")))) {
            send(written, response);
        }
    }

    /** The files of the sets that the table was taken in from, one per language: those that would go out, and which of them are new. */
    @GetMapping("/set-files")
    List<SetOut.OutFile> setFiles(@PathVariable String table) {
        return exports.setFiles(table);
    }

    /** All of these files at their paths, as a ZIP archive: the same bytes where nothing changed, and a new file for each language that has none. */
    @GetMapping("/set")
    void set(@PathVariable String table, HttpServletResponse response) throws IOException {
        try (Outgoing written = exports.set(table)) {
            send(written, response);
        }
    }

    private static Untranslated untranslated(String word) {
        return switch (word) {
            case "empty" -> Untranslated.EMPTY;
            case "source" -> Untranslated.SOURCE;
            case "fallback" -> Untranslated.FALLBACK;
            default ->
                throw Refusal.unacceptable(
                        "unknown-untranslated",
                        "What is untranslated can be empty, source or fallback.",
                        Map.of("field", "untranslated"));
        };
    }

    private static char delimiter(String word) {
        return switch (word) {
            case "comma" -> ',';
            case "semicolon" -> ';';
            case "tab" -> '\t';
            default ->
                throw Refusal.unacceptable(
                        "unknown-delimiter",
                        "The delimiter can be comma, semicolon or tab.",
                        Map.of("field", "delimiter"));
        };
    }

    private static void send(Outgoing file, HttpServletResponse response) throws IOException {
        String name = file.name().substring(file.name().lastIndexOf('/') + 1);
        response.setContentType(type(name));
        response.setContentLengthLong(Files.size(file.content()));
        response.setHeader(
                HttpHeaders.CONTENT_DISPOSITION,
                ContentDisposition.attachment()
                        .filename(name, StandardCharsets.UTF_8)
                        .build()
                        .toString());
        response.setHeader(HttpHeaders.CACHE_CONTROL, "no-store");
        Files.copy(file.content(), response.getOutputStream());
    }

    private static String type(String name) {
        return switch (name.substring(name.lastIndexOf('.') + 1)) {
            case "csv" -> "text/csv";
            case "zip" -> "application/zip";
            case "json" -> "application/json";
            default -> MediaType.APPLICATION_OCTET_STREAM_VALUE;
        };
    }
}
