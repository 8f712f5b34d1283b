package mellow.core.format.po;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.EnumSet;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.core.format.Aspect;
import mellow.core.format.EntryList;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.Position;
import mellow.core.format.Problems;
import mellow.core.format.ReadOptions;
import mellow.core.format.Traits;
import mellow.core.format.Traits.Languages;
import mellow.core.format.source.SourceText;
import mellow.core.language.LanguageTag;
import mellow.core.text.Text;

/** PO and POT. */
public final class PoFormat implements FileFormat {

    private static final Traits TRAITS =
            Traits.of("po", "po", "text/plain").alias("pot").alsoEnding("pot").in(Languages.PAIR);

    private static final Pattern CHARSET = Pattern.compile("Content-Type:[^\"\\n]*?charset=([A-Za-z0-9_.:-]+)");
    private static final Pattern MESSAGE = Pattern.compile("(?m)^(msgid|msgctxt)\\s+\"");
    private static final int HEADER_LENGTH = 16_384;

    @Override
    public Traits traits() {
        return TRAITS;
    }

    @Override
    public Set<Aspect> keeps() {
        return EnumSet.of(
                Aspect.CONTEXT,
                Aspect.NOTE,
                Aspect.REFERENCE,
                Aspect.STATE,
                Aspect.UNTRANSLATED,
                Aspect.UNSETTLED_TEXT,
                Aspect.PLURAL_FORMS,
                Aspect.LINE_BREAKS);
    }

    @Override
    public Optional<Set<String>> forms(LanguageTag language, boolean source) {
        return Optional.of(
                source
                        ? Set.of("one", Text.OTHER)
                        : Set.copyOf(PluralForms.of(Optional.of(language)).categories()));
    }

    @Override
    public int likelihood(Sample sample) {
        boolean message = MESSAGE.matcher(sample.text()).find();
        if (sample.named(".po", ".pot")) {
            return message ? 100 : 60;
        }
        return message && sample.text().contains("msgstr") ? 90 : 0;
    }

    @Override
    public FileReading read(String file, byte[] bytes, ReadOptions options) {
        Problems problems = new Problems(file);
        SourceText.checkSize(bytes, options.limits(), problems, "a catalogue with messages");
        Charset charset = options.charset().orElseGet(() -> declared(bytes, problems));
        return PoReading.of(SourceText.decode(bytes, charset, problems), options);
    }

    /** The header says; "CHARSET" in a template means that nobody has decided yet. */
    private static Charset declared(byte[] bytes, Problems problems) {
        Charset marked = SourceText.charsetOf(bytes, StandardCharsets.US_ASCII);
        if (!marked.equals(StandardCharsets.US_ASCII)) {
            return marked;
        }
        Matcher found = CHARSET.matcher(
                new String(bytes, 0, Math.min(bytes.length, HEADER_LENGTH), StandardCharsets.ISO_8859_1));
        if (!found.find() || found.group(1).equals("CHARSET") || found.group(1).equalsIgnoreCase("ASCII")) {
            return StandardCharsets.UTF_8;
        }
        try {
            return Charset.forName(found.group(1));
        } catch (IllegalArgumentException unknown) {
            throw problems.refuse(
                    Position.WHOLE_FILE,
                    "the header declares the character set “" + found.group(1) + "”, which is not known",
                    "UTF-8 or another character set by its registered name");
        }
    }

    @Override
    public void write(EntryList entries, OutputStream out) throws IOException {
        new PoWriter(entries).writeTo(out);
    }
}
