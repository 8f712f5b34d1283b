package mellow.server.delivery;

import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import mellow.core.text.Places;
import org.jspecify.annotations.Nullable;

/**
 * What must hold before a product goes out.
 *
 * @param blockers what becomes of a language with texts that checks would stop: hold, stop, out to leave those texts out, go
 * @param share the share of settled texts that a language needs, in percent, 0 for none
 * @param below what becomes of a language below it: hold or stop
 * @param stale what becomes of stale texts: go, hole to treat them as missing, hold their language
 * @param scenes what becomes of a language with something to mend where its texts are shown: go, hold or stop; null for go, as it was before there were scenes
 */
record Gates(
        @NotBlank String blockers,
        @Min(0) @Max(100) int share,
        @NotBlank String below,
        @NotBlank String stale,
        @Nullable String scenes) {

    static final Gates USUAL = new Gates("hold", 0, "hold", "go");

    Gates(String blockers, int share, String below, String stale) {
        this(blockers, share, below, stale, "go");
    }

    Gates {
        scenes = scenes == null ? "go" : scenes;
    }

    void requireSound() {
        Choices.require("blockers", blockers, Set.of("hold", "stop", "out", "go"));
        Choices.require("below", below, Set.of("hold", "stop"));
        Choices.require("stale", stale, Set.of("go", "hole", "hold"));
        Choices.require("scenes", Objects.requireNonNull(scenes), Set.of("go", "hold", "stop"));
    }

    /**
     * What there is in a language.
     *
     * @param entries those for translation
     * @param settled with a text in force
     * @param stale of these, made for an older source
     * @param blocked of these, with something that stops them
     * @param unfit of those that go out, with something to mend in a scene
     * @param offers cells with offers that wait
     */
    record LanguageCounts(int entries, int settled, int stale, int blocked, int unfit, int offers) {}

    /**
     * A word about a language.
     *
     * @param code stable; the kind of state or check that it is about
     * @param n how many
     */
    record GateReason(String code, String sentence, int n) {}

    /** May a language go out: yes, held or stop; and why. */
    record Verdict(String answer, List<GateReason> reasons) {}

    /** What becomes of a language with these counts. */
    Verdict of(LanguageCounts counts) {
        List<GateReason> reasons = new ArrayList<>();
        String answer = "yes";
        if (counts.blocked > 0) {
            reasons.add(reason(
                    "blocked", counts.blocked == 1 ? "{n} text would break" : "{n} texts would break", counts.blocked));
            answer = worse(answer, blockers);
        }
        int percent = counts.entries == 0 ? 100 : (int) (100L * counts.settled / counts.entries);
        if (percent < share) {
            reasons.add(reason("share", "{n} % settled", percent));
            answer = worse(answer, below);
        }
        if (counts.stale > 0) {
            reasons.add(reason("stale", counts.stale == 1 ? "{n} is stale" : "{n} are stale", counts.stale));
            answer = worse(answer, stale);
        }
        if (counts.unfit > 0) {
            reasons.add(reason(
                    "scenes",
                    counts.unfit == 1
                            ? "{n} is to be mended where it is shown"
                            : "{n} are to be mended where they are shown",
                    counts.unfit));
            answer = worse(answer, Objects.requireNonNull(scenes));
        }
        return new Verdict(answer, reasons);
    }

    private static GateReason reason(String code, String pattern, int n) {
        return new GateReason(code, Places.filled(pattern, Map.of("n", n)), n);
    }

    private static String worse(String answer, String choice) {
        if (answer.equals("stop") || choice.equals("stop")) {
            return "stop";
        }
        return answer.equals("held") || choice.equals("hold") ? "held" : "yes";
    }
}
