package mellow.server.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import mellow.core.merge.Arrival;
import mellow.server.common.Refusal;
import mellow.server.common.TempFiles;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.mock.web.MockHttpServletRequest;
import org.springframework.util.unit.DataSize;

class UploadsTest extends ServerTest {

    @Autowired
    private JdbcClient jdbc;

    private long mara;

    @BeforeEach
    void someone() {
        mara = ledger.coordinator("mara");
    }

    private Uploads uploads(int atOnce, long kilobytesPerDay) {
        return new Uploads(jdbc, Clock.systemUTC(), atOnce, DataSize.ofKilobytes(kilobytesPerDay));
    }

    private static MockHttpServletRequest body(String content) {
        MockHttpServletRequest request = new MockHttpServletRequest();
        request.setContent(content.getBytes(StandardCharsets.UTF_8));
        return request;
    }

    private static void anySize(long bytes) {
        // Whatever it is.
    }

    @Test
    void aFileIsHandedOverWholeAndNothingOfItStaysOnTheDisk() throws Exception {
        Path[] temps = new Path[1];
        temps[0] = TempFiles.create(".probe");
        Files.delete(temps[0]);
        long before = count(temps[0].getParent());
        String read = uploads(4, 100)
                .receive(
                        mara, body("key,en"), UploadsTest::anySize, bytes -> new String(bytes, StandardCharsets.UTF_8));
        assertThat(read).isEqualTo("key,en");
        assertThat(count(temps[0].getParent())).isEqualTo(before);
    }

    private static long count(Path folder) throws IOException {
        try (var all = Files.list(folder)) {
            return all.filter(path -> path.toString().endsWith(".upload")).count();
        }
    }

    @Test
    void oneMoreThanAtOnceIsRefusedAndTheNextOneAfterwardsIsNot() throws Exception {
        Uploads uploads = uploads(1, 100);
        String inner = uploads.receive(mara, body("a"), UploadsTest::anySize, bytes -> catchThrowableOfType(
                        Refusal.class, () -> uploads.receive(mara, body("b"), UploadsTest::anySize, more -> "never"))
                .code());
        assertThat(inner).isEqualTo("too-many-at-once");
        assertThat(uploads.<String>receive(mara, body("c"), UploadsTest::anySize, bytes -> "done"))
                .isEqualTo("done");
    }

    @Test
    void whatOnePersonSendsInADayHasABound() {
        ledger.takeIn(mara, "Ramp", "key,en\n" + "k".repeat(600) + "," + "x".repeat(600) + "\n", Arrival.SETTLED);
        Refusal refusal = catchThrowableOfType(Refusal.class, () -> uploads(4, 1)
                .receive(mara, body("y".repeat(100)), UploadsTest::anySize, bytes -> "never"));
        assertThat(refusal.code()).isEqualTo("quota-used");
        ledger.run("update stored_file set created_at = created_at - interval '25 hours'");
        assertThat(catchThrowableOfType(Refusal.class, () -> uploads(4, 1)
                        .receive(mara, body("y".repeat(100)), UploadsTest::anySize, bytes -> "done")))
                .isNull();
    }

    @Test
    void aSizeThatIsRefusedIsRefusedAsItComes() {
        MockHttpServletRequest chunked = body("x".repeat(200));
        Refusal refusal = catchThrowableOfType(Refusal.class, () -> uploads(4, 100)
                .receive(
                        mara,
                        chunked,
                        bytes -> {
                            if (bytes > 100) {
                                throw Refusal.tooLarge("too-large", "More than 100.");
                            }
                        },
                        bytes -> "never"));
        assertThat(refusal.code()).isEqualTo("too-large");
    }
}
