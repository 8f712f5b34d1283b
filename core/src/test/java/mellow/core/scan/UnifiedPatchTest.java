package mellow.core.scan;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import mellow.core.scan.Habit.Call;
import mellow.core.scan.HardText.Kind;
import mellow.core.scan.HardText.Spot;
import mellow.core.scan.UnifiedPatch.Needed;
import mellow.core.scan.UnifiedPatch.Piece;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The patch does to files what {@code patch -p1} makes of it, and nothing else. */
class UnifiedPatchTest {

    private static final List<Rewrite> REWRITES = List.of(
            new Rewrite("*.ts", Kind.LITERAL, "t(\"{key}\")", "import { t } from \"{root}src/texts\";"),
            new Rewrite("*.tsx", Kind.LITERAL, "t(\"{key}\")", ""),
            new Rewrite("*.tsx", Kind.TEXT, "{t(\"{key}\")}", ""),
            new Rewrite("*.tsx", Kind.ATTRIBUTE, "{t(\"{key}\", {text})}", ""),
            new Rewrite("*.java", Kind.LITERAL, "getString(R.string.{name})", ""));

    @TempDir
    private Path tree = Path.of(".");

    private String patched(String path, String before) throws IOException, InterruptedException {
        FileFindings found = new CodeScanner(List.of(new Call(List.of("t"), 0, 1, -1, 2)), KnownKeys.NONE)
                .scan(path, before.getBytes(StandardCharsets.UTF_8));
        List<Piece> pieces = new ArrayList<>();
        List<Needed> needed = new ArrayList<>();
        Set<String> taken = new HashSet<>();
        for (HardText text : found.texts()) {
            for (Rewrite rewrite : REWRITES) {
                if (rewrite.holds(path, text.kind()) && text.spot().known()) {
                    String key = KeyNames.propose(path, text.text(), taken);
                    taken.add(KeyNames.folded(key));
                    String was = text.spot()
                            .lines()
                            .substring(text.spot().from(), text.spot().to());
                    pieces.add(new Piece(path, text.place().line(), text.spot(), rewrite.with(key, was)));
                    if (!rewrite.needs().isEmpty()
                            && needed.isEmpty()
                            && !found.imports().bring(rewrite.neededBy(path))) {
                        needed.add(new Needed(path, found.imports(), rewrite.neededBy(path)));
                    }
                }
            }
        }
        Path file = tree.resolve(path);
        Files.createDirectories(file.getParent());
        Files.writeString(file, before);
        Path patch = Files.writeString(tree.resolve("texts.patch"), UnifiedPatch.of(pieces, needed));
        Process process = new ProcessBuilder("patch", "-p1", "-i", patch.toString())
                .directory(tree.toFile())
                .redirectErrorStream(true)
                .start();
        String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        assertThat(process.waitFor(20, TimeUnit.SECONDS)).isTrue();
        assertThat(process.exitValue()).as(said + Files.readString(patch)).isZero();
        assertThat(said).doesNotContain("offset").doesNotContain("fuzz");
        return Files.readString(file);
    }

    @Test
    void replacesTheTextsAndAddsWhatTheFileNeeds() throws Exception {
        assertThat(patched(
                        "src/cabins/Cabin.ts",
                        "import { a } from './a';\n\nshow(a);\nalert('Choose your cabin');\nend();\n"))
                .isEqualTo(
                        "import { a } from './a';\nimport { t } from \"../texts\";\n\nshow(a);\nalert(t(\"cabin.choose-your-cabin\"));\nend();\n");
    }

    @Test
    void addsTheLineBeforeAFileWithoutImports() throws Exception {
        assertThat(patched("Cabin.ts", "alert('Choose your cabin');\nend();\n"))
                .isEqualTo("import { t } from \"./src/texts\";\nalert(t(\"cabin.choose-your-cabin\"));\nend();\n");
    }

