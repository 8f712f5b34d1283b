package mellow.server.table;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import mellow.core.language.LanguageTag;
import mellow.server.common.Refusal;
import mellow.server.people.Level;
import mellow.server.support.ServerTest;
import org.assertj.core.api.ThrowableAssert.ThrowingCallable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;

class TableServiceTest extends ServerTest {

    private static final LanguageTag EN = new LanguageTag("en");
    private static final LanguageTag DE = new LanguageTag("de");
    private static final LanguageTag FI = new LanguageTag("fi");

    @Autowired
    private TableService tables;

    private long mara;

    @BeforeEach
    void aCoordinator() {
        mara = ledger.coordinator("mara");
    }

    @ParameterizedTest
    @CsvSource({
        "Ramp panel, ramp-panel",
        "Skipper’s Post, skippers-post",
        "Äö Übersicht!, ao-ubersicht",
        "船の言葉, 船の言葉",
        "'  --  ', table"
    })
    void namesInAddressesCanBeRead(String name, String slug) {
        assertThat(TableService.slug(name)).isEqualTo(slug);
    }

    @Test
    void keepsLanguagesInOrderAndTheSourceOutOfThem() {
        TableInfo table = tables.create(mara, " Ramp panel ", EN, List.of(FI, EN, DE), true);
        tables.addLanguages(table.id(), List.of(DE, new LanguageTag("pt-BR")), false);
        TableInfo found = tables.find("ramp-panel");
        assertThat(found.name()).isEqualTo("Ramp panel");
        assertThat(found.languages())
                .extracting(kept -> kept.tag().value() + (kept.settlesOwn() ? " own" : ""))
                .containsExactly("fi own", "de own", "pt-BR");
    }

    @Test
    void refusesASecondTableOfThatName() {
        tables.create(mara, "Ramp panel", EN, List.of(DE), false);
        assertThatThrownBy(() -> tables.create(mara, "ramp PANEL", EN, List.of(DE), false))
                .isInstanceOf(Refusal.class)
                .hasMessageContaining("take the file into that table");
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "   "})
    void refusesANameThatIsNone(String name) {
        assertThatThrownBy(() -> tables.create(mara, name, EN, List.of(DE), false))
                .hasMessageContaining("1 to 120 characters");
    }

    @Test
    void saysThatThereIsNoSuchTable() {
        assertThatThrownBy(() -> tables.find("nowhere"))
                .isInstanceOf(Refusal.class)
                .hasMessage("There is no table “nowhere”.");
    }

    @Test
    void onlyCoordinatorsMakeChangeAndRemoveThem() {
        long oskar = ledger.person("oskar", "de", Level.REVIEWER);
        String slug = tables.create(mara, "Ramp panel", EN, List.of(DE), false).slug();
        List<ThrowingCallable> all = List.of(
                () -> tables.create(oskar, "Deck", EN, List.of(DE), false),
                () -> tables.edit(oskar, slug, 0, "Ramps", List.of()),
                () -> tables.remove(oskar, slug),
                () -> tables.putBack(oskar, tables.find(slug).id()));
        all.forEach(one -> assertThatThrownBy(one)
                .isInstanceOfSatisfying(
                        Refusal.class, refusal -> assertThat(refusal.code()).isEqualTo("coordinator-only")));
        assertThat(tables.find(slug).name()).isEqualTo("Ramp panel");
    }
}
