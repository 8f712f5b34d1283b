package mellow.core.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.fail;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.stream.Stream;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import org.junit.jupiter.api.DynamicTest;

/**
 * Cases of a format in a file of their own. A case begins with {@code == rule}; then comes the input, a line {@code --}, and what is read of it, an
 * entry per line:
 *
 * <pre>
 * key @context = text \n escaped (state)        a plain text in the last language
 * key {few: x; one: y}                          forms
 * key := source                                 a source
 *   note: …   ref: …   flag: …   max: …   section: …   untranslatable
 * ? part of a warning
 * ! part of the sentence that refuses the file
 * </pre>
 *
 * In inputs {@code ⇥} is a tab, {@code ␍} a carriage return, {@code ␠} a space at the end, {@code ∎} at the end no line end, {@code ⟦41⟧} a byte. Every case
 * that is read is also written in place: unchanged it must give the same bytes, and with every text changed it must read as that.
 */
public final class FormatCases {

    private static final String MARK = "ü¶";

    private final FileFormat format;
    private final String name;
    private final ReadOptions options;

    private FormatCases(FileFormat format, String name, ReadOptions options) {
        this.format = format;
        this.name = name;
        this.options = options;
    }

    /** A test for every case in {@code resource}. */
    public static Stream<DynamicTest> in(String resource, FileFormat format, String name, ReadOptions options) {
        FormatCases cases = new FormatCases(format, name, options);
        String all;
        try (InputStream in = FormatCases.class.getResourceAsStream(resource)) {
            all = new String(Objects.requireNonNull(in, resource).readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException cannot) {
            throw new UncheckedIOException(cannot);
        }
        List<DynamicTest> tests = new ArrayList<>();
        for (String one : all.split("(?m)^== ")) {
            if (!one.isBlank()) {
                int title = one.indexOf('\n');
                String[] parts = one.substring(title + 1).split("(?m)^--\n", 2);
                tests.add(DynamicTest.dynamicTest(
                        one.substring(0, title), () -> cases.check(bytes(parts[0]), expected(parts[1]))));
            }
        }
        assertThat(tests).as("cases in " + resource).hasSizeGreaterThanOrEqualTo(30);
        return tests.stream();
    }

    private static List<String> expected(String lines) {
        return lines.lines().filter(line -> !line.isBlank()).toList();
    }

    private static byte[] bytes(String input) {
        String text = input.replace("⇥", "\t").replace("␍", "\r").replace("␠", " ");
        if (text.endsWith("∎\n")) {
            text = text.substring(0, text.length() - 2);
        }
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        int at = 0;
        while (at < text.length()) {
            int open = text.indexOf('⟦', at);
            String plain = text.substring(at, open < 0 ? text.length() : open);
            bytes.writeBytes(plain.getBytes(StandardCharsets.UTF_8));
            if (open < 0) {
                break;
            }
            int close = text.indexOf('⟧', open);
            bytes.write(Integer.parseInt(text.substring(open + 1, close), 16));
            at = close + 1;
        }
        return bytes.toByteArray();
    }

    private void check(byte[] input, List<String> expected) throws IOException {
        FileReading reading;
        try {
            reading = format.read(name, input, options);
        } catch (UnreadableFileException refused) {
            assertThat(expected).as("refused: " + refused.getMessage()).hasSize(1);
            assertThat(expected.get(0)).as("refused: " + refused.getMessage()).startsWith("! ");
            assertThat(refused.getMessage()).contains(expected.get(0).substring(2));
            return;
        }
        List<String> shown = shown(reading);
        List<String> warnings = new ArrayList<>();
        List<String> entries = new ArrayList<>();
        expected.forEach(line -> (line.startsWith("?") ? warnings : entries).add(line));
        assertThat(shown).isEqualTo(entries);
        assertThat(reading.problems()).hasSameSizeAs(warnings);
        for (int i = 0; i < warnings.size(); i++) {
            assertThat(reading.problems().get(i).sentence())
                    .contains(warnings.get(i).substring(2));
        }
        if (!(reading instanceof FreshOnly)) {
            writtenInPlace(input, reading);
        }
    }

    private void writtenInPlace(byte[] input, FileReading reading) throws IOException {
        assertThat(text(written(reading.patch()), reading)).as("unchanged").isEqualTo(text(input, reading));
        int language = reading.languages().size() - 1;
        boolean onlySources = reading.sourceLanguage().stream()
                .anyMatch(source -> reading.languages().indexOf(source) == language);
        if (reading.size() == 0 || onlySources) {
            return;
        }
        FilePatch patch = reading.patch();
        List<Map<String, String>> wanted = new ArrayList<>();
        for (int i = 0; i < reading.size(); i++) {
            Map<String, String> forms =
                    new TreeMap<>(reading.entry(i).texts().get(language).forms());
            forms.replaceAll((form, text) -> text + " " + MARK.charAt(0) + "\n'x\" ");
            if (reading.entry(i).shape() == Shape.PLAIN && forms.isEmpty()) {
                forms.put("other", "new: " + MARK.charAt(0));
            }
            wanted.add(forms);
            try {
                patch.set(i, language, FileText.of(forms));
            } catch (UnwritableTextException unspellable) {
                assertThat(Charset.forName(reading.charset()).newEncoder().canEncode(MARK.charAt(0)))
                        .isFalse();
                return;
            }
        }
        byte[] after = written(patch);
        FileReading again =
                format.read(name, after, options.in(reading.languages().get(language)));
        assertThat(again.size()).as("entries of:\n" + text(after, reading)).isEqualTo(reading.size());
        for (int i = 0; i < reading.size(); i++) {
            assertThat(again.entry(i).texts().get(again.languages().size() - 1).forms())
                    .as(again.entry(i).key() + " in:\n" + text(after, reading))
                    .isEqualTo(wanted.get(i));
        }
    }

    private static String text(byte[] bytes, FileReading reading) {
        return new String(bytes, Charset.forName(reading.charset()));
    }

    private static byte[] written(FilePatch patch) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        patch.writeTo(out);
        return out.toByteArray();
    }

