package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import mellow.core.delivery.KeyConstants;
import mellow.core.delivery.KeyConstants.Key;
import mellow.core.delivery.KeyConstants.Language;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.json.JsonMapper;

/** Key constants as the compilers read them that products are built with: TypeScript's, and one of C. */
class ConstantsTest {

    private static final List<Key> HARD = List.of(
            new Key("ramp.up", "", "Ramp up", 1),
            new Key("c:\\users", "", "C:\\users, \\u0022 and */ /* end", 2),
            new Key("quote\"s\tand\nlines", "", "Says \"up\"\nand @see down // ${x} `y`", 3),
            new Key("maß.für.öl??/", "", "Ölstand ??/", 4),
            new Key("日本", "", "日本語 \u202e\u0007", 5),
            new Key("2nd.gear", "", "", 6),
            new Key("new", "", "New", 7),
            new Key("\u2028\u2029", "", "Ends of lines in scripts \u2028", 8),
            new Key("0af", "", "After an escape of digits", 70_000));

    @TempDir
    private Path folder;

    private static String written(Language language, List<Key> keys) throws IOException {
        StringWriter out = new StringWriter();
        new KeyConstants(language, "deck", "").write(keys, out);
        return out.toString();
    }

    private static List<Key> withoutNumbers() {
        return HARD.stream()
                .map(key -> new Key(key.key(), key.context(), key.source(), null))
                .toList();
    }

    /** Runs a program in the folder; what it said. */
    private String run(String... line) throws Exception {
        Process running = new ProcessBuilder(line)
                .directory(folder.toFile())
                .redirectErrorStream(true)
                .start();
        String said = new String(running.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        assertThat(running.waitFor()).as(said).isZero();
        return said;
    }

    private Map<?, ?> exported() throws Exception {
        run(
                "node",
                ClientCompiler.path().toString(),
                "--strict",
                "--target",
                "es2020",
                "--module",
                "commonjs",
                "keys.ts");
        return JsonMapper.shared().readValue(run("node", "-p", "JSON.stringify(require('./keys.js'))"), Map.class);
    }

    @Test
    void typeScriptReadsEveryKeyAsItIs() throws Exception {
        Files.writeString(folder.resolve("keys.ts"), written(Language.TYPESCRIPT, withoutNumbers()));
        Map<?, ?> keys = exported();
        assertThat(keys.values().stream().map(Object::toString))
                .containsExactlyInAnyOrderElementsOf(HARD.stream().map(Key::key).toList());
        assertThat(keys.get("new_")).isEqualTo("new");
    }

    @Test
    void typeScriptReadsNumbers() throws Exception {
        Files.writeString(folder.resolve("keys.ts"), written(Language.TYPESCRIPT, HARD));
        assertThat(exported().values().stream().map(Object::toString))
                .containsExactlyInAnyOrderElementsOf(
                        HARD.stream().map(key -> String.valueOf(key.number())).toList());
    }

    /** A size that is not as expected is one below zero, which no compiler takes. */
    @Test
    void cReadsNumbersAndBytes() throws Exception {
        for (List<Key> keys : List.of(HARD, withoutNumbers())) {
            String header = written(Language.C, keys);
            Files.writeString(folder.resolve("keys.h"), header);
            List<String> names = header.lines()
                    .filter(line -> line.startsWith("#define DECK") && line.split(" ").length > 2)
                    .map(line -> line.split(" ")[1])
                    .toList();
            assertThat(names).hasSameSizeAs(keys);
            StringBuilder program = new StringBuilder("#include \"keys.h\"\n");
            for (int i = 0; i < names.size(); i++) {
                Key key = keys.get(i);
                String holds = key.number() == null
                        ? "sizeof(%s) == %d"
                                .formatted(names.get(i), key.key().getBytes(StandardCharsets.UTF_8).length + 1)
                        : names.get(i) + " == " + key.number();
                program.append("char size%d[(%s) ? 1 : -1];\n".formatted(i, holds));
            }
            Files.writeString(folder.resolve("keys.c"), program);
            run(cCompiler(), "-Wall", "-Werror", "-c", "keys.c", "-o", "keys.o");
        }
    }

    private static String cCompiler() {
        return List.of("/usr/bin/cc", "/usr/bin/tcc").stream()
                .filter(one -> Files.isExecutable(Path.of(one)))
                .findFirst()
                .orElseThrow();
    }
}
