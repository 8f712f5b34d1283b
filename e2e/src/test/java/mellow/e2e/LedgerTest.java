package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;

/** Working in the sheet, as the demo's people do. */
class LedgerTest {

    private Browser browser;

    @BeforeEach
    void open() {
        browser = DemoServer.browse();
    }

    @AfterEach
    void close() {
        browser.close();
    }

    private void sheet(Browser of, String person, String path) {
        of.go(path);
        of.signIn(person, DemoServer.PASSWORD);
        of.until(d -> "grid".equals(of.focused().getAttribute("role")) ? true : null, "the sheet to have the focus");
        of.until(d -> d.findElements(By.cssSelector(".line .faint")).isEmpty() ? true : null, "the rows");
    }

    @Test
    void whatAContributorOffersAReviewerSettlesInAnotherBrowser() {
        String scope = "/ledger?table=bridge-alarms&in=pl&words=engine.unmanned";
        sheet(browser, "lina", scope);
        browser.press("Maszynownia bez obsady", Keys.ENTER);
        browser.see(".line .remark.offered", "offered by Lina Korhola, just now");
        try (Browser other = DemoServer.browse()) {
            sheet(other, "oskar", scope);
            assertThat(other.see(".line .cell").getText()).contains("Maszynownia bez obsady");
            other.see(".footnotes button", "Settle").click();
            other.until(
                    d -> other.see(".footnotes").getText().contains("settled by Oskar Veldre") ? true : null,
                    "the story to tell it");
            assertThat(other.see(".footnotes").getText())
                    .contains("Maszynownia bez załogi")
                    .contains("put back");
        }
        browser.go(scope);
        browser.see(".line .cell[aria-label*='settled: Maszynownia bez obsady']");
    }

    @Test
    void anOfferGoesBackOnlyWithAReason() {
        sheet(browser, "oskar", "/ledger?table=deckside&in=et&only=offered");
        browser.see(".footnotes button", "Return").click();
        assertThat(browser.see(".footnotes .reason button").isEnabled()).isFalse();
        browser.press("Too stiff for children.", Keys.ENTER);
        browser.see(".line.here .remark.blocked", "returned: Too stiff for children.");
    }

    @Test
    void escapeKeepsATextAsPencilledAndAReloadShowsIt() {
        String scope = "/ledger?table=common-words&in=ja&words=weather.calm";
        sheet(browser, "mirja", scope);
        browser.press("なぎ", Keys.ESCAPE);
        browser.see(".line .remark", "pencilled by Mirja Tallo");
        browser.go(scope);
        browser.see(".line .text", "なぎ");
        assertThat(browser.see(".spread .head").getText()).contains("untranslated");
    }

    @Test
    void leavingASettledCellReplacesNothingAndLosesNothing() {
        String scope = "/ledger?table=deckside&in=de&words=shop.postcard";
        sheet(browser, "mirja", scope);
        browser.press("Ansichtskarte", Keys.ESCAPE);
        browser.see(".line .remark.blocked", "not saved yet, kept here");
        browser.go(scope);
        browser.see(".line .text", "Ansichtskarte");
        assertThat(browser.see(".footnotes").getText()).contains("In force, settled", "Postkarte");
        browser.see(".footnotes button", "Drop mine").click();
        browser.see(".line .cell[aria-label*='settled: Postkarte']");
        browser.go(scope);
        browser.see(".line .cell[aria-label*='settled: Postkarte']");
    }

    @Test
    void theSecondOfTwoEditorsSeesBothTextsAndChooses() {
        String scope = "/ledger?table=common-words&in=ja&words=ship.hold";
        sheet(browser, "mirja", scope);
        browser.press("貨物倉");
        try (Browser other = DemoServer.browseSecond()) {
            sheet(other, "tadao", scope);
            other.press("船倉", Keys.ESCAPE);
            other.see(".line .remark", "pencilled by Tadao Minemura");
        }
        browser.see(".line .remark.blocked", "Tadao Minemura changed this text while you were editing");
        browser.press(Keys.ESCAPE);
        browser.see(".line .remark.blocked", "someone else changed this text");
        assertThat(browser.see(".footnotes").getText()).contains("貨物倉").contains("船倉");
        browser.see(".footnotes button", "Put mine forward").click();
        browser.see(".line .remark.offered", "offered by Mirja Tallo");
        assertThat(browser.see(".footnotes").getText()).contains("船倉");
    }

    @Test
    void statesAddUpInEveryLanguageAndEveryCountLeadsToItsRows() {
        sheet(browser, "mirja", "/ledger?table=ramp-panel&in=ar");
        String counts = browser.see(".spread .head .counts").getText();
        for (String state : List.of("untranslated", "stale")) {
            int shown = Integer.parseInt(counts.replaceAll("(?s).*?(\\d+) " + state + ".*", "$1"));
            browser.go("/ledger?table=ramp-panel&in=ar&only=" + state);
            browser.see(".aside", shown + " of ");
            assertThat(browser.see(".position").getText()).endsWith("of " + shown);
        }
    }

    @Test
    void theScopeIsASentenceThatAKeyboardCanChangeAndAnAddressThatCanBeShared() {
        sheet(browser, "mirja", "/ledger?table=ramp-panel&in=de");
        browser.see(".picker[aria-label^=States]").sendKeys(Keys.ENTER);
        browser.see("[role=dialog] [role=menuitemcheckbox]", "stale").sendKeys(Keys.ENTER);
        browser.press(Keys.ESCAPE);
        browser.see(".scopeline", "only what is stale");
        assertThat(browser.path()).isEqualTo("/ledger?table=ramp-panel&in=de&only=stale");
        browser.driver().navigate().back();
        browser.see(".scopeline", "everything");
    }

    @Test
    void arrowsMoveTheCursorThroughLanguagesAndTheFootnotesFollow() {
        sheet(browser, "mirja", "/ledger?table=ramp-panel&in=de,fi,ar");
        browser.press(Keys.RIGHT, Keys.RIGHT, Keys.DOWN);
        browser.see(".footnotes", "ramp.raise.confirm");
        assertThat(browser.see(".footnotes").getText()).contains("Arabic text");
        List<WebElement> texts = browser.driver().findElements(By.cssSelector(".line.here .text[dir=rtl]"));
        assertThat(texts.stream().map(text -> text.getAttribute("lang")).collect(Collectors.toSet()))
                .containsExactly("ar");
        browser.chord(Keys.CONTROL, Keys.END);
        browser.until(
                d -> browser.see(".position").getText().matches("Entry (\\d+) of \\1") ? true : null, "the last entry");
        browser.press("?");
        browser.see("[role=dialog]", "Keys of the sheet");
    }

    @Test
    void aTextThatCannotBeSavedStaysAndIsThereAfterAReload() {
        String scope = "/ledger?table=common-words&in=pt-BR&words=weather.ice";
        sheet(browser, "mirja", scope);
        browser.script("window.fetch = () => Promise.reject(new TypeError('cut off'))");
        browser.press("Gelo no mar", Keys.ENTER);
        browser.see(".line .remark.blocked", "kept here until the server answers");
        browser.see(".aside .waiting", "1 text waits for the server");
        // The page that comes after the reload can reach the server, and sends it by itself.
        browser.go(scope);
        browser.see(".line .remark.offered", "offered by Mirja Tallo");
        assertThat(browser.see(".line .text").getText()).isNotEmpty();
        browser.see(".line .cell", "Gelo no mar");
    }
}
