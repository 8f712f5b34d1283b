package mellow.server.delivery;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystemException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.time.Clock;
import java.time.ZoneOffset;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Lays deliveries into a folder of the server: {@code product/number/}, written beside and renamed as a whole, and {@code product/latest}, which points at the last
 * one that was not recalled. Whoever reads there never finds half of anything.
 */
@Component
class Outbox {

    private static final Logger LOG = LoggerFactory.getLogger(Outbox.class);

    private final JdbcClient jdbc;
    private final DeliveryFiles files;
    private final Plans plans;
    private final Clock clock;
    private final TransactionTemplate each;
    private final String folder;

    Outbox(
            JdbcClient jdbc,
            DeliveryFiles files,
            Plans plans,
            Clock clock,
            PlatformTransactionManager transactions,
            @Value("${mellow.outbox:}") String folder) {
        this.jdbc = jdbc;
        this.files = files;
        this.plans = plans;
        this.clock = clock;
        this.each = new TransactionTemplate(transactions);
        this.folder = folder;
    }

    /** Whether the server has a folder for it. */
    boolean there() {
        return !folder.isEmpty();
    }

    private record Due(long id, long product, String slug, int number) {}

    /** Lays everything there that has to go there still; of several servers one does those of a product. */
    void catchUp() {
        if (!there()) {
            return;
        }
        // One after the other, each on record as soon as it lies there.
        Set<Long> failed = new HashSet<>();
        boolean more = true;
        while (more) {
            more = Boolean.TRUE.equals(each.execute(status -> one(failed)));
        }
    }

    /** Lays the next one there; whether there was one. What cannot be laid there keeps no other waiting, and is tried at the next time. */
    private boolean one(Set<Long> failed) {
        Optional<Due> due = jdbc.sql(
                        """
                        select d.id, d.product_id, p.slug, d.number from delivery d join product p on p.id = d.product_id join delivery_plan w on w.product_id = d.product_id
                        where d.to_outbox and d.outbox_at is null and d.id <> all(:failed) order by d.id limit 1 for update of w skip locked
                        """)
                .param("failed", failed.toArray(Long[]::new))
                .query((row, n) -> new Due(row.getLong(1), row.getLong(2), row.getString(3), row.getInt(4)))
                .optional();
        due.ifPresent(one -> {
            String said = "";
            try {
                lay(one);
            } catch (IOException cannot) {
                failed.add(one.id);
                said = why(cannot);
            }
            int news = jdbc.sql("update delivery set outbox_said = :said where id = :id and outbox_said <> :said")
                    .param("said", said)
                    .param("id", one.id)
                    .update();
            if (news > 0 && !said.isEmpty()) {
                LOG.warn("Delivery {} of {} cannot be laid into the outbox {}: {}", one.number, one.slug, folder, said);
            }
        });
        return due.isPresent();
    }

    private void lay(Due due) throws IOException {
        Path product = Path.of(folder).resolve(due.slug);
        Files.createDirectories(product);
        Path target = product.resolve(Integer.toString(due.number));
        if (!Files.exists(target)) {
            Path beside = product.resolve("." + due.number + ".part");
            remove(beside);
            List<Packing.Packed> packed = files.of(due.id);
            for (Packing.Packed file : packed) {
                Path at = beside.resolve(file.path()).normalize();
                if (!at.startsWith(beside)) {
                    throw new IllegalStateException("a path leads out of its folder: " + file.path());
                }
                Files.createDirectories(at.getParent());
                try (InputStream in = file.content().open()) {
                    write(at, in);
                }
            }
            Files.createDirectories(beside);
            try (InputStream manifest = new ByteArrayInputStream(files.manifest(due.id, packed))) {
                write(beside.resolve(Packing.MANIFEST), manifest);
            }
            Files.move(beside, target, StandardCopyOption.ATOMIC_MOVE);
        }
        jdbc.sql("update delivery set outbox_at = :at where id = :id")
                .param("at", clock.instant().atOffset(ZoneOffset.UTC))
                .param("id", due.id)
                .update();
        point(due.product, product);
    }

    /** For people, who know neither our classes nor the server's folders. */
    private static String why(IOException cannot) {
        if (cannot instanceof AccessDeniedException) {
            return "the server may not write there";
        }
        if (cannot instanceof FileAlreadyExistsException) {
            return "a file stands where its folder has to be";
        }
        return cannot instanceof FileSystemException file && file.getReason() != null
                ? file.getReason()
                : "its folder cannot be written";
    }

    private static void write(Path at, InputStream in) throws IOException {
        try (OutputStream out = Files.newOutputStream(at)) {
            in.transferTo(out);
        }
        try (FileChannel channel = FileChannel.open(at, StandardOpenOption.WRITE)) {
            channel.force(true);
        }
    }

    /** Points {@code latest} at the last delivery there that was not recalled. */
    private void point(long product, Path folder) throws IOException {
        Optional<Integer> last = jdbc.sql(
                        "select max(number) from delivery where product_id = :product and outbox_at is not null and recalled_at is null")
                .param("product", product)
                .query((row, n) -> Optional.ofNullable(row.getObject(1, Integer.class)))
                .single();
        Path latest = folder.resolve("latest");
        if (last.isEmpty()) {
            Files.deleteIfExists(latest);
            return;
        }
        Path beside = folder.resolve(".latest.part");
        Files.deleteIfExists(beside);
        Files.createSymbolicLink(beside, Path.of(Integer.toString(last.get())));
        Files.move(beside, latest, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    }

    /** Has {@code latest} point at the former one when one was recalled. */
    void recalled(String slug) {
        Path place = Path.of(folder).resolve(slug);
        if (!there() || !Files.isDirectory(place)) {
            return;
        }
        each.executeWithoutResult(status -> {
            long product = jdbc.sql("select id from product where slug = :slug and removed_at is null")
                    .param("slug", slug)
                    .query(Long.class)
                    .single();
            plans.hold(product);
            try {
                point(product, place);
            } catch (IOException failed) {
                throw new UncheckedIOException(failed);
            }
        });
    }

    private static void remove(Path part) throws IOException {
        if (!Files.exists(part)) {
            return;
        }
        Files.walkFileTree(part, new SimpleFileVisitor<>() {
            @Override
            public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) throws IOException {
                Files.delete(file);
                return FileVisitResult.CONTINUE;
            }

            @Override
            public FileVisitResult postVisitDirectory(Path folder, @Nullable IOException failed) throws IOException {
                Files.delete(folder);
                return FileVisitResult.CONTINUE;
            }
        });
    }
}
