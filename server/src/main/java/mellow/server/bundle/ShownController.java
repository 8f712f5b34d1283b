package mellow.server.bundle;

import jakarta.servlet.http.HttpServletRequest;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.HexFormat;
import java.util.Map;
import java.util.Optional;
import mellow.core.bundle.Badge;
import mellow.server.bundle.BundleAccess.Limit;
import mellow.server.common.Hashes;
import mellow.server.common.Refusal;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** How far products are, for anybody's pages: pictures of one language and a table of all. */
@RestController
@RequestMapping("/api/shown")
class ShownController {

    private static final MediaType SVG = new MediaType("image", "svg+xml", StandardCharsets.UTF_8);
    private static final MediaType HTML = new MediaType(MediaType.TEXT_HTML, StandardCharsets.UTF_8);
    private static final CacheControl KEPT =
            CacheControl.maxAge(Duration.ofMinutes(5)).cachePublic().staleWhileRevalidate(Duration.ofHours(1));
    /** Anybody may frame it; it loads nothing and runs nothing. */
    private static final String POLICY = "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors *";

    private final HowFar far;
    private final BundleAccess access;

    ShownController(HowFar far, BundleAccess access) {
        this.far = far;
        this.access = access;
    }

    /**
     * A picture of how far a language is.
     *
     * @param asked a number or a tag
     * @param theme light or dark
     */
    @GetMapping("/{product}/{asked}.svg")
    ResponseEntity<byte[]> badge(
            @PathVariable String product,
            @PathVariable String asked,
            @RequestParam(defaultValue = "light") String theme,
            HttpServletRequest request) {
        return shown(request, far.badge(product, asked, theme(theme)), SVG);
    }

    /**
     * A table of how far all languages are, as a page to be framed.
     *
     * @param theme light or dark
     */
    @GetMapping("/{product}/table")
    ResponseEntity<byte[]> table(
            @PathVariable String product,
            @RequestParam(defaultValue = "light") String theme,
            HttpServletRequest request) {
        return shown(request, far.table(product, theme(theme)), HTML);
    }

    private static Badge.Theme theme(String theme) {
        return switch (theme) {
            case "light" -> Badge.Theme.LIGHT;
            case "dark" -> Badge.Theme.DARK;
            default -> throw Refusal.unacceptable("unknown-theme", "A theme is light or dark.");
        };
    }

    private ResponseEntity<byte[]> shown(HttpServletRequest request, Optional<String> made, MediaType as) {
        Limit limit = access.asked(request.getRemoteAddr());
        if (limit.left() < 0) {
            throw Refusal.tooMany(
                    "too-many-requests",
                    "Too many requests in this minute; wait {seconds} seconds.",
                    Map.of("seconds", limit.seconds()));
        }
        byte[] content = made.orElseThrow(
                        () -> Refusal.notFound("not-shown", "There is no such product, or it is shown to nobody."))
                .getBytes(StandardCharsets.UTF_8);
        // If-None-Match is compared where answers are written (RFC 9110 §13.1.2).
        return ResponseEntity.ok()
                .contentType(as)
                .cacheControl(KEPT)
                .eTag(HexFormat.of().formatHex(Hashes.sha256(content)))
                .header("Content-Security-Policy", POLICY)
                .header("Cross-Origin-Resource-Policy", "cross-origin")
                .body(content);
    }
}
