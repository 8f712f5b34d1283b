package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;

/** The record on the screens: rewriting, staleness, undo, shapes, rights, and what others see of it. */
class RecordTest {

    private Browser browser;

    @BeforeEach
    void open() {
        browser = DemoServer.browse();
    }

    @AfterEach
    void close() {
        browser.close();
    }

    private static void sheet(Browser of, String person, String path) {
        of.go(path);
        of.signIn(person, DemoServer.PASSWORD);
        inSheet(of);
    }

    private static void inSheet(Browser of) {
        of.until(d -> "grid".equals(of.focused().getAttribute("role")) ? true : null, "the sheet to have the focus");
        of.until(d -> d.findElements(By.cssSelector(".line .faint")).isEmpty() ? true : null, "the rows");
    }

    private static WebElement crossing(Browser of, String table, String language, String words) {
        return of.until(
                d -> d.findElements(By.cssSelector(".board td")).stream()
                        .filter(cell -> String.valueOf(cell.getAttribute("aria-label"))
                                        .startsWith(table + ", " + language + ":")
                                && cell.getText().contains(words))
                        .findFirst()
                        .orElse(null),
                words + " at " + table + " in " + language);
    }

    private void choose(String change) {
        browser.see(".footnotes button.change").click();
        browser.see("[role=menuitem]", change).click();
    }

    @Test
    void rewritingASourceIsOnEveryBoardAtOnceAndStillHoldsClearsIt() {
        sheet(browser, "mirja", "/ledger?table=common-words&in=de&words=common.yes");
        try (Browser other = DemoServer.browseSecond()) {
            other.go("/board?product=deckside");
            other.signIn("oskar", DemoServer.PASSWORD);
            crossing(other, "Common words", "German", "done");

            choose("Rewrite the source");
            browser.see("[role=dialog]", "Yes: 7 texts go stale, in German, Finnish, Estonian, Polish");
            browser.see("[role=dialog] textarea").sendKeys(", please");
            browser.see("[role=dialog] .diff", "Yes, please");
            browser.see("[role=dialog] button[type=submit]").click();
            browser.see(".line .remark.stale", "source moved on");
            for (String language : new String[] {"German", "Finnish", "Estonian", "Polish", "Portuguese (Brazil)"}) {
                crossing(other, "Common words", language, "1");
            }
            other.go("/board?product=skippers-post");
            crossing(other, "Common words", "German", "1");

            browser.until(d -> browser.count("[role=dialog]") == 0 ? true : null, "the dialog to close");
            browser.see(".line .cell").click();
            inSheet(browser);
            browser.press("=");
            browser.until(d -> browser.count(".line .remark.stale") == 0 ? true : null, "the text to hold");
            crossing(other, "Common words", "German", "done");
            crossing(other, "Common words", "Finnish", "1");
        }
    }

    @Test
    void whatOneTypesAnotherSeesAndUndoTakesItBack() {
        String scope = "/ledger?table=common-words&in=ja&words=weather.fog";
        sheet(browser, "tadao", scope);
        try (Browser other = DemoServer.browseSecond()) {
            sheet(other, "mirja", scope);
            browser.press("濃い霧です", Keys.ENTER);
            other.see(".line .cell", "濃い霧です");
            other.see(".line .remark.offered", "offered by Tadao Minemura");
            browser.chord(Keys.CONTROL, "z");
            other.until(
                    d -> other.see(".line .cell").getText().contains("濃い霧です") ? null : true, "the offer to go back");
            assertThat(other.see(".footnotes").getText()).contains("taken back by Tadao Minemura");
            browser.chord(Keys.CONTROL, "y");
            other.see(".line .remark.offered", "offered by Tadao Minemura");
        }
    }

