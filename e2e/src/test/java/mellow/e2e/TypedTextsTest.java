package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.Locale;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;
import org.openqa.selenium.WindowType;
import org.openqa.selenium.interactions.Actions;

/** Every letter lands where it was typed, and none is lost: by mouse, with slow, lost and doubled replies, in two tabs, over reloads and at the door. */
class TypedTextsTest {

    /** Makes changes of cells slow, lost (the server did it, and nobody hears), doubled, or refused once before they arrive. */
    private static final String MEDDLE =
            """
            const real = window.real ??= window.fetch;
            let times = 0;
            window.fetch = async (path, init) => {
                if (init?.method !== 'POST' || !String(path).endsWith('/changes')) return real(path, init);
                times++;
                const how = arguments[0];
                if (how === 'slow') await new Promise((go) => setTimeout(go, 2000));
                if (how === 'down') throw new TypeError('down');
                if (how === 'lost' && times === 1) { await real(path, init); throw new TypeError('lost'); }
                if (how === 'doubled') await real(path, init);
                if (how === 'refused' && times === 1) return new Response('<html>Sign in to the network</html>', {status: 200});
                const reply = await real(path, init);
                if (how === 'late') await new Promise((go) => setTimeout(go, 2000));
                return reply;
            };
            """;

    private static String table(String name, int entries) {
        StringBuilder csv = new StringBuilder("key,en,pl,de,fi\n");
        for (int i = 1; i <= entries; i++) {
            csv.append("knot.").append(i).append(",Knot ").append(i).append(",,,\n");
        }
        DemoServer.takeIn(name, name + ".csv", csv.toString().getBytes(StandardCharsets.UTF_8));
        return "/ledger?table=" + name.toLowerCase(Locale.ROOT).replace(' ', '-') + "&in=";
    }

    private static Browser at(String address, String who) {
        Browser browser = DemoServer.browse();
        browser.go(address);
        browser.signIn(who, DemoServer.PASSWORD);
        ready(browser);
        return browser;
    }

    private static void ready(Browser browser) {
        browser.see(".line .key");
        browser.until(
                d -> "grid".equals(browser.focused().getAttribute("role")) ? true : null,
                "the sheet to have the focus");
        browser.until(d -> d.findElements(By.cssSelector(".line .faint")).isEmpty() ? true : null, "the rows");
    }

    private static WebElement cell(Browser browser, int row, int column) {
        return browser.see("#cell-" + row + "-" + column);
    }

    private static void quiet(Browser browser) {
        browser.until(
                d -> d.findElements(By.cssSelector(".line .remark")).stream()
                                .noneMatch(remark -> remark.getText().contains("saving"))
                        ? true
                        : null,
                "everything to be saved");
    }

    private static void has(Browser browser, int row, int column, String text) {
        browser.until(
                d -> cell(browser, row, column).getText().contains(text) ? true : null,
                "“" + text + "” in row " + row + ", column " + column);
    }

    private static void hasNot(Browser browser, int row, int column, String text) {
        assertThat(cell(browser, row, column).getText()).doesNotContain(text);
    }

    private static void click(Browser browser, WebElement element) {
        new Actions(browser.driver()).click(element).perform();
    }

