package mellow.server.delivery;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.common.Refusal;
import mellow.server.product.ProductService.Definition;
import mellow.server.product.ProductService.Selected;
import mellow.server.support.SetDrop;
import mellow.server.table.TableService;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** A product gets its own files back: with what changed, with its languages, and with every other byte as it was. */
class OwnFilesTest extends DeliveryCase {

    @Autowired
    private SetDrop drop;

    @Autowired
    private TableService tables;

    private final Map<String, String> own = new LinkedHashMap<>();
    private long mara;

    @BeforeEach
    void aBoatWithFiles() {
        mara = ledger.coordinator("mara");
        own.put("po/boat.pot", HEAD + ENTRY.formatted("Cast off", "") + ENTRY.formatted("Ramp up", ""));
        own.put(
                "po/de.po",
                HEAD + "# Von Hand\n" + ENTRY.formatted("Cast off", "Ablegen")
                        + ENTRY.formatted("Ramp up", "Rampe hoch"));
        own.put("po/fi.po", HEAD + ENTRY.formatted("Cast off", "Irti") + ENTRY.formatted("Ramp up", ""));
    }

    private static final String HEAD = "msgid \"\"\nmsgstr \"\"\n\"Content-Type: text/plain; charset=UTF-8\\n\"\n\n";
    private static final String ENTRY = "msgid \"%s\"\nmsgstr \"%s\"\n\n";

    private void take(String... languages) {
        drop.take(mara, own);
        ledger.run("update table_language set settles_own = true");
        products.create(
                mara,
                new Definition(
                        0,
                        "Boat",
                        "app",
                        List.of(ledger.ask(String.class, "select slug from ledger_table")),
                        List.of(languages).stream()
                                .map(tag -> new Selected(tag, null))
                                .toList(),
                        "en"));
    }

    private void say(String source, String tag, Action action, String text) {
        int version = ledger.ask(
                Integer.class,
                "select coalesce(max(c.version), 0) from cell c join entry e on e.id = c.entry_id join language l on l.id = c.language_id where e.source = '"
                        + source + "' and l.tag = '" + tag + "'");
        String key = ledger.ask(String.class, "select key from entry where source = '" + source + "'");
        ledger.change(mara, key, tag, CellChange.text(action, version, text));
    }

    private void recipe(RecipeBuilder recipe) {
        Recipe.RecipeSettings settings = recipe.build();
        recipes.add(mara, "boat", settings.pattern(), settings);
    }

    @Test
    void whatDidNotChangeIsTheSameByteForByte() {
        take("en", "de", "fi");
        recipe(RecipeBuilder.inPlace("game/"));
        Map<String, String> expected = new LinkedHashMap<>();
        own.forEach((path, content) -> expected.put("game/" + path, content));
        assertThat(deliveredTexts(mara, "boat")).containsExactlyInAnyOrderEntriesOf(expected);

        say("Ramp up", "fi", Action.PUT_FORWARD, "Ramppi ylös");
        expected.put(
                "game/po/fi.po",
                own.get("po/fi.po").replace("\"Ramp up\"\nmsgstr \"\"", "\"Ramp up\"\nmsgstr \"Ramppi ylös\""));
        assertThat(deliveredTexts(mara, "boat")).containsExactlyInAnyOrderEntriesOf(expected);
    }

    @Test
    void onlyTheProductsLanguagesGoOutAndOneWithoutAFileGetsOne() {
        take("en", "fi");
        recipe(RecipeBuilder.inPlace(""));
        assertThat(deliveredTexts(mara, "boat")).containsOnlyKeys("po/boat.pot", "po/fi.po");

        String table = ledger.ask(String.class, "select name from ledger_table");
        tables.addLanguages(ledger.table(table), List.of(new LanguageTag("sv"), new LanguageTag("et")), true);
        say("Cast off", "sv", Action.PUT_FORWARD, "Lägg ut");
        products.edit(
                mara,
                "boat",
                new Definition(
                        products.find("boat").version(),
                        "Boat",
                        "app",
                        List.of(ledger.slug(table)),
                        List.of(new Selected("en", null), new Selected("fi", null), new Selected("sv", null)),
                        "en"));
        assertThat(deliveredTexts(mara, "boat"))
                .containsOnlyKeys("po/boat.pot", "po/fi.po", "po/sv.po")
                .satisfies(files -> assertThat(files.get("po/sv.po"))
                        .contains("msgstr \"Lägg ut\"")
                        .doesNotContain("Irti"));
    }

    @Test
    void whatIsNotSettledIsTakenOutAgainUnlessTheRecipeSaysSo() {
        take("en", "de", "fi");
        say("Cast off", "fi", Action.CLEAR, "");
        say("Cast off", "fi", Action.OFFER, "Irrota");
        say("Ramp up", "fi", Action.PENCIL, "Ramppi ylös");
        recipe(RecipeBuilder.inPlace("settled/"));
        recipe(RecipeBuilder.inPlace("pencilled/").going("pencilled"));
        recipe(RecipeBuilder.inPlace("offered/").going("offered"));
        Map<String, String> out = deliveredTexts(mara, "boat");
        assertThat(out.get("settled/po/fi.po")).doesNotContain("Irti", "Irrota", "Ramppi");
        assertThat(out.get("pencilled/po/fi.po"))
                .contains("msgstr \"Ramppi ylös\"")
                .doesNotContain("Irti", "Irrota");
        assertThat(out.get("offered/po/fi.po")).contains("msgstr \"Ramppi ylös\"", "msgstr \"Irrota\"");
        assertThat(out.get("offered/po/de.po")).isEqualTo(own.get("po/de.po"));
    }

    @Test
    void aFileOfManyLanguagesKeepsThoseThatAreNotTheProducts() {
        own.clear();
        own.put("boat.csv", "key,en,de,fi\r\nup,Ramp up,Rampe hoch,\r\nstop,Stop,Halt,Seis\r\n");
        ledger.takeIn(mara, "Boat", own.get("boat.csv"), Arrival.SETTLED);
        ledger.run("update table_language set settles_own = true");
        products.create(
                mara, new Definition(0, "Boat", "app", List.of("boat"), List.of(new Selected("fi", null)), "fi"));
        say("Ramp up", "fi", Action.PUT_FORWARD, "Ramppi ylös");
        say("Ramp up", "de", Action.PUT_FORWARD, "Klappe hoch");
        recipe(RecipeBuilder.inPlace(""));
        assertThat(deliveredTexts(mara, "boat").values())
                .containsExactly(own.get("boat.csv").replace("Rampe hoch,", "Rampe hoch,Ramppi ylös"));
    }

    @Test
    void aTableThatCameFromNoFileSaysSoAndTheNameKeepsThePath() {
        take("en", "de");
        String slug = tables.create(mara, "By hand", new LanguageTag("en"), List.of(new LanguageTag("de")), true)
                .slug();
        products.create(mara, new Definition(0, "Hand", "app", List.of(slug), List.of(new Selected("de", null)), null));
        recipes.add(mara, "hand", "Own", RecipeBuilder.inPlace("").build());
        assertThatThrownBy(() -> delivered(mara, "hand"))
                .isInstanceOf(Refusal.class)
                .hasMessageContaining("was never taken in from a file");
        assertThatThrownBy(() -> recipes.add(
                        mara,
                        "hand",
                        "No path",
                        RecipeBuilder.of("texts", "json", "{path}.json").build()))
                .isInstanceOf(Refusal.class)
                .hasMessageContaining("Only files that are written in place");
    }
}
