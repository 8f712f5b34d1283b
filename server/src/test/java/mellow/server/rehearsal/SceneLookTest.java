package mellow.server.rehearsal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.CompletableFuture;
import java.util.stream.Stream;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.core.text.Shape;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.entry.Description;
import mellow.server.entry.EntryService;
import mellow.server.finding.FontService;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.Definition;
import mellow.server.product.ProductService.Selected;
import mellow.server.rehearsal.Rehearsal.Played;
import mellow.server.rehearsal.Rehearsal.Wanted;
import mellow.server.rehearsal.SceneLook.SceneCounts;
import mellow.server.rehearsal.SceneLook.SceneFindings;
import mellow.server.rehearsal.SceneService.ShownOn;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** What is kept of scenes is what is there now, whichever way it changed. */
class SceneLookTest extends ServerTest {

    private static final String BOW =
            """
            <svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 480 270">
              <text x="14" y="26" font-size="14" data-width="100">#ramp.title#</text>
              <text x="14" y="76" font-size="14" data-width="100">#ramp.lower#</text>
              <text x="14" y="126" font-size="14" data-width="100">#ramp.later#</text>
            </svg>
            """;
    private static final Definition PANEL = new Definition(
            0, "Panel", "panel", List.of("ramp"), List.of(new Selected("fi", 1), new Selected("pl", 4)), "fi");

    @Autowired
    private SceneService scenes;

    @Autowired
    private SceneLook look;

    @Autowired
    private ProductService products;

    @Autowired
    private FontService fonts;

    @Autowired
    private EntryService entries;

    @Autowired
    private Rehearsal rehearsal;

    @Autowired
    private Http http;

    private long mara;
    private long bow;
    private long font;

    @BeforeEach
    void aPanelWithAFont() throws Exception {
        mara = ledger.coordinator("mara");
        ledger.takeIn(
                mara,
                "Ramp",
                """
                key,en,fi,pl
                ramp.title,Bow ramp,Keula,Rampa
                ramp.lower,Lower ramp now,Lasketaanko ramppi alas,
                """,
                Arrival.SETTLED);
        ledger.allowOwn("Ramp", "pl");
        ledger.allowOwn("Ramp", "fi");
        products.create(mara, PANEL);
        font = fonts.put(mara, "panel", null, 14, Files.readAllBytes(Path.of("../demo/ramp-panel.ttf")))
                .get(0)
                .id();
        bow = draw(BOW, null);
    }

    private long draw(String drawing, Integer replaces) {
        return draw(drawing, "Bow", replaces);
    }

    private long draw(String drawing, String name, Integer replaces) {
        return scenes.add(mara, "panel", name, drawing.getBytes(StandardCharsets.UTF_8), replaces, false)
                .scenes()
                .get(0)
                .id();
    }

    /** "fi 2 too-wide", in the order of the list. */
    private List<String> found() {
        look.bringUpToDate("panel");
        return look.found("panel", 0).found().stream()
                .map(one ->
                        one.language() + " " + one.place() + " " + one.finding().code())
                .toList();
    }

    private void say(String key, String language, int version, String text) {
        ledger.change(mara, key, language, new CellChange(Action.PUT_FORWARD, version, text, null, null, false, null));
    }

    @Test
    void everyLanguageOfTheProductIsLookedAt() {
        assertThat(found())
                .containsExactly("fi 2 too-wide", "fi 3 no-entry", "pl 2 too-wide", "pl 3 no-entry", "pl 2 borrowed");
        assertThat(look.found("panel", 0).counts())
                .containsExactly(new SceneCounts(bow, "fi", 2, 0), new SceneCounts(bow, "pl", 2, 0));
        assertThat(look.found("panel", bow + 1).found()).isEmpty();
    }

    @Test
    void whatIsMendedIsGoneAndWhatIsBrokenIsThere() {
        assertThat(found()).contains("fi 2 too-wide").doesNotContain("fi 1 too-wide");
        say("ramp.lower", "fi", 1, "Alas");
        assertThat(found()).doesNotContain("fi 2 too-wide", "pl 2 too-wide").contains("pl 2 borrowed");
        say("ramp.title", "fi", 1, "Keularamppi on hyvin pitkä");
        assertThat(found()).contains("fi 1 too-wide");
    }

    @Test
    void whateverTheFindingsHangOnBringsANewLook() {
        found();
        ledger.takeIn(mara, "Later", "key,en,fi\nramp.later,Later,Myöhemmin\n", Arrival.SETTLED);
        Definition more = new Definition(
                0,
                "Panel",
                "panel",
                List.of("ramp", "later"),
                List.of(new Selected("fi", 1), new Selected("de", 2)),
                "fi");
        products.edit(mara, "panel", more);
        assertThat(found())
                .as("another table and another language")
                .contains("de 1 borrowed", "de 3 borrowed")
                .doesNotContain("fi 3 no-entry", "pl 2 borrowed");
        entries.remove(mara, List.of(ledger.entry("ramp.title")));
        assertThat(found()).as("an entry that went").contains("fi 1 no-entry");
        draw(BOW.replace("data-width=\"100\"", "data-width=\"400\""), 1);
        assertThat(found()).as("another drawing").noneMatch(one -> one.endsWith("too-wide"));
        fonts.remove(mara, "panel", font);
        draw(BOW, 2);
        assertThat(found()).as("without a font nothing is measured").noneMatch(one -> one.endsWith("too-wide"));
        scenes.remove(mara, "panel", bow, 3);
        assertThat(found()).isEmpty();
    }

