package mellow.server.cell;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange.Action;
import mellow.server.common.Refusal;
import mellow.server.people.Level;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpMethod;

class CellServiceTest extends ServerTest {

    @Autowired
    private CellService cells;

    @Autowired
    private Http http;

    private long mara;
    private long oskar;
    private long lina;

    @BeforeEach
    void aTable() {
        mara = ledger.coordinator("mara");
        oskar = ledger.person("oskar", "de", Level.REVIEWER);
        lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        ledger.takeIn(mara, "Ramp panel", "key,en,de,fi\nup,Ramp up,Rampe oben,\ndown,Ramp down,,\n", Arrival.SETTLED);
    }

    private CellView text(long person, String key, Action action, int version, String text) {
        return ledger.change(person, key, "de", CellChange.text(action, version, text));
    }

    private String refusal(Runnable change) {
        Refusal[] refused = new Refusal[1];
        assertThatThrownBy(change::run).isInstanceOfSatisfying(Refusal.class, refusal -> refused[0] = refusal);
        return refused[0].code();
    }

    @Test
    void anOfferWaitsUntilAReviewerSettlesIt() {
        CellView offered = text(lina, "down", Action.PUT_FORWARD, 0, "Rampe unten");
        assertThat(offered.state()).isEqualTo("offered");
        assertThat(offered.text()).isNull();
        assertThat(offered.offers()).extracting(CellView.OfferView::author).containsExactly("LINA");
        CellView settled = ledger.change(
                oskar,
                "down",
                "de",
                CellChange.answer(
                        Action.SETTLE,
                        offered.version(),
                        offered.offers().get(0).id(),
                        null));
        assertThat(settled.state()).isEqualTo("settled");
        assertThat(settled.text()).isEqualTo("Rampe unten");
        assertThat(ledger.differences()).isZero();
    }

    @Test
    void aReturnedOfferShowsItsReason() {
        CellView offered = text(lina, "down", Action.PUT_FORWARD, 0, "Rampe unten");
        CellView returned = ledger.change(
                oskar,
                "down",
                "de",
                CellChange.answer(
                        Action.RETURN,
                        offered.version(),
                        offered.offers().get(0).id(),
                        "Say Klappe."));
        assertThat(returned.state()).isEqualTo("returned");
        assertThat(returned.returned()).isEqualTo("Say Klappe.");
        assertThat(ledger.differences()).isZero();
    }

    @Test
    void rightsHoldPerLanguage() {
        assertThat(refusal(() -> ledger.change(lina, "down", "fi", CellChange.text(Action.PUT_FORWARD, 0, "Ramppi"))))
                .isEqualTo("no-right-to-offer");
        CellView offered = text(lina, "down", Action.PUT_FORWARD, 0, "Rampe unten");
        long offer = offered.offers().get(0).id();
        assertThat(refusal(() -> ledger.change(lina, "down", "de", CellChange.answer(Action.SETTLE, 1, offer, null))))
                .isEqualTo("no-right-to-settle");
        assertThat(refusal(() -> text(lina, "up", Action.PENCIL, 1, "Rampe auf")))
                .isEqualTo("settled-is-not-pencilled-over");
        assertThat(refusal(() -> ledger.change(mara, "up", "ja", CellChange.text(Action.PENCIL, 0, "上"))))
                .isEqualTo("language-not-kept");
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe oben");
    }

    @Test
    void ownTextsSettleOnlyWhereTheLanguageAllowsIt() {
        assertThat(text(oskar, "down", Action.PUT_FORWARD, 0, "Rampe unten").state())
                .isEqualTo("offered");
        ledger.allowOwn("Ramp panel", "de");
        assertThat(text(oskar, "up", Action.PUT_FORWARD, 1, "Rampe ganz oben").state())
                .isEqualTo("settled");
    }

    @Test
    void theSecondOfTwoSeesBothTexts() throws Exception {
        text(lina, "down", Action.PENCIL, 0, "Rampe unten");
        String path = "/api/entries/" + ledger.entry("down") + "/cells/de/changes";
        Http.Reply late = http.json(
                oskar,
                HttpMethod.POST,
                path,
                "{\"action\":\"PENCIL\",\"version\":0,\"text\":\"Klappe unten\",\"meaningConfirmed\":false}");
        assertThat(late.status()).isEqualTo(409);
        assertThat(late.code()).isEqualTo("cell-moved-on");
        assertThat(late.body().path("cell").path("text").asString()).isEqualTo("Rampe unten");
        assertThat(ledger.cell("down", "de")).isEqualTo("pencilled Rampe unten");
    }

