package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;

/**
 * The interface in the pretend language, in which every message is written in letters that English has not. What is seen in plain letters and is not
 * people's data, which the server told, is English that nobody could translate.
 */
class PretendTest {

    /** Before a page is read: its language, and an ear on everything that the server tells. */
    private static final String LISTEN =
            """
            localStorage.setItem('mellow.language', '"pretend"');
            window.told = [];
            const keep = (value) => {
              if (typeof value === 'string') window.told.push(value);
              else if (value && typeof value === 'object') for (const [key, one] of Object.entries(value)) { window.told.push(key); keep(one); }
            };
            const real = window.fetch;
            window.fetch = async (...request) => {
              const reply = await real(...request);
              reply.clone().json().then(keep, () => undefined);
              return reply;
            };
            """;

    /** Runs of plain words in texts and names of the page that the server has not told. */
    private static final String ENGLISH =
            """
            const months = 'Jan Feb Mar Apr May Jun Jul Aug Sep Sept Oct Nov Dec';
            const told = ' ' + (window.told.join(' \u0001 ') + ' ' + months + ' ' + decodeURIComponent(location.href)).replace(/[^A-Za-z\u0001]+/g, ' ') + ' ';
            const found = new Set();
            const look = (text, at) => {
              for (const run of text.match(/[A-Za-z][A-Za-z'\u2019]*(?: [A-Za-z][A-Za-z'\u2019]*)*/g) ?? []) {
                const words = run.replace(/[^A-Za-z]+/g, ' ').trim();
                if (words.length > 1 && !told.includes(' ' + words + ' ')) found.add(run + ' \u2190 ' + at.tagName.toLowerCase() + '.' + at.className);
              }
            };
            const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
            while (walk.nextNode()) {
              const at = walk.currentNode.parentElement;
              if (!at.closest('script, style, .initials, [lang]:not(html), textarea')) look(walk.currentNode.data, at);
            }
            for (const one of document.querySelectorAll('[aria-label], [title], [placeholder], [alt]')) {
              for (const name of ['aria-label', 'title', 'placeholder', 'alt']) look(one.getAttribute(name) ?? '', one);
            }
            look(document.title, document.documentElement);
            return [...found];
            """;

    private static void none(Browser browser, String where) {
        assertThat((List<?>) browser.script(ENGLISH)).as(where).isEmpty();
    }

    @Test
    void everyWordOfTheInterfaceCanBeTranslated() {
        try (Browser browser = DemoServer.browse()) {
            browser.driver().executeCdpCommand("Page.addScriptToEvaluateOnNewDocument", Map.of("source", LISTEN));
            browser.go("/board");
            browser.see("input[autocomplete=username]");
            none(browser, "the door");
            browser.signIn("mirja", DemoServer.PASSWORD);
            for (String[] screen : new String[][] {
                {"/board", ".forecasts li"},
                {"/review?in=pl", ".strip"},
                {"/wordbook", ".wordbook table"},
                {"/people", ".listed"},
                {"/people/3", ".offerline"},
                {"/reports/fi", ".figures"},
                {"/offers", ".offerspage"},
                {"/offers?show=begin", ".begin"},
                {"/products", ".listed"},
                {"/checks?kind=space", ".places li"},
                {"/deliveries", ".listed"},
                {"/deliveries/ramp-bilge-panel", ".past"},
                {"/deliveries/ramp-bilge-panel?from=1&to=2", ".goingout ul.files"},
                {"/deliveries/deckside/asked", ".fetchings > :nth-child(2)"},
                {"/products/ramp-bilge-panel", ".ofproduct .listed"},
                {"/tables/deckside", ".listed"},
                {"/intake", ".listed"},
                {"/nowhere/at/all", ".empty"},
                {"/ledger?table=deckside&in=de,pl", ".footnotes .story"},
                {"/ledger?table=ramp-panel&in=fi", ".footnotes .story"}
            }) {
                browser.go(screen[0]);
                browser.see(screen[1]);
                none(browser, screen[0]);
            }
            overTheSheet(browser);
        }
    }

    private static void overTheSheet(Browser browser) {
        browser.until(
                d -> "grid".equals(browser.focused().getAttribute("role")) ? true : null,
                "the sheet to have the focus");
        browser.press("?");
        browser.see("[role=dialog] kbd");
        none(browser, "the keys");
        browser.press(Keys.ESCAPE);
        browser.gone("[role=dialog]");
        browser.chord(Keys.SHIFT, Keys.DOWN);
        browser.see(".selectionbar");
        none(browser, "the chosen cells");
        browser.press(Keys.ESCAPE);
        int pickers = browser.count(".picker");
        for (int at = 0; at < pickers; at++) {
            browser.driver().findElements(By.cssSelector(".picker")).get(at).sendKeys(Keys.ENTER);
            browser.see("[role=dialog] [role=menu]");
            none(browser, "picker " + at);
            browser.press(Keys.ESCAPE);
            browser.gone("[role=dialog]");
        }
        for (WebElement menu : browser.driver().findElements(By.cssSelector(".aside button[aria-haspopup=menu]"))) {
            menu.sendKeys(Keys.ENTER);
            browser.see("[role=menu]");
            none(browser, "a menu");
            browser.press(Keys.ESCAPE);
            browser.gone("[role=menu]");
        }
    }
}
