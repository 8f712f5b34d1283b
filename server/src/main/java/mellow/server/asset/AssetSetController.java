package mellow.server.asset;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import mellow.server.people.SignedIn;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Many pictures and sounds at once: made of files that came together, named, corrected, and made into an intake. */
@RestController
@RequestMapping("/api/asset-sets")
class AssetSetController {

    private final AssetSets sets;
    private final AssetSetStanding standing;

    AssetSetController(AssetSets sets, AssetSetStanding standing) {
        this.sets = sets;
        this.standing = standing;
    }

    /**
     * What a person decides about a set.
     *
     * @param version that of the set that was seen
     * @param files what is said about files; others stay as they are
     */
    record AssetSetChoice(
            int version,
            @NotNull @Valid AssetSetOptions options,
            @NotNull @Size(max = 5000) List<@Valid AssetChoice> files) {

        AssetSetChoice {
            files = files == null ? List.of() : List.copyOf(files);
        }
    }

    /** The intake that was made of a set. */
    record AssetIntakeReply(long intake) {}

    /** Makes a set of the pictures and sounds among files that came together, and looks through them; the answer tells how far that is. */
    @PostMapping
    @ResponseStatus(HttpStatus.CREATED)
    AssetSetReply make(
            @RequestParam long drop,
            @RequestParam(required = false) @Nullable String table,
            @AuthenticationPrincipal SignedIn me) {
        return standing.reply(me.id(), sets.make(me.id(), drop, table));
    }

    /** How a set stands. */
    @GetMapping("/{id}")
    AssetSetReply one(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        return standing.reply(me.id(), id);
    }

    /** Changes what was decided. */
    @PutMapping("/{id}")
    AssetSetReply decide(
            @PathVariable long id, @RequestBody @Valid AssetSetChoice choice, @AuthenticationPrincipal SignedIn me) {
        sets.decide(me.id(), id, choice.version(), choice.options(), choice.files());
        return standing.reply(me.id(), id);
    }

    /** Makes an intake of a set, which shows what it would do and takes it in. */
    @PostMapping("/{id}/intake")
    @ResponseStatus(HttpStatus.CREATED)
    AssetIntakeReply compare(@PathVariable long id, @RequestParam int version, @AuthenticationPrincipal SignedIn me) {
        return new AssetIntakeReply(sets.compare(me.id(), id, version));
    }
}
