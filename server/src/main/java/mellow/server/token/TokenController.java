package mellow.server.token;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.util.List;
import mellow.server.people.SignedIn;
import mellow.server.token.TokenService.TokenReply;
import org.jspecify.annotations.Nullable;
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

/** Tokens for programs. Coordinators only. */
@RestController
@RequestMapping("/api/tokens")
class TokenController {

    private final TokenService tokens;

    TokenController(TokenService tokens) {
        this.tokens = tokens;
    }

    /**
     * A token to be made.
     *
     * @param table the only table it may touch, by its name in addresses; null for all
     * @param days how long it lasts
     */
    record TokenRequest(@NotNull String name, boolean takesIn, boolean sendsOut, @Nullable String table, int days) {}

    /** A new token's secret; it is never told again. */
    record SecretReply(String secret) {}

    @GetMapping
    List<TokenReply> all(@AuthenticationPrincipal SignedIn me) {
        return tokens.all(me.id());
    }

    @PostMapping
    @ResponseStatus(HttpStatus.CREATED)
    SecretReply create(@Valid @RequestBody TokenRequest token, @AuthenticationPrincipal SignedIn me) {
        return new SecretReply(
                tokens.create(me.id(), token.name(), token.takesIn(), token.sendsOut(), token.table(), token.days()));
    }

    @DeleteMapping("/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void end(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        tokens.end(me.id(), id);
    }
}