    /** What is read, as the cases spell it. */
    static List<String> shown(FileReading reading) {
        List<String> shown = new ArrayList<>();
        int source = reading.sourceLanguage().map(reading.languages()::indexOf).orElse(-1);
        int language = reading.languages().size() - 1;
        for (int i = 0; i < reading.size(); i++) {
            FileEntry entry = reading.entry(i);
            StringBuilder line = new StringBuilder(escaped(entry.key()));
            line.append(entry.context().isEmpty() ? "" : " @" + escaped(entry.context()));
            if (language != source) {
                FileText text = entry.texts().get(language);
                line.append(forms(entry, text, " = "));
                text.state()
                        .ifPresent(
                                state -> line.append(" (").append(state.word()).append(')'));
            }
            shown.add(line.toString());
            if (source >= 0 && reading.languages().size() > 1) {
                String text = forms(entry, entry.texts().get(source), " := ");
                if (!text.equals(" := " + escaped(entry.key()))) {
                    shown.add(" " + text);
                }
            }
            entry.notes().forEach(note -> shown.add("  note: " + escaped(note)));
            entry.references().forEach(reference -> shown.add("  ref: " + reference));
            entry.flags().forEach(flag -> shown.add("  flag: " + flag));
            if (entry.maxLength() > 0) {
                shown.add("  max: " + entry.maxLength());
            }
            if (!entry.section().isEmpty()) {
                shown.add("  section: " + entry.section());
            }
            if (!entry.translatable()) {
                shown.add("  untranslatable");
            }
        }
        return shown;
    }

    private static String forms(FileEntry entry, FileText text, String equal) {
        if (entry.shape() == Shape.PLAIN) {
            return (equal + escaped(text.main())).stripTrailing();
        }
        List<String> forms = new ArrayList<>();
        text.forms().forEach((form, words) -> forms.add(form + ": " + escaped(words)));
        return " " + (equal.equals(" := ") ? ":= " : "") + "{" + String.join("; ", forms) + "}";
    }

    private static String escaped(String text) {
        String escaped = text.replace("\\", "\\\\")
                .replace("\n", "\\n")
                .replace("\t", "\\t")
                .replace("\r", "\\r");
        return escaped.endsWith(" ") || escaped.startsWith(" ") ? "«" + escaped + "»" : escaped;
    }

    /** A language for options. */
    public static LanguageTag tag(String value) {
        return LanguageTag.parse(value).orElseGet(() -> fail(value));
    }
}
