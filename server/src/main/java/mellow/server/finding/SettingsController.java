package mellow.server.finding;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import mellow.server.file.Uploads;
import mellow.server.finding.FontService.FontReply;
import mellow.server.finding.FontService.LettersReply;
import mellow.server.finding.SettingsService.CheckSettings;
import mellow.server.finding.SettingsService.CheckSettingsReply;
import mellow.server.language.LanguageService;
import mellow.server.people.SignedIn;
import org.jspecify.annotations.Nullable;
import org.springframework.http.CacheControl;
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

/** What counts as wrong in tables and products; their fonts and letters. */
@RestController
class SettingsController {

    private final SettingsService settings;
    private final FontService fonts;
    private final LanguageService languages;
    private final Uploads uploads;

    SettingsController(SettingsService settings, FontService fonts, LanguageService languages, Uploads uploads) {
        this.uploads = uploads;
        this.settings = settings;
        this.fonts = fonts;
        this.languages = languages;
    }

    /** See {@link CheckSettings}. */
    record CheckSettingsWanted(
            @Min(0) int version,
            @NotNull @Size(max = 64) Map<String, String> weights,
            @NotNull @Size(max = 50) List<@NotNull @Size(max = 500) String> placeholders,
            @NotNull @Size(max = 500) String forbidden,
            double lengthFactor,
            @NotNull @Size(max = 500) String keyRule,
            @NotNull @Size(max = 60) String charset) {

        CheckSettings said() {
            return new CheckSettings(version, weights, placeholders, forbidden, lengthFactor, keyRule, charset);
        }
    }

    @GetMapping("/api/tables/{slug}/checks")
    CheckSettingsReply ofTable(@PathVariable String slug) {
        return settings.ofTable(slug);
    }

    @PutMapping("/api/tables/{slug}/checks")
    CheckSettingsReply changeTable(
            @PathVariable String slug,
            @Valid @RequestBody CheckSettingsWanted wanted,
            @AuthenticationPrincipal SignedIn me) {
        return settings.changeTable(me.id(), slug, wanted.said());
    }

    @GetMapping("/api/products/{slug}/checks")
    CheckSettingsReply ofProduct(@PathVariable String slug) {
        return settings.ofProduct(slug);
    }

    @PutMapping("/api/products/{slug}/checks")
    CheckSettingsReply changeProduct(
            @PathVariable String slug,
            @Valid @RequestBody CheckSettingsWanted wanted,
            @AuthenticationPrincipal SignedIn me) {
        return settings.changeProduct(me.id(), slug, wanted.said());
    }

    @GetMapping("/api/products/{slug}/fonts")
    List<FontReply> fonts(@PathVariable String slug) {
        return fonts.all(slug);
    }

    /**
     * Sets a font for a language, or for all that have none of their own: the body is the file.
     *
     * @param size in pixels per em
     */
    @PostMapping("/api/products/{slug}/fonts")
    List<FontReply> put(
            @PathVariable String slug,
            @RequestParam(required = false) @Nullable String language,
            @RequestParam double size,
            HttpServletRequest body,
            @AuthenticationPrincipal SignedIn me)
            throws IOException {
        fonts.requireMay(me.id());
        return uploads.receive(
                me.id(),
                body,
                FontService::requireSize,
                content -> fonts.put(
                        me.id(),
                        slug,
                        language == null || language.isEmpty() ? null : languages.parse(language),
                        size,
                        content));
    }

    /** The file of a font, for pages that show texts as the product does. */
    @GetMapping("/api/products/{slug}/fonts/{font}/file")
    ResponseEntity<byte[]> file(@PathVariable String slug, @PathVariable long font) {
        return ResponseEntity.ok()
                .contentType(new MediaType("font", "sfnt"))
                .cacheControl(CacheControl.maxAge(Duration.ofDays(1)).cachePrivate())
                .body(fonts.file(slug, font));
    }

    @DeleteMapping("/api/products/{slug}/fonts/{font}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(@PathVariable String slug, @PathVariable long font, @AuthenticationPrincipal SignedIn me) {
        fonts.remove(me.id(), slug, font);
    }

    /** The letters that a product's texts use in a language, and those that its font lacks. */
    @GetMapping("/api/products/{slug}/letters")
    LettersReply letters(@PathVariable String slug, @RequestParam String in) {
        return fonts.letters(slug, languages.parse(in));
    }

    /** The same as a text file of nothing but the letters. */
    @GetMapping("/api/products/{slug}/letters.txt")
    ResponseEntity<byte[]> list(@PathVariable String slug, @RequestParam String in) {
        ContentDisposition disposition = ContentDisposition.attachment()
                .filename(slug + "-" + languages.parse(in) + "-letters.txt", StandardCharsets.UTF_8)
                .build();
        return ResponseEntity.ok()
                .header(HttpHeaders.CONTENT_DISPOSITION, disposition.toString())
                .contentType(new MediaType("text", "plain", StandardCharsets.UTF_8))
                .body(fonts.list(slug, languages.parse(in)).getBytes(StandardCharsets.UTF_8));
    }
}
