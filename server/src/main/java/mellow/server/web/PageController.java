package mellow.server.web;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.SecureRandom;
import java.util.Base64;
import org.springframework.core.io.ClassPathResource;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;

/** Serves the one page of the web client at every address it knows, with a strict content security policy and a fresh nonce for its styles. */
@Controller
class PageController {

    private static final String NONCE_PLACE = "__CSP_NONCE__";
    private static final int NONCE_BYTES = 18;
    private static final String POLICY =
            "default-src 'none'; script-src 'self'; style-src 'self' 'nonce-%s'; font-src 'self'; img-src 'self' data:; media-src 'self'; connect-src 'self'; "
                    + "manifest-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'";

    private final SecureRandom random = new SecureRandom();
    private final String page;

    PageController() throws IOException {
        ClassPathResource index = new ClassPathResource("static/index.html");
        page = index.exists()
                ? index.getContentAsString(StandardCharsets.UTF_8)
                : "<!doctype html><title>Mellow Ledger</title>The web client is not built.";
    }

    @GetMapping({
        "/",
        "/index.html",
        "/sign-in",
        "/ledger",
        "/memory",
        "/wordbook",
        "/checks",
        "/review",
        "/intake",
        "/intake/{id}",
        "/intake/assets/{id}",
        "/board",
        "/people",
        "/people/{id}",
        "/offers",
        "/reports/{language}",
        "/products",
        "/products/{slug}",
        "/products/{slug}/code",
        "/rehearsal",
        "/rehearsal/{slug}",
        "/rehearsal/{slug}/{scene}",
        "/rehearsal/{slug}/{scene}/places",
        "/deliveries",
        "/deliveries/{slug}",
        "/deliveries/{slug}/asked",
        "/tables/{slug}",
        "/invitation/{token}"
    })
    ResponseEntity<String> page() {
        byte[] bytes = new byte[NONCE_BYTES];
        random.nextBytes(bytes);
        String nonce = Base64.getEncoder().encodeToString(bytes);
        return ResponseEntity.ok()
                .contentType(new MediaType(MediaType.TEXT_HTML, StandardCharsets.UTF_8))
                .cacheControl(CacheControl.noCache())
                .header("Content-Security-Policy", POLICY.formatted(nonce))
                .body(page.replace(NONCE_PLACE, nonce));
    }
}
