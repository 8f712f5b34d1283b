package mellow.server.delivery;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * What is different between two deliveries, per file and per text.
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

    static Compared of(JdbcClient jdbc, Contents contents, long before, long after) {
        Map<String, String> filesBefore = files(jdbc, before);
        Map<String, String> filesAfter = files(jdbc, after);
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
        SortedMap<String, byte[]> textsBefore = texts(jdbc, before);
        SortedMap<String, byte[]> textsAfter = texts(jdbc, after);
        TreeSet<String> tags = new TreeSet<>(textsBefore.keySet());
        tags.addAll(textsAfter.keySet());
        Map<String, Integer> counts = new TreeMap<>();
        List<TextChange> changes = new ArrayList<>();
        for (String tag : tags) {
            int n = texts(
                    contents,
                    textsBefore.get(tag),
                    textsAfter.get(tag),
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
     * Compares what was in force in a language. Holds the texts of the former one in memory; where the hashes are the same nothing is read.
     *
     * @param before null for nothing
     * @param most changes that are told
     * @return how many there are
     */
    static int texts(
            Contents contents,
            byte @Nullable [] before,
            byte @Nullable [] after,
            int most,
            Consumer<TextChange> change) {
        if (Arrays.equals(before, after)) {
            return 0;
        }
        Map<Long, TextLine> former =
                before == null ? new HashMap<>() : new HashMap<>(TextLine.all(contents.open(before)));
        int[] found = {0};
        Consumer<TextChange> tell = one -> {
            if (found[0]++ < most) {
                change.accept(one);
            }
        };
        if (after != null) {
            TextLine.each(contents.open(after), line -> {
                TextLine then = former.remove(line.entry());
                if (then == null || !then.equals(line)) {
                    tell.accept(new TextChange(
                            "",
                            line.entry(),
                            line.key(),
                            line.context(),
                            then == null ? null : then.forms(),
                            line.forms()));
                }
            });
        }
        former.values().stream()
                .sorted(Comparator.comparingLong(TextLine::entry))
                .forEach(line ->
                        tell.accept(new TextChange("", line.entry(), line.key(), line.context(), line.forms(), null)));
        return found[0];
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
