package mellow.server.rehearsal;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mellow.server.common.Refusal;
import mellow.server.file.Uploads;
import mellow.server.language.LanguageService;
import mellow.server.people.SignedIn;
import mellow.server.rehearsal.Rehearsal.Play;
import mellow.server.rehearsal.Rehearsal.Played;
import mellow.server.rehearsal.SceneService.SceneAdded;
import mellow.server.rehearsal.SceneService.SceneReply;
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
    private final Rehearsal rehearsal;
    private final LanguageService languages;
    private final Uploads uploads;

    SceneController(SceneService scenes, Rehearsal rehearsal, LanguageService languages, Uploads uploads) {
        this.scenes = scenes;
        this.rehearsal = rehearsal;
        this.languages = languages;
        this.uploads = uploads;
    }

    @GetMapping("/api/products/{slug}/scenes")
    List<SceneReply> all(@PathVariable String slug) {
        return scenes.all(slug);
    }

    /**
     * Adds a scene, or replaces the drawing of one: the body is the file.
     *
     * @param replaces the version of the scene of that name, none for a new one
     */
    @PostMapping("/api/products/{slug}/scenes")
    SceneAdded add(
            @PathVariable String slug,
            @RequestParam @Size(max = 1000) String name,
            @RequestParam(required = false) @Nullable Integer replaces,
            HttpServletRequest body,
            @AuthenticationPrincipal SignedIn me)
            throws IOException {
        scenes.requireMay(me.id());
        return uploads.receive(
                me.id(),
                body,
                SceneService::requireSize,
                content -> scenes.add(me.id(), slug, name, content, replaces));
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
     * @param play written, settled or keys
     * @param with values of placeholders, {@code n=2}
     */
    @GetMapping("/api/products/{slug}/scenes/{scene}")
    Played play(
            @PathVariable String slug,
            @PathVariable long scene,
            @RequestParam(required = false, defaultValue = "") List<String> in,
            @RequestParam(required = false, defaultValue = "written") String play,
            @RequestParam(required = false, defaultValue = "") @Size(max = 50) List<@Size(max = 1200) String> with) {
        Play how =
                switch (play) {
                    case "written" -> Play.WRITTEN;
                    case "settled" -> Play.SETTLED;
                    case "keys" -> Play.KEYS;
                    default ->
                        throw Refusal.unacceptable(
                                "unknown-play",
                                "A scene is played with written or settled texts, or with keys.",
                                Map.of("field", "play"));
                };
        return rehearsal.play(slug, scene, in.stream().map(languages::parse).toList(), how, values(with));
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
