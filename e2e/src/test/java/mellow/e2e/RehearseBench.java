package mellow.e2e;

import static java.lang.System.out;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import mellow.core.fit.Face;
import mellow.core.fit.FontFile;
import mellow.server.rehearsal.SceneLook;
import mellow.server.rehearsal.SceneService;
import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * Measures rehearsals: {@code ./mellow bench rehearse}. A scene of sixty places of the demo's panel is opened in Chromium at 1280×800 and switched between
 * languages; a hundred thousand texts are fitted; all scenes of the demo are looked at in all languages.
 */
final class RehearseBench {

    private static final int PLACES = 60;
    private static final int ROUNDS = 21;
    private static final int TEXTS = 100_000;
    private static final List<String> PRODUCTS =
            List.of("ramp-bilge-panel", "deckside", "skippers-post", "ostrel-booking-site");

    private RehearseBench() {}

    public static void main(String[] arguments) throws Exception {
        JdbcClient jdbc = DemoServer.part(JdbcClient.class);
        SceneLook look = DemoServer.part(SceneLook.class);
        fit(jdbc);
        PRODUCTS.forEach(look::bringUpToDate);
        jdbc.sql("update scene set looked = ''").update();
        List<Double> looks = times(1, () -> PRODUCTS.forEach(look::bringUpToDate));
        out.printf(
                Locale.ROOT,
                "all %d scenes of the demo in all languages looked at in %.0f ms (goal 2,000)%n",
                jdbc.sql("select count(*)::int from scene where removed_at is null")
                        .query(Integer.class)
                        .single(),
                looks.get(0));
        List<Double> again = times(ROUNDS, () -> PRODUCTS.forEach(look::bringUpToDate));
        out.printf(Locale.ROOT, "found that nothing changed in %.0f ms%n", median(again));
        long person = jdbc.sql("select id from person where sign_in = 'mirja'")
                .query(Long.class)
                .single();
        long scene = DemoServer.part(SceneService.class)
                .add(person, "ramp-bilge-panel", "Sixty", drawing(jdbc), null, true)
                .scenes()
                .get(0)
                .id();
        try (Browser browser = DemoServer.browse()) {
            browser.go("/rehearsal/ramp-bilge-panel/" + scene + "?in=fi");
            browser.signIn("mirja", DemoServer.PASSWORD);
            browser.see(".stage .shown");
            // Times are of the browser's own clock, from the press to the picture with the other scene or language.
            out.printf(
                    Locale.ROOT,
                    "a scene of %d places opens in %.0f ms (goal 150), switches language in %.0f ms (goal 50)%n",
                    PLACES,
                    open(browser),
                    switched(browser));
        }
        // The demo server's threads would keep the program alive.
        System.exit(0);
    }

    private static byte[] drawing(JdbcClient jdbc) {
        List<String> keys = jdbc.sql(
                        """
                        select e.key from entry e join ledger_table t on t.id = e.table_id
                        where t.slug = 'ramp-panel' and e.removed_at is null and e.shape = 'plain' order by e.position limit :most
                        """)
                .param("most", PLACES)
                .query(String.class)
                .list();
        StringBuilder svg = new StringBuilder("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 800 480\">");
        for (int i = 0; i < keys.size(); i++) {
            svg.append(String.format(
                    Locale.ROOT,
                    "<rect x=\"%d\" y=\"%d\" width=\"190\" height=\"26\" fill=\"#ccc\"/><text x=\"%d\" y=\"%d\" font-size=\"12\" data-with='{\"n\": 2, \"1\": 3}'>#%s#</text>",
                    i % 4 * 200,
                    i / 4 * 32,
                    i % 4 * 200 + 6,
                    i / 4 * 32 + 18,
                    keys.get(i)));
        }
        return svg.append("</svg>").toString().getBytes(StandardCharsets.UTF_8);
    }

    private static void fit(JdbcClient jdbc) throws Exception {
        Face face = Face.of("panel", FontFile.read(Files.readAllBytes(Path.of("demo/ramp-panel.ttf"))), 14);
        List<String> known = jdbc.sql("select text from cell where text is not null")
                .query(String.class)
                .list();
        List<String> texts = new ArrayList<>();
        for (int i = 0; i < TEXTS; i++) {
            // No text twice, as in a real table.
            texts.add(known.get(i % known.size()) + ' ' + i);
        }
        List<Double> took = times(3, () -> {
            double widest = 0;
            for (String text : texts) {
                widest = Math.max(widest, face.width(text) + face.lacking(text).size());
            }
            if (widest == 0) {
                throw new IllegalStateException("nothing was measured");
            }
        });
        out.printf(
                Locale.ROOT,
                "%,d texts fitted on one core in %.2f s (goal 5)%n",
                TEXTS,
                took.get(took.size() - 1) / 1000);
    }

    private static double open(Browser browser) {
        return median(rounds(browser, "Bow ramp", "Sixty"));
    }

    /** From one scene to another and back; only those to {@code to} count. */
    private static List<Double> rounds(Browser browser, String from, String to) {
        List<Double> took = new ArrayList<>();
        for (int i = 0; i < ROUNDS; i++) {
            clicked(browser, ".scenes a", from, 8);
            took.add(clicked(browser, ".scenes a", to, PLACES));
        }
        return took;
    }

    private static double switched(Browser browser) {
        List<Double> took = new ArrayList<>();
        for (int i = 0; i < ROUNDS; i++) {
            Object ms = browser.later(
                    """
                    const [number, done] = arguments;
                    const before = document.querySelector(".stage figcaption").textContent;
                    const field = document.querySelector(".switching .number input");
                    const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set;
                    const start = performance.now();
                    set.call(field, number);
                    field.dispatchEvent(new Event("input", { bubbles: true }));
                    const look = () => document.querySelector(".stage figcaption").textContent !== before
                      ? requestAnimationFrame(() => done(performance.now() - start)) : setTimeout(look, 1);
                    look();
                    """,
                    String.valueOf(i % 2 == 0 ? 4 : 1));
            took.add(((Number) ms).doubleValue());
        }
        return median(took);
    }

    private static double clicked(Browser browser, String css, String words, int places) {
        Object ms = browser.later(
                """
                const [css, words, places, done] = arguments;
                const start = performance.now();
                [...document.querySelectorAll(css)].find((one) => one.textContent.includes(words)).click();
                const look = () => document.querySelectorAll(".stages .stage .shown").length === places && document.querySelector(".whichscene")?.textContent.includes(words)
                  ? requestAnimationFrame(() => done(performance.now() - start)) : setTimeout(look, 1);
                look();
                """,
                css,
                words,
                places);
        return ((Number) ms).doubleValue();
    }

    private static List<Double> times(int rounds, Runnable work) {
        List<Double> took = new ArrayList<>();
        for (int i = 0; i < rounds; i++) {
            long start = System.nanoTime();
            work.run();
            took.add((System.nanoTime() - start) / 1e6);
        }
        return took;
    }

    private static double median(List<Double> values) {
        double[] sorted = values.stream().mapToDouble(Double::doubleValue).toArray();
        Arrays.sort(sorted);
        return sorted[sorted.length / 2];
    }
}
