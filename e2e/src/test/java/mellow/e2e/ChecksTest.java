package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;
import org.openqa.selenium.Keys;

/** What would break in the product is found, mended and weighed, as a translator, a reviewer and a coordinator do it. */
class ChecksTest {

    @Test
    void aTranslatorMendsByKeyWhatAReviewerCannotSettle() {
        DemoServer.takeIn("Wharf", "wharf.csv", bytes("key,en,pl\nwharf.1,Gate {gate} closes,\nwharf.2,Bow,\n"));
        try (Browser beata = DemoServer.browse();
                Browser oskar = DemoServer.browse()) {
            beata.go("/ledger?table=wharf&in=pl");
            beata.signIn("beata", DemoServer.PASSWORD);
            beata.see(".line .key", "wharf.1");
            beata.until(
                    d -> "grid".equals(beata.focused().getAttribute("role")) ? true : null,
                    "the sheet to have the focus");
            beata.press("Brama {brama} zamknięta");
            beata.see(".blockers li", "must stay as it is");
            beata.press(Keys.ENTER);
            beata.see(".line .remark.offered");

            oskar.go("/review?in=pl&table=wharf");
            oskar.signIn("oskar", DemoServer.PASSWORD);
            oskar.see(".strip.here .wrong", "{brama} is {gate} in the source, and must stay as it is.");
            assertThat(oskar.see(".strip.here button", "Settle").isEnabled()).isFalse();

            beata.press(Keys.ARROW_UP, Keys.F2);
            beata.see(".blockers li", "must stay as it is");
            beata.see(".findings button", "Make it {gate}");
            beata.chord(Keys.ALT, "m");
            beata.until(
                    d -> "Brama {gate} zamknięta".equals(beata.focused().getAttribute("value")) ? true : null,
                    "the text to be mended");
            beata.gone(".blockers");
            beata.press(Keys.ENTER);

            oskar.go("/review?in=pl&table=wharf");
            oskar.until(
                    d -> oskar.see(".strip.here button", "Settle").isEnabled() ? true : null, "the offer to be sound");
            oskar.press("s");
            beata.see(".line .cell[aria-label*='settled: Brama {gate}']");
            assertThat(beata.complaints()).isEmpty();
            assertThat(oskar.complaints()).isEmpty();
        }
    }

    @Test
    void aCoordinatorMendsWhatIsSureAndTurnsAKindOffForOneTable() {
        DemoServer.takeIn(
                "Slip", "slip.csv", bytes("key,en,pl\nslip.1,Gate {gate},Brama\nslip.2,Ramp up,Rampa  w górę\n"));
        try (Browser mirja = DemoServer.browse()) {
            mirja.go("/checks?table=slip");
            mirja.signIn("mirja", DemoServer.PASSWORD);
            mirja.see(".kinds button[aria-current=true]", "Placeholder lost or changed");
            mirja.see(".places li .wrong", "The placeholder {gate} is missing.");
            mirja.see(".places footer", "None of these can be mended in one sure way");
            mirja.see(".kinds button", "Spaced differently").click();
            mirja.see(".places footer b", "1 of these 1 can be mended in one sure way.");
            mirja.see(".places footer button", "Look at the 1").click();
            mirja.see("[role=dialog] .words del");
            mirja.see("[role=dialog] button", "Mend 1").click();
            mirja.see(".MuiSnackbar-root", "1 text was mended.");
            mirja.see(".MuiSnackbar-root button", "Undo").click();
            mirja.see(".MuiSnackbar-root", "Everything is as it was before.");

            mirja.see(".places li button", "This is right").click();
            mirja.see("[role=dialog] input");
            mirja.press("The board has wide spaces.", Keys.ENTER);
            mirja.see(".places li", "This is right: The board has wide spaces.");
            mirja.see(".places li button", "Take back").click();
            mirja.see(".places li button", "Make it one");

            mirja.see(".kinds button", "What counts as wrong").click();
            mirja.see("[role=dialog] [aria-labelledby='weight-placeholder'] button", "not looked for")
                    .click();
            mirja.see("[role=dialog] button", "Save").click();
            mirja.gone("[role=dialog]");
            mirja.until(
                    d -> mirja.see(".kinds button", "Placeholder lost or changed")
                                    .getText()
                                    .contains("\n0")
                            ? true
                            : null,
                    "nothing of the kind to be left");
            mirja.go("/ledger?table=slip&in=pl&check=space");
            mirja.see(".line .key", "slip.2");
            assertThat(mirja.count(".line .key")).isEqualTo(1);
            assertThat(mirja.complaints()).isEmpty();
        }
    }

    private static byte[] bytes(String csv) {
        return csv.getBytes(StandardCharsets.UTF_8);
    }
}
