package mellow.server.delivery;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.awt.Font;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import mellow.core.fit.FontFile;
import mellow.core.format.FileReading;
import mellow.core.format.ReadOptions;
import mellow.core.format.memory.TbxFormat;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.core.text.Shape;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.entry.Description;
import mellow.server.entry.EntryService;
import mellow.server.finding.FontService;
import mellow.server.product.ProductService.Definition;
import mellow.server.product.ProductService.Selected;
import mellow.server.support.AssetsMade;
import mellow.server.support.Http;
import mellow.server.wordbook.WordbookService;
import mellow.server.wordbook.WordbookService.TermText;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** A product gets what is no text, too: pictures and sounds of its entries, the fonts of its languages, the wordbook. */
class OtherFilesTest extends DeliveryCase {

    private static final Path FONT = Path.of("../demo/ramp-panel.ttf");
    private static final LanguageTag EN = new LanguageTag("en");
    private static final LanguageTag DE = new LanguageTag("de");
    private static final LanguageTag FI = new LanguageTag("fi");

    @Autowired
    private EntryService entries;

    @Autowired
    private FontService fonts;

    @Autowired
    private WordbookService wordbook;

    @Autowired
    private Http http;

    private long mara;

    @BeforeEach
    void aBoat() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(mara, "Boat", "key,en,de,fi\nup,Ramp up,Rampe hoch,Ramppi ylös\n", Arrival.SETTLED);
        ledger.allowOwn("Boat", "de");
        products.create(
                mara,
                new Definition(
                        0,
                        "Boat",
                        "app",
                        List.of("boat"),
                        List.of(
                                new Selected("en", null),
                                new Selected("de", null),
                                new Selected("fi", null, false, null, List.of("de"), null)),
                        "en"));
    }

    private static Recipe.RecipeSettings of(String kind, String format, String pattern, String hole) {
        return RecipeBuilder.of(kind, format, pattern).hole(hole).build();
    }

    private Map<String, byte[]> delivered() {
        return delivered(mara, "boat");
    }

    private String stored(String name, byte[] content) throws Exception {
        return http.bytes(mara, "/api/assets?name=" + name, content)
                .body()
                .path("file")
                .asString();
    }

    @Test
    void picturesAreNamedByTheirKeysAndBorrowedWhereALanguageHasNone() throws Exception {
        byte[] german = AssetsMade.png(4, 2, 3);
        entries.create(
                mara,
                "boat",
                Shape.ASSET,
                new Description("deck/map", "", "", "", "", 0, 0, 0, List.of(), true),
                new TreeMap<>(
                        Map.of("other", "map-en.svg", "file", stored("map-en.svg", AssetsMade.svg(4, 2, "<g/>")))),
                null);
        ledger.change(
                mara,
                "deck/map",
                "de",
                CellChange.forms(
                        Action.PUT_FORWARD,
                        0,
                        new TreeMap<>(Map.of("other", "Karte.png", "file", stored("Karte.png", german)))));
        recipes.add(mara, "boat", "Pictures", of("assets", "files", "{tag}/{key}.{ext}", "out"));
        Map<String, byte[]> first = delivered();
        assertThat(first).containsOnlyKeys("de/deck/map.png", "en/deck/map.svg");
        assertThat(first.get("de/deck/map.png")).isEqualTo(german);
        recipes.add(mara, "boat", "All", of("assets", "files", "all/{key}_{language}.{ext}", "borrowed"));
        assertThat(delivered().get("all/deck/map_fi.png")).isEqualTo(german);
        recipes.add(mara, "boat", "Apart", of("assets", "files", "{folder}/{tag}/{name}.{ext}", "out"));
        assertThat(delivered()).containsKeys("deck/de/map.png", "deck/en/map.svg");
        assertThatThrownBy(() -> recipes.add(mara, "boat", "None", of("assets", "files", "{tag}.{ext}", "out")))
                .hasMessageContaining("named after their keys");
    }

    @Test
    void eachLanguageGetsItsOwnFontOrThatOfAll() throws Exception {
        recipes.add(mara, "boat", "Fonts", of("fonts", "files", "fonts/{tag}.{ext}", "out"));
        assertThat(delivered()).isEmpty();
        byte[] font = Files.readAllBytes(FONT);
        fonts.put(mara, "boat", FI, 16, font);
        assertThat(delivered()).containsOnlyKeys("fonts/fi.ttf");
        fonts.put(mara, "boat", null, 16, font);
        Map<String, byte[]> all = delivered();
        assertThat(all).containsOnlyKeys("fonts/de.ttf", "fonts/en.ttf", "fonts/fi.ttf");
        assertThat(all.get("fonts/de.ttf")).isEqualTo(font);
        ledger.awaitRechecks();
    }

    @Test
    void aFontIsCutDownToTheLettersThatGoOutAndTheBorrowedOnes() throws Exception {
        byte[] font = Files.readAllBytes(FONT);
        fonts.put(mara, "boat", null, 16, font);
        ledger.takeIn(mara, "Boat", "key,en,de,fi\nstop,Stop,Größe,\n", Arrival.SETTLED);
        recipes.add(mara, "boat", "Fonts", of("fonts", "cut", "{tag}.{ext}", "out"));
        Map<String, byte[]> cut = delivered();
        assertThat(cut).containsOnlyKeys("de.ttf", "en.ttf", "fi.ttf");
        assertThat(cut.get("de.ttf").length).isLessThan(font.length);
        Font german = FontFile.read(cut.get("de.ttf")).font();
        assertThat("Größe Rampe".chars().allMatch(german::canDisplay)).isTrue();
        assertThat(german.canDisplay('ł')).isFalse();
        // What Finnish lacks it borrows from German.
        assertThat(FontFile.read(cut.get("fi.ttf")).font().canDisplay('ß')).isTrue();
        assertThat(FontFile.read(cut.get("en.ttf")).font().canDisplay('ß')).isFalse();
        assertThat(delivered()).containsExactlyEntriesOf(cut);
        ledger.awaitRechecks();
    }

    @Test
    void theWordbookGoesOutAsTermsOfTheProductsLanguages() throws Exception {
        wordbook.add(
                mara,
                "en",
                "ramp <1>",
                "The way on board",
                Map.of("de", new TermText("Rampe", List.of("Auffahrt")), "pl", new TermText("rampa", List.of())));
        wordbook.add(mara, "pl", "burta", "", Map.of());
        recipes.add(mara, "boat", "Words", of("wordbook", "tbx", "words.{ext}", "out"));
        byte[] tbx = delivered().get("words.tbx");
        FileReading read = new TbxFormat().read("words.tbx", tbx, ReadOptions.AUTOMATIC);
        assertThat(read.languages()).containsExactly(EN, DE);
        assertThat(read.size()).isEqualTo(1);
        assertThat(read.entry(0).text(0)).isEqualTo("ramp <1>");
        assertThat(read.entry(0).text(1)).isEqualTo("Rampe");
        assertThat(read.entry(0).notes()).contains("The way on board", "Avoid in de: Auffahrt");
        assertThat(new String(tbx, StandardCharsets.UTF_8))
                .contains(
                        "<term>Auffahrt</term><termNote type=\"administrativeStatus\">deprecatedTerm-admn-sts</termNote>");
    }
}
