package mellow.server.delivery;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.SortedMap;
import java.util.function.Consumer;
import tools.jackson.databind.json.JsonMapper;

/**
 * What was in force of an entry in a language when it was delivered: a line of JSON.
 *
 * @param entry its number
 * @param forms its text by form
 */
record TextLine(long entry, String key, String context, SortedMap<String, String> forms) {

    private static final JsonMapper JSON = JsonMapper.shared();

    /** As a line without its end. */
    String written() {
        return JSON.writeValueAsString(this);
    }

    /** Reads line after line. */
    static void each(InputStream in, Consumer<TextLine> reader) {
        try (BufferedReader lines = new BufferedReader(new InputStreamReader(in, StandardCharsets.UTF_8))) {
            for (String line = lines.readLine(); line != null; line = lines.readLine()) {
                reader.accept(JSON.readValue(line, TextLine.class));
            }
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    /** All lines by entry. */
    static Map<Long, TextLine> all(InputStream in) {
        Map<Long, TextLine> all = new LinkedHashMap<>();
        each(in, line -> all.put(line.entry, line));
        return all;
    }
}
