package mellow.server.delivery;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.stream.IntStream;
import mellow.server.run.RunService.RunReply;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.Test;

/** A product that goes out by itself. */
class ScheduleRunsTest extends PanelCase {

    @Test
    void twoTellingTheSameTimeDeliverOnce() {
        recipes.add(mara, "panel", "Texts", texts("json", "each", "{tag}.json"));
        ledger.run(
                "insert into delivery_plan (product_id, gates, every_hours, next_at, person_id) select id, '{\"blockers\":\"hold\",\"share\":0,\"below\":\"hold\",\"stale\":\"go\"}', 2, now() - interval '5 hours', "
                        + mara + " from product");
        deliveries.beginDue();
        deliveries.beginDue();
        Awaitility.await().until(() -> deliveries.run("panel").orElseThrow(), run -> !run.open());
        deliveries.beginDue();
        assertThat(deliveries.history("panel", Integer.MAX_VALUE))
                .as("made up once")
                .hasSize(1);
        assertThat(ledger.ask(Boolean.class, "select next_at > now() from delivery_plan"))
                .isTrue();
        ledger.run("update delivery_plan set next_at = now() - interval '1 minute'");
        deliveries.beginDue();
        Awaitility.await().until(() -> deliveries.run("panel").orElseThrow(), run -> !run.open());
        assertThat(deliveries.history("panel", Integer.MAX_VALUE))
                .as("nothing had changed")
                .hasSize(1);
        assertThat(plans.of(products.find("panel").id()).lastSaid())
                .isEqualTo("Nothing had changed, so nothing was delivered.");
    }

    @Test
    void whoeverAsksAtTheSameMomentDeliversOnce() {
        recipes.add(mara, "panel", "Texts", texts("json", "each", "{tag}.json"));
        ledger.run(
                "insert into delivery_plan (product_id, gates, times, zone, next_at, person_id) select id, '{\"blockers\":\"hold\",\"share\":0,\"below\":\"hold\",\"stale\":\"go\"}', '{06:30}', 'Europe/Helsinki', now() - interval '3 days', "
                        + mara + " from product");
        IntStream.range(0, 8).parallel().forEach(n -> deliveries.beginDue());
        Awaitility.await().until(() -> deliveries.run("panel").orElseThrow(), run -> !run.open());
        assertThat(ledger.ask(Integer.class, "select count(*)::int from run where kind = 'deliver'"))
                .isEqualTo(1);
        assertThat(ledger.ask(
                        String.class,
                        "select to_char(next_at at time zone 'Europe/Helsinki', 'HH24:MI') from delivery_plan"))
                .isEqualTo("06:30");
    }

    @Test
    void whoMayNotDeliverAnyMoreDeliversNothingByThemselves() {
        recipes.add(mara, "panel", "Texts", texts("json", "each", "{tag}.json"));
        long oskar = ledger.coordinator("oskar");
        plans.change(
                oskar, "panel", new Plans.DeliveryPlan(Gates.USUAL, false, 2, List.of(), "UTC", null, null, "", 0));
        ledger.run("update person set coordinator = false where id = " + oskar);
        ledger.run("update delivery_plan set next_at = now() - interval '1 minute'");
        deliveries.beginDue();
        RunReply run = Awaitility.await().until(() -> deliveries.run("panel").orElseThrow(), one -> !one.open());
        assertThat(run.message()).isEqualTo("Only a coordinator can deliver.");
        assertThat(deliveries.history("panel", Integer.MAX_VALUE)).isEmpty();
    }

    @Test
    void anotherGateLeavesTheNextTimeAsItIs() {
        plans.change(
                mara, "panel", new Plans.DeliveryPlan(Gates.USUAL, false, 48, List.of(), "UTC", null, null, "", 0));
        Plans.DeliveryPlan plan = plans.of(products.find("panel").id());
        ledger.run("update delivery_plan set next_at = next_at - interval '5 hours'");
        plans.change(
                mara,
                "panel",
                new Plans.DeliveryPlan(
                        new Gates("go", 0, "hold", "go"), false, 48, List.of(), "UTC", null, null, "", plan.version()));
        assertThat(plans.of(products.find("panel").id()).nextAt()).isBefore(plan.nextAt());
        assertThatThrownBy(() -> plans.change(
                        mara,
                        "panel",
                        new Plans.DeliveryPlan(
                                Gates.USUAL, false, 48, List.of(), "UTC", null, null, "", plan.version())))
                .as("an old version")
                .hasMessageContaining("meanwhile");
        for (Plans.DeliveryPlan bad : List.of(
                new Plans.DeliveryPlan(Gates.USUAL, false, 0, List.of(), "UTC", null, null, "", 2),
                new Plans.DeliveryPlan(Gates.USUAL, false, 2, List.of("06:30"), "UTC", null, null, "", 2),
                new Plans.DeliveryPlan(Gates.USUAL, false, null, List.of("25:00"), "UTC", null, null, "", 2),
                new Plans.DeliveryPlan(
                        Gates.USUAL, false, null, List.of("06:30"), "Nowhere/Else", null, null, "", 2))) {
            assertThatThrownBy(() -> plans.change(mara, "panel", bad)).hasMessageStartingWith("A schedule is");
        }
    }
}
