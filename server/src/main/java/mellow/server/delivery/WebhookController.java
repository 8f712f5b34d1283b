package mellow.server.delivery;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import mellow.server.delivery.Webhooks.WebhookDesk;
import mellow.server.delivery.Webhooks.WebhookMade;
import mellow.server.people.SignedIn;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Programs that are told what was delivered. */
@RestController
@RequestMapping("/api/products/{slug}/webhooks")
class WebhookController {

    private final Webhooks webhooks;

    WebhookController(Webhooks webhooks) {
        this.webhooks = webhooks;
    }

    record WebhookEdit(@NotBlank @Size(max = 500) String address) {}

    @GetMapping
    WebhookDesk of(@PathVariable String slug, @AuthenticationPrincipal SignedIn me) {
        return webhooks.of(me.id(), slug);
    }

    /** Has a program told; the answer has the secret, which is not shown again. */
    @PostMapping
    @ResponseStatus(HttpStatus.CREATED)
    WebhookMade add(
            @PathVariable String slug, @Valid @RequestBody WebhookEdit wanted, @AuthenticationPrincipal SignedIn me) {
        return webhooks.add(me.id(), slug, wanted.address());
    }

    @DeleteMapping("/{id}")
    WebhookDesk remove(@PathVariable String slug, @PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        webhooks.remove(me.id(), slug, id);
        return webhooks.of(me.id(), slug);
    }

    /** Has something told once more, at once. */
    @PostMapping("/calls/{call}")
    WebhookDesk again(@PathVariable String slug, @PathVariable long call, @AuthenticationPrincipal SignedIn me) {
        webhooks.again(me.id(), slug, call);
        return webhooks.of(me.id(), slug);
    }
}
