package mellow.core.format;

import static mellow.core.format.FormatCases.in;
import static mellow.core.format.FormatCases.tag;

import java.io.OutputStream;
import java.util.Set;
import java.util.stream.Stream;
import mellow.core.format.android.AndroidFormat;
import mellow.core.format.json.JsonFormat;
import mellow.core.format.po.PoFormat;
import mellow.core.format.properties.PropertiesFormat;
import mellow.core.format.registry.Formats;
import mellow.core.format.xliff.XliffFormat;
import mellow.core.format.yaml.YamlFormat;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.TestFactory;

/** The cases of each format: what its specification says, good and bad. */
class FormatCasesTest {

    @TestFactory
    Stream<DynamicTest> json() {
        return in("json.cases", new JsonFormat(), "de.json", ReadOptions.AUTOMATIC.in(tag("de")));
    }

    @TestFactory
    Stream<DynamicTest> properties() {
        return in("properties.cases", new PropertiesFormat(), "a_de.properties", ReadOptions.AUTOMATIC);
    }

    @TestFactory
    Stream<DynamicTest> yaml() {
        return in("yaml.cases", new YamlFormat(), "de.yml", ReadOptions.AUTOMATIC);
    }

    @TestFactory
    Stream<DynamicTest> android() {
        return in("android.cases", new AndroidFormat(), "values-de/strings.xml", ReadOptions.AUTOMATIC);
    }

    @TestFactory
    Stream<DynamicTest> po() {
        return in("po.cases", new PoFormat(), "deck.po", ReadOptions.AUTOMATIC);
    }

    /** Told from others by what is in it, as the two below. */
    @TestFactory
    Stream<DynamicTest> tmx() {
        return in("tmx.cases", new Detected(), "deck", ReadOptions.AUTOMATIC);
    }

    @TestFactory
    Stream<DynamicTest> tbx() {
        return in("tbx.cases", new Detected(), "deck", ReadOptions.AUTOMATIC);
    }

    @TestFactory
    Stream<DynamicTest> ledger() {
        return in("ledger.cases", new Detected(), "deck", ReadOptions.AUTOMATIC);
    }

    private static final class Detected implements FileFormat {

        @Override
        public Traits traits() {
            return Traits.of("detected", "any", "application/octet-stream");
        }

        @Override
        public Set<Aspect> keeps() {
            return Set.of();
        }

        @Override
        public int likelihood(Sample sample) {
            return 0;
        }

        @Override
        public FileReading read(String file, byte[] bytes, ReadOptions options) {
            return Formats.read(file, bytes, options);
        }

        @Override
        public void write(EntryList entries, OutputStream out) {
            throw new UnsupportedOperationException();
        }
    }

    @TestFactory
    Stream<DynamicTest> xliff() {
        return in("xliff.cases", XliffFormat.FIRST, "deck.xlf", ReadOptions.AUTOMATIC);
    }
}
