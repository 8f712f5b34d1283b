package mellow.server.delivery;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import mellow.core.merge.Arrival;
import mellow.server.common.Refusal;
import mellow.server.entry.EntryService;
import mellow.server.product.ProductService.Definition;
import mellow.server.product.ProductService.Selected;
import mellow.server.run.RunService.RunReply;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** A panel is set up, delivered, changed, delivered again, compared and recalled. */
class DeliveryTest extends PanelCase {

    @Autowired
    private ProductAnswers answers;

    @Autowired
    private EntryService entries;

    private byte[] zip(int number) throws IOException {
        long id = deliveries.found("panel", number).id();
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        List<Packing.Packed> packed = files.of(id);
        Packing.zip(files.manifest(id, packed), packed, out);
        return out.toByteArray();
    }

    @Test
    void aPanelGetsAColumnPerLanguageItsSelectorsAndItsKeys() throws IOException {
        recipes.add(mara, "panel", "Texts", texts("csv", "one", "panel_texts.csv"));
        recipes.add(mara, "panel", "Selectors", kind("selectors", "csv", "languages.csv"));
        recipes.add(mara, "panel", "Keys", kind("keys", "c", "panel_keys.h"));
        delivered(1);
        Map<String, byte[]> files = content(1);
        assertThat(files.keySet()).containsExactly("languages.csv", "panel_keys.h", "panel_texts.csv");
        assertThat(new String(files.get("panel_texts.csv"), StandardCharsets.UTF_8))
                .isEqualTo(
                        """
                        key;fi;et;de;pl
                        ramp.up;Ramppi ylös;Ramp üles;Rampe hoch;Rampa w górę
                        ramp.down;Ramppi alas;Ramppi alas;Rampe runter;Rampa w dół
                        ramp.blocked;Auto tukkii rampin {side};Auto tõkestab rampi {side};Ein Auto blockiert die Rampe {side};Auto tukkii rampin {side}
                        tank.full;Säiliö täynnä;Paak täis;Tank voll;Zbiornik pełny
                        """
                                .replace("\n", "\r\n"));
        assertThat(new String(files.get("languages.csv"), StandardCharsets.UTF_8))
                .isEqualTo(
                        "number;tag;name;direction;start\r\n1;fi;suomi;ltr;1\r\n2;et;eesti;ltr;0\r\n3;de;Deutsch;ltr;0\r\n4;pl;polski;ltr;0\r\n");
        assertThat(new String(files.get("panel_keys.h"), StandardCharsets.UTF_8))
                .contains("#define PANEL_RAMP_UP 1 /* Ramp up */", "#define PANEL_TANK_FULL 4 /* Tank full, stop */");
        assertThat(
                        ledger.ask(
                                String.class,
                                "select string_agg(l.tag || t.texts, ' ' order by l.tag) from delivery_texts t join language l on l.id = t.language_id"))
                .as("those of its languages, and the source, which stands in for them")
                .isEqualTo("de4 en4 et3 fi4 pl3");
    }

    @Test
    void aPretendLanguageIsMadeFromTheSourceAndLacksNothing() throws IOException {
        products.edit(
                mara,
                "panel",
                new Definition(
                        0,
                        "Panel",
                        "panel",
                        List.of("ramp"),
                        List.of(new Selected("fi", 1), new Selected("en-XA", 2), new Selected("ar-XB", 3)),
                        "fi"));
        gates(new Gates("hold", 100, "hold", "go"));
        recipes.add(mara, "panel", "Texts", texts("csv", "one", "texts.csv"));
        delivered(1);
        String texts = new String(Objects.requireNonNull(content(1).get("texts.csv")), StandardCharsets.UTF_8);
        assertThat(texts)
                .contains("[Řàmþ üþ·")
                .contains("[À çàř ƀļöçķš".replace("ƀ", "b"))
                .contains("{side}")
                .contains("\u202ETank full, stop\u202C");
        assertThat(answers.borrowed("panel", "", "", 0).texts()).isEmpty();
        assertThat(answers.warnings("panel"))
                .extracting(ProductAnswers.ProductWarning::language)
                .doesNotContain("en-XA", "ar-XB");
    }

