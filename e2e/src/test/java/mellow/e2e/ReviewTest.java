package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import mellow.core.merge.Arrival;
import org.junit.jupiter.api.Test;
import org.openqa.selenium.Keys;

/** A contributor offers, a reviewer answers by keyboard in another browser, the contributor improves what came back. */
class ReviewTest {

    private static final String TABLE =
            "key,en,pl\nbuoy.1,Buoy,\nbuoy.2,Anchor,\nbuoy.3,Chain,\nbuoy.4,Mast,\nbuoy.5,Depth {n} m,\n";

    @Test
    void fiveOffersAreJudgedByKeyboardAndOneIsImproved() {
        DemoServer.takeIn("Buoy", "buoy.csv", TABLE.getBytes(StandardCharsets.UTF_8));
        try (Browser lina = DemoServer.browse();
                Browser oskar = DemoServer.browse()) {
            lina.go("/ledger?table=buoy&in=pl");
            lina.signIn("lina", DemoServer.PASSWORD);
            lina.see(".line .key", "buoy.1");
            lina.until(
                    d -> "grid".equals(lina.focused().getAttribute("role")) ? true : null,
                    "the sheet to have the focus");
            for (String text :
                    List.of("Boja", "Kotwica", "Lancuch", "Maszt jaki\u015b", "G\u0142\u0119boko\u015b\u0107 m")) {
                lina.press(text, Keys.ENTER);
            }
            lina.until(d -> lina.count(".line .remark.offered") == 5 ? true : null, "five offers");

            oskar.go("/people?in=pl");
            oskar.signIn("oskar", DemoServer.PASSWORD);
            // The five offers above are told already.
            List<Integer> before = figures(oskar);
            oskar.go("/review?in=pl&table=buoy");
            oskar.see(".strip.here .key", "buoy.1");
            oskar.press("s");
            oskar.see(".strip.here .key", "buoy.2");
            oskar.press("s");
            oskar.see(".strip.here .key", "buoy.3");
            oskar.press("a");
            oskar.see(".strip.here textarea");
            oskar.chord(Keys.CONTROL, "a");
            oskar.press("\u0141a\u0144cuch", Keys.ENTER);
            oskar.see(".strip.here .key", "buoy.4");
            oskar.press("r");
            oskar.see("[role=dialog] input");
            oskar.press("Just the mast, please.", Keys.ENTER);
            oskar.see(".strip.here .key", "buoy.5");
            oskar.see(".strip.here .wrong", "The placeholder {n} is missing. It cannot be settled.");
            assertThat(oskar.see(".strip.here button", "Settle").isEnabled()).isFalse();
            oskar.press("s");
            oskar.see(".MuiSnackbar-root", "1 offer has a blocker and stays.");
            oskar.see(".contributors button", "1 waiting");
            assertThat(oskar.see(".contributors button", "Lina").getText())
                    .contains("75% of the last 4 settled, 1 amended");

            lina.see(".line .remark.blocked", "returned: Just the mast, please.");
            lina.see(".line .cell[aria-label*='settled: \u0141a\u0144cuch']");
            lina.go("/board");
            lina.see(".bell").click();
            lina.see(".bell-list a", "Polish offers came back").click();
            lina.see(".offerline .wrong", "Just the mast, please.");
            lina.see(".offerline .answers button", "Improve or answer").click();
            lina.until(d -> "textarea".equals(lina.focused().getTagName()) ? true : null, "the text to be open");
            lina.chord(Keys.CONTROL, "a");
            lina.press("Maszt", Keys.ENTER);
            lina.gone(".improve");
            lina.go("/ledger?table=buoy&in=pl");
            lina.see(".line .cell[aria-label*='Maszt']");

            oskar.go("/people?in=pl");
            List<Integer> after = figures(oskar);
            // Offered: the improved one. Settled two, amended one, returned one. Two wait of five.
            assertThat(difference(before, after)).containsExactly(1, 2, 1, 1, -3);

            // Both that wait are chosen; the sound one is settled, the other stays, and Ctrl+Z takes the settling back.
            oskar.go("/review?in=pl&table=buoy");
            oskar.see(".strip.here .key", "buoy.5");
            oskar.chord(Keys.SHIFT, Keys.DOWN);
            oskar.see(".selectionbar", "2 offers chosen");
            oskar.press("s");
            oskar.see(".MuiSnackbar-root", "1 offer has a blocker and stays.");
            oskar.until(d -> oskar.count(".strip") == 1 ? true : null, "one strip");
            oskar.chord(Keys.CONTROL, "z");
            oskar.until(d -> oskar.count(".strip") == 2 ? true : null, "both strips");
        }
    }

    /** Offered, settled, amended, returned and waiting of Lina in Polish, as People tells them. */
    private static List<Integer> figures(Browser browser) {
        String row = browser.see(".figures tbody tr", "Lina Korhola").getText();
        // The share that amending changed stands beside the amended ones.
        String numbers = row.replaceFirst(".*Polish", "").replaceAll("\\d+% changed", "");
        return Pattern.compile("\\d+")
                .matcher(numbers)
                .results()
                .limit(5)
                .map(found -> Integer.valueOf(found.group()))
                .toList();
    }

    private static List<Integer> difference(List<Integer> before, List<Integer> after) {
        return IntStream.range(0, before.size())
                .mapToObj(at -> after.get(at) - before.get(at))
                .toList();
    }

    private static byte[] knots(String header, String row) {
        return IntStream.rangeClosed(1, 130)
                .mapToObj(n -> "\nknot." + n + "," + row.replace("%d", Integer.toString(n)))
                .collect(Collectors.joining("", header, "\n"))
                .getBytes(StandardCharsets.UTF_8);
    }

    @Test
    void offersForOneCellStandSideBySideAndAllThatWaitAreSettledAsOneRun() {
        DemoServer.takeIn("Knots", "knots.csv", knots("key,en,pl", "Knot %d,"));
        DemoServer.takeIn("beata", "Knots", "knots-pl.csv", knots("key,en,pl", "Knot %d,Węzeł %d"), Arrival.OFFERED);
        try (Browser lina = DemoServer.browse();
                Browser oskar = DemoServer.browse()) {
            lina.go("/ledger?table=knots&in=pl");
            lina.signIn("lina", DemoServer.PASSWORD);
            lina.see(".line .key", "knot.1");
            lina.until(
                    d -> "grid".equals(lina.focused().getAttribute("role")) ? true : null,
                    "the sheet to have the focus");
            lina.press("Supeł", Keys.ENTER);
            lina.see(".line .remark.offered", "2 offers");
            oskar.go("/review?in=pl&table=knots");
            oskar.signIn("oskar", DemoServer.PASSWORD);
            oskar.see(".strip.here .right.here", "Węzeł");
            oskar.press(Keys.RIGHT);
            oskar.see(".strip.here .right.here", "Supeł");
            oskar.see(".aside", "131 offers wait");

            oskar.chord(Keys.CONTROL, "a");
            oskar.see(".selectionbar button", "Settle all 131 that wait").click();
            oskar.see("[role=dialog] button", "Settle 131 offers").click();
            oskar.see("[role=dialog] [role=status]", "129 offers are settled. 1 stays:");
            oskar.see("[role=dialog] .stayed", "knot.1");
            oskar.see("[role=dialog] button", "Close").click();
            oskar.see(".aside", "2 offers wait");
            oskar.press("s");
            oskar.see(".empty a", "Look at all that waits in Polish").click();
            oskar.see(".strip .key", "ramp.down");
        }
    }
}
