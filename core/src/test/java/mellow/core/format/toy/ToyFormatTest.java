package mellow.core.format.toy;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.ReadOptions;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.registry.FormatList;
import mellow.core.format.registry.Formats;
import mellow.core.format.registry.Losses;
import mellow.core.language.LanguageTag;
import org.junit.jupiter.api.Test;

/** The recipe for a format in docs/architecture.md: its package, and one line where the formats are listed. */
class ToyFormatTest {

    private static final String FILE = "ramp.up -> Ramp up\nramp.down -> Ramp down\n";

    private static FormatList withToy() {
        List<FileFormat> all = new ArrayList<>(Formats.all());
        all.add(new ToyFormat());
        return new FormatList(all);
    }

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    @Test
    void itIsKnownByItsNamesItsEndingAndItsContent() {
        FormatList formats = withToy();
        assertThat(formats.named("arrows")).containsInstanceOf(ToyFormat.class);
        assertThat(formats.forNew("panel/deck.toy")).containsInstanceOf(ToyFormat.class);
        assertThat(formats.detect("deck.texts", bytes(FILE))).containsInstanceOf(ToyFormat.class);
        assertThat(formats.detect("deck.po", bytes("msgid \"a -> b\"\nmsgstr \"\"\n"))
                        .orElseThrow()
                        .name())
                .isEqualTo("po");
        assertThat(formats.unknown("x").getMessage()).endsWith("toy.");
    }

    @Test
    void itIsReadAndWrittenAndTellsWhatItLoses() throws IOException {
        FileFormat toy = withToy().named("toy").orElseThrow();
        FileReading read = toy.read("deck.toy", bytes(FILE), ReadOptions.AUTOMATIC.in(new LanguageTag("en")));
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        toy.write(read, out);
        assertThat(out.toString(StandardCharsets.UTF_8)).isEqualTo(FILE);
        assertThat(Losses.of(toy, read).refused()).isEmpty();
        assertThat(toy.apart()).isTrue();
        assertThat(toy.traits().inPlace()).isFalse();
    }

    @Test
    void itRefusesWithThePlace() {
        assertThatThrownBy(() -> new ToyFormat().read("deck.toy", bytes("a -> b\nc\n"), ReadOptions.AUTOMATIC))
                .isInstanceOf(UnreadableFileException.class)
                .hasMessage("deck.toy, line 2: “c”; expected a key, an arrow and a text.");
    }

    @Test
    void twoFormatsDoNotClaimOneWord() {
        List<FileFormat> all = new ArrayList<>(Formats.all());
        all.add(new ToyFormat());
        all.add(new ToyFormat());
        assertThatThrownBy(() -> new FormatList(all)).hasMessage("toy is claimed by toy and by toy");
    }
}
