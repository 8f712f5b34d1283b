package mellow.server.code;

import java.time.Clock;
import java.time.Duration;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Consumer;
import mellow.core.scan.CodeScanner;
import mellow.core.scan.FileFindings;
import mellow.core.scan.HardText;
import mellow.core.scan.KeyUse;
import mellow.core.scan.KnownKeys;
import mellow.core.scan.ZippedTree;
import mellow.server.common.Refusal;
import mellow.server.people.PeopleService;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.ProductReply;
import mellow.server.run.RunService;
import mellow.server.run.RunService.Order;
import mellow.server.run.RunService.Progress;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/**
 * Looks through the code of a product: an archive of it, or what a program found in it elsewhere. The archive is kept until that is done and not a moment longer. Of
 * two looks at one product the one that ends last is its last.
 */
@Service
public class Scanning {

    static final String RUN = "scanning";
    static final int LARGEST_ARCHIVE = 200 * 1024 * 1024;

    private static final int PART = 1 << 20;
    private static final int LONGEST_NAME = 300;
    private static final Duration LONGEST_WAIT = Duration.ofMinutes(1);
    private static final int WHOLLY = 100;
    private static final JsonMapper JSON = JsonMapper.shared();

    private final ProductService products;
    private final PeopleService people;
    private final CodeSettingsService settings;
    private final CodeEntries entries;
    private final FoundWriter writer;
    private final RunService runs;
    private final JdbcClient jdbc;
    private final Clock clock;
    private final TransactionTemplate apart;

    Scanning(
            ProductService products,
            PeopleService people,
            CodeSettingsService settings,
            CodeEntries entries,
            FoundWriter writer,
            RunService runs,
            JdbcClient jdbc,
            Clock clock,
            PlatformTransactionManager transactions) {
        this.apart = new TransactionTemplate(transactions);
        this.apart.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
        this.products = products;
        this.people = people;
        this.settings = settings;
        this.entries = entries;
        this.writer = writer;
        this.runs = runs;
        this.jdbc = jdbc;
        this.clock = clock;
        runs.handle(RUN, this::scan);
    }

    /**
     * How much was looked through elsewhere.
     *
     * @param ignored files that were left out by the tree's rules
     * @param binary files that are no text
     * @param large files that are too large to be written by people
     */
    public record Seen(int files, long lines, int ignored, int binary, int large) {}

    /** What the run is told: what was seen, null when the archive tells it. */
    private record Told(boolean archive, Seen seen) {}

    /** Refuses whoever must not, before anything is sent. */
    void requireMay(long person, String slug) {
        people.rights(person).requireCoordinator("look through code");
        products.find(slug);
    }

    /** Begins to look through a ZIP archive of the code. */
    public long archive(long person, String slug, String name, byte[] archive) {
        return begin(person, slug, name, archive, new Told(true, new Seen(0, 0, 0, 0, 0)));
    }

    /**
     * Begins to keep what was found elsewhere.
     *
     * @param found a {@link FileFindings} per line, as JSON
     */
    public long found(long person, String slug, String name, Seen seen, byte[] found) {
        return begin(person, slug, name, found, new Told(false, seen));
    }

    /** Waits until a look is over, however it ends. */
    public void await(long scan) {
        runs.await(RUN, scan, LONGEST_WAIT);
    }

    private long begin(long person, String slug, String name, byte[] content, Told told) {
        requireMay(person, slug);
        ProductReply product = products.find(slug);
        String shown = name.strip();
        if (shown.isEmpty() || shown.length() > LONGEST_NAME || shown.indexOf('\0') >= 0) {
            throw Refusal.unacceptable(
                    "bad-name", "A name has 1 to {most} characters.", Map.of("field", "name", "most", LONGEST_NAME));
        }
        // The run looks for it at once, perhaps on another server: it has to be there.
        long scan = Objects.requireNonNull(apart.execute(status -> keep(person, product.id(), shown, content)));
        runs.start(RUN, scan, person, JSON.writeValueAsString(told));
        return scan;
    }

    private long keep(long person, long product, String name, byte[] content) {
        long scan = jdbc.sql(
                        "insert into scan (product_id, person_id, name, begun_at) values (:product, :person, :name, :now) returning id")
                .param("product", product)
                .param("person", person)
                .param("name", name)
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .query(Long.class)
                .single();
        for (int from = 0, part = 0; from < content.length; from += PART, part++) {
            jdbc.sql("insert into scan_upload (scan_id, part, content) values (:scan, :part, :content)")
                    .param("scan", scan)
                    .param("part", part)
                    .param("content", Arrays.copyOfRange(content, from, Math.min(content.length, from + PART)))
                    .update();
        }
        return scan;
    }

