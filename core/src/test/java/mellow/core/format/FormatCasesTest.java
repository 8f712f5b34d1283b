package mellow.core.format;

import static mellow.core.format.FormatCases.in;
import static mellow.core.format.FormatCases.tag;

import java.util.stream.Stream;
import mellow.core.format.android.AndroidFormat;
import mellow.core.format.json.JsonFormat;
import mellow.core.format.po.PoFormat;
import mellow.core.format.properties.PropertiesFormat;
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

    @TestFactory
    Stream<DynamicTest> xliff() {
        return in("xliff.cases", XliffFormat.FIRST, "deck.xlf", ReadOptions.AUTOMATIC);
    }
}
