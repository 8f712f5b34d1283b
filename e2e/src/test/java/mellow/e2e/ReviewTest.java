package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.List;
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

            oskar.go("/review?in=pl&table=buoy");
            oskar.signIn("oskar", DemoServer.PASSWORD);
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
            oskar.see(".strip.here .wrong", "Missing: {n}. It cannot be settled.");
            assertThat(oskar.see(".strip.here button", "Settle").isEnabled()).isFalse();
            oskar.press("s");
            oskar.see(".MuiSnackbar-root", "1 offer has a blocker and stays.");
            oskar.see(".contributors button", "1 waiting");
            assertThat(oskar.see(".contributors button", "Lina").getText()).contains("75 % of 4 settled, 1 amended");

            lina.see(".line .remark.blocked", "returned: Just the mast, please.");
            lina.see(".line .cell[aria-label*='settled: \u0141a\u0144cuch']");
            lina.go("/ledger?table=buoy&in=pl&only=returned");
            lina.see(".line.here .key", "buoy.4");
            lina.until(
                    d -> "grid".equals(lina.focused().getAttribute("role")) ? true : null,
                    "the sheet to have the focus");
            lina.press("Maszt", Keys.ENTER);
            lina.see(".line .remark.offered");

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
}