    @Test
    void deliveringTwiceGivesTheSameBytesAndOneChangedTextChangesOneLineOfOneFile() throws IOException {
        recipes.add(mara, "panel", "Texts", texts("csv", "each", "{tag}.csv"));
        recipes.add(mara, "panel", "Web", texts("json", "each", "json/{tag_}.json"));
        delivered(1);
        delivered(2);
        assertThat(zip(2)).isEqualTo(zip(1));
        assertThat(deliveries.found("panel", 2).reply().changed()).isZero();
        settle("tank.full", "de", "Tank ist voll");
        assertThat(deliveries.overview("panel").changed()).isEqualTo(1);
        delivered(3);
        Compared compared = deliveries.compare("panel", 2, 3);
        assertThat(compared.files())
                .containsExactly(
                        new Compared.FileChange("de.csv", "changed"),
                        new Compared.FileChange("json/de.json", "changed"));
        assertThat(compared.same()).isEqualTo(6);
        assertThat(compared.languages()).containsExactly(Map.entry("de", 1));
        assertThat(compared.texts()).singleElement().satisfies(change -> {
            assertThat(change.key()).isEqualTo("tank.full");
            assertThat(change.before()).containsEntry("other", "Tank voll");
            assertThat(change.after()).containsEntry("other", "Tank ist voll");
        });
        List<String> before = new String(content(2).get("de.csv"), StandardCharsets.UTF_8)
                .lines()
                .toList();
        List<String> after = new String(content(3).get("de.csv"), StandardCharsets.UTF_8)
                .lines()
                .toList();
        assertThat(after)
                .hasSameSizeAs(before)
                .filteredOn(line -> !before.contains(line))
                .containsExactly("tank.full;Tank ist voll");
        assertThat(deliveries.found("panel", 3).reply().changed()).isEqualTo(1);
    }

    @Test
    void whatTheNextOneWouldChangeIsSeenBeforeAndNothingIsKept() {
        recipes.add(mara, "panel", "Texts", texts("csv", "each", "{tag}.csv"));
        Compared first = deliveries.ahead(mara, "panel");
        assertThat(first.files()).extracting(Compared.FileChange::what).containsOnly("added");
        assertThat(first.languages()).containsKeys("fi", "et", "de");
        delivered(1);
        assertThat(deliveries.ahead(mara, "panel").files()).isEmpty();
        settle("tank.full", "de", "Tank ist voll");
        Compared ahead = deliveries.ahead(mara, "panel");
        assertThat(ahead.files()).containsExactly(new Compared.FileChange("de.csv", "changed"));
        assertThat(ahead.languages()).isEqualTo(Map.of("de", 1));
        assertThat(ahead.texts()).singleElement().satisfies(text -> {
            assertThat(text.key()).isEqualTo("tank.full");
            assertThat(text.after()).containsEntry("other", "Tank ist voll");
            assertThat(text.before()).isNotNull().doesNotContainEntry("other", "Tank ist voll");
        });
        assertThat(deliveries.history("panel", Integer.MAX_VALUE)).hasSize(1);
        delivered(2);
        assertThat(deliveries.compare("panel", 1, 2)).isEqualTo(ahead);
    }

    @Test
    void whatTheCharacterSetLacksStopsWithTheKeyTheLanguageAndTheLetters() throws IOException {
        RecipeBuilder polish = of("csv", "each", "{tag}.csv").in("pl");
        recipes.add(
                mara,
                "panel",
                "West",
                of("csv", "one", "west.csv")
                        .charset("windows-1252")
                        .in("fi", "et", "de")
                        .build());
        recipes.add(mara, "panel", "East", polish.charset("windows-1250").build());
        delivered(1);
        assertThat(new String(content(1).get("west.csv"), Charset.forName("windows-1252")))
                .contains("Auto tõkestab rampi {side}", "Säiliö täynnä");
        assertThat(new String(content(1).get("pl.csv"), Charset.forName("windows-1250")))
                .contains("Rampa w górę");
        Recipe.RecipeSettings wrong = polish.charset("windows-1252").build();
        Recipe east = recipes.of(products.find("panel").id()).get(1);
        recipes.edit(mara, "panel", new Recipe(east.id(), east.name(), wrong, true, east.version()));
        RunReply run = deliver();
        assertThat(run.status()).isEqualTo("failed");
        assertThat(run.message()).isEqualTo("ramp.up in pl has letters that windows-1252 lacks: ę.");
        assertThat(deliveries.history("panel", Integer.MAX_VALUE))
                .as("nothing half")
                .hasSize(1);
        assertThatThrownBy(() -> deliveries.example("panel", wrong))
                .isInstanceOf(Refusal.class)
                .hasMessageContaining("windows-1252");
    }

