package mellow.server.delivery;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import mellow.core.format.FileReading;
import mellow.core.format.ReadOptions;
import mellow.core.format.registry.Formats;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.product.ProductService.Definition;
import mellow.server.product.ProductService.Selected;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Texts that are hard to write come back from every format as they are in the record. */
class DeliveryFormatsTest extends DeliveryCase {

    private static final LanguageTag DE = new LanguageTag("de");
    private static final Map<String, String> HARD = new TreeMap<>(Map.of(
            "a.lines", "Erste Zeile\nZweite Zeile\n\nNach einer leeren",
            "b.quotes", "Er sagt „Halt“, 'stop' und \"aus\"",
            "c.link", "Mehr auf <a href=\"https://ferry.ostrel.example/?a=1&b=2\">der Seite</a>",
            "d.apostrophe", "Geht's? @home ?mark \\n ist kein Umbruch",
            "e.spaces", "  vorn und hinten  ",
            "f.emoji", "Anker ⚓ und Fähre 🛳️ an Bord",
            "g.percent", "%1$d von 100 %, {name}, ${x}",
            "h.tab", "Spalte\tSpalte; Komma, Punkt",
            "i.colon", "yes: nein # kein Kommentar",
            "j.comment", "/* kein */ Kommentar // hier"));

    @ParameterizedTest
    @ValueSource(
            strings = {
                "csv",
                "json",
                "json nested",
                "yaml",
                "yaml nested",
                "properties",
                "android",
                "po",
                "mo",
                "xliff-1.2",
                "xliff-2",
                "xlsx",
                "ods",
                "tmx",
                "ledger-json"
            })
    void everyTextComesBack(String name) throws Exception {
        long mara = ledger.coordinator("mara");
        StringBuilder csv = new StringBuilder("key,en,de\n");
        // What a source has of placeholders and links its text has, too: nothing is held back.
        HARD.forEach((key, text) -> csv.append(key + ",\"So: " + quoted(text) + "\",\"" + quoted(text) + "\"\n"));
        ledger.takeIn(mara, "Hard", csv.toString(), Arrival.SETTLED);
        products.create(
                mara, new Definition(0, "Hard", "app", List.of("hard"), List.of(new Selected("de", null)), null));
        String format = name.replace(" nested", "");
        recipes.add(
                mara,
                "hard",
                name,
                RecipeBuilder.texts(format).nested(name.endsWith("nested")).build());
        Map.Entry<String, byte[]> file =
                delivered(mara, "hard").entrySet().iterator().next();
        FileReading read = Formats.named(format)
                .orElseThrow()
                .read(
                        file.getKey(),
                        file.getValue(),
                        ReadOptions.AUTOMATIC.in(DE).from(new LanguageTag("en")));
        int column = read.languages().indexOf(DE);
        Map<String, String> texts = new LinkedHashMap<>();
        List<String> keys = new ArrayList<>();
        for (int i = 0; i < read.size(); i++) {
            keys.add(read.entry(i).key());
            texts.put(read.entry(i).key(), read.entry(i).text(column));
        }
        assertThat(keys).hasSize(HARD.size());
        if (format.equals("mo") || format.equals("tmx")) {
            // Keys there are by the source; the texts are what counts.
            assertThat(texts.values()).containsExactlyInAnyOrderElementsOf(HARD.values());
        } else {
            assertThat(texts).containsExactlyInAnyOrderEntriesOf(HARD);
        }
    }

    /** What a format cannot hold is told with its texts before anybody tries. */
    @ParameterizedTest
    @CsvSource(
            textBlock =
                    """
                    csv,        windows-1252, 'b.sign, c.kana', windows-1252 lacks: ⚓
                    csv,        utf-8,        '',               ''
                    properties, utf-8,        '',               ''
                    json,       utf-8,        '',               ''
                    """)
    void whatAFormatCannotHoldIsToldBefore(String format, String charset, String refused, String why) {
        long mara = ledger.coordinator("mara");
        ledger.takeIn(
                mara,
                "Hard",
                "key,section,en,de\na.plain,Deck,Stop,Größe\nb.sign,Deck,Anchor ⚓,Anker ⚓\nc.kana,Deck,Kana カ,Kana カ\n",
                Arrival.SETTLED);
        products.create(
                mara, new Definition(0, "Hard", "app", List.of("hard"), List.of(new Selected("de", null)), null));
        List<LanguageFiles.LanguageLosses> losses = deliveries.losses(
                mara, "hard", RecipeBuilder.texts(format).charset(charset).build());
        if (format.equals("csv") && why.isEmpty()) {
            assertThat(losses).isEmpty();
            return;
        }
        assertThat(losses).extracting(LanguageFiles.LanguageLosses::language).containsOnly("de");
        assertThat(String.join(", ", losses.get(0).refused())).isEqualTo(refused);
        assertThat(losses.get(0).why()).contains(why);
        if (!format.equals("csv")) {
            assertThat(losses.get(0).counts()).containsEntry("section", 3);
        }
    }

    @Test
    void aKeyThatIsALevelToIsToldBefore() {
        long mara = ledger.coordinator("mara");
        ledger.takeIn(mara, "Hard", "key,en,de\ndeck,Deck,Deck\ndeck.up,Up,Hoch\n", Arrival.SETTLED);
        products.create(
                mara, new Definition(0, "Hard", "app", List.of("hard"), List.of(new Selected("de", null)), null));
        assertThat(deliveries.losses(mara, "hard", RecipeBuilder.texts("json").build()))
                .isEmpty();
        assertThat(deliveries.losses(
                        mara, "hard", RecipeBuilder.texts("json").nested(true).build()))
                .singleElement()
                .satisfies(one -> assertThat(one.why()).contains("deck"));
    }

    private static String quoted(String text) {
        return text.replace("\"", "\"\"");
    }
}
