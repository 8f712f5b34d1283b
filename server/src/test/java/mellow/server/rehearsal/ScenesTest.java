package mellow.server.rehearsal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.entry.Description;
import mellow.server.entry.EntryService;
import mellow.server.finding.FontService;
import mellow.server.people.Level;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.Definition;
import mellow.server.product.ProductService.Selected;
import mellow.server.rehearsal.Rehearsal.Stage;
import mellow.server.rehearsal.Rehearsal.Wanted;
import mellow.server.rehearsal.SceneService.SceneReply;
import mellow.server.rehearsal.SceneService.ScenesAdded;
import mellow.server.rehearsal.SceneService.ShownOn;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Scenes of a product, and what stands at their places. */
class ScenesTest extends ServerTest {

    private static final String BOW =
            """
            <svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 480 270">
              <rect x="0" y="0" width="480" height="40"/><text x="14" y="26" font-size="14">#ramp.title#</text>
              <rect x="240" y="50" width="200" height="44"/><text x="340" y="76" text-anchor="middle" font-size="14" data-with='{"n": 2}'>#ramp.lower#</text>
              <text x="14" y="200" data-width="90" data-lines="2" font-size="14">#ramp.blocked#</text>
              <text x="14" y="240" font-size="14">#ramp.gone#</text>
              <script>alert(1)</script>
            </svg>
            """;

    @Autowired
    private SceneService scenes;

    @Autowired
    private Rehearsal rehearsal;

    @Autowired
    private ProductService products;

    @Autowired
    private FontService fonts;

    @Autowired
    private EntryService entries;

    private long mara;