    @Test
    void leavingByAClickElsewhereSavesWhereOneTyped() {
        try (Browser browser = at(table("Clove", 6) + "pl,de", "mirja")) {
            browser.press("pierwszy");
            click(browser, cell(browser, 2, 0));
            has(browser, 0, 0, "pierwszy");
            hasNot(browser, 2, 0, "pierwszy");
            browser.press("trzeci");
            click(browser, cell(browser, 2, 1));
            has(browser, 2, 0, "trzeci");
            hasNot(browser, 2, 1, "trzeci");
            browser.press("dritter");
            click(
                    browser,
                    browser.driver()
                            .findElements(By.cssSelector(".line .source"))
                            .get(4));
            has(browser, 2, 1, "dritter");
            hasNot(browser, 4, 1, "dritter");
            quiet(browser);
            browser.driver().navigate().refresh();
            ready(browser);
            has(browser, 0, 0, "pierwszy");
            has(browser, 2, 0, "trzeci");
            has(browser, 2, 1, "dritter");
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"slow", "late", "lost", "doubled", "refused"})
    void textsArriveWhateverBecomesOfTheReplies(String how) {
        String address = table("Hitch " + how, 4) + "pl";
        try (Browser browser = at(address, "mirja")) {
            browser.script(MEDDLE, how);
            browser.press("raz", Keys.ENTER, "dwa", Keys.ENTER);
            // The first once more, before its reply can have come; then the third, left by the mouse.
            browser.press(Keys.ARROW_UP, Keys.ARROW_UP, "raz jeszcze", Keys.ENTER, Keys.ARROW_DOWN, "trzy");
            click(browser, cell(browser, 3, 0));
            has(browser, 0, 0, "raz jeszcze");
            quiet(browser);
            browser.gone(".aside .waiting");
            assertThat(browser.count(".line .remark.blocked")).isZero();
            // The page that is loaded anew meddles no more.
            browser.driver().navigate().refresh();
            ready(browser);
            has(browser, 0, 0, "raz jeszcze");
            has(browser, 1, 0, "dwa");
            has(browser, 2, 0, "trzy");
            assertThat(browser.count(".aside .waiting")).isZero();
        }
    }

    @Test
    void undoWaitsForWhatIsOnItsWay() {
        try (Browser browser = at(table("Splice", 3) + "pl", "mirja")) {
            browser.press("jeden", Keys.ENTER);
            has(browser, 0, 0, "jeden");
            quiet(browser);
            browser.script(MEDDLE, "slow");
            browser.press("dwa", Keys.ENTER);
            browser.chord(Keys.CONTROL, "z");
            browser.until(d -> cell(browser, 1, 0).getText().contains("dwa") ? null : true, "the second to be gone");
            quiet(browser);
            has(browser, 0, 0, "jeden");
        }
    }

    @Test
    void aReloadAtAnyMomentLosesNothing() {
        try (Browser browser = at(table("Bowline", 4) + "pl", "mirja")) {
            browser.script(MEDDLE, "slow");
            browser.press("w drodze", Keys.ENTER, "jeszcze pisane");
            browser.driver().navigate().refresh();
            ready(browser);
            has(browser, 0, 0, "w drodze");
            has(browser, 1, 0, "jeszcze pisane");
            quiet(browser);
            browser.see(".aside .waiting", "1 text not saved yet").click();
            browser.see("[role=dialog] a", "jeszcze pisane").click();
            ready(browser);
            browser.see(".line.here .key", "knot.2");
            browser.press(Keys.ENTER, Keys.ENTER);
            browser.gone(".aside .waiting");
            browser.driver().navigate().refresh();
            ready(browser);
            has(browser, 0, 0, "w drodze");
            has(browser, 1, 0, "jeszcze pisane");
        }
    }

    @Test
    void twoTabsTakeNothingFromEachOther() {
        String address = table("Sheepshank", 3) + "pl";
        try (Browser browser = at(address, "mirja")) {
            browser.script(MEDDLE, "down");
            browser.press("w pierwszej", Keys.ENTER);
            browser.see(".aside .waiting", "1 text waits for the server");
            String first = browser.driver().getWindowHandle();
            browser.driver().switchTo().newWindow(WindowType.TAB);
            browser.go(address);
            ready(browser);
            hasNot(browser, 0, 0, "w pierwszej");
            assertThat(browser.count(".aside .waiting")).isZero();
            browser.press("w drugiej", Keys.ENTER);
            has(browser, 0, 0, "w drugiej");
            quiet(browser);
            browser.driver().close();
            browser.driver().switchTo().window(first);
            has(browser, 0, 0, "w pierwszej");
            browser.script("window.fetch = window.real; window.dispatchEvent(new Event('online'))");
            browser.see("#cell-0-0 .remark", "someone else changed this text");
            click(browser, cell(browser, 0, 0));
            browser.see(".footnotes .conflict", "w pierwszej");
            browser.see(".footnotes .offer, .footnotes .told", "w drugiej");
            browser.see(".footnotes .conflict button", "Put mine forward").click();
            browser.gone(".footnotes .conflict");
            has(browser, 0, 0, "w pierwszej");
        }
    }

