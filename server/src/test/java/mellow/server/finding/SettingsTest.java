package mellow.server.finding;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import javax.sql.DataSource;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.finding.FontService.LetterReply;
import mellow.server.finding.SettingsService.CheckSettings;
import mellow.server.product.ProductService;
import mellow.server.support.ServerTest;
import mellow.server.wordbook.WordbookService;
import mellow.server.wordbook.WordbookService.TermText;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.dao.PessimisticLockingFailureException;

/** What counts as wrong, said for a table or a product; texts follow at once, or as soon as they were looked at again. */
class SettingsTest extends ServerTest {

    private static final Path FONT = Path.of("../demo/ramp-panel.ttf");

    @Autowired
    private SettingsService settings;

    @Autowired
    private FindingService findings;

    @Autowired
    private FontService fonts;

    @Autowired
    private ProductService products;

    @Autowired
    private WordbookService wordbook;

    @Autowired
    private RecheckService rechecks;

    @Autowired
    private DataSource database;

    private long mara;

    @BeforeEach
    void twoTables() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(
                mara,
                "Panel",
                "key,en,pl\ngate.up,Gate {n},Brama\nramp,The [[ramp]],Rampa\nlow,Ramp low,Rampa łódź\n",
                Arrival.PENCILLED);
        ledger.takeIn(mara, "Quay", "key,en,pl\nquay,Quay {n},Nabrzeże\n", Arrival.PENCILLED);
    }

    private Map<String, Integer> found(String scope) {
        ledger.awaitRechecks();
        Map<String, Integer> found = new TreeMap<>();
        findings.counts(scope).kinds().stream()
                .filter(kind -> kind.stops() + kind.minds() > 0)
                .forEach(kind ->
                        found.put(kind.kind() + (kind.stops() > 0 ? " stops" : ""), kind.stops() + kind.minds()));
        return found;
    }

    private static CheckSettings weighing(int version, String kind, String weight) {
        return new CheckSettings(version, Map.of(kind, weight), List.of(), "", 0, "", "");
    }

    @Test
    void whoeverChangesSettingsIsToldWhenALongChangeHoldsTheTable() throws SQLException {
        try (Connection other = database.getConnection();
                Statement hold = other.createStatement()) {
            other.setAutoCommit(false);
            hold.execute("select id from ledger_table where slug = 'panel' for key share");
            assertThatThrownBy(() -> settings.changeTable(mara, "panel", weighing(0, "placeholder", "off")))
                    .isInstanceOf(PessimisticLockingFailureException.class);
            other.rollback();
        }
        assertThat(settings.changeTable(mara, "panel", weighing(0, "placeholder", "off"))
                        .own()
                        .version())
                .as("nothing was changed by the first try")
                .isEqualTo(1);
    }

    @Test
    void aKindThatIsTurnedOffForATableIsGoneAtOnceThereAndNowhereElse() {
        settings.changeTable(mara, "panel", weighing(0, "placeholder", "off"));
        assertThat(ledger.ask(Integer.class, "select count(*)::int from recheck"))
                .as("nothing to look at again")
                .isZero();
        assertThat(found("table=panel")).isEmpty();
        assertThat(found("table=quay")).isEqualTo(Map.of("placeholder stops", 1));
        settings.changeTable(mara, "panel", weighing(1, "placeholder", "mind"));
        assertThat(found("table=panel")).isEqualTo(Map.of("placeholder", 1));
        settings.changeTable(mara, "panel", weighing(2, "placeholder", "stop"));
        assertThat(found("table=panel")).isEqualTo(Map.of("placeholder stops", 1));
    }

    @Test
    void patternsCharactersAndKeysOfATableAreLookedForAgain() {
        settings.changeTable(
                mara, "panel", new CheckSettings(0, Map.of(), List.of("\\[\\[[a-z]+\\]\\]"), "ź", 0, "[a-z]+", ""));
        assertThat(found("table=panel")).isEqualTo(Map.of("placeholder stops", 2, "characters stops", 1, "key", 1));
        assertThat(settings.ofTable("panel").own().version()).isEqualTo(1);
        assertThat(settings.ofTable("panel").holds()).containsEntry("key", "mind");
    }

    @Test
    void aRuleForKeysHasNoTextLookedAtAgain() {
        ledger.run("delete from finding_mask");
        settings.changeTable(mara, "panel", new CheckSettings(0, Map.of(), List.of(), "", 0, "[a-z]+", ""));
        assertThat(found("table=panel")).as("what is gone of texts stays so").isEqualTo(Map.of("key", 1));
        settings.changeTable(
                mara, "panel", new CheckSettings(1, Map.of("key", "off"), List.of(), "ź", 0, "[a-z]+", ""));
        assertThat(found("table=panel"))
                .as("characters are looked for in all of them")
                .isEqualTo(Map.of("placeholder stops", 1, "characters stops", 1));
        ledger.run("delete from finding_mask");
        settings.changeTable(mara, "panel", new CheckSettings(2, Map.of(), List.of(), "ź", 0, "[a-z]+", ""));
        assertThat(found("table=panel"))
                .as("nor where keys are looked at again")
                .isEqualTo(Map.of("key", 1));
        ledger.lookAgain();
    }

    @Test
    void aTableInheritsTheStrictestOfItsProductsUnlessItSaysOtherwise() {
        product("Boat", "panel");
        settings.changeProduct(mara, "boat", weighing(0, "placeholder", "mind"));
        assertThat(found("table=panel")).isEqualTo(Map.of("placeholder", 1));
        product("Game", "panel");
        settings.changeProduct(mara, "game", weighing(0, "placeholder", "stop"));
        assertThat(found("table=panel")).isEqualTo(Map.of("placeholder stops", 1));
        settings.changeTable(mara, "panel", weighing(0, "placeholder", "off"));
        assertThat(found("table=panel")).isEmpty();
        assertThat(found("table=quay")).isEqualTo(Map.of("placeholder stops", 1));
    }

    @Test
    void aProductThatTakesAnotherTableBringsItsRulesAlong() {
        product("Boat", "panel");
        settings.changeProduct(mara, "boat", weighing(0, "placeholder", "off"));
        products.edit(
                mara,
                "boat",
                new ProductService.Definition(
                        0,
                        "Boat",
                        "panel",
                        List.of("panel", "quay"),
                        List.of(new ProductService.Selected("pl", 1)),
                        null));
        assertThat(found("")).isEmpty();
        products.remove(mara, "boat");
        assertThat(found("")).isEqualTo(Map.of("placeholder stops", 2));
    }

    private void product(String name, String table) {
        products.create(
                mara,
                new ProductService.Definition(
                        0, name, "panel", List.of(table), List.of(new ProductService.Selected("pl", 1)), null));
    }

    @Test
    void theWordbookIsFollowedWhereItsWordStands() {
        wordbook.add(mara, "en", "ramp", "", Map.of("pl", new TermText("trap", List.of("rampa"))));
        assertThat(found("")).containsEntry("term", 2);
        long id = wordbook.all().get(0).id();
        wordbook.change(mara, id, 0, "ramp", "", Map.of("pl", new TermText("rampa", List.of())));
        assertThat(found("")).doesNotContainKey("term");
        wordbook.change(mara, id, 1, "gate", "", Map.of("pl", new TermText("furtka", List.of())));
        assertThat(found("")).containsEntry("term", 1);
        wordbook.remove(mara, id);
        assertThat(found("")).doesNotContainKey("term");
    }

    @Test
    void aCharacterSetAndAFontTellLettersThatAreLacking() throws Exception {
        product("Boat", "panel");
        settings.changeProduct(mara, "boat", new CheckSettings(0, Map.of(), List.of(), "", 0, "", "windows-1252"));
        assertThat(found("table=panel")).containsEntry("letters stops", 1);
        settings.changeProduct(mara, "boat", new CheckSettings(1, Map.of(), List.of(), "", 0, "", ""));
        assertThat(found("table=panel")).doesNotContainKey("letters stops");
        fonts.put(mara, "boat", new LanguageTag("pl"), 16, Files.readAllBytes(FONT));
        assertThat(found("table=panel")).as("the font has no ź").containsEntry("letters stops", 1);
        ledger.run("update entry set max_width = 50 where key = 'low'");
        ledger.lookAgain();
        assertThat(found("table=panel")).containsEntry("length stops", 1);
        List<LetterReply> letters = fonts.letters("boat", new LanguageTag("pl")).used();
        assertThat(letters).extracting(LetterReply::letter).contains("ł", "ź").doesNotContain("ß");
        assertThat(letters.stream().filter(LetterReply::lacking))
                .singleElement()
                .satisfies(letter -> {
                    assertThat(letter.letter()).isEqualTo("ź");
                    assertThat(letter.code()).isEqualTo("U+017A");
                    assertThat(letter.where()).containsExactly("low");
                });
        assertThat(fonts.list("boat", new LanguageTag("pl"))).contains("ł");
        fonts.remove(mara, "boat", fonts.all("boat").get(0).id());
        assertThat(found("table=panel")).doesNotContainKey("length stops");
    }

    @Test
    void whatIsNoFontIsRefusedWithASentence() {
        product("Boat", "panel");
        assertThatThrownBy(() -> fonts.put(mara, "boat", null, 16, "wOFF no font at all".getBytes()))
                .hasMessageContaining("no TTF or OTF font");
        assertThatThrownBy(() -> fonts.put(mara, "boat", null, 1, new byte[20]))
                .hasMessageContaining("4 to 400 pixels");
        assertThatThrownBy(() -> fonts.put(mara, "boat", new LanguageTag("fi"), 16, new byte[20]))
                .hasMessageContaining("not shown in fi");
        assertThat(fonts.all("boat")).isEmpty();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "nothing|stop|||no kind of finding",
                "space|loud|||off, mind or stop",
                "space|stop|(|[a-z]+|no pattern",
                "space|stop|x*||matches nothing at all",
                "space|stop|x|(|no pattern",
            })
    void whatCannotBeMeantIsRefusedAndNothingIsKept(
            String kind, String weight, String pattern, String keys, String said) {
        CheckSettings wanted = new CheckSettings(
                0,
                Map.of(kind, weight),
                pattern == null ? List.of() : List.of(pattern),
                "",
                0,
                keys == null ? "" : keys,
                "");
        assertThatThrownBy(() -> settings.changeTable(mara, "panel", wanted)).hasMessageContaining(said);
        assertThat(settings.ofTable("panel").own()).isEqualTo(CheckSettings.NOTHING);
    }

    @Test
    void theSecondOfTwoChangesIsToldThatItIsLate() {
        settings.changeTable(mara, "panel", weighing(0, "space", "off"));
        assertThatThrownBy(() -> settings.changeTable(mara, "panel", weighing(0, "space", "stop")))
                .hasMessageContaining("meanwhile");
        assertThat(settings.ofTable("panel").own().weights()).isEqualTo(Map.of("space", "off"));
    }

    @Test
    void whatIsStoppedWaitsUntilSomebodyGoesOn() {
        ledger.run("insert into recheck (table_id, stopped, asked_at) values (" + ledger.table("Panel")
                + ", true, now())");
        assertThat(rechecks.state(List.of(ledger.table("Panel"))).stopped()).isEqualTo(1);
        rechecks.begin();
        assertThat(rechecks.state(List.of(ledger.table("Panel"))).stopped()).isEqualTo(1);
        rechecks.goOn(mara, List.of(ledger.table("Panel")));
        ledger.awaitRechecks();
        assertThat(rechecks.state(List.of(ledger.table("Panel"))).tables()).isZero();
    }
}
