package mellow.server.replace;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;
import mellow.core.merge.Arrival;
import mellow.core.replace.Replacement.Wanted;
import mellow.server.entry.EntryService;
import mellow.server.entry.EntryService.Changed;
import mellow.server.entry.EntryService.Rewritten;
import mellow.server.entry.EntryUndo;
import mellow.server.replace.ReplaceService.Found;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

class ReplaceTest extends ServerTest {

    @Autowired
    private ReplaceService replace;

    @Autowired
    private EntryService entries;

    @Autowired
    private EntryUndo undoing;

    private long mara;

    @BeforeEach
    void aTable() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(
                mara,
                "Panel",
                "key,section,en,de\nup,Bow,Ramp up,Rampe oben\ndown,Bow,Ramp {Ramp} down,Rampe {Ramp} unten\nhatch,Stern,The ramp hatch,Luke\n",
                Arrival.SETTLED);
    }

    private Found find(String scope, String language, String find, String with) {
        return replace.find(scope, language, new Wanted(find, with, false, false, false));
    }

    private static List<String> told(Found found) {
        List<String> told = new ArrayList<>();
        found.hits().forEach(hit -> told.add(hit.key() + ": " + hit.after().get("other")));
        return told;
    }

    @Test
    void looksThroughTheScopeOnlyAndLeavesPlaceholders() {
        assertThat(told(find("table=panel&in=de", "de", "rampe", "Klappe")))
                .containsExactly("up: Klappe oben", "down: Klappe {Ramp} unten");
        assertThat(told(find("table=panel&in=de", null, "ramp", "flap")))
                .containsExactly("up: flap up", "down: flap {Ramp} down", "hatch: The flap hatch");
        assertThat(told(find("table=panel&in=de&section=Stern", null, "ramp", "flap")))
                .containsExactly("hatch: The flap hatch");
        assertThat(told(find("table=panel&in=de&words=rampe%20oben", "de", "oben", "hoch")))
                .containsExactly("up: Rampe hoch");
        assertThat(find("table=panel&in=de", "de", "nirgends", "x").all()).isZero();
    }

    @Test
    void saysWhatIsWrongWithAPattern() {
        assertThatThrownBy(() -> replace.find("table=panel&in=de", "de", new Wanted("(", "x", true, false, false)))
                .hasMessageContaining("The pattern cannot be read at character");
    }

    @Test
    void sourcesAreRewrittenTogetherAndTakenBackTogether() {
        List<Rewritten> sources = find("table=panel&in=de", null, "ramp", "flap").hits().stream()
                .map(hit -> new Rewritten(hit.entry(), hit.version(), new TreeMap<>(hit.after())))
                .toList();
        Changed done = entries.rewriteMany(mara, sources, true);
        assertThat(ledger.ask(String.class, "select string_agg(source, ';' order by position) from entry"))
                .isEqualTo("flap up;flap {Ramp} down;The flap hatch");
        assertThat(ledger.cell("up", "de")).isEqualTo("stale Rampe oben");
        undoing.undo(mara, done.change());
        assertThat(ledger.ask(String.class, "select string_agg(source, ';' order by position) from entry"))
                .isEqualTo("Ramp up;Ramp {Ramp} down;The ramp hatch");
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe oben");
    }

    @Test
    void aSourceThatMovedOnMeanwhileStays() {
        List<Rewritten> sources = find("table=panel&in=de", null, "ramp", "flap").hits().stream()
                .map(hit -> new Rewritten(hit.entry(), hit.version(), new TreeMap<>(hit.after())))
                .toList();
        TreeMap<String, String> other = new TreeMap<>();
        other.put("other", "Ramp is up");
        entries.rewrite(mara, ledger.entry("up"), sources.get(0).version(), other, false);
        Changed done = entries.rewriteMany(mara, sources, false);
        assertThat(done.refused()).singleElement().asString().contains("up was changed by someone else");
        assertThat(ledger.ask(String.class, "select string_agg(source, ';' order by position) from entry"))
                .isEqualTo("Ramp is up;flap {Ramp} down;The flap hatch");
        assertThat(ledger.cell("down", "de")).as("a small fix").isEqualTo("settled Rampe {Ramp} unten");
    }
}
