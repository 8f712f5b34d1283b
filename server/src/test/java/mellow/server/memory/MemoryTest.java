package mellow.server.memory;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import java.util.List;
import mellow.core.language.LanguageTag;
import mellow.core.memory.Adaptation.Substitution;
import mellow.core.merge.Arrival;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

class MemoryTest extends ServerTest {

    private static final LanguageTag GERMAN = new LanguageTag("de");

    @Autowired
    private MemoryService memory;

    private long mara;

    @BeforeEach
    void tables() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(
                mara,
                "Ramp",
                "key,en,de\nramp,Ramp blocked by vehicle,\ndoor,Door blocked by vehicle,Tor durch Fahrzeug blockiert\nlift,Lift blocked by vehicle,Lift durch Fahrzeug blockiert\nother,Lifeboat drill at nine,Bootsübung um neun\n",
                Arrival.SETTLED);
        ledger.takeIn(
                mara,
                "Deck",
                "key,en,de\nsame,Ramp blocked by vehicle,Rampe durch Fahrzeug blockiert\n",
                Arrival.SETTLED);
        ledger.takeIn(mara, "Draft", "key,en,de\ndraft,Ramp blocked by vehicle,Entwurf\n", Arrival.PENCILLED);
    }

    private List<String> hits(String key) {
        return memory.hits(ledger.entry(key), GERMAN).stream()
                .map(hit -> (hit.percent() == 100 ? "100 " : "") + hit.text())
                .toList();
    }

    @Test
    void findsWhatIsSettledForTheSameAndSimilarSourcesInAllTables() {
        assertThat(hits("ramp"))
                .containsExactly(
                        "100 Rampe durch Fahrzeug blockiert",
                        "Tor durch Fahrzeug blockiert",
                        "Lift durch Fahrzeug blockiert");
        assertThat(memory.hits(ledger.entry("ramp"), GERMAN).get(1).percent()).isBetween(75, 90);
        assertThat(hits("other")).isEmpty();
    }

    @Test
    void tellsTheSameTextForTheSameSourceOnce() {
        ledger.takeIn(
                mara,
                "Deck",
                "key,en,de\nagain,Ramp blocked by vehicle,Rampe durch Fahrzeug blockiert\n",
                Arrival.SETTLED);
        assertThat(hits("ramp")).filteredOn(hit -> hit.startsWith("100")).hasSize(1);
    }

    @Test
    void adaptsNumbersAndPlaceholdersAndSaysSo() {
        ledger.takeIn(
                mara,
                "Deck",
                "key,en,de\nfive,Deck 5 is closed,Deck 5 ist geschlossen\nsix,Deck 6 is closed,Deck 6 ist geschlossen\nseven,Deck 7 is closed,\nfifth,Deck 5 was closed,Das fünfte Deck war geschlossen\n",
                Arrival.SETTLED);
        List<MemoryHit> hits = memory.hits(ledger.entry("seven"), GERMAN);
        assertThat(hits)
                .as("what several become is told once")
                .extracting(MemoryHit::text, MemoryHit::adapted)
                .containsExactly(
                        tuple("Deck 7 ist geschlossen", List.of(new Substitution("5", "7"))),
                        tuple("Das fünfte Deck war geschlossen", List.of()));
        assertThat(hits.get(0).source()).as("the source is as it was").isEqualTo("Deck 5 is closed");
    }

    @Test
    void knowsNothingOfOtherLanguages() {
        ledger.takeIn(mara, "Ramp", "key,fi\ndoor,Ovi\n", Arrival.SETTLED);
        assertThat(memory.hits(ledger.entry("ramp"), new LanguageTag("fi")))
                .extracting(MemoryHit::text)
                .containsExactly("Ovi");
    }
}