    @Test
    void nothingIsWrittenWhereNothingChanged() {
        found();
        String before = ledger.ask(
                String.class,
                "select string_agg(xmin::text, ',' order by scene_id, place, number, language_id) from scene_finding");
        found();
        assertThat(
                        ledger.ask(
                                String.class,
                                "select string_agg(xmin::text, ',' order by scene_id, place, number, language_id) from scene_finding"))
                .isEqualTo(before);
    }

    @Test
    void manyAtOnceLookOnce() {
        Stream.generate(() -> CompletableFuture.runAsync(() -> look.bringUpToDate("panel")))
                .limit(6)
                .toList()
                .forEach(CompletableFuture::join);
        SceneFindings found = look.found("panel", 0);
        assertThat(found.found()).hasSize(5);
        assertThat(found.more()).isFalse();
    }

    @Test
    void theLedgerKnowsWhatIsToBeMendedWhereItIsShown() throws Exception {
        found();
        assertThat(http.get(mara, "/api/scope?table=ramp&in=fi&check=scene")
                        .body()
                        .path("deltas"))
                .singleElement()
                .satisfies(first -> assertThat(first.asLong()).isEqualTo(ledger.entry("ramp.lower")));
        draw(
                "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 9 9\"><text y=\"5\">#ramp.lower#</text></svg>",
                "Stern",
                null);
        assertThat(http.get(mara, "/api/rows?in=fi&ids=" + ledger.entry("ramp.lower"))
                        .body()
                        .path(0)
                        .path("scenes")
                        .asInt())
                .as("on how many scenes it is used")
                .isEqualTo(2);
    }

    @Test
    void everyEntryOfAListIsLookedAtAndShownWhereItIsChosen() {
        ledger.takeIn(
                mara,
                "Ramp",
                """
                key,en,fi
                alarm.fire,Fire,Tuli
                alarm.flood,Water in the engine room now,Vettä konehuoneessa nyt
                alarm.gone,Gone,Mennyt
                """,
                Arrival.SETTLED);
        long alarms = draw(
                "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 480 270\"><text data-width=\"60\" data-entry=\"alarm.fire\" data-list=\"alarm.\"/></svg>",
                "Alarms",
                null);
        look.bringUpToDate("panel");
        assertThat(look.found("panel", alarms).found().stream()
                        .filter(one -> one.finding().wrong())
                        .map(one -> one.language() + " " + one.key()))
                .containsExactly("fi alarm.flood", "pl alarm.flood");
        assertThat(look.found("panel", 0).counts()).contains(new SceneCounts(alarms, "fi", 1, 0));
        long flood = ledger.entry("alarm.flood");
        assertThat(scenes.showing(flood))
                .extracting(ShownOn::name, ShownOn::place, ShownOn::listed)
                .containsExactly(tuple("Alarms", 1, "alarm.flood"));
        assertThat(scenes.showing(ledger.entry("alarm.fire")))
                .extracting(ShownOn::listed)
                .containsOnlyNulls();
        Played played = rehearsal.play("panel", alarms, chosen(Map.of(1, "alarm.flood")));
        assertThat(played.choices())
                .containsExactly(new PlaceChoice(
                        1, "alarm.", true, List.of("alarm.fire", "alarm.flood", "alarm.gone"), "alarm.flood"));
        assertThat(played.stages().get(0).texts().get(0).entry()).isEqualTo(flood);
        assertThat(rehearsal
                        .play("panel", alarms, chosen(Map.of(1, "ramp.title")))
                        .choices()
                        .get(0)
                        .now())
                .as("what is not in the list cannot stand there")
                .isEqualTo("alarm.fire");
        say("alarm.flood", "fi", 1, "Vesi");
        assertThat(found()).as("a change of a listed one brings a new look").doesNotContain("fi 1 too-wide");
    }

    @Test
    void aLampIsPutIntoAnyOfItsStates() {
        entries.create(
                mara,
                "ramp",
                Shape.STATES,
                new Description("lamp", "", "", "", "", 0, 0, null, List.of(), true),
                new TreeMap<>(Map.of("0", "Off", "1", "On")),
                null);
        long lamp = draw(
                "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 9 9\"><text data-entry=\"lamp\" data-state=\"0\"/></svg>",
                "Lamp",
                null);
        Played played = rehearsal.play("panel", lamp, chosen(Map.of(1, "1")));
        assertThat(played.choices()).containsExactly(new PlaceChoice(1, "lamp", false, List.of("0", "1"), "1"));
        assertThat(played.stages().get(0).texts().get(0).lines()).containsExactly("On");
    }

    private static Wanted chosen(Map<Integer, String> chosen) {
        return new Wanted(List.of(new LanguageTag("fi")), Play.WRITTEN, Map.of(), null, null, 100, chosen);
    }
}
