package mellow.core.format.properties;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.EnumSet;
import java.util.Set;
import java.util.regex.Pattern;
import mellow.core.format.Aspect;
import mellow.core.format.EntryList;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.PlainForms;
import mellow.core.format.Problems;
import mellow.core.format.ReadOptions;
import mellow.core.format.Traits;
import mellow.core.format.charset.Utf8Check;
import mellow.core.format.source.SourceText;

/** Java properties. A file that is valid UTF-8 is UTF-8 (Java 9 and later), any other is Latin-1, in which all else is escaped. */
public final class PropertiesFormat implements FileFormat {

    private static final Traits TRAITS =
            Traits.of("properties", "properties", "text/plain").alias("java-properties");

    private static final Pattern LINE = Pattern.compile("(?m)^[ \\t]*[A-Za-z0-9_.$-]+[ \\t]*[=:]");

    @Override
    public Traits traits() {
        return TRAITS;
    }

    @Override
    public Set<Aspect> keeps() {
        return EnumSet.of(Aspect.NOTE, Aspect.UNSETTLED_TEXT, Aspect.PLURAL_FORMS, Aspect.LINE_BREAKS, Aspect.CONTEXT);
    }

    @Override
    public int likelihood(Sample sample) {
        if (sample.named(".properties")) {
            return 90;
        }
        return LINE.matcher(sample.text()).find()
                        && !sample.text().stripLeading().startsWith("<")
                ? 20
                : 0;
    }

    @Override
    public FileReading read(String file, byte[] bytes, ReadOptions options) {
        Problems problems = new Problems(file);
        if (bytes.length > 0) {
            SourceText.checkSize(bytes, options.limits(), problems, "lines of keys and texts");
        }
        Charset charset = options.charset()
                .orElseGet(() -> SourceText.charsetOf(
                        bytes, Utf8Check.of(bytes).valid() ? StandardCharsets.UTF_8 : StandardCharsets.ISO_8859_1));
        return PropertiesReading.of(SourceText.decode(bytes, charset, problems), options);
    }

    /** In UTF-8, with everything outside ASCII escaped, so that a program of any age reads it. */
    @Override
    public void write(EntryList entries, OutputStream out) throws IOException {
        EntryList plain = PlainForms.of(entries);
        int language = PlainForms.only(entries);
        Writer to = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8));
        String section = "";
        for (int i = 0; i < plain.size(); i++) {
            var entry = plain.entry(i);
            PlainForms.requireNoContext(entry, "Properties have");
            if (entry.texts().get(language).isEmpty()) {
                continue;
            }
            if (!entry.section().equals(section)) {
                section = entry.section();
                to.write(section.isEmpty() || i == 0 ? "" : "\n");
            }
            to.write(PropertiesStrings.line(entry, entry.text(language), "\n", true));
        }
        to.flush();
    }
}