    @Test
    void ofManyAtOnceOneWinsAndNoneIsLostSilently() throws Exception {
        ExecutorService together = Executors.newFixedThreadPool(6);
        List<Callable<Boolean>> attempts = IntStream.range(0, 12)
                .<Callable<Boolean>>mapToObj(i -> () -> {
                    try {
                        text(lina, "down", Action.PENCIL, 0, "Text " + i);
                        return true;
                    } catch (Refusal refused) {
                        assertThat(refused.code()).isEqualTo("cell-moved-on");
                        return false;
                    }
                })
                .toList();
        int won = 0;
        for (Future<Boolean> attempt : together.invokeAll(attempts)) {
            won += attempt.get() ? 1 : 0;
        }
        together.shutdown();
        assertThat(won).isEqualTo(1);
        assertThat(cells.story(ledger.entry("down"), new LanguageTag("de"))).hasSize(1);
        assertThat(ledger.differences()).isZero();
    }

    @Test
    void theStoryKeepsEverythingAndAnyTextCanBePutBack() {
        ledger.allowOwn("Ramp panel", "de");
        text(oskar, "up", Action.PUT_FORWARD, 1, "Rampe hoch");
        ledger.change(oskar, "up", "de", new CellChange(Action.CLEAR, 2, null, null, null, false, null));
        assertThat(ledger.cell("up", "de")).isEqualTo("untranslated");
        List<StoryLine> story = cells.story(ledger.entry("up"), new LanguageTag("de"));
        assertThat(story).extracting(StoryLine::what).containsExactly("cleared", "settled", "settled");
        assertThat(story).extracting(StoryLine::before).containsExactly("Rampe hoch", "Rampe oben", null);
        assertThat(story.get(2).file()).isEqualTo("Ramp panel.csv");
        CellView back = ledger.change(
                oskar,
                "up",
                "de",
                new CellChange(
                        Action.PUT_BACK,
                        3,
                        null,
                        null,
                        null,
                        false,
                        story.get(2).id()));
        assertThat(back.text()).isEqualTo("Rampe oben");
        assertThat(back.state()).isEqualTo("settled");
        assertThat(back.version()).isEqualTo(4);
        assertThat(ledger.differences()).isZero();
    }

    @Test
    void badInputSaysWhatIsMissing() throws Exception {
        String path = "/api/entries/" + ledger.entry("down") + "/cells/de/changes";
        assertThat(http.json(
                                mara,
                                HttpMethod.POST,
                                path,
                                "{\"action\":\"PUT_FORWARD\",\"version\":0,\"text\":\"\",\"meaningConfirmed\":false}")
                        .code())
                .isEqualTo("empty-text");
        assertThat(http.json(
                                mara,
                                HttpMethod.POST,
                                path,
                                "{\"action\":\"SETTLE\",\"version\":0,\"meaningConfirmed\":false}")
                        .code())
                .isEqualTo("offer-missing");
        assertThat(http.json(
                                mara,
                                HttpMethod.POST,
                                path.replace("/de/", "/deutsch!/"),
                                "{\"action\":\"CLEAR\",\"version\":0,\"meaningConfirmed\":false}")
                        .code())
                .isEqualTo("unknown-language");
        assertThat(http.json(
                                mara,
                                HttpMethod.POST,
                                "/api/entries/999999999/cells/de/changes",
                                "{\"action\":\"CLEAR\",\"version\":0,\"meaningConfirmed\":false}")
                        .status())
                .isEqualTo(404);
        assertThat(http.json(mara, HttpMethod.POST, path, "{broken").status()).isEqualTo(400);
    }

    @Test
    void anArchivedLanguageTakesNoTexts() {
        ledger.run(
                "update table_language set archived_at = now() where language_id = (select id from language where tag = 'de')");
        assertThat(refusal(() -> ledger.change(oskar, "down", "de", CellChange.text(Action.PENCIL, 0, "x"))))
                .isEqualTo("language-not-kept");
        ledger.run("update table_language set archived_at = null");
        assertThat(text(oskar, "down", Action.PENCIL, 0, "x").state()).isEqualTo("pencilled");
    }
}
