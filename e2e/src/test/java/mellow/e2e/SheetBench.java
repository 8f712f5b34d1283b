package mellow.e2e;

import static java.lang.System.out;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;

/**
 * Measures the sheet as people meet it: {@code SheetBench}. A table of 100,000 entries in three languages in Chromium at 1280×800 is opened, scrolled,
 * left for its end, narrowed to what is stale, and typed in; every frame longer than 50 ms is counted. Times are of the browser's own clock.
 */
final class SheetBench {

    private static final int ENTRIES = 100_000;
    private static final int LONG_MS = 50;

    /** Counts frames from now on: how many there were, and how long the long ones took. */
    private static final String WATCH =
            """
            window.frames_ = { n: 0, long: [], last: performance.now(), on: true, tasks: [], keys: [] };
            (window.watching_ ?? []).forEach((observer) => observer.disconnect());
            window.watching_ = [];
            const watch = (type, into, of) => {
              const observer = new PerformanceObserver((list) => list.getEntries().forEach((one) => {
                if (window.frames_.on) of(one).forEach((ms) => window.frames_[into].push(ms));
              }));
              observer.observe({ type, durationThreshold: 16 });
              window.watching_.push(observer);
            };
            watch("longtask", "tasks", (task) => [Math.round(task.duration)]);
            // From the key to the picture that answers it; those under 16 ms are not told of one by one.
            watch("event", "keys", (event) => (event.name === "keydown" ? [event.duration] : []));
            const step = (now) => {
              if (!window.frames_.on) return;
              const took = now - window.frames_.last;
              window.frames_.n++;
              if (took > arguments[0]) window.frames_.long.push(Math.round(took));
              window.frames_.last = now;
              requestAnimationFrame(step);
            };
            requestAnimationFrame(step);
            """;

    private static final int WIDE_ENTRIES = 2_000;
    private static final List<String> LANGUAGES = List.of(
            ("af am ar az be bg bn bs ca cs cy da de el es et eu fa fi fr ga gl gu he hi hr hu hy id is it ja ka kk km kn ko "
                            + "lo lt lv mk ml mn mr ms my nb ne nl pl pt ro ru sk sl sq sr sv sw ta")
                    .split(" "));

    private SheetBench() {}

    public static void main(String[] arguments) throws IOException {
        boolean onlyWide = List.of(arguments).contains("wide");
        if (!onlyWide) {
            DemoServer.takeIn("Harbour log", "harbour.csv", sheet(new Random(5), "Harbour"));
            // The second edition of the source makes every twentieth entry stale.
            DemoServer.takeIn("Harbour log", "harbour.csv", sheet(new Random(5), "Harbor"));
        }
        try (Browser browser = DemoServer.browse()) {
            browser.go("/board");
            browser.signIn("mirja", DemoServer.PASSWORD);
            browser.see(".tabs");
            if (!onlyWide) high(browser);
            wide(browser);
        }
        // The demo server's threads would keep the program alive.
        System.exit(0);
    }

    /** A hundred thousand entries in three languages. */
    private static void high(Browser browser) {
        out.printf("%,d entries in three languages, Chromium at 1280x800%n", ENTRIES);
        open(browser, "open the sheet", "/ledger?table=harbour-log&in=de,fi,et");
        scroll(browser);
        watched(browser, "jump to the end", () -> {
            browser.chord(Keys.CONTROL, Keys.END);
            browser.see(".line.here .key", "log." + (ENTRIES - 1));
        });
        watched(browser, "jump to entry 50,000", () -> {
            browser.chord(Keys.CONTROL, "g");
            browser.see("[role=dialog] input").sendKeys("50000", Keys.ENTER);
            browser.see(".line.here .key", "log.49999");
        });
        open(browser, "filter to stale", "/ledger?table=harbour-log&in=de,fi,et&only=stale");
        watched(browser, "type ten texts", () -> {
            for (int i = 0; i < 10; i++) {
                browser.press("Neuer Text " + i, Keys.ENTER);
            }
            browser.until(
                    d -> d.findElements(By.cssSelector(".line .remark.offered")).size() >= 8 ? true : null,
                    "the texts to be offered");
        });
        watched(browser, "arrow through 200 rows", () -> {
            for (int i = 0; i < 20; i++) {
                browser.press(
                        Keys.DOWN, Keys.DOWN, Keys.DOWN, Keys.DOWN, Keys.DOWN, Keys.DOWN, Keys.DOWN, Keys.DOWN,
                        Keys.DOWN, Keys.DOWN);
            }
        });
        Object nodes = browser.script("return document.querySelectorAll('[role=grid] [role=row]').length");
        out.println("rows in the page: " + nodes + " of " + ENTRIES);
    }

