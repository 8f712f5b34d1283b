package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.deque.html.axecore.results.Rule;
import com.deque.html.axecore.selenium.AxeBuilder;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;

/** Every screen, by day and by lamp: axe finds nothing at all. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class AccessibilityTest {

    private final Browser nobody = DemoServer.browse();
    private final Browser coordinator = DemoServer.browse();
    private boolean signedIn;

    @AfterAll
    void close() {
        nobody.close();
        coordinator.close();
    }

    @ParameterizedTest(name = "{0} {1}")
    @CsvSource({
        "light, /sign-in, false, .door",
        "dark, /sign-in, false, .door",
        "light, /ledger?table=ramp-panel&in=fi, true, .footnotes .story",
        "dark, /ledger?table=ramp-panel&in=fi, true, .footnotes .story",
        "light, '/ledger?table=deckside&in=de,pl,ar,ja&only=stale,offered,returned', true, .footnotes .story",
        "dark, '/ledger?table=deckside&in=de,pl,ar,ja&only=stale,offered,returned', true, .footnotes .story",
        "light, /ledger?table=nowhere&in=de, true, .empty",
        "light, '/ledger?table=ramp-panel&in=de,fi,et,pl,pt-BR,ar,ja', true, .footnotes .story",
        "light, /intake, true, .listed",
        "dark, /intake, true, .listed",
        "light, '/ledger?table=signs-and-voices&in=de,fi', true, .cell .thumb",
        "dark, '/ledger?table=signs-and-voices&in=de&words=talk', true, .cell .soundlength",
        "light, /board, true, .forecasts li",
        "dark, /board, true, .forecasts li",
        "light, /board?product=deckside&unit=words, true, .forecasts li",
        "light, /review?in=pl, true, .strip",
        "dark, /review?in=pl, true, .strip",
        "light, /checks?kind=placeholder, true, .places li",
        "dark, /checks?kind=placeholder, true, .places li",
        "light, /wordbook, true, .wordbook table",
        "dark, /wordbook, true, .wordbook table",
        "light, '/memory?words=deck&from=en&to=de', true, .memorypage tbody tr",
        "dark, '/memory?words=deck&from=en&to=ar', true, .memorypage tbody tr",
        "light, /products/ostrel-booking-site/code, true, .codepage tbody tr",
        "dark, '/products/ostrel-booking-site/code?view=texts', true, .codepage tbody tr",
        "light, '/products/deckside/code?view=misfits', true, .codepage tbody tr",
        "light, '/products/skippers-post/code?view=settings', true, .codepage .habit",
        "light, /memory?view=shelves, true, .shelves tbody tr",
        "dark, /memory?view=shelves, true, .shelves tbody tr",
        "light, /memory?view=drafts, true, .drafts button",
        "dark, /memory?view=drafts, true, .drafts button",
        "light, /people, true, .listed",
        "dark, /people, true, .listed",
        "light, /people/3, true, .offerline",
        "dark, /people/3, true, .offerline",
        "light, /reports/fi, true, .figures",
        "dark, /reports/fi, true, .figures",
        "light, /offers?show=begin, true, .begin",
        "dark, /offers?show=begin, true, .begin",
        "light, /deliveries/deckside/asked, true, .fetchings > :nth-child(2)",
        "dark, /deliveries/deckside/asked, true, .fetchings > :nth-child(2)",
        "light, /products, true, .listed",
        "dark, /products, true, .listed",
        "light, '/rehearsal/ramp-bilge-panel?in=fi&in=pl', true, .stage .shown",
        "dark, '/rehearsal/ramp-bilge-panel?in=fi&in=pl', true, .stage .shown",
        "light, '/rehearsal/ramp-bilge-panel/1?in=fi&at=1', true, .scenecell .footnotes .story",
        "dark, '/rehearsal/ramp-bilge-panel/1?in=fi&at=1', true, .scenecell .footnotes .story",
        "light, '/rehearsal/ramp-bilge-panel/sheet?in=pl', true, .contactsheet .small",
        "dark, '/rehearsal/ramp-bilge-panel/sheet?in=pl', true, .contactsheet .small",
        "light, /rehearsal/deckside/9/places, true, .marking [data-box]",
        "dark, /rehearsal/deckside/9/places, true, .marking [data-box]",
        "light, /deliveries, true, .listed",
        "dark, /deliveries, true, .listed",
        "light, /deliveries/ramp-bilge-panel, true, .past",
        "dark, /deliveries/ramp-bilge-panel, true, .past",
        "light, '/deliveries/ramp-bilge-panel?from=1&to=2', true, .goingout ul.files",
        "light, /products/ramp-bilge-panel, true, .ofproduct .listed",
        "dark, /products/ramp-bilge-panel, true, .ofproduct .listed",
        "light, /tables/deckside, true, .listed",
        "dark, /tables/deckside, true, .listed",
        "light, /invitation/nobody, false, .MuiAlert-root",
        "light, /intake/1, true, .changelist",
        "dark, /intake/1, true, .changelist"
    })
    void nothing(String theme, String path, boolean signedIn, String ready) {
        Browser browser = signedIn ? coordinator() : nobody;
        browser.theme(theme);
        browser.go(path);
        browser.see(ready);
        assertNothing(browser);
    }

    @ParameterizedTest(name = "the sheet at work, {0}")
    @ValueSource(strings = {"light", "dark"})
    void nothingInWhatOpensOverTheSheet(String theme) {
        Browser browser = coordinator();
        browser.theme(theme);
        browser.go("/ledger?table=ramp-panel&in=de,pl,ar");
        browser.see(".footnotes .story");
        browser.until(
                d -> "grid".equals(browser.focused().getAttribute("role")) ? true : null,
                "the sheet to have the focus");
        browser.chord(Keys.SHIFT, Keys.DOWN);
        browser.chord(Keys.SHIFT, Keys.RIGHT);
        browser.see(".selectionbar", "4 cells");
        assertNothing(browser);
        browser.press(Keys.ESCAPE, Keys.F2);
        browser.see(".editor textarea");
        assertNothing(browser);
        browser.press(Keys.ESCAPE);
        browser.chord(Keys.CONTROL, "h");
        browser.see("[role=dialog] input").sendKeys("ramp", Keys.TAB, "deck");
        browser.see("[role=dialog] button[type=submit]:enabled").click();
        browser.see(".changes .change");
        assertNothing(browser);
        browser.press(Keys.ESCAPE);
        browser.gone("[role=dialog]");
        browser.go("/wordbook");
        browser.see(".wordbook .open").click();
        browser.see("[role=dialog] .pair");
        assertNothing(browser);
    }

    @ParameterizedTest(name = "pictures and sounds that came together, {0}")
    @ValueSource(strings = {"light", "dark"})
    void nothingInNamesOfPictures(String theme) {
        Browser browser = coordinator();
        browser.theme(theme);
        browser.go("/intake");
        browser.see(".drop button", "Choose a folder");
        browser.driver()
                .findElement(By.id("folder"))
                .sendKeys(Path.of("../demo/media").toAbsolutePath().normalize().toString());
        browser.see(".assetfiles tbody tr");
        assertNothing(browser);
    }

    @ParameterizedTest(name = "menus and pickers, {0}")
    @ValueSource(strings = {"light", "dark"})
    void nothingInMenusAndPickers(String theme) {
        Browser browser = coordinator();
        browser.theme(theme);
        browser.go("/ledger?table=ramp-panel&in=de,pl");
        browser.see(".footnotes .story");
        String opening = ".aside button[aria-haspopup], .footnotes button[aria-haspopup], .picker";
        int all = browser.count(opening);
        assertThat(all).isGreaterThan(8);
        for (int at = 0; at < all; at++) {
            browser.driver().findElements(By.cssSelector(opening)).get(at).sendKeys(Keys.ENTER);
            browser.see(".MuiPopover-paper");
            assertNothing(browser);
            browser.press(Keys.ESCAPE);
            browser.gone(".MuiPopover-paper");
        }
        browser.press("/");
        browser.see("#find").sendKeys("ramp");
        browser.see("[role=option]");
        assertNothing(browser);
    }

    @ParameterizedTest(name = "{1} of {0}")
    @CsvSource({
        "/products, New product",
        "/products, New table",
        "/people, Add a person",
        "/people, Tokens for programs",
        "/wordbook, Add a term",
        "/wordbook, Words without a term",
        "/memory?view=drafts, Add a drafting service",
        "/checks, What counts as wrong",
        "/checks?kind=space, Look at the",
        "/checks?kind=space, This is right",
        "/deliveries/ramp-bilge-panel, New recipe",
        "/deliveries/ramp-bilge-panel, Gates and schedule",
        "/deliveries/ramp-bilge-panel, Tell a program",
        "/deliveries/ramp-bilge-panel, Recall",
        "/deliveries/ramp-bilge-panel, Let the product fetch its texts",
        "/ledger?table=ramp-panel&in=de, Send out"
    })
    void nothingInDialogs(String path, String button) {
        Browser browser = coordinator();
        browser.theme("light");
        browser.go(path);
        browser.see("button", button).click();
        browser.see("[role=dialog] .MuiDialogTitle-root");
        assertNothing(browser);
    }

    /** Targets of less than 24 px (WCAG 2.2 §2.5.8) are not looked for unless asked. */
    private static final String TARGETS_TOO = "{\"rules\": {\"target-size\": {\"enabled\": true}}}";

    // The mode is called old, and is the one that opens no windows.
    @SuppressWarnings("deprecation")
    private static void assertNothing(Browser browser) {
        // Nothing here is framed from elsewhere, so no other windows are needed, which a busy machine opens too slowly.
        AxeBuilder axe = new AxeBuilder().setLegacyMode(true);
        axe.setOptions(TARGETS_TOO);
        List<Rule> found = axe.analyze(browser.driver()).getViolations();
        assertThat(found)
                .extracting(rule -> rule.getId() + ": " + rule.getHelp() + " "
                        + rule.getNodes().stream()
                                .limit(3)
                                .map(node -> node.getHtml())
                                .toList())
                .isEmpty();
    }

    private Browser coordinator() {
        if (!signedIn) {
            coordinator.go("/board");
            coordinator.signIn("mirja", DemoServer.PASSWORD);
            signedIn = true;
        }
        return coordinator;
    }
}