    @Test
    void pluralFormsAreEditedAsAStackAndSettledAsOne() {
        sheet(browser, "beata", "/ledger?table=deckside&in=pl&words=bags.count");
        browser.press(Keys.F2);
        assertThat(browser.count(".editor textarea")).isEqualTo(4);
        browser.see(".editor .form", "few · 2, 3, 4, 22");
        browser.chord(Keys.CONTROL, "a");
        browser.press("{n} torba", Keys.ENTER);
        browser.chord(Keys.CONTROL, "a");
        browser.press("{n} torby", Keys.ENTER, Keys.ENTER, Keys.ENTER);
        browser.see(".line .remark.offered", "offered by Beata");
        browser.see(".line .cell", "{n} torba / {n} torby");
        assertThat(browser.see(".footnotes").getText()).contains("{n} bagaż").contains("{n} torby");
    }

    @Test
    void anEntryIsMadeMovedRemovedAndPutBack() {
        sheet(browser, "mirja", "/ledger?table=bridge-alarms&in=de");
        choose("New entry after this");
        browser.see("[role=dialog] input.mono").sendKeys("steer.new");
        browser.see("[role=dialog]", "Source text");
        browser.driver()
                .findElements(By.cssSelector("[role=dialog] textarea:not([aria-hidden])"))
                .get(0)
                .sendKeys("Steering is new");
        browser.see("[role=dialog] button[type=submit]").click();
        browser.see(".line .key", "steer.new");
        browser.until(
                d -> d.findElements(By.cssSelector(".line .key")).stream()
                                        .map(WebElement::getText)
                                        .toList()
                                        .indexOf("steer.new")
                                == 1
                        ? true
                        : null,
                "the new entry to follow the first");
        inSheet(browser);
        browser.press(Keys.DOWN);
        browser.see(".footnotes h2", "steer.new");
        choose("Remove");
        browser.until(
                d -> d.findElements(By.cssSelector(".line .key")).stream()
                                .noneMatch(key -> key.getText().equals("steer.new"))
                        ? true
                        : null,
                "the entry to go");
        inSheet(browser);
        browser.chord(Keys.CONTROL, "z");
        browser.see(".line .key", "steer.new");
    }

    @Test
    void someoneInvitedChoosesAPasswordAndIsInWithTheirRights() {
        browser.go("/people");
        browser.signIn("mirja", DemoServer.PASSWORD);
        browser.see("button", "Add a person").click();
        WebElement name = browser.see("[role=dialog] input");
        name.sendKeys("Ilse Radvan");
        browser.driver()
                .findElements(By.cssSelector("[role=dialog] input"))
                .get(1)
                .sendKeys("ilse");
        WebElement language = browser.driver().findElement(By.cssSelector("[role=dialog] input[role=combobox]"));
        language.sendKeys("polski");
        browser.see("[role=option]", "Polish").click();
        browser.see("[role=dialog] button[type=submit]").click();
        String link = browser.see(".invite-link").getText();
        try (Browser other = DemoServer.browse()) {
            other.go(link.substring(link.indexOf("/invitation/")));
            other.see("form", "Welcome, Ilse Radvan");
            other.see("input[type=password]").sendKeys("short", Keys.ENTER);
            other.see("[role=alert]", "at least 10 characters");
            other.see("input[type=password]").sendKeys(" but longer", Keys.ENTER);
            other.see(".board");
            other.go("/ledger?table=common-words&in=pl&words=common.no");
            inSheet(other);
            other.press("Nie, dziękuję", Keys.ENTER);
            other.see(".line .remark.offered", "offered by Ilse Radvan");
            other.go(link.substring(link.indexOf("/invitation/")));
            other.see("[role=alert]", "This invitation was used");
        }
    }

    @Test
    void findGoesToAnyEntryHoweverItsAccentsAreTyped() {
        sheet(browser, "mirja", "/ledger?table=ramp-panel&in=de");
        browser.press("/", "wejscie na poklad otwarte");
        browser.see(".found li", "boarding.open").click();
        browser.see(".footnotes h2", "boarding.open");
        assertThat(browser.path()).contains("table=deckside").contains("in=pl");
    }
}