    /** Sixty languages side by side. */
    private static void wide(Browser browser) {
        StringBuilder csv = new StringBuilder("key,en");
        LANGUAGES.forEach(language -> csv.append(',').append(language));
        csv.append('\n');
        for (int i = 0; i < WIDE_ENTRIES; i++) {
            csv.append("buoy.").append(i).append(",Buoy ").append(i);
            for (String language : LANGUAGES) {
                csv.append(',').append(language).append(" buoy ").append(i);
            }
            csv.append('\n');
        }
        DemoServer.takeIn("Buoys", "buoys.csv", csv.toString().getBytes(StandardCharsets.UTF_8));
        open(browser, "open sixty languages", "/ledger?table=buoys&in=" + String.join(",", LANGUAGES));
        watched(browser, "arrow through sixty languages", () -> {
            for (Keys key : List.of(Keys.RIGHT, Keys.LEFT)) {
                for (int i = 0; i < LANGUAGES.size(); i++) {
                    browser.press(key);
                }
            }
        });
        watched(browser, "arrow through 100 rows of sixty", () -> {
            for (int i = 0; i < 100; i++) {
                browser.press(Keys.DOWN);
            }
        });
        Object cells = browser.script("return document.querySelectorAll('[role=grid] .line .cell').length");
        out.println("cells in the page: " + cells + " of " + WIDE_ENTRIES * LANGUAGES.size());
    }

    private static byte[] sheet(Random random, String word) {
        StringBuilder csv = new StringBuilder("key,section,en,de,fi,et\n");
        for (int i = 0; i < ENTRIES; i++) {
            String source = i % 20 == 0 ? word : "Harbour";
            csv.append("log.").append(i).append(",Section ").append(i / 500).append(',');
            csv.append(source)
                    .append(" entry {n} of watch ")
                    .append(random.nextInt(900))
                    .append(" at pier ")
                    .append(i);
            csv.append(i % 3 == 0 ? "," : ",Hafeneintrag {n} am Anleger " + i);
            csv.append(i % 4 == 0 ? "," : ",Satamamerkintä {n} laiturilla " + i);
            csv.append(",Sadama kirje {n} kai ääres ").append(i).append('\n');
        }
        return csv.toString().getBytes(StandardCharsets.UTF_8);
    }

    private static void open(Browser browser, String what, String path) {
        browser.go(path);
        browser.see(".line .key");
        browser.until(d -> d.findElements(By.cssSelector(".line .faint")).isEmpty() ? true : null, "the rows");
        Object usable = browser.script(
                "const rows = performance.getEntriesByType('resource').filter(e => e.name.includes('/api/rows'));"
                        + " const scope = performance.getEntriesByType('resource').find(e => e.name.includes('/api/scope?'));"
                        + " return [Math.round(rows[0].responseEnd), Math.round(scope.duration), Math.round(scope.transferSize / 1024)]");
        List<?> figures = (List<?>) usable;
        out.printf(
                "%-28s first rows after %s ms, of them %s ms for the scope (%s kB)%n",
                what, figures.get(0), figures.get(1), figures.get(2));
    }

    private static void scroll(Browser browser) {
        watched(browser, "scroll 600 rows, then 20,000", () -> {
            browser.script(
                    """
                    window.scrolled = false;
                    const grid = document.querySelector('[role=grid]');
                    let at = 0;
                    const step = () => {
                      at++;
                      grid.scrollTop += at <= 120 ? 280 : 18000;
                      if (at < 180) requestAnimationFrame(step); else window.scrolled = true;
                    };
                    requestAnimationFrame(step);
                    """);
            browser.until(d -> Boolean.TRUE.equals(browser.script("return window.scrolled")) ? true : null, "the end");
            browser.until(
                    d -> d.findElements(By.cssSelector(".line .faint")).isEmpty() ? true : null, "the rows there");
        });
    }

    private static void watched(Browser browser, String what, Runnable doing) {
        browser.script(WATCH, LONG_MS);
        long begun = System.nanoTime();
        doing.run();
        double seconds = (System.nanoTime() - begun) / 1e9;
        browser.script("window.frames_.on = false");
        Map<?, ?> frames = (Map<?, ?>) browser.script("return window.frames_");
        List<?> slow = (List<?>) frames.get("long");
        out.printf(
                Locale.ROOT,
                "%-28s %5.1f s, %s frames, %d over %d ms; tasks over 50 ms %s; keys answered after %s%n",
                what,
                seconds,
                frames.get("n"),
                slow.size(),
                LONG_MS,
                frames.get("tasks"),
                spread((List<?>) frames.get("keys")));
    }

    /** The middle one of times that were 16 ms or more, one in twenty of them, and the longest. */
    private static String spread(List<?> times) {
        List<Long> sorted =
                times.stream().map(time -> ((Number) time).longValue()).sorted().toList();
        int n = sorted.size();
        return n == 0
                ? "less than 16 ms"
                : "median %d, p95 %d, at most %d ms"
                        .formatted(sorted.get(n / 2), sorted.get(n * 19 / 20), sorted.get(n - 1));
    }
}
