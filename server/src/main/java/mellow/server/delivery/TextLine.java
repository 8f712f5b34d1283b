package mellow.server.delivery;

import java.io.BufferedReader;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.Charset;
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
import tools.jackson.core.StreamWriteFeature;
import tools.jackson.databind.ObjectWriter;
import tools.jackson.databind.SequenceWriter;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * What was in force of an entry in a language when it was delivered: a line of JSON.
 *
 * @param entry its number
 * @param forms its text by form
 */
record TextLine(long entry, String key, String context, SortedMap<String, String> forms) {

    private static final JsonMapper JSON = JsonMapper.shared();
    private static final ObjectWriter LINES = JSON.writerFor(TextLine.class)
            .withRootValueSeparator("\n")
            .without(SerializationFeature.FLUSH_AFTER_WRITE_VALUE)
            .without(StreamWriteFeature.AUTO_CLOSE_TARGET);

    /** That of an entry. */
    static TextLine of(RecordEntry entry, FileText text) {
        return new TextLine(entry.id(), entry.entryId().key(), entry.entryId().context(), text.forms());
    }

    /** Writes lines one after the other; the last one has its end when it is closed, and {@code out} is closed with it. */
    static final class Lines implements Closeable {
        private final OutputStream out;
        private final SequenceWriter writer;
        private int written;

        Lines(OutputStream out) {
            this.out = out;
            this.writer = LINES.writeValues(out);
        }

        void write(TextLine line) {
            writer.write(line);
            written++;
        }

        int written() {
            return written;
        }

        @Override
        public void close() throws IOException {
            writer.close();
            if (written > 0) {
                out.write('\n');
            }
            out.close();
        }
    }

    private static TextLine read(String line) {
        return JSON.readValue(line, TextLine.class);
    }

    private static TextLine readBytes(String line) {
        return JSON.readValue(line.getBytes(StandardCharsets.ISO_8859_1), TextLine.class);
    }

    /** Reads line after line. */
    static void each(InputStream in, Consumer<TextLine> reader) {
        try (BufferedReader lines = lines(in, StandardCharsets.UTF_8)) {
            for (String line = lines.readLine(); line != null; line = lines.readLine()) {
                reader.accept(read(line));
            }
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    private static BufferedReader lines(InputStream in, Charset charset) {
        return new BufferedReader(new InputStreamReader(in, charset));
    }

    /**
     * Those that are in one and not in the other, parsed; the same lines cost a comparison each, wherever they stand. Holds what is out of step.
     */
    static Differing differing(InputStream before, InputStream after) {
        Set<String> former = new LinkedHashSet<>();
        Set<String> later = new LinkedHashSet<>();
        // Lines are compared as bytes, which is what characters of this set are.
        try (BufferedReader then = lines(before, StandardCharsets.ISO_8859_1);
                BufferedReader now = lines(after, StandardCharsets.ISO_8859_1)) {
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
                former.stream().map(TextLine::readBytes).toList(),
                later.stream().map(TextLine::readBytes).toList());
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
