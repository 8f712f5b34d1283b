package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;

/** What the client asks the server for: nothing twice, nothing one after the other that could be asked together. */
class RequestsTest {

    private static final String ASKED =
            """
            return performance.getEntriesByType('resource').filter(e => e.initiatorType === 'fetch')
                .map(e => ({path: e.name.replace(location.origin, ''), from: e.startTime, to: e.responseEnd}));
            """;

    private record Asked(String path, double from, double to) {}

    private static List<Asked> asked(Browser browser) {
        return ((List<?>) browser.script(ASKED))
                .stream()
                        .map(one -> (Map<?, ?>) one)
                        .map(one -> new Asked(
                                (String) one.get("path"),
                                ((Number) one.get("from")).doubleValue(),
                                ((Number) one.get("to")).doubleValue()))
                        .toList();
    }

    private static Asked first(List<Asked> all, String path) {
        return all.stream()
                .filter(one -> one.path().startsWith(path))
                .findFirst()
                .orElseThrow();
    }

    private static void ready(Browser browser) {
        browser.see(".line .key");
        browser.see(".footnotes .story");
        browser.until(d -> d.findElements(By.cssSelector(".line .faint")).isEmpty() ? true : null, "the rows");
    }

    @Test
    void openingALedgerAsksForNothingTwiceAndForItsScopeAtOnce() {
        try (Browser browser = DemoServer.browse()) {
            browser.go("/board");
            browser.signIn("mirja", DemoServer.PASSWORD);
            browser.see(".forecasts li");
            // Every reply takes its time, so that what waits for another can be told from what does not.
            browser.driver()
                    .executeCdpCommand(
                            "Network.emulateNetworkConditions",
                            Map.of("offline", false, "latency", 300, "downloadThroughput", -1, "uploadThroughput", -1));
            browser.go("/ledger?table=ramp-panel&in=fi");
            ready(browser);
            List<Asked> all = asked(browser);
            assertThat(all).extracting(Asked::path).doesNotHaveDuplicates();
            double known = first(all, "/api/session").to();
            for (String path : List.of("/api/tables", "/api/products", "/api/scope?")) {
                assertThat(first(all, path).from()).as(path).isLessThan(known);
            }
        }
    }

    @Test
    void restingOnARowIsOneRequest() {
        try (Browser browser = DemoServer.browse()) {
            browser.go("/ledger?table=ramp-panel&in=fi");
            browser.signIn("mirja", DemoServer.PASSWORD);
            ready(browser);
            browser.until(
                    d -> "grid".equals(browser.focused().getAttribute("role")) ? true : null,
                    "the sheet to have the focus");
            String before = browser.see(".footnotes .entry h2").getText();
            browser.script("performance.clearResourceTimings()");
            browser.press(Keys.DOWN);
            browser.until(
                    d -> before.equals(browser.see(".footnotes .entry h2").getText()) ? null : true,
                    "the footnotes of the next entry");
            ready(browser);
            browser.see(".footnotes .findings");
            assertThat(asked(browser))
                    .extracting(Asked::path)
                    .filteredOn(path -> path.startsWith("/api/entries"))
                    .singleElement()
                    .asString()
                    .endsWith("/cells/fi/notes");
        }
    }

    /** Whoever runs sideways over languages asks about the one where they stop. */
    @Test
    void runningOverLanguagesAsksOnceAtItsEnd() {
        try (Browser browser = DemoServer.browse()) {
            browser.go("/ledger?table=ramp-panel&in=de,fi,et,pl");
            browser.signIn("mirja", DemoServer.PASSWORD);
            ready(browser);
            browser.until(
                    d -> "grid".equals(browser.focused().getAttribute("role")) ? true : null,
                    "the sheet to have the focus");
            browser.see(".footnotes .findings");
            browser.script(
                    """
                    performance.clearResourceTimings();
                    const right = () => document.activeElement.dispatchEvent(
                      new KeyboardEvent("keydown", { key: "ArrowRight", code: "ArrowRight", bubbles: true, cancelable: true }));
                    // Between two keys React draws, and no timer can run.
                    right();
                    Promise.resolve().then(right).then(right);
                    """);
            browser.until(
                    d -> asked(browser).stream().anyMatch(one -> one.path().endsWith("/cells/pl/notes")) ? true : null,
                    "the footnotes of the last language to be asked for");
            assertThat(asked(browser))
                    .extracting(Asked::path)
                    .filteredOn(path -> path.startsWith("/api/entries"))
                    .hasSize(1);
        }
    }
}
