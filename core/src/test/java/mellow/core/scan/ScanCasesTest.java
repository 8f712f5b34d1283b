package mellow.core.scan;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import mellow.core.scan.Habit.Attribute;
import mellow.core.scan.Habit.Call;
import mellow.core.scan.Habit.Comment;
import mellow.core.scan.Habit.Mark;
import mellow.core.scan.Habit.Own;
import mellow.core.scan.Habit.Resource;
import mellow.core.scan.KeyUse.Values;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/** What code says, case by case: keys by habit, texts that have none, and files that are left out. */
class ScanCasesTest {

    private static final Call T = new Call(List.of("t", "i18n.t", "Texts.get", "*.say"), 0, 1, -1, 2);
    private static final Map<String, List<Habit>> HABITS = Map.of(
            "call",
            List.of(T),
            "resource",
            List.of(new Resource("R", List.of("string", "plurals"))),
            "attribute",
            List.of(new Attribute(List.of("data-text", "Say.id"))),
            "mark",
            List.of(new Mark("#", "#")),
            "comment",
            List.of(new Comment("text:")),
            "own",
            List.of(
                    new Own(
                            "talk",
                            "*.talk",
                            "^\\s*(?:say|ask)\\s+(?P<key>[\\w.-]+)(?:@(?P<context>\\w+))?(?:\\s+\"(?P<text>[^\"\\n]*)\")?(?:[ \\t]*--[ \\t]*(?P<note>[^\\n]*))?"),
                    new Own("lines", "**/*.json", "\"line\":\\s*\"(?P<key>[\\w.-]+)\"")),
            "hard",
            List.of(T, new Attribute(List.of("data-text")), new Mark("#", "#"), new Resource("R", List.of("string"))));

    static Stream<Arguments> keys() {
        return Stream.of("call", "resource", "attribute", "mark", "comment", "own")
                .flatMap(file -> lines(file).map(line -> arguments(file, line)));
    }

    static Stream<Arguments> texts() {
        return lines("hard").map(line -> arguments("hard", line));
    }

    static Stream<Arguments> rules() {
        return lines("ignore").map(line -> arguments("ignore", line));
    }

    private static Stream<String> lines(String file) {
        try (InputStream in = Objects.requireNonNull(
                ScanCasesTest.class.getResourceAsStream("/mellow/core/scan/" + file + ".cases"), file)) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8)
                    .lines().filter(line -> !line.startsWith("# ")).toList().stream();
        } catch (IOException unreadable) {
            throw new AssertionError(unreadable);
        }
    }

    private static Arguments arguments(String file, String line) {
        int bar = line.indexOf("| ");
        int arrow = line.lastIndexOf(" => ");
        String before = file.equals("ignore") ? line.substring(0, Math.max(0, bar - 1)) : line.substring(0, bar - 1);
        return Arguments.of(file, before, line.substring(bar + 2, arrow), line.substring(arrow + 4));
    }

    private static String spelled(String shown) {
        return shown.replace("⏎", "\n").replace("⇥", "\t");
    }

    private static FileFindings scan(String habits, String path, String code) {
        return new CodeScanner(Objects.requireNonNull(HABITS.get(habits)), KnownKeys.NONE)
                .scan(path, spelled(code).getBytes(StandardCharsets.UTF_8));
    }

    @ParameterizedTest(name = "{0}: {1} | {2}")
    @MethodSource("keys")
    void findsKeys(String habits, String path, String code, String expected) {
        String found = scan(habits, path, code).uses().stream()
                .map(ScanCasesTest::shown)
                .collect(Collectors.joining("; "));
        assertThat(found.isEmpty() ? "-" : found).isEqualTo(expected);
    }

    private static String shown(KeyUse use) {
        StringBuilder shown = new StringBuilder(use.key());
        if (use.context() != null) {
            shown.append(" /").append(use.context()).append('/');
        }
        if (use.text() != null) {
            shown.append(" =").append(use.text());
        }
        Values values = use.values();
        if (values != null) {
            shown.append(" (")
                    .append(values.names().isEmpty() ? values.count() : String.join(",", values.names()))
                    .append(')');
        }
        if (!use.note().isEmpty()) {
            shown.append(" [").append(use.note()).append(']');
        }
        return shown.toString().replace("\n", "⏎").replace("\t", "⇥");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    list('menu.title')                 | menu.title MENTION
                    list('menu.titles')                | -
                    list('harbour.' + name)            | harbour.* PART
                    list(`harbour.${name}.list`)       | harbour.* PART
                    list('harbour.')                   | -
                    list('harbour' + name)             | -
                    list('no' + name)                  | -
                    t('menu.title'); list('menu.title')| menu.title WHOLE; menu.title MENTION
                    // list('menu.title')              | -
                    """)
    void tellsWhatReadsLikeAKey(String code, String expected) {
        String found = new CodeScanner(List.of(T), KnownKeys.of(List.of("menu.title", "harbour.ostrel", "no.1")))
                .scan("a.ts", code.getBytes(StandardCharsets.UTF_8)).uses().stream()
                        .map(use -> use.key() + " " + use.how())
                        .collect(Collectors.joining("; "));
        assertThat(found.isEmpty() ? "-" : found).isEqualTo(expected);
    }

    @ParameterizedTest(name = "{1} | {2}")
    @MethodSource("texts")
    void findsTextsWithoutKeys(String habits, String path, String code, String expected) {
        String found = scan(habits, path, code).texts().stream()
                .map(one -> (one.composed() ? "~" : "") + one.text().replace("\n", "⏎"))
                .collect(Collectors.joining("; "));
        assertThat(found.isEmpty() ? "-" : found).isEqualTo(expected);
    }

    @ParameterizedTest(name = "{1} | {2}")
    @MethodSource("rules")
    void leavesOut(String file, String rules, String path, String expected) {
        boolean folder = path.endsWith("/");
        boolean ignored = IgnoreRules.none()
                .with("", spelled(rules))
                .ignores(folder ? path.substring(0, path.length() - 1) : path, folder);
        assertThat(ignored ? "left out" : "kept").isEqualTo(expected);
    }
}