    @BeforeEach
    void aPanel() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(
                mara,
                "Ramp",
                """
                key,en,fi,pl
                ramp.title,Bow ramp,Keularamppi,Rampa dziobowa
                ramp.lower,Lower ramp {n}? Hold for 3 s,Lasketaanko ramppi {n}? Pidä alhaalla 3 s,
                ramp.blocked,Ramp blocked by a vehicle,Ajoneuvo tukkii rampin,Rampa zablokowana
                """,
                Arrival.SETTLED);
        for (String language : List.of("fi", "pl")) {
            ledger.allowOwn("Ramp", language);
        }
        products.create(
                mara,
                new Definition(
                        0,
                        "Panel",
                        "panel",
                        List.of("ramp"),
                        List.of(new Selected("fi", 1), new Selected("pl", 4)),
                        "fi"));
    }

    private SceneReply add(String name, String file, Integer replaces) {
        return scenes.add(mara, "panel", name, file.getBytes(StandardCharsets.UTF_8), replaces, false)
                .scenes()
                .get(0);
    }

    private List<PlaceText> texts(long scene, String language, Play play, Map<String, String> with) {
        List<Stage> stages = rehearsal
                .play("panel", scene, new Wanted(List.of(new LanguageTag(language)), play, with))
                .stages();
        assertThat(stages).hasSize(1);
        return stages.get(0).texts();
    }

    private static List<String> shown(List<PlaceText> texts) {
        return texts.stream().map(text -> String.join("/", text.lines())).toList();
    }

    private static List<String> codes(PlaceText text) {
        return text.findings().stream().map(SceneFinding::code).toList();
    }

    @Test
    void aSceneShowsTheTextsOfALanguageAndWhatIsBorrowed() {
        ScenesAdded added = scenes.add(mara, "panel", " Bow ", BOW.getBytes(StandardCharsets.UTF_8), null, false);
        SceneReply bow = added.scenes().get(0);
        assertThat(bow).isEqualTo(new SceneReply(bow.id(), "Bow", 1, 4, 1, false));
        assertThat(added.leftOut())
                .singleElement()
                .asString()
                .contains("script")
                .contains("line 6");
        List<PlaceText> finnish = texts(bow.id(), "fi", Play.WRITTEN, Map.of());
        assertThat(shown(finnish))
                .containsExactly(
                        "Keularamppi",
                        "Lasketaanko ramppi 2? Pidä alhaalla 3 s",
                        "Ajoneuvo tukkii rampin",
                        "ramp.gone");
        assertThat(codes(finnish.get(3))).containsExactly("no-entry");
        List<PlaceText> polish = texts(bow.id(), "pl", Play.WRITTEN, Map.of("n", "7"));
        assertThat(shown(polish))
                .containsExactly(
                        "Rampa dziobowa", "Lasketaanko ramppi 7? Pidä alhaalla 3 s", "Rampa zablokowana", "ramp.gone");
        assertThat(polish.get(1).borrowed()).isTrue();
        assertThat(polish.get(1).findings()).containsExactly(SceneFinding.mind("borrowed", Map.of("language", "fi")));
        assertThat(shown(texts(bow.id(), "pl", Play.KEYS, Map.of())))
                .containsExactly("ramp.title", "ramp.lower", "ramp.blocked", "ramp.gone");
    }

    @Test
    void onlyWhatIsSettledStandsInWhatWouldBeDelivered() {
        long scene = add("Bow", BOW, null).id();
        ledger.takeIn(mara, "Later", "key,en,fi\nramp.extra,Extra,Lisä\n", Arrival.PENCILLED);
        products.edit(
                mara,
                "panel",
                new Definition(
                        0,
                        "Panel",
                        "panel",
                        List.of("ramp", "later"),
                        List.of(new Selected("fi", 1), new Selected("pl", 4)),
                        "fi"));
        scene = add("Bow", BOW.replace("ramp.gone", "ramp.extra"), 1).id();
        assertThat(shown(texts(scene, "fi", Play.WRITTEN, Map.of())).get(3)).isEqualTo("Lisä");
        assertThat(shown(texts(scene, "fi", Play.SETTLED, Map.of())).get(3)).isEqualTo("Extra");
    }

    @Test
    void theNewestOfferIsSeenWhereItWouldStand() {
        long scene = add("Bow", BOW, null).id();
        long lina = ledger.person("lina", "pl", Level.CONTRIBUTOR);
        offer(lina, "Opuścić?");
        offer(lina, "Opuścić rampę {n}?");
        assertThat(shown(texts(scene, "pl", Play.OFFERED, Map.of()))).contains("Opuścić rampę 2?");
        assertThat(shown(texts(scene, "pl", Play.WRITTEN, Map.of()))).doesNotContain("Opuścić rampę 2?");
    }

    private void offer(long person, String text) {
        int version = ledger.ask(
                Integer.class,
                "select coalesce(max(version), 0) from cell where entry_id = " + ledger.entry("ramp.lower")
                        + " and language_id = (select id from language where tag = 'pl')");
        ledger.change(
                person, "ramp.lower", "pl", new CellChange(Action.PUT_FORWARD, version, text, null, null, false, null));
    }

    @Test
    void theFontTellsWhatDoesNotFitAndWhichLettersItLacks() throws Exception {
        fonts.put(mara, "panel", null, 14, Files.readAllBytes(Path.of("../demo/ramp-panel.ttf")));
        long scene = add("Bow", BOW, null).id();
        List<PlaceText> finnish = texts(scene, "fi", Play.WRITTEN, Map.of());
        assertThat(codes(finnish.get(0))).isEmpty();
        assertThat(codes(finnish.get(1))).containsExactly("too-wide");
        assertThat(finnish.get(1).findings().get(0).values()).containsEntry("most", 192);
        assertThat(finnish.get(2).lines())
                .as("broken into the lines of its place")
                .hasSizeGreaterThan(1);
        assertThat(codes(texts(scene, "en-XA", Play.WRITTEN, Map.of()).get(1))).contains("too-wide");
    }

    @Test
    void pretendLanguagesAreMadeFromTheSource() {
        long scene = add("Bow", BOW, null).id();
        Stage longer = rehearsal
                .play("panel", scene, new Wanted(List.of(new LanguageTag("en-XA")), Play.SETTLED, Map.of()))
                .stages()
                .get(0);
        assertThat(longer.pretend()).isTrue();
        assertThat(longer.texts().get(1).lines().get(0))
                .startsWith("[Ĺ".replace("Ĺ", "Ļ"))
                .contains("2?")
                .endsWith("]");
        assertThat(codes(longer.texts().get(1))).isEmpty();
        Stage turned = rehearsal
                .play("panel", scene, new Wanted(List.of(new LanguageTag("ar-XB")), Play.SETTLED, Map.of()))
                .stages()
                .get(0);
        assertThat(turned.rightToLeft()).isTrue();
        assertThat(turned.texts().get(0).lines().get(0)).isEqualTo("\u202EBow ramp\u202C");
    }

    @Test
    void aPlaceFollowsItsEntryThroughARenaming() {
        long scene = add("Bow", BOW, null).id();
        long entry = ledger.entry("ramp.title");
        entries.describe(
                mara,
                entry,
                ledger.ask(Integer.class, "select version from entry where id = " + entry),
                new Description("bow.title", "", "", "", "", 0, 0, 0, List.of(), true));
        PlaceText title = texts(scene, "fi", Play.WRITTEN, Map.of()).get(0);
        assertThat(title.key()).isEqualTo("bow.title");
        assertThat(title.lines()).containsExactly("Keularamppi");
        assertThat(scenes.showing(entry)).containsExactly(new ShownOn("panel", "Panel", scene, "Bow", 1, null));
    }

    @Test
    void aDrawingIsReplacedOnlyByWhoeverSawTheLastOne() {
        SceneReply first = add("Bow", BOW, null);
        assertThatThrownBy(() -> add("bow", BOW, null)).hasMessageContaining("another name");
        assertThat(add("Bow", BOW.replace("ramp.gone", "ramp.title"), 1))
                .isEqualTo(new SceneReply(first.id(), "Bow", 2, 4, 0, false));
        assertThatThrownBy(() -> add("Bow", BOW, 1)).hasMessageContaining("meanwhile");
        assertThat(ledger.ask(Integer.class, "select count(*)::int from scene_drawing"))
                .as("the first is kept")
                .isEqualTo(2);
        assertThatThrownBy(() -> scenes.remove(mara, "panel", first.id(), 1)).hasMessageContaining("meanwhile");
        scenes.remove(mara, "panel", first.id(), 2);
        assertThat(scenes.all("panel")).isEmpty();
        assertThatThrownBy(() -> texts(first.id(), "fi", Play.WRITTEN, Map.of()))
                .hasMessageContaining("no such scene");
        assertThat(add("Bow", BOW, null).version()).isEqualTo(1);
    }

    @Test
    void whatIsNoSceneLeavesNothingBehind() {
        for (String file : List.of(
                "", "<svg/>", "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 9 9\"><rect></svg>", "\0")) {
            assertThatThrownBy(() -> add("Bow", file, null)).as(file).hasMessageContaining("Bow");
        }
        for (String name : Arrays.asList(" ", "x".repeat(201), "a\0b")) {
            assertThatThrownBy(() -> add(name, BOW, null)).hasMessageContaining("1 to 200");
        }
        assertThat(ledger.ask(Integer.class, "select count(*)::int from scene")).isZero();
    }

    @Test
    void languagesThatTheProductDoesNotShowAreRefused() {
        long scene = add("Bow", BOW, null).id();
        assertThatThrownBy(() -> texts(scene, "ja", Play.WRITTEN, Map.of())).hasMessageContaining("not shown in ja");
        assertThat(shown(texts(scene, "en", Play.WRITTEN, Map.of())).get(0)).isEqualTo("Bow ramp");
        assertThat(rehearsal
                        .play("panel", scene, new Wanted(List.of(), Play.WRITTEN, Map.of()))
                        .stages()
                        .get(0)
                        .language())
                .as("where it starts")
                .isEqualTo("fi");
        List<LanguageTag> five = List.of("fi", "pl", "en", "en-XA", "ar-XB").stream()
                .map(LanguageTag::new)
                .toList();
        assertThatThrownBy(() -> rehearsal.play("panel", scene, new Wanted(five, Play.WRITTEN, Map.of())))
                .hasMessageContaining("At most 4");
    }

    @Test
    void onlyACoordinatorChangesScenes() {
        long lina = ledger.person("lina", "fi", Level.CONTRIBUTOR);
        assertThatThrownBy(() -> scenes.add(lina, "panel", "Bow", BOW.getBytes(StandardCharsets.UTF_8), null, false))
                .hasMessageContaining("coordinator");
        SceneReply scene = add("Bow", BOW, null);
        assertThatThrownBy(() -> scenes.remove(lina, "panel", scene.id(), 1)).hasMessageContaining("coordinator");
    }
}
