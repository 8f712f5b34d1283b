package mellow.server.delivery;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.product.ProductService.Definition;
import mellow.server.product.ProductService.Selected;
import mellow.server.run.RunService.RunReply;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.BeforeEach;
import org.springframework.beans.factory.annotation.Autowired;

/** A panel in four languages, to be delivered. */
abstract class PanelCase extends DeliveryCase {

    protected static final String PANEL =
            """
            key,section,en,fi,et,de,pl
            ramp.up,Bow,Ramp up,Ramppi ylös,Ramp üles,Rampe hoch,Rampa w górę
            ramp.down,Bow,Ramp down,Ramppi alas,,Rampe runter,Rampa w dół
            ramp.blocked,Bow,A car blocks the {side} ramp,Auto tukkii rampin {side},Auto tõkestab rampi {side},Ein Auto blockiert die Rampe {side},
            tank.full,Tanks,"Tank full, stop",Säiliö täynnä,Paak täis,Tank voll,Zbiornik pełny
            """;

    @Autowired
    protected Plans plans;

    protected long mara;

    @BeforeEach
    void aPanel() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(mara, "Ramp", PANEL, Arrival.SETTLED);
        for (String language : List.of("fi", "et", "de", "pl")) {
            ledger.allowOwn("Ramp", language);
        }
        products.create(
                mara,
                new Definition(
                        0,
                        "Panel",
                        "panel",
                        List.of("ramp"),
                        List.of(
                                new Selected("fi", 1),
                                new Selected("et", 2, false, null, List.of("fi"), null),
                                new Selected("de", 3),
                                new Selected("pl", 4)),
                        "fi"));
    }

    static RecipeBuilder of(String format, String files, String pattern) {
        return RecipeBuilder.of("texts", format, pattern)
                .files(files)
                .hole("borrowed")
                .delimiter("semicolon");
    }

    static Recipe.RecipeSettings texts(String format, String files, String pattern) {
        return of(format, files, pattern).build();
    }

    static Recipe.RecipeSettings kind(String kind, String format, String pattern) {
        return RecipeBuilder.of(kind, format, pattern)
                .files("one")
                .delimiter("semicolon")
                .prefix("panel")
                .numbers(kind.equals("keys"))
                .build();
    }

    protected RunReply deliver() {
        deliveries.start(mara, "panel");
        return Awaitility.await().until(() -> deliveries.run("panel").orElseThrow(), run -> !run.open());
    }

    protected void delivered(int number) {
        RunReply run = deliver();
        assertThat(run.status()).as(run.message()).isEqualTo("done");
        assertThat(deliveries.history("panel", Integer.MAX_VALUE).get(0).number())
                .isEqualTo(number);
    }

    protected Map<String, byte[]> content(int number) {
        return content("panel", number);
    }

    protected void settle(String key, String language, String text) {
        int version = ledger.ask(
                Integer.class,
                "select version from cell where entry_id = " + ledger.entry(key)
                        + " and language_id = (select id from language where tag = '" + language + "')");
        ledger.change(mara, key, language, new CellChange(Action.PUT_FORWARD, version, text, null, null, false, null));
        assertThat(ledger.cell(key, language)).isEqualTo("settled " + text);
    }

    protected void gates(Gates gates) {
        Plans.DeliveryPlan plan = plans.of(products.find("panel").id());
        plans.change(
                mara,
                "panel",
                new Plans.DeliveryPlan(gates, false, null, List.of(), "UTC", null, null, "", plan.version()));
    }
}
