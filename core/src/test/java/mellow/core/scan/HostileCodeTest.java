package mellow.core.scan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.TreeMap;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import mellow.core.scan.FileFindings.Skipped;
import mellow.core.scan.Habit.Attribute;
import mellow.core.scan.Habit.Call;
import mellow.core.scan.Habit.Comment;
import mellow.core.scan.Habit.Mark;
import mellow.core.scan.Habit.Own;
import mellow.core.scan.Habit.Resource;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Code that was made to be hard to read, or is none, is looked through in time that grows with its length, and what is told of it can be kept. */
class HostileCodeTest {

    private static final CodeScanner ALL = new CodeScanner(
            List.of(
                    new Call(List.of("t", "*.say"), 0, 1, 2, 3),
                    new Resource("R", List.of("string")),
                    new Attribute(List.of("data-text")),
                    new Mark("#", "#"),
                    new Comment("text:"),
                    new Own("all", "**", "(?P<key>(a+)+b)")),
            KnownKeys.of(List.of("a.b", "a.c")));

    private static FileFindings scan(String path, String code) {
        return ALL.scan(path, code.getBytes(StandardCharsets.UTF_8));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "a.ts ¦ t(",
                "a.ts ¦ t('a'+",
                "a.ts ¦ `${",
                "a.ts ¦ \"",
                "a.ts ¦ /*",
                "a.ts ¦ =/[",
                "a.ts ¦ ((",
                "a.ts ¦ 'a'+",
                "a.ts ¦ {a:",
                "a.tsx ¦ =<a>",
                "a.tsx ¦ =<a b={",
                "a.tsx ¦ <A<",
                "a.html ¦ <",
                "a.html ¦ <a b='",
                "a.html ¦ {{",
                "a.html ¦ <script>",
                "a.html ¦ <a data-text='x' data-text='y'",
                "a.vue ¦ <a :b='",
                "a.xml ¦ &#",
                "a.py ¦ \"\"\"",
                "a.py ¦ '\\",
                "a.py ¦ f'{",
                "a.kt ¦ $a\"",
                "a.java ¦ R.string.",
                "a.panel ¦ #a",
                "a.panel ¦ \"#",
                "a.json ¦ #",
                "a.c ¦ a_a_a_",
                "a.txt ¦ aaaaaaaaaaaaaaaa"
            })
    void repeatedWithoutEndTakesNoLonger(String pathAndPiece) {
        String path = pathAndPiece.substring(0, pathAndPiece.indexOf(" ¦ "));
        String piece = pathAndPiece.substring(pathAndPiece.indexOf(" ¦ ") + 3);
        String code = piece.repeat(1_500_000 / piece.length());
        // A reading that looks back or ahead for each of these would take hours.
        Assertions.assertTimeoutPreemptively(Duration.ofSeconds(60), () -> scan(path, code));
    }

    @Test
    void aStringOfManyHolesTakesNoLonger() {
        String holes = "x = `" + "${a}\n".repeat(400_000) + "`; alert('Step inside');";
        assertThat(Assertions.assertTimeoutPreemptively(Duration.ofSeconds(60), () -> scan("a.ts", holes))
                        .texts())
                .extracting(HardText::text)
                .containsExactly("Step inside");
    }

    @Test
    void whatIsNoTextIsNotLookedThrough() {
        assertThat(scan("a.ts", "t('a')\0").skipped()).isEqualTo(Skipped.BINARY);
        assertThat(ALL.scan("a.ts", new byte[CodeScanner.LARGEST + 1]).skipped())
                .isEqualTo(Skipped.LARGE);
        assertThat(scan("a.ts", "").lines()).isZero();
        assertThat(scan("a.ts", "a").lines()).isEqualTo(1);
        assertThat(scan("a.ts", "a\nb\n").lines()).isEqualTo(2);
    }

    @Test
    void whatCannotBeKeptIsNotTold() {
        FileFindings found =
                scan("a.ts", "t('a\\u0000b'); t('a\\ud800'); t('ok', 'x\\u0000y'); alert('Half \\ud83d of it');");
        assertThat(found.uses()).extracting(KeyUse::key).containsExactly("ok");
        assertThat(found.uses().get(0).text()).isEqualTo("x\uFFFDy");
        assertThat(found.texts()).extracting(HardText::text).containsExactly("Half \uFFFD of it");
    }

    @Test
    void otherEncodingsAreReadAndNotPatched() {
        FileFindings found = ALL.scan("a.ts", "alert('Wähle ein Deck')".getBytes(StandardCharsets.ISO_8859_1));
        assertThat(found.texts()).singleElement().satisfies(text -> {
            assertThat(text.text()).isEqualTo("Wähle ein Deck");
            assertThat(text.spot().known()).isFalse();
        });
    }

    @Test
    void longLinesTellOnlyWhatStandsAround() {
        FileFindings found = scan("a.ts", "x".repeat(900_000) + ";t('a.b');" + "y".repeat(90_000));
        assertThat(found.uses())
                .singleElement()
                .satisfies(use ->
                        assertThat(use.place().around()).hasSizeLessThan(200).contains("t('a.b')"));
    }

    @ParameterizedTest
    @ValueSource(strings = {"/etc/a.ts", "../a.ts", "a/../../b.ts", "a\\b.ts"})
    void anArchiveNamesNothingOutsideOfItself(String name) throws IOException {
        assertThatThrownBy(() -> new ZippedTree(zip(name, "x"))).hasMessageContaining("outside of itself");
    }

    @Test
    void aSmallArchiveDoesNotBecomeEverythingThereIs() throws IOException {
        byte[] bomb = zip("a.ts", " ".repeat(300_000_000));
        assertThatThrownBy(() -> new ZippedTree(bomb)).hasMessageContaining("unpacks to more");
        byte[] whole = zip("a.ts", "t('a')");
        byte[] half = Arrays.copyOf(whole, whole.length / 2);
        assertThatThrownBy(() -> new ZippedTree(half).each((path, content) -> {}))
                .isInstanceOf(ZippedTree.BadTreeException.class);
    }

    @Test
    void rulesDeeperInATreeCountMore() throws IOException {
        TreeMap<String, String> seen = new TreeMap<>();
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(bytes)) {
            for (String[] file : new String[][] {
                {"app/.gitignore", "*.log\nout/\n"},
                {"app/a.log", "1"},
                {"app/keep/.ledgerignore", "!a.log\n"},
                {"app/keep/a.log", "2"},
                {"app/out/keep/a.ts", "3"},
                {"app/b.ts", "4"}
            }) {
                zip.putNextEntry(new ZipEntry(file[0]));
                zip.write(file[1].getBytes(StandardCharsets.UTF_8));
            }
        }
        int left = new ZippedTree(bytes.toByteArray())
                .each((path, content) -> seen.put(path, new String(content, StandardCharsets.UTF_8)));
        assertThat(seen).containsKeys("b.ts", "keep/a.log").doesNotContainKeys("a.log", "out/keep/a.ts");
        assertThat(left).isEqualTo(2);
    }

    private static byte[] zip(String name, String content) throws IOException {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(bytes)) {
            zip.putNextEntry(new ZipEntry(name));
            zip.write(content.getBytes(StandardCharsets.UTF_8));
        }
        return bytes.toByteArray();
    }
}
