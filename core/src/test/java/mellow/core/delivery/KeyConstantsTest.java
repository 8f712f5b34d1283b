package mellow.core.delivery;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.net.URI;
import java.util.ArrayList;
import java.util.List;
import javax.tools.DiagnosticCollector;
import javax.tools.JavaFileObject;
import javax.tools.SimpleJavaFileObject;
import javax.tools.ToolProvider;
import mellow.core.delivery.KeyConstants.Key;
import mellow.core.delivery.KeyConstants.Language;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Names of constants, and constants as compilers read them. */
class KeyConstantsTest {

    private static final List<Key> HARD = List.of(
            new Key("ramp.up", "", "Ramp up", null),
            new Key("c:\\users", "", "C:\\users, \\u0022 and */ /* end", null),
            new Key("quote\"s\tand\nlines", "", "Says \"up\"\nand @see down", null),
            new Key("maß.für.öl", "", "Ölstand ??/", null),
            new Key("日本", "", "日本語 \u202e\u0007", null),
            new Key("2nd.gear", "", "", null),
            new Key("new", "", "New", null),
            new Key("same", "verb", "Same", null),
            new Key("same", "noun", "Same", null));

    private static String written(KeyConstants constants, List<Key> keys) {
        StringWriter out = new StringWriter();
        try {
            constants.write(keys, out);
        } catch (IOException impossible) {
            throw new UncheckedIOException(impossible);
        }
        return out.toString();
    }

    @ParameterizedTest
    @CsvSource(
            textBlock =
                    """
                    ramp.up,        RAMP_UP,        rampUp
                    ramp.stepUp,    RAMP_STEP_UP,   rampStepUp
                    HTTPServer,     HTTP_SERVER,    httpServer
                    ramp--up..now,  RAMP_UP_NOW,    rampUpNow
                    level2Up,       LEVEL2_UP,      level2Up
                    2nd,            _2ND,           _2nd
                    new,            NEW,            new_
                    class,          CLASS,          class_
                    für,            FUR,            fur
                    łódź,           LODZ,           lodz
                    Ελλάδα,         ELLADA,         ellada
                    😀,             U1F600,         u1f600
                    ...,            _,              _
                    a→b,            A_B,            aB
                    a–b,            A_B,            aB
                    ramp𝒜,          RAMPU1D49C,     rampu1d49c
                    ALLCAPS,        ALLCAPS,        allcaps
                    """)
    void keysBecomeNames(String key, String upper, String camel) {
        assertThat(Identifiers.upperSnake(key)).isEqualTo(upper);
        assertThat(Identifiers.camelCase(key)).isEqualTo(camel);
    }

    @Test
    void twoKeysOfOneNameStopAndAreNamed() {
        KeyConstants java = new KeyConstants(Language.JAVA, "keys", "");
        assertThatThrownBy(() ->
                        written(java, List.of(new Key("ramp.up", "", "", null), new Key("ramp-up", "", "", null))))
                .hasMessage("The keys “ramp-up” and “ramp.up” would both be called RAMP_UP; rename one of them.");
    }

    @Test
    void theJavaCompilerReadsTheKeysBack() throws Exception {
        String source = written(new KeyConstants(Language.JAVA, "ostrel keys", ""), HARD);
        DiagnosticCollector<JavaFileObject> said = new DiagnosticCollector<>();
        JavaFileObject file =
                new SimpleJavaFileObject(URI.create("string:///OstrelKeys.java"), JavaFileObject.Kind.SOURCE) {
                    @Override
                    public CharSequence getCharContent(boolean ignoreEncodingErrors) {
                        return source;
                    }
                };
        java.nio.file.Path out = java.nio.file.Files.createTempDirectory("keys");
        boolean compiled = ToolProvider.getSystemJavaCompiler()
                .getTask(null, null, said, List.of("-Xlint:all", "-d", out.toString()), null, List.of(file))
                .call();
        assertThat(compiled).as(said.getDiagnostics() + source).isTrue();
        List<String> read = new ArrayList<>();
        try (java.net.URLClassLoader loader =
                new java.net.URLClassLoader(new java.net.URL[] {out.toUri().toURL()})) {
            for (java.lang.reflect.Field field : loader.loadClass("OstrelKeys").getFields()) {
                read.add((String) field.get(null));
            }
        }
        assertThat(read)
                .containsExactlyInAnyOrderElementsOf(HARD.stream().map(Key::key).toList());
    }

    @Test
    void numbersStandForKeysInAHeader() {
        assertThat(written(
                        new KeyConstants(Language.C, "ramp panel", ""),
                        List.of(new Key("ramp.up", "", "Ramp up", 17), new Key("ramp.down", "", "Ramp /* down */", 3))))
                .isEqualTo(
                        """
                        #ifndef RAMP_PANEL_KEYS_H
                        #define RAMP_PANEL_KEYS_H

                        #define RAMP_PANEL_RAMP_UP 17 /* Ramp up */
                        #define RAMP_PANEL_RAMP_DOWN 3 /* Ramp / * down * / */

                        #endif
                        """);
    }

    @Test
    void stringsOfAHeaderAreBytesOfUtf8() {
        assertThat(written(new KeyConstants(Language.C, "p", ""), List.of(new Key("maß??", "", "", null))))
                .contains("\"ma\\303\\237\\?\\?\"");
    }

    @Test
    void typeScriptHasOneNameForEach() {
        assertThat(written(new KeyConstants(Language.TYPESCRIPT, "", ""), List.of(new Key("new", "", "New */", null))))
                .isEqualTo("/** New * / */\nexport const new_ = \"new\";\n");
    }

    @Test
    void aPackageStandsBeforeTheClassAndEveryFileHasItsEnding() {
        assertThat(written(
                        new KeyConstants(Language.JAVA, "deck texts", "org.ostrel.words"),
                        List.of(new Key("up", "", "Ramp up", 7))))
                .isEqualTo(
                        """
                        package org.ostrel.words;

                        /** Keys of texts. */
                        public final class DeckTexts {

                            private DeckTexts() {}

                            /** Ramp up */
                            public static final int UP = 7;
                        }
                        """);
        assertThat(Language.JAVA.ending() + " " + Language.TYPESCRIPT.ending() + " " + Language.C.ending())
                .isEqualTo("java ts h");
    }

    @Test
    void lettersAtTheEdgeOfAsciiAreEscaped() {
        assertThat(written(
                        new KeyConstants(Language.TYPESCRIPT, "", ""),
                        List.of(new Key("a ~\u007f\u001f", "", "", null))))
                .contains("\"a ~\\u007f\\u001f\"");
        assertThat(written(new KeyConstants(Language.C, "p", ""), List.of(new Key("a ~\u007f\u001f", "", "", null))))
                .contains("\"a ~\\177\\037\"");
    }
}
