package mellow.core.scan;

import java.util.List;
import mellow.core.scan.Habit.Attribute;
import mellow.core.scan.Habit.Call;
import mellow.core.scan.Habit.Comment;
import mellow.core.scan.Habit.Mark;
import mellow.core.scan.Habit.Resource;
import mellow.core.scan.HardText.Kind;

/**
 * What products of a kind mostly do, to begin with.
 *
 * @param habits how their code names keys
 * @param rewrites how they write a key where a text was
 */
public record ReadyHabits(List<Habit> habits, List<Rewrite> rewrites) {

    private static final ReadyHabits PANEL = new ReadyHabits(
            List.of(new Mark("#", "#")), List.of(new Rewrite("*.panel", Kind.LITERAL, "\"#{key}#\"", "")));

    private static final ReadyHabits APP = new ReadyHabits(
            List.of(new Resource("R", List.of("string", "plurals"))),
            List.of(
                    new Rewrite("*.java", Kind.LITERAL, "getString(R.string.{name})", ""),
                    new Rewrite("*.kt", Kind.LITERAL, "getString(R.string.{name})", ""),
                    new Rewrite("*.xml", Kind.ATTRIBUTE, "\"@string/{name}\"", "")));

    private static final ReadyHabits GAME = new ReadyHabits(
            List.of(new Call(List.of("say", "*.say"), 0, 1, -1, 2)),
            List.of(new Rewrite(
                    "*.js", Kind.LITERAL, "say('{key}', {text})", "import { say } from '{root}src/texts.js';")));

    private static final ReadyHabits SITE = new ReadyHabits(
            List.of(
                    new Call(List.of("t", "i18n.t", "$t"), 0, -1, -1, 1),
                    new Attribute(List.of("data-text")),
                    new Comment("text:")),
            List.of(
                    new Rewrite("*.ts", Kind.LITERAL, "t('{key}')", "import { t } from '{root}src/texts';"),
                    new Rewrite("*.tsx", Kind.LITERAL, "t('{key}')", "import { t } from '{root}src/texts';"),
                    new Rewrite("*.tsx", Kind.ATTRIBUTE, "{t('{key}')}", "import { t } from '{root}src/texts';"),
                    new Rewrite("*.tsx", Kind.TEXT, "{t('{key}')}", "import { t } from '{root}src/texts';"),
                    new Rewrite("*.html", Kind.TEXT, "<span data-text=\"{key}\">{text}</span>", "")));

    /** Copies of what is given. */
    public ReadyHabits {
        habits = List.copyOf(habits);
        rewrites = List.copyOf(rewrites);
    }

    /** Those of a kind: panel, app, game, and the ones of a site otherwise. */
    public static ReadyHabits of(String kind) {
        return switch (kind) {
            case "panel" -> PANEL;
            case "app" -> APP;
            case "game" -> GAME;
            default -> SITE;
        };
    }
}