    @Test
    void aLanguageThatWouldBreakKeepsTheTextsOfTheLastDelivery() throws IOException {
        recipes.add(mara, "panel", "Texts", texts("csv", "each", "{tag}.csv"));
        delivered(1);
        ledger.takeIn(mara, "Ramp", "key,limit,en\nramp.blocked,30,A car blocks the {side} ramp\n", Arrival.SETTLED);
        settle("ramp.up", "de", "Rampe anheben");
        settle("ramp.up", "fi", "Nosta ramppi");
        assertThat(deliveries.overview("panel").languages())
                .filteredOn(one -> one.language().equals("de"))
                .singleElement()
                .satisfies(one -> assertThat(one.answer()).isEqualTo("held"));
        delivered(2);
        assertThat(content(2).get("de.csv")).isEqualTo(content(1).get("de.csv"));
        assertThat(new String(content(2).get("fi.csv"), StandardCharsets.UTF_8)).contains("Nosta ramppi");
        gates(new Gates("stop", 0, "hold", "go"));
        assertThat(deliver().message()).isEqualTo("de stops the delivery: 1 text would break.");
        gates(new Gates("out", 0, "hold", "go"));
        delivered(3);
        assertThat(new String(content(3).get("de.csv"), StandardCharsets.UTF_8))
                .contains("Rampe anheben", "ramp.blocked;Auto tukkii rampin {side}");
    }

    @Test
    void aStartLanguageThatWouldBeHeldBackStopsEverything() {
        recipes.add(mara, "panel", "Texts", texts("csv", "each", "{tag}.csv"));
        ledger.takeIn(mara, "Ramp", "key,limit,en\ntank.full,15,\"Tank full, stop\"\n", Arrival.SETTLED);
        ledger.takeIn(mara, "Ramp", "key,limit,en\nramp.up,8,Ramp up\n", Arrival.SETTLED);
        assertThat(deliver().message()).isEqualTo("fi would be held back, and Panel starts in it: 1 text would break.");
    }

    @Test
    void staleTextsGoOutUnlessAGateOrARecipeSaysOtherwise() throws IOException {
        recipes.add(mara, "panel", "Texts", texts("csv", "each", "{tag}.csv"));
        recipes.add(
                mara,
                "panel",
                "Fresh",
                of("csv", "each", "fresh/{tag}.csv").going("fresh").hole("key").build());
        int version = ledger.ask(Integer.class, "select version from entry where key = 'ramp.down'");
        entries.rewrite(
                mara, ledger.entry("ramp.down"), version, new TreeMap<>(Map.of("other", "Ramp fully down")), true);
        delivered(1);
        assertThat(new String(content(1).get("de.csv"), StandardCharsets.UTF_8)).contains("ramp.down;Rampe runter");
        assertThat(new String(content(1).get("fresh/de.csv"), StandardCharsets.UTF_8))
                .contains("ramp.down;ramp.down");
        gates(new Gates("hold", 0, "hold", "hole"));
        delivered(2);
        assertThat(new String(content(2).get("de.csv"), StandardCharsets.UTF_8)).contains("ramp.down;Ramp fully down");
        gates(new Gates("hold", 0, "hold", "hold"));
        assertThat(deliver().message()).startsWith("fi would be held back, and Panel starts in it: 1 is stale");
    }

    @Test
    void numbersAreGivenOnceAndNeverToAnother() throws IOException {
        recipes.add(mara, "panel", "Keys", kind("keys", "c", "keys.h"));
        delivered(1);
        entries.remove(mara, List.of(ledger.entry("ramp.down")));
        ledger.takeIn(mara, "Ramp", "key,en\nramp.new,New ramp\n", Arrival.SETTLED);
        delivered(2);
        assertThat(new String(content(2).get("keys.h"), StandardCharsets.UTF_8))
                .contains("PANEL_RAMP_UP 1", "PANEL_RAMP_BLOCKED 3", "PANEL_TANK_FULL 4", "PANEL_RAMP_NEW 5")
                .doesNotContain("RAMP_DOWN");
    }

    @Test
    void aRecalledDeliveryIsNoMoreTheLast() {
        recipes.add(mara, "panel", "Texts", texts("json", "each", "{tag}.json"));
        delivered(1);
        delivered(2);
        deliveries.recall(mara, "panel", 2, "wrong start number");
        assertThat(deliveries.overview("panel").last())
                .satisfies(last -> assertThat(last.number()).isEqualTo(1));
        assertThat(deliveries.found("panel", 2).reply().recalled()).isEqualTo("wrong start number");
        assertThatThrownBy(() -> deliveries.recall(mara, "panel", 2, "again")).hasMessageContaining("already");
        delivered(3);
    }

    @Test
    void whoSeesThatNothingIsGoingOnSeesWhatCameOfIt() {
        recipes.add(mara, "panel", "Texts", texts("csv", "each", "{tag}.csv"));
        for (int number = 1; number <= 15; number++) {
            deliveries.start(mara, "panel");
            DeliveryService.DeliveryOverview seen = deliveries.overview("panel");
            while (seen.run() != null) {
                assertThat(seen.run().open()).as(seen.run().message()).isTrue();
                seen = deliveries.overview("panel");
            }
            assertThat(seen.nextNumber()).isEqualTo(number + 1);
            assertThat(seen.last()).isNotNull();
        }
    }
}
