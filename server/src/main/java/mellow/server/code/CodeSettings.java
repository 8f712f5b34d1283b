package mellow.server.code;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import mellow.core.scan.CodeScanner;
import mellow.core.scan.Habit;
import mellow.core.scan.HardText;
import mellow.core.scan.KnownKeys;
import mellow.core.scan.ReadyHabits;
import mellow.core.scan.Rewrite;
import mellow.server.common.Refusal;
import org.jspecify.annotations.Nullable;

/**
 * How the code of a product names keys.
 *
 * @param version the version that was seen, 0 for what is ready for its kind and was never changed
 * @param habits how keys are named
 * @param rewrites how a key is written where a text was
 */
public record CodeSettings(
        @Min(0) int version,
        @NotNull @Size(max = 30) List<@Valid CodeHabit> habits,
        @NotNull @Size(max = 30) List<@Valid CodeRewrite> rewrites) {

    /**
     * A habit. What a kind does not use is null.
     *
     * @param kind call, resource, attribute, mark, comment or own
     * @param names functions of a call, kinds of a resource, names of attributes
     * @param key the place of the key among the arguments of a call, from 0
     * @param text the place of the text, -1 for none
     * @param context the place of the context, -1 for none
     * @param values the place where values begin, -1 for none
     * @param open what opens a mark, begins a comment, owns a resource, or what an own habit is called
     * @param close what closes a mark
     * @param files which files an own habit holds for
     * @param pattern the pattern of an own habit
     */
    public record CodeHabit(
            @NotBlank @Size(max = 20) String kind,
            @Nullable @Size(max = 50) List<@NotBlank @Size(max = 100) String> names,
            @Nullable @Min(0) @Max(20) Integer key,
            @Nullable @Min(-1) @Max(20) Integer text,
            @Nullable @Min(-1) @Max(20) Integer context,
            @Nullable @Min(-1) @Max(20) Integer values,
            @Nullable @Size(max = 60) String open,
            @Nullable @Size(max = 60) String close,
            @Nullable @Size(max = 200) String files,
            @Nullable @Size(max = 1000) String pattern) {

        static CodeHabit of(Habit habit) {
            if (habit instanceof Habit.Call call) {
                return new CodeHabit(
                        "call",
                        call.functions(),
                        call.key(),
                        call.text(),
                        call.context(),
                        call.values(),
                        null,
                        null,
                        null,
                        null);
            } else if (habit instanceof Habit.Resource resource) {
                return named("resource", resource.kinds(), resource.owner());
            } else if (habit instanceof Habit.Attribute attribute) {
                return named("attribute", attribute.names(), null);
            } else if (habit instanceof Habit.Mark mark) {
                return new CodeHabit("mark", null, null, null, null, null, mark.open(), mark.close(), null, null);
            } else if (habit instanceof Habit.Comment comment) {
                return named("comment", null, comment.word());
            }
            Habit.Own own = (Habit.Own) habit;
            return new CodeHabit("own", null, null, null, null, null, own.name(), null, own.files(), own.pattern());
        }

        private static CodeHabit named(String kind, @Nullable List<String> names, @Nullable String open) {
            return new CodeHabit(kind, names, null, null, null, null, open, null, null, null);
        }

        Habit habit() {
            return switch (kind) {
                case "call" -> new Habit.Call(some(), or(key, 0), or(text, -1), or(context, -1), or(values, -1));
                case "resource" -> new Habit.Resource(said(open, "what the resources belong to"), some());
                case "attribute" -> new Habit.Attribute(some());
                case "mark" -> new Habit.Mark(said(open, "what opens a mark"), said(close, "what closes a mark"));
                case "comment" -> new Habit.Comment(said(open, "what such comments begin with"));
                case "own" ->
                    new Habit.Own(
                            said(open, "a name"), said(files, "which files it is for"), said(pattern, "a pattern"));
                default ->
                    throw Refusal.unacceptable(
                            "unknown-habit",
                            "A habit is call, resource, attribute, mark, comment or own, not “{kind}”.",
                            Map.of("field", "habits", "kind", kind));
            };
        }

        private List<String> some() {
            if (names == null || names.isEmpty()) {
                throw Refusal.unacceptable(
                        "no-names", "A habit of kind {kind} needs names.", Map.of("field", "habits", "kind", kind));
            }
            return names;
        }

        private String said(@Nullable String value, String what) {
            if (value == null || value.isBlank()) {
                throw Refusal.unacceptable(
                        "habit-incomplete",
                        "A habit of kind {kind} needs {what}.",
                        Map.of("field", "habits", "kind", kind, "what", what));
            }
            return value;
        }

        private static int or(@Nullable Integer value, int otherwise) {
            return Objects.requireNonNullElse(value, otherwise);
        }
    }

    /**
     * How a key is written where a text was.
     *
     * @param files for which files
     * @param kind what the text was: literal, attribute or text
     * @param code what takes its place
     * @param needs the line that the file needs for it, empty for none
     */
    public record CodeRewrite(
            @NotBlank @Size(max = 200) String files,
            @NotBlank @Size(max = 20) String kind,
            @NotBlank @Size(max = 400) String code,
            @NotNull @Size(max = 400) String needs) {

        static CodeRewrite of(Rewrite rewrite) {
            return new CodeRewrite(rewrite.files(), word(rewrite.kind()), rewrite.code(), rewrite.needs());
        }

        Rewrite rewrite() {
            if (code.contains("\n") || needs.contains("\n")) {
                throw Refusal.unacceptable(
                        "one-line", "What is written for a key is one line.", Map.of("field", "rewrites"));
            }
            return new Rewrite(files, CodeSettings.kind(kind), code, needs);
        }
    }

    static String word(HardText.Kind kind) {
        return kind.name().toLowerCase(Locale.ROOT);
    }

    static HardText.Kind kind(String word) {
        for (HardText.Kind kind : HardText.Kind.values()) {
            if (word(kind).equals(word)) {
                return kind;
            }
        }
        throw Refusal.unacceptable(
                "unknown-kind",
                "A text in code is a literal, an attribute or a text, not “{kind}”.",
                Map.of("field", "rewrites", "kind", word));
    }

    /** What is ready for a kind of product. */
    static CodeSettings ready(String productKind) {
        ReadyHabits ready = ReadyHabits.of(productKind);
        return new CodeSettings(
                0,
                ready.habits().stream().map(CodeHabit::of).toList(),
                ready.rewrites().stream().map(CodeRewrite::of).toList());
    }

    /** The habits, to look for. */
    public List<Habit> asHabits() {
        return habits.stream().map(CodeHabit::habit).toList();
    }

    List<Rewrite> asRewrites() {
        return rewrites.stream().map(CodeRewrite::rewrite).toList();
    }

    /** Refuses settings that nothing can be found by. */
    void require() {
        if (habits.isEmpty()) {
            throw Refusal.unacceptable(
                    "no-habits", "Say at least one way in which the code names keys.", Map.of("field", "habits"));
        }
        asRewrites();
        try {
            new CodeScanner(asHabits(), KnownKeys.NONE);
        } catch (Habit.BadHabitException bad) {
            throw Refusal.unacceptable(
                    "bad-habit", "{why}", Map.of("field", "habits", "why", String.valueOf(bad.getMessage())));
        }
    }
}
