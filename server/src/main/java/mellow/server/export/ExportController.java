package mellow.server.export;

import jakarta.servlet.http.HttpServletResponse;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import mellow.core.format.FilePatch;
import mellow.server.common.Refusal;
import mellow.server.export.ExportService.Fresh;
import mellow.server.language.LanguageService;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
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

    /** A fresh CSV file of the table, UTF-8. */
    @GetMapping(value = "/fresh", produces = "text/csv")
    void fresh(
            @PathVariable String table,
            @RequestParam(defaultValue = "") List<String> in,
            @RequestParam(defaultValue = "false") boolean onlySettled,
            @RequestParam(defaultValue = "comma") String delimiter,
            @RequestParam(defaultValue = "true") boolean guard,
            HttpServletResponse response)
            throws IOException {
        Fresh choice = new Fresh(languages.parse(in), onlySettled, delimiter(delimiter), guard);
        name(response, table + ".csv");
        exports.writeFresh(table, choice, response.getOutputStream());
    }

    /** A file that was taken in, with only the changed texts replaced: the same bytes when nothing changed. */
    @GetMapping(value = "/in-place", produces = "text/csv")
    void inPlace(@PathVariable String table, @RequestParam String file, HttpServletResponse response)
            throws IOException {
        FilePatch patch = exports.inPlace(table, file);
        name(response, file.substring(file.lastIndexOf('/') + 1));
        try (OutputStream out = new BufferedOutputStream(response.getOutputStream())) {
            patch.writeTo(out);
        }
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

    private static void name(HttpServletResponse response, String name) {
        response.setContentType("text/csv");
        response.setHeader(
                HttpHeaders.CONTENT_DISPOSITION,
                ContentDisposition.attachment()
                        .filename(name, StandardCharsets.UTF_8)
                        .build()
                        .toString());
        response.setHeader(HttpHeaders.CACHE_CONTROL, "no-store");
    }
}
