package mellow.server.delivery;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.SortedMap;
import java.util.function.Consumer;
import mellow.core.format.FileText;
import mellow.core.merge.RecordEntry;
import tools.jackson.databind.json.JsonMapper;

/**
 * What was in force of an entry in a language when it was delivered: a line of JSON.
 *
 * @param entry its number
 * @param forms its text by form
 */
record TextLine(long entry, String key, String context, SortedMap<String, String> forms) {

    private static final JsonMapper JSON = JsonMapper.shared();

    /** That of an entry. */
    static TextLine of(RecordEntry entry, FileText text) {
        return new TextLine(entry.id(), entry.entryId().key(), entry.entryId().context(), text.forms());
    }

    /** Writes it, and the end of its line. */
    void write(OutputStream out) {
        try {
            out.write(JSON.writeValueAsBytes(this));
            out.write('\n');
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    static TextLine read(String line) {
        return JSON.readValue(line, TextLine.class);
    }

    /** Reads line after line. */
    static void each(InputStream in, Consumer<TextLine> reader) {
        try (BufferedReader lines = lines(in)) {
            for (String line = lines.readLine(); line != null; line = lines.readLine()) {
                reader.accept(read(line));
            }
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    private static BufferedReader lines(InputStream in) {
        return new BufferedReader(new InputStreamReader(in, StandardCharsets.UTF_8));
    }

    /**
     * Those that are in one and not in the other, parsed; the same lines cost a comparison each, wherever they stand. Holds what is out of step.
     */
    static Differing differing(InputStream before, InputStream after) {
        Set<String> former = new LinkedHashSet<>();
        Set<String> later = new LinkedHashSet<>();
        try (BufferedReader then = lines(before);
                BufferedReader now = lines(after)) {
            String one = then.readLine();
            String other = now.readLine();
            while (one != null || other != null) {
                if (!Objects.equals(one, other)) {
                    if (one != null && !later.remove(one)) {
                        former.add(one);
                    }
                    if (other != null && !former.remove(other)) {
                        later.add(other);
                    }
                }
                one = one == null ? null : then.readLine();
                other = other == null ? null : now.readLine();
            }
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
        return new Differing(
                former.stream().map(TextLine::read).toList(),
                later.stream().map(TextLine::read).toList());
    }

    /** What differs between two files of such lines, each in its order. */
    record Differing(List<TextLine> before, List<TextLine> after) {}

    /** All lines by entry. */
    static Map<Long, TextLine> all(InputStream in) {
        Map<Long, TextLine> all = new LinkedHashMap<>();
        each(in, line -> all.put(line.entry, line));
        return all;
    }
}
