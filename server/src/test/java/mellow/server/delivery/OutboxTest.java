package mellow.server.delivery;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import mellow.core.merge.Arrival;
import mellow.server.bell.BellService;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.Definition;
import mellow.server.product.ProductService.Selected;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;

/** Deliveries in a folder of the server, where nobody ever finds half of one. */
class OutboxTest extends ServerTest {

    private static Path folder = Path.of("");

    @Autowired
    private Deliveries port;

    @Autowired
    private DeliveryService deliveries;

    @Autowired
    private Recipes recipes;

    @Autowired
    private Plans plans;

    @Autowired
    private Outbox outbox;

    @Autowired
    private BellService bell;

    @Autowired
    private ProductService products;

    private long mara;

    @DynamicPropertySource
    static void folder(DynamicPropertyRegistry registry) throws IOException {
        folder = Files.createTempDirectory("outbox");
        registry.add("mellow.outbox", folder::toString);
    }

    @BeforeEach
    void aProduct() throws IOException {
        try (Stream<Path> old = Files.walk(folder)) {
            old.sorted((a, b) -> b.compareTo(a))
                    .filter(path -> !path.equals(folder))
                    .forEach(path -> path.toFile().delete());
        }
        mara = ledger.coordinator("mara");
        ledger.takeIn(mara, "Ramp", "key,en,de\nup,Ramp up,Rampe hoch\n", Arrival.SETTLED);
        products.create(
                mara, new Definition(0, "App", "app", List.of("ramp"), List.of(new Selected("de", null)), null));
        recipes.add(mara, "app", "Web", PanelCase.texts("json", "each", "deep/{tag}.json"));
        plans.change(mara, "app", new Plans.DeliveryPlan(Gates.USUAL, true, null, List.of(), "UTC", null, null, "", 0));
    }

    private List<String> there() throws IOException {
        try (Stream<Path> all = Files.walk(folder)) {
            return all.map(path -> folder.relativize(path).toString().replace('\\', '/'))
                    .filter(path -> !path.isEmpty())
                    .sorted()
                    .toList();
        }
    }

    @Test
    void eachLiesThereAsAWholeAndLatestPointsAtTheLast() throws IOException {
        port.deliver(mara, "app");
        assertThat(there()).as("nothing before it is laid").isEmpty();
        outbox.catchUp();
        assertThat(there())
                .containsExactly(
                        "app", "app/1", "app/1/deep", "app/1/deep/de.json", "app/1/manifest.json", "app/latest");
        port.deliver(mara, "app");
        outbox.catchUp();
        assertThat(Files.readSymbolicLink(folder.resolve("app/latest"))).hasToString("2");
        assertThat(Files.readString(folder.resolve("app/latest/deep/de.json"))).contains("Rampe hoch");
        assertThat(Files.readString(folder.resolve("app/1/manifest.json")))
                .isEqualTo(Files.readString(folder.resolve("app/2/manifest.json")));
    }

    @Test
    void whatAnEndedServerLeftBesideIsNoPartOfIt() throws IOException {
        Files.createDirectories(folder.resolve("app/.1.part/old"));
        Files.writeString(folder.resolve("app/.1.part/old/half.json"), "{");
        port.deliver(mara, "app");
        outbox.catchUp();
        outbox.catchUp();
        assertThat(there()).doesNotContain("app/1/old", "app/.1.part").contains("app/1/deep/de.json");
    }

    @Test
    void whatCannotBeLaidThereSaysSoKeepsNoOtherWaitingAndIsTriedAgain() throws IOException {
        products.create(
                mara, new Definition(0, "Web", "site", List.of("ramp"), List.of(new Selected("de", null)), null));
        recipes.add(mara, "web", "Web", PanelCase.texts("json", "each", "{tag}.json"));
        plans.change(mara, "web", new Plans.DeliveryPlan(Gates.USUAL, true, null, List.of(), "UTC", null, null, "", 0));
        Files.writeString(folder.resolve("app"), "a file where the product's folder has to be");
        port.deliver(mara, "app");
        port.deliver(mara, "web");
        outbox.catchUp();
        assertThat(there()).contains("web/1/de.json");
        assertThat(deliveries.found("app", 1).reply().outboxSaid())
                .isEqualTo("a file stands where its folder has to be");
        assertThat(bell.notices(mara)).extracting(BellService.Notice::table).containsExactly("app");
        Files.delete(folder.resolve("app"));
        outbox.catchUp();
        assertThat(there()).contains("app/1/deep/de.json");
        assertThat(deliveries.found("app", 1).reply().outboxSaid()).isEmpty();
        assertThat(bell.notices(mara)).isEmpty();
    }

    @Test
    void aRecalledOneIsNoMoreTheLatest() throws IOException {
        port.deliver(mara, "app");
        port.deliver(mara, "app");
        outbox.catchUp();
        deliveries.recall(mara, "app", 2, "wrong");
        outbox.recalled("app");
        assertThat(Files.readSymbolicLink(folder.resolve("app/latest"))).hasToString("1");
        deliveries.recall(mara, "app", 1, "wrong, too");
        outbox.recalled("app");
        assertThat(Files.exists(folder.resolve("app/latest"))).isFalse();
        port.deliver(mara, "app");
        deliveries.recall(mara, "app", 3, "before it was laid");
        outbox.catchUp();
        assertThat(there()).doesNotContain("app/3");
    }
}
