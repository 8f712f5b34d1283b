package mellow.server.rehearsal;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import mellow.core.pseudo.Letters;
import mellow.core.pseudo.Pretend;
import mellow.server.common.Refusal;
import mellow.server.file.Uploads;
import mellow.server.language.LanguageService;
import mellow.server.people.SignedIn;
import mellow.server.rehearsal.Rehearsal.Played;
import mellow.server.rehearsal.Rehearsal.Wanted;
import mellow.server.rehearsal.SceneLook.SceneFindings;
import mellow.server.rehearsal.SceneService.SceneReply;
import mellow.server.rehearsal.SceneService.ScenesAdded;
import mellow.server.rehearsal.SceneService.ShownOn;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Scenes of products, and how they look in a language. */
@RestController
class SceneController {

    private final SceneService scenes;
    private final SceneLook look;
    private final Rehearsal rehearsal;
    private final LanguageService languages;
    private final Uploads uploads;

    SceneController(
            SceneService scenes, SceneLook look, Rehearsal rehearsal, LanguageService languages, Uploads uploads) {
        this.scenes = scenes;
        this.look = look;
        this.rehearsal = rehearsal;
        this.languages = languages;
        this.uploads = uploads;
    }

    @GetMapping("/api/products/{slug}/scenes")
    List<SceneReply> all(@PathVariable String slug) {
        return scenes.all(slug);
    }

    /** What is to be mended and minded in the scenes of a product, in all its languages. */
    @GetMapping("/api/products/{slug}/scenes/findings")
    SceneFindings found(@PathVariable String slug, @RequestParam(defaultValue = "0") long scene) {
        look.bringUpToDate(slug);
        return look.found(slug, scene);
    }

    /**
     * Adds scenes, or replaces drawings: the body is a drawing, a picture, or a ZIP of them.
     *
     * @param replaces the version of the scene of that name, none for a new one
     * @param anyway whether scenes that are there already get the new drawings
     */
    @PostMapping("/api/products/{slug}/scenes")
    ScenesAdded add(
            @PathVariable String slug,
            @RequestParam @Size(max = 1000) String name,
            @RequestParam(required = false) @Nullable Integer replaces,
            @RequestParam(defaultValue = "false") boolean anyway,
            HttpServletRequest body,
            @AuthenticationPrincipal SignedIn me)
            throws IOException {
        scenes.requireMay(me.id());
        return uploads.receive(
                me.id(),
                body,
                SceneService::requireSize,
                content -> scenes.add(me.id(), slug, name, content, replaces, anyway));
    }

    @DeleteMapping("/api/products/{slug}/scenes/{scene}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(
            @PathVariable String slug,
            @PathVariable long scene,
            @RequestParam int version,
            @AuthenticationPrincipal SignedIn me) {
        scenes.remove(me.id(), slug, scene, version);
    }

    /**
     * A scene in languages side by side.
     *
     * @param in tags
     * @param play written, offered, settled, delivered or keys
     * @param with values of placeholders, {@code n=2}
     * @param letters what pretend languages do to letters: accented, wide, marked or plain
     * @param longer by how many percent they are longer
     * @param size of letters in percent of the drawing's
     * @param choose what stands at places that leave a choice, {@code 3=bilge.level.high} for an entry of the list of place 3
     */
    @GetMapping("/api/products/{slug}/scenes/{scene}")
    Played play(
            @PathVariable String slug,
            @PathVariable long scene,
            @RequestParam(required = false, defaultValue = "") List<String> in,
            @RequestParam(required = false, defaultValue = "written") String play,
            @RequestParam(required = false, defaultValue = "") @Size(max = 50) List<@Size(max = 1200) String> with,
            @RequestParam(required = false, defaultValue = "") String letters,
            @RequestParam(required = false) @Nullable @Min(0) @Max(Pretend.MOST) Integer longer,
            @RequestParam(defaultValue = "100") @Min(50) @Max(300) int size,
            @RequestParam(required = false, defaultValue = "") @Size(max = 50) List<@Size(max = 1200) String> choose) {
        Wanted wanted = new Wanted(
                in.stream().map(languages::parse).toList(),
                named(
                        Play.values(),
                        play,
                        "A scene is played with written, offered, settled or delivered texts, or with keys."),
                values(with),
                letters.isEmpty()
                        ? null
                        : named(Letters.values(), letters, "Letters are accented, wide, marked or plain."),
                longer,
                size,
                chosen(choose));
        return rehearsal.play(slug, scene, wanted);
    }

    private static <E extends Enum<E>> E named(E[] all, String name, String otherwise) {
        return Arrays.stream(all)
                .filter(one -> one.name().toLowerCase(Locale.ROOT).equals(name))
                .findFirst()
                .orElseThrow(() -> Refusal.unacceptable("unknown-play", otherwise, Map.of("field", "play")));
    }

    private static Map<Integer, String> chosen(List<String> choose) {
        Map<Integer, String> chosen = new HashMap<>();
        values(choose).forEach((place, what) -> {
            if (place.matches("[0-9]{1,9}")) {
                chosen.put(Integer.valueOf(place), what);
            }
        });
        return chosen;
    }

    /** What has no sign is the rest of a value with a comma in it. */
    private static Map<String, String> values(List<String> with) {
        Map<String, String> values = new HashMap<>();
        String last = "";
        for (String one : with) {
            int sign = one.indexOf('=');
            if (sign > 0) {
                last = one.substring(0, sign);
                values.put(last, one.substring(sign + 1));
            } else if (!last.isEmpty()) {
                values.merge(last, "," + one, String::concat);
            }
        }
        return values;
    }

    /** The scenes that show an entry. */
    @GetMapping("/api/entries/{entry}/scenes")
    List<ShownOn> showing(@PathVariable long entry) {
        return scenes.showing(entry);
    }
}
