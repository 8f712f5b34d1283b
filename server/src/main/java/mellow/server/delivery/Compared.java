package mellow.server.delivery;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * What is different between two deliveries, or the last one and what would be delivered now, per file and per text.
 *
 * @param same number of files that are the same, byte for byte
 * @param files those that are not
 * @param languages number of texts that are not the same, by tag
 * @param texts some of them
 */
record Compared(int same, List<FileChange> files, Map<String, Integer> languages, List<TextChange> texts) {

    /** Entries of each table that an example shows. */
    static final int EXAMPLE_ENTRIES = 12;

    private static final int MOST_TEXTS = 500;
    private static final int BEGINNING_BYTES = 4_000;
    private static final int BEGINNING_LINES = 10;

    /** A file that is not the same: added, removed or changed. */
    record FileChange(String path, String what) {}

    /**
     * A text that is not the same.
     *
     * @param before null where there was none
     * @param after null where there is none
     */
    record TextChange(
            String language,
            long entry,
            String key,
            String context,
            @Nullable Map<String, String> before,
            @Nullable Map<String, String> after) {}

    /**
     * One of the two.
     *
     * @param files SHA-256 by path
     * @param texts the hash of what is in force by tag
     * @param open reads what has a hash
     */
    private record Side(
            Map<String, String> files, SortedMap<String, byte[]> texts, Function<byte[], InputStream> open) {

        static Side kept(JdbcClient jdbc, Contents contents, long delivery) {
            return new Side(Compared.files(jdbc, delivery), Compared.texts(jdbc, delivery), contents::open);
        }

        static Side made(Made made, Contents contents) {
            Map<String, String> files = new HashMap<>();
            made.files().forEach(file -> files.put(file.path(), Packing.hex(file.hash())));
            SortedMap<String, byte[]> texts = new TreeMap<>();
            made.texts().forEach((tag, one) -> texts.put(tag.value(), one.hash()));
            return new Side(files, texts, opener(made, contents));
        }
    }

    /** Reads what was just made from where it was made, and everything else from where it is kept. */
    static Function<byte[], InputStream> opener(Made made, Contents contents) {
        Map<String, Path> fresh = new HashMap<>();
        made.texts().values().forEach(one -> {
            if (one.content() != null) {
                fresh.put(Packing.hex(one.hash()), one.content());
            }
        });
        return hash -> {
            Path content = fresh.get(Packing.hex(hash));
            try {
                return content == null ? contents.open(hash) : Files.newInputStream(content);
            } catch (IOException failed) {
                throw new UncheckedIOException(failed);
            }
        };
    }

    /** Between two that are kept. */
    static Compared of(JdbcClient jdbc, Contents contents, long before, long after) {
        return of(Side.kept(jdbc, contents, before), Side.kept(jdbc, contents, after));
    }

    /** Between the last one, if there was one, and what was made without being kept. */
    static Compared ahead(JdbcClient jdbc, Contents contents, Optional<Long> last, Made made) {
        Side before = last.map(one -> Side.kept(jdbc, contents, one))
                .orElseGet(() -> new Side(Map.of(), new TreeMap<>(), contents::open));
        return of(before, Side.made(made, contents));
    }

    private static Compared of(Side before, Side after) {
        Map<String, String> filesBefore = before.files;
        Map<String, String> filesAfter = after.files;
        List<FileChange> files = new ArrayList<>();
        int same = 0;
        TreeSet<String> paths = new TreeSet<>(filesBefore.keySet());
        paths.addAll(filesAfter.keySet());
        for (String path : paths) {
            String then = filesBefore.get(path);
            String now = filesAfter.get(path);
            if (then != null && then.equals(now)) {
                same++;
            } else {
                files.add(new FileChange(path, then == null ? "added" : now == null ? "removed" : "changed"));
            }
        }
        TreeSet<String> tags = new TreeSet<>(before.texts.keySet());
        tags.addAll(after.texts.keySet());
        Map<String, Integer> counts = new TreeMap<>();
        List<TextChange> changes = new ArrayList<>();
        for (String tag : tags) {
            int n = texts(
                    before.open,
                    before.texts.get(tag),
                    after.open,
                    after.texts.get(tag),
                    MOST_TEXTS - changes.size(),
                    change -> changes.add(new TextChange(
                            tag, change.entry, change.key, change.context, change.before, change.after)));
            if (n > 0) {
                counts.put(tag, n);
            }
        }
        return new Compared(same, files, counts, changes);
    }

    private static Map<String, String> files(JdbcClient jdbc, long delivery) {
        return jdbc
                .sql("select path, encode(hash, 'hex') from delivery_file where delivery_id = :id")
                .param("id", delivery)
                .query((row, n) -> Map.entry(row.getString(1), row.getString(2)))
                .list()
                .stream()
                .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue));
    }

    private static SortedMap<String, byte[]> texts(JdbcClient jdbc, long delivery) {
        SortedMap<String, byte[]> texts = new TreeMap<>();
        jdbc.sql(
                        "select l.tag, t.hash from delivery_texts t join language l on l.id = t.language_id where t.delivery_id = :id")
                .param("id", delivery)
                .query(row -> {
                    texts.put(row.getString(1), row.getBytes(2));
                });
        return texts;
    }

    /**
     * Compares what was in force in a language. Holds the texts that differ; where the hashes are the same nothing is read.
     *
     * @param before null for nothing
     * @param most changes that are told
     * @return how many there are
     */
    static int texts(
            Function<byte[], InputStream> openBefore,
            byte @Nullable [] before,
            Function<byte[], InputStream> openAfter,
            byte @Nullable [] after,
            int most,
            Consumer<TextChange> change) {
        if (Arrays.equals(before, after)) {
            return 0;
        }
        TextLine.Differing differing = TextLine.differing(
                before == null ? InputStream.nullInputStream() : openBefore.apply(before),
                after == null ? InputStream.nullInputStream() : openAfter.apply(after));
        Map<Long, TextLine> former = new TreeMap<>();
        differing.before().forEach(line -> former.put(line.entry(), line));
        int found = 0;
        for (TextLine line : differing.after()) {
            TextLine then = former.remove(line.entry());
            if (!line.equals(then) && found++ < most) {
                change.accept(new TextChange(
                        "",
                        line.entry(),
                        line.key(),
                        line.context(),
                        then == null ? null : then.forms(),
                        line.forms()));
            }
        }
        for (TextLine line : former.values()) {
            if (found++ < most) {
                change.accept(new TextChange("", line.entry(), line.key(), line.context(), line.forms(), null));
            }
        }
        return found;
    }

    /** How a file begins, for people to look at: its first lines, or that it is none of text. */
    static String beginning(Path file) {
        try (InputStream in = Files.newInputStream(file)) {
            byte[] some = in.readNBytes(BEGINNING_BYTES);
            for (byte one : some) {
                if (one == 0) {
                    return "";
                }
            }
            return new String(some, StandardCharsets.UTF_8)
                    .lines()
                    .limit(BEGINNING_LINES)
                    .collect(Collectors.joining("\n"));
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }
}
