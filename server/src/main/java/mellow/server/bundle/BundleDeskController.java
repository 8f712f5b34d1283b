package mellow.server.bundle;

import jakarta.validation.Valid;
import mellow.server.bundle.BundleSettings.BundleChoice;
import mellow.server.bundle.BundleSettings.BundleDesk;
import mellow.server.bundle.BundleSettings.TokenEdit;
import mellow.server.bundle.BundleSettings.TokenMade;
import mellow.server.bundle.BundleUse.Use;
import mellow.server.people.SignedIn;
import org.springframework.http.HttpStatus;
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

/** How a product fetches its texts, for coordinators. */
@RestController
@RequestMapping("/api/products/{slug}/bundles")
class BundleDeskController {

    private final BundleSettings settings;

    private final BundleUse use;

    BundleDeskController(BundleSettings settings, BundleUse use) {
        this.settings = settings;
        this.use = use;
    }

    @GetMapping
    BundleDesk of(@PathVariable String slug, @AuthenticationPrincipal SignedIn me) {
        return settings.of(me.id(), slug);
    }

    @PutMapping
    BundleDesk change(
            @PathVariable String slug, @Valid @RequestBody BundleChoice wanted, @AuthenticationPrincipal SignedIn me) {
        return settings.change(me.id(), slug, wanted);
    }

    /** Makes a token; the answer has its secret, which is not shown again. */
    @PostMapping("/tokens")
    @ResponseStatus(HttpStatus.CREATED)
    TokenMade addToken(
            @PathVariable String slug, @Valid @RequestBody TokenEdit wanted, @AuthenticationPrincipal SignedIn me) {
        return settings.addToken(me.id(), slug, wanted);
    }

    @DeleteMapping("/tokens/{id}")
    BundleDesk endToken(@PathVariable String slug, @PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        return settings.endToken(me.id(), slug, id);
    }

    /** What the product asked for in the last days. */
    @GetMapping("/use")
    Use use(
            @PathVariable String slug,
            @RequestParam(defaultValue = "30") int days,
            @AuthenticationPrincipal SignedIn me) {
        return use.of(me.id(), slug, days);
    }
}
