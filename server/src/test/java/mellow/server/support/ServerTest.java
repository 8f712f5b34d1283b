package mellow.server.support;

import static org.assertj.core.api.Assertions.assertThat;

import mellow.server.MellowServer;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.webmvc.test.autoconfigure.AutoConfigureMockMvc;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;

/** A test against the whole server and a real PostgreSQL; every test begins with an empty ledger. */
@SpringBootTest(classes = MellowServer.class)
@AutoConfigureMockMvc
public abstract class ServerTest {

    @Autowired
    protected Ledger ledger;

    @DynamicPropertySource
    static void database(DynamicPropertyRegistry registry) {
        TestDatabase.register(registry);
        // Tests note days and catch up themselves.
        registry.add("mellow.keep-days", () -> "false");
        registry.add("mellow.index-later", () -> "false");
        registry.add("mellow.recheck", () -> "false");
        registry.add("mellow.deliveries", () -> "false");
        // What a test changes counts with its next request.
        registry.add("mellow.bundles.remembered", () -> "PT0S");
        registry.add("mellow.drafting.hosts", () -> "drafts.example,127.0.0.1:1," + Receiver.authority());
        registry.add("mellow.drafting.pause", () -> "PT0.02S");
        registry.add("mellow.secret-key", () -> "MDEyMzQ1Njc4OTAxMjM0NTY3ODkwMTIzNDU2Nzg5MDE=");
        registry.add("mellow.webhooks.hosts", () -> "build.example," + Receiver.authority());
    }

    @BeforeEach
    void emptyLedger() {
        ledger.empty();
    }

    /** Whatever a test did, the record is sound afterwards. */
    @AfterEach
    void theRecordIsSound() {
        ledger.awaitRechecks();
        assertThat(ledger.audit())
                .allSatisfy(finding ->
                        assertThat(finding.examples()).as(finding.check()).isEmpty());
    }
}