    private void scan(Order run, Progress progress) {
        long scan = run.subject();
        Told told = JSON.readValue(run.arguments(), Told.class);
        String slug = jdbc.sql(
                        "select p.slug from scan s join product p on p.id = s.product_id where s.id = :scan and p.removed_at is null")
                .param("scan", scan)
                .query(String.class)
                .optional()
                .orElseThrow(() -> Refusal.notFound("no-such-product", "The product was removed meanwhile."));
        // Rights are those that the person has now.
        people.rights(run.person()).requireCoordinator("look through code");
        ProductReply product = products.find(slug);
        byte[] content = content(scan);
        if (told.archive()) {
            archive(scan, product, content, progress);
        } else {
            writer.write(scan, product, told.seen(), take -> each(content, take), progress);
        }
        jdbc.sql("delete from scan_upload where scan_id = :scan")
                .param("scan", scan)
                .update();
    }

    private byte[] content(long scan) {
        List<byte[]> parts = jdbc.sql("select content from scan_upload where scan_id = :scan order by part")
                .param("scan", scan)
                .query(byte[].class)
                .list();
        byte[] whole = new byte[parts.stream().mapToInt(part -> part.length).sum()];
        int at = 0;
        for (byte[] part : parts) {
            System.arraycopy(part, 0, whole, at, part.length);
            at += part.length;
        }
        return whole;
    }

    private void archive(long scan, ProductReply product, byte[] content, Progress progress) {
        try {
            ZippedTree tree = new ZippedTree(content);
            Set<String> keys = entries.keys(product);
            CodeScanner scanner = new CodeScanner(settings.of(product).asHabits(), KnownKeys.of(keys));
            int[] done = {0};
            int[] counts = new int[3];
            long[] lines = {0};
            List<FileFindings> kept = new ArrayList<>();
            int ignored = tree.each((path, bytes) -> {
                progress.at(++done[0], tree.files());
                FileFindings found = scanner.scan(path, bytes);
                lines[0] += found.lines();
                count(found, counts);
                if (!found.uses().isEmpty() || !found.texts().isEmpty()) {
                    kept.add(found);
                }
            });
            kept.sort(Comparator.comparing(FileFindings::path));
            Seen seen = new Seen(counts[0], lines[0], ignored, counts[1], counts[2]);
            writer.write(scan, product, seen, kept::forEach, progress);
        } catch (ZippedTree.BadTreeException bad) {
            throw Refusal.unacceptable("bad-archive", "{why}", Map.of("why", String.valueOf(bad.getMessage())));
        }
    }

    private static void count(FileFindings found, int[] counts) {
        FileFindings.Skipped why = found.skipped();
        if (why == null) {
            counts[0]++;
        } else {
            counts[why == FileFindings.Skipped.BINARY ? 1 : 2]++;
        }
    }

    private static void each(byte[] lines, Consumer<FileFindings> take) {
        int from = 0;
        int number = 1;
        for (int at = 0; at <= lines.length; at++) {
            if (at == lines.length || lines[at] == '\n') {
                if (at > from) {
                    take.accept(read(lines, from, at, number));
                }
                from = at + 1;
                number++;
            }
        }
    }

    private static FileFindings read(byte[] lines, int from, int to, int number) {
        try {
            FileFindings found = JSON.readValue(lines, from, to - from, FileFindings.class);
            if (!sound(found)) {
                throw bad(number);
            }
            return found;
        } catch (JacksonException | NullPointerException none) {
            // Lists that are null, too, which the records copy.
            throw bad(number);
        }
    }

    /** Whether everything is there that our own command tells; what is read may lack what the records promise. */
    private static boolean sound(@Nullable FileFindings found) {
        if (found == null || missing(found.path(), found.imports())) {
            return false;
        }
        String path = "/" + found.path() + "/";
        boolean outside = found.path().startsWith("/") || path.contains("/../") || path.indexOf('\n') >= 0;
        return !outside
                && !missing(found.imports().line(), found.imports().existing())
                && found.uses().stream().allMatch(Scanning::sound)
                && found.texts().stream().allMatch(Scanning::sound);
    }

    private static boolean sound(KeyUse use) {
        return !missing(use.key(), use.how(), use.note(), use.place())
                && use.place().around() != null
                && !use.key().isBlank();
    }

    private static boolean sound(HardText text) {
        boolean whole = !missing(text.text(), text.kind(), text.place(), text.spot());
        return whole
                && !missing(text.place().around(), text.spot().lines())
                && text.likelihood() >= 0
                && text.likelihood() <= WHOLLY
                && text.spot().from() <= text.spot().to();
    }

    private static boolean missing(@Nullable Object... parts) {
        return Arrays.stream(parts).anyMatch(Objects::isNull);
    }

    private static Refusal bad(int number) {
        return Refusal.unacceptable(
                "bad-findings",
                "Line {line} of what was sent is not what this server's own scan command writes; use the command of the same version.",
                Map.of("line", number));
    }
}