    @Test
    void whoSignsOutLeavesNothingBehind() {
        try (Browser browser = at(table("Reef", 3) + "pl", "mirja")) {
            browser.press("moje", Keys.ENTER);
            quiet(browser);
            browser.see(".initials").click();
            browser.see("[role=menuitem]", "Sign out").click();
            browser.see("input[autocomplete=username]");
            assertThat(browser.count(".desk, [role=menu]")).isZero();
            browser.signIn("lina", DemoServer.PASSWORD);
            ready(browser);
            browser.chord(Keys.CONTROL, "z");
            browser.see(".MuiSnackbar-root", "nothing");
            has(browser, 0, 0, "moje");
        }
    }

    /** In Finnish, as other tests count what became of Polish offers. */
    @Test
    void anAmendmentThatIsLeftIsGoneOnWith() {
        String address = table("Anchor-hitch", 3) + "fi";
        try (Browser lina = at(address, "lina");
                Browser oskar = DemoServer.browse()) {
            lina.press("ensimm\u00e4inen", Keys.ENTER);
            // Cells are saved beside each other; the list is by which came first.
            quiet(lina);
            lina.press("toinen", Keys.ENTER);
            lina.until(d -> lina.count(".line .remark.offered") == 2 ? true : null, "two offers");
            oskar.go("/review?in=fi&table=anchor-hitch");
            oskar.signIn("oskar", DemoServer.PASSWORD);
            oskar.see(".strip.here .key", "knot.1");
            oskar.press("a");
            oskar.see(".strip.here textarea");
            oskar.press(" korjattu", Keys.TAB);
            oskar.see(".strip .kept", "korjattu");
            oskar.driver().navigate().refresh();
            oskar.see(".strip .kept", "korjattu");
            oskar.see(".strip.here .key", "knot.1");
            oskar.press("a");
            assertThat(oskar.see(".strip.here textarea").getAttribute("value")).endsWith("ensimm\u00e4inen korjattu");
            oskar.press(" taas", Keys.ENTER);
            oskar.see(".strip.here .key", "knot.2");
            oskar.gone(".strip .kept");
            lina.driver().navigate().refresh();
            ready(lina);
            has(lina, 0, 0, "ensimm\u00e4inen korjattu taas");
        }
    }

    @Test
    void emptyingCuttingAndTypingOnAPluralDoSomething() {
        try (Browser browser = at(table("Fender", 4) + "pl", "mirja")) {
            browser.press("o\u0142\u00f3wek");
            click(browser, cell(browser, 1, 0));
            browser.see("#cell-0-0 .remark", "pencilled");
            click(browser, cell(browser, 0, 0));
            browser.press(Keys.F2);
            browser.see("#cell-0-0 textarea");
            browser.chord(Keys.CONTROL, "a");
            browser.press(Keys.BACK_SPACE);
            click(browser, cell(browser, 1, 0));
            browser.until(d -> cell(browser, 0, 0).getText().contains("untranslated") ? true : null, "the draft to go");
            browser.press("wyci\u0119te", Keys.ENTER);
            quiet(browser);
            browser.press(Keys.ARROW_UP);
            browser.chord(Keys.CONTROL, "x");
            browser.until(
                    d -> cell(browser, 1, 0).getText().contains("wyci\u0119te") ? null : true, "the text to be cut");
            browser.press(Keys.ARROW_DOWN);
            browser.chord(Keys.CONTROL, "v");
            browser.press(Keys.ENTER);
            has(browser, 2, 0, "wyci\u0119te");
        }
    }
}
