package mellow.server.file;

import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.ZoneOffset;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.function.Function;
import java.util.function.LongConsumer;
import mellow.server.common.Refusal;
import mellow.server.common.TempFiles;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.util.unit.DataSize;

/**
 * Receives files: to the disk first, however slowly they come, and only then into memory, of which all files together get a part; within what one person may
 * send at once and in a day. Holds no connection to the database meanwhile.
 */
@Component
public class Uploads {

    private static final int PIECE = 64 * 1024;
    private static final int MEGABYTE = 1 << 20;
    private static final Duration PATIENCE = Duration.ofSeconds(20);
    /** A file is read, compared and written out of memory, each with copies of its own. */
    private static final int PART_OF_HEAP = 5;

    private final JdbcClient jdbc;
    private final Clock clock;
    private final int atOnce;
    private final DataSize perDay;
    private final Map<Long, Integer> underWay = new ConcurrentHashMap<>();
    private final int megabytes = (int) (Runtime.getRuntime().maxMemory() / PART_OF_HEAP / MEGABYTE) + 1;
    private final Semaphore memory = new Semaphore(megabytes, true);

    Uploads(
            JdbcClient jdbc,
            Clock clock,
            @Value("${mellow.uploads.at-once:4}") int atOnce,
            @Value("${mellow.uploads.per-day:4GB}") DataSize perDay) {
        this.jdbc = jdbc;
        this.clock = clock;
        this.atOnce = atOnce;
        this.perDay = perDay;
    }

    /**
     * Receives the body of {@code request}.
     *
     * @param size refuses a body by its size; asked with what is announced, and as it comes
     * @param work what is done with the content
     */
    public <T> T receive(long person, HttpServletRequest request, LongConsumer size, Function<byte[], T> work)
            throws IOException {
        size.accept(request.getContentLengthLong());
        begin(person);
        try {
            requireQuota(person, Math.max(0, request.getContentLengthLong()));
            Path file = TempFiles.create(".upload");
            try {
                long bytes = keep(request.getInputStream(), file, size);
                return withMemory(bytes, () -> work.apply(Files.readAllBytes(file)));
            } finally {
                Files.deleteIfExists(file);
            }
        } finally {
            underWay.computeIfPresent(person, (who, n) -> n == 1 ? null : n - 1);
        }
    }

    private void begin(long person) {
        int now = underWay.merge(person, 1, Integer::sum);
        if (now > atOnce) {
            underWay.computeIfPresent(person, (who, n) -> n - 1);
            throw Refusal.tooMany(
                    "too-many-at-once",
                    "You are sending {atOnce} files already; the next one can go when one of them is there.",
                    Map.of("atOnce", atOnce));
        }
    }

    private void requireQuota(long person, long coming) {
        long sent = jdbc.sql(
                        "select coalesce(sum(bytes), 0) from stored_file where person_id = :person and created_at > :since")
                .param("person", person)
                .param("since", clock.instant().minus(Duration.ofDays(1)).atOffset(ZoneOffset.UTC))
                .query(Long.class)
                .single();
        if (sent + coming > perDay.toBytes()) {
            throw Refusal.tooMany(
                    "quota-used",
                    "You have sent {sent} MB in the last day, and {allowed} MB are allowed; a setting of the server says so.",
                    Map.of("sent", sent / MEGABYTE, "allowed", perDay.toMegabytes()));
        }
    }

    private static long keep(InputStream in, Path file, LongConsumer size) throws IOException {
        long bytes = 0;
        byte[] piece = new byte[PIECE];
        try (OutputStream out = Files.newOutputStream(file)) {
            for (int n = in.read(piece); n >= 0; n = in.read(piece)) {
                bytes += n;
                size.accept(bytes);
                out.write(piece, 0, n);
            }
        }
        return bytes;
    }

    @FunctionalInterface
    private interface Reading<T> {
        T once() throws IOException;
    }

    private <T> T withMemory(long bytes, Reading<T> reading) throws IOException {
        int needed = (int) Math.min(megabytes, bytes / MEGABYTE + 1);
        try {
            if (!memory.tryAcquire(needed, PATIENCE.toSeconds(), TimeUnit.SECONDS)) {
                throw Refusal.busy("busy", "Many large files are coming in just now; send this one again in a moment.");
            }
        } catch (InterruptedException ending) {
            Thread.currentThread().interrupt();
            throw Refusal.busy("busy", "The server is about to end; send this file again in a moment.");
        }
        try {
            return reading.once();
        } finally {
            memory.release(needed);
        }
    }
}