    @Test
    void addsNoLineThatIsThere() throws Exception {
        assertThat(patched("Cabin.ts", "import { show, t } from 'elsewhere';\nalert('Choose your cabin');\n"))
                .isEqualTo("import { show, t } from 'elsewhere';\nalert(t(\"cabin.choose-your-cabin\"));\n");
    }

    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    import {⏎  a,⏎  b⏎} from './a';⏎TEXT        | import {⏎  a,⏎  b⏎} from './a';⏎NEEDED⏎KEY
                    #!/usr/bin/env node⏎TEXT                     | #!/usr/bin/env node⏎NEEDED⏎KEY
                    "use client";⏎⏎TEXT                         | "use client";⏎NEEDED⏎⏎KEY
                    ~TEXT                                        | ~NEEDED⏎KEY
                    ~end();⏎TEXT                                 | ~NEEDED⏎end();⏎KEY
                    ~import { a } from './a';⏎TEXT               | ~import { a } from './a';⏎NEEDED⏎KEY
                    TEXT⏎import { a } from './a';⏎end();         | KEY⏎import { a } from './a';⏎NEEDED⏎end();
                    TEXT⏎⏎⏎import { a } from './a';             | KEY⏎⏎⏎import { a } from './a';⏎NEEDED
                    import {⏎  show,⏎  t⏎} from './a';⏎TEXT     | import {⏎  show,⏎  t⏎} from './a';⏎KEY
                    const a = require('./a');⏎TEXT               | const a = require('./a');⏎NEEDED⏎KEY
                    """)
    void theNeededLineGoesBehindTheImportsHoweverTheyStand(String before, String after) throws Exception {
        assertThat(patched("src/Cabin.ts", spelled(before))).isEqualTo(spelled(after));
    }

    private static String spelled(String shown) {
        return shown.replace("⏎", "\n")
                        .replace("~", "\uFEFF")
                        .replace("TEXT", "alert('Choose your cabin');")
                        .replace("KEY", "alert(t(\"cabin.choose-your-cabin\"));")
                        .replace("NEEDED", "import { t } from \"./texts\";")
                + "\n";
    }

    @Test
    void replacesSeveralOnALineAndOverLines() throws Exception {
        assertThat(
                        patched(
                                "Cabin.tsx",
                                "const a = <p title=\"Sun deck\">Choose your\n  cabin now</p>; alert('Not yet'); alert('Come back');\nend();\n"))
                .isEqualTo(
                        "const a = <p title={t(\"cabin.sun-deck\", \"Sun deck\")}>{t(\"cabin.choose-your-cabin-now\")}</p>; alert(t(\"cabin.not-yet\")); alert(t(\"cabin.come-back\"));\nend();\n");
    }

    @Test
    void keepsEndsOfLinesAndAFileWithoutOne() throws Exception {
        assertThat(patched("Cabin.java", "class A {\r\n  void a() { title.setText(\"Sun deck\"); }\r\n}\r\n"))
                .isEqualTo("class A {\r\n  void a() { title.setText(getString(R.string.cabin_sun_deck)); }\r\n}\r\n");
        assertThat(patched("b/Cabin.java", "title.setText(\"Sun deck\");"))
                .isEqualTo("title.setText(getString(R.string.cabin_sun_deck));");
    }

    @Test
    void reachesFilesWithSpacesInTheirNames() throws Exception {
        assertThat(patched("my app/Sun Deck.java", "title.setText(\"Sun deck\");\n"))
                .isEqualTo("title.setText(getString(R.string.sun_deck_sun_deck));\n");
    }

    @Test
    void leavesWhatIsPutTogetherToTheProgrammer() throws Exception {
        String code = "title.setText(\"Deck \" + n + \" is full\");\n";
        assertThat(patched("Cabin.java", code + "title.setText(\"Sun deck\");\n"))
                .isEqualTo(code + "title.setText(getString(R.string.cabin_sun_deck));\n");
    }

    @Test
    void ofTwoThatOverlapOneGivesWay() {
        String line = "alert('Choose your cabin');";
        assertThat(UnifiedPatch.of(
                        List.of(
                                new Piece("a.ts", 1, new Spot(line, 6, 25, true), "t('whole')"),
                                new Piece("a.ts", 1, new Spot(line, 14, 24, true), "t('part')")),
                        List.of()))
                .contains("-" + line + "\n")
                .contains("+alert('Choose t('part')');\n")
                .doesNotContain("whole");
    }
}
