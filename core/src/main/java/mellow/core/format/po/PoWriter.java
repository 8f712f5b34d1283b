package mellow.core.format.po;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.format.KeyHabit;
import mellow.core.format.UnwritableTextException;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import mellow.core.text.Text;

/** Writes a new catalogue. When keys are not the sources themselves, msgctxt holds them and a header field says so. */
final class PoWriter {

    private final EntryList entries;
    private final int from;
    private final int to;

    PoWriter(EntryList entries) {
        this.entries = entries;
        if (entries.languages().size() > 2) {
            throw new UnwritableTextException("A catalogue holds a source and one language, and there are "
                    + entries.languages().size() + "; choose one with its language.");
        }
        this.from = entries.sourceLanguage()
                .map(entries.languages()::indexOf)
                .orElse(entries.languages().size() == 2 ? 0 : -1);
        this.to = entries.languages().size() == 2 ? 1 - from : from < 0 ? 0 : -1;
    }

    void writeTo(OutputStream out) throws IOException {
        Writer to = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8));
        KeyHabit habit = habit();
        Optional<LanguageTag> language = this.to < 0
                ? Optional.empty()
                : Optional.of(entries.languages().get(this.to)).filter(tag -> !tag.equals(LanguageTag.UNDETERMINED));
        PluralForms forms = PluralForms.of(language);
        to.write("msgid \"\"\nmsgstr \"\"\n\"MIME-Version: 1.0\\n\"\n\"Content-Type: text/plain; charset=UTF-8\\n\"\n");
        to.write("\"Content-Transfer-Encoding: 8bit\\n\"\n\"Language: "
                + language.map(tag -> tag.value().replace('-', '_')).orElse("") + "\\n\"\n");
        if (language.isPresent()) {
            to.write("\"Plural-Forms: " + forms.header() + "\\n\"\n");
        }
        if (from >= 0 && !entries.languages().get(from).equals(LanguageTag.UNDETERMINED)) {
            to.write("\"X-Source-Language: " + entries.languages().get(from) + "\\n\"\n");
        }
        if (habit == KeyHabit.CONTEXT) {
            to.write("\"" + PoReading.KEY_FIELD + ": msgctxt\\n\"\n");
        }
        List<LanguageTag> languages = from == 1
                ? List.of(entries.languages().get(1), entries.languages().get(0))
                : entries.languages();
        for (int i = 0; i < entries.size(); i++) {
            FileEntry entry = entries.entry(i);
            to.write('\n');
            to.write(message(
                    from == 1
                            ? entry.with(
                                    List.of(entry.texts().get(1), entry.texts().get(0)))
                            : entry,
                    languages,
                    habit,
                    this.to < 0 ? -1 : languages.size() - 1,
                    forms,
                    "\n"));
        }
        to.flush();
    }

    private KeyHabit habit() {
        if (from < 0) {
            return KeyHabit.KEY;
        }
        for (int i = 0; i < entries.size(); i++) {
            FileEntry entry = entries.entry(i);
            String source = first(entry.texts().get(from), entry.shape());
            if (!source.equals(entry.key()) || source.isEmpty()) {
                return KeyHabit.CONTEXT;
            }
        }
        return KeyHabit.SOURCE;
    }

    private static String first(FileText source, Shape shape) {
        return shape == Shape.PLURAL && !source.form("one").isEmpty() ? source.form("one") : source.main();
    }

    /** A message with its comments, a line end at the end of each line. */
    static String message(
            FileEntry entry,
            List<LanguageTag> languages,
            KeyHabit habit,
            int translation,
            PluralForms forms,
            String lineEnd) {
        if (entry.shape() == Shape.STATES || entry.shape() == Shape.ASSET) {
            throw new UnwritableTextException("PO has no place for " + entry.key() + ", which is of the shape "
                    + entry.shape().word() + "; leave it out of the scope or choose another format.");
        }
        StringBuilder lines = new StringBuilder();
        comments(entry, lines, lineEnd);
        FileText target = translation < 0 ? FileText.NONE : entry.texts().get(translation);
        FileText source = habit == KeyHabit.KEY
                ? FileText.plain(entry.key())
                : entry.texts().get(0);
        boolean fuzzy = target.state().filter(FileState.PENCILLED::equals).isPresent() && !target.isEmpty();
        List<String> flags = new ArrayList<>(fuzzy ? List.of("fuzzy") : List.of());
        entry.flags().stream().filter(flag -> !flag.equals("fuzzy")).forEach(flags::add);
        if (!flags.isEmpty()) {
            lines.append("#, ").append(String.join(", ", flags)).append(lineEnd);
        }
        String context = entry.context();
        if (habit == KeyHabit.CONTEXT) {
            context = context.isEmpty() ? entry.key() : entry.key() + "\n" + context;
        }
        if (!context.isEmpty() || habit == KeyHabit.CONTEXT) {
            line("msgctxt ", context, lines, lineEnd);
        }
        boolean plural = entry.shape() == Shape.PLURAL;
        line("msgid ", habit == KeyHabit.KEY ? entry.key() : first(source, entry.shape()), lines, lineEnd);
        if (!plural) {
            line("msgstr ", target.main(), lines, lineEnd);
            return lines.toString();
        }
        line("msgid_plural ", source.main(), lines, lineEnd);
        for (int i = 0; i < forms.count(); i++) {
            String category = forms.categories().get(i);
            line("msgstr[" + i + "] ", category.isEmpty() ? "" : formOf(target, category, forms), lines, lineEnd);
        }
        return lines.toString();
    }

    /** A language of one form keeps it under "other"; a text that has only "other" fills every form that it lacks nothing else for. */
    private static String formOf(FileText target, String category, PluralForms forms) {
        String form = target.form(category);
        return form.isEmpty() && forms.count() == 1 ? target.form(Text.OTHER) : form;
    }

    private static void comments(FileEntry entry, StringBuilder lines, String lineEnd) {
        for (String note : entry.notes()) {
            for (String line : note.split("\n", -1)) {
                lines.append("#. ").append(line).append(lineEnd);
            }
        }
        for (String reference : entry.references()) {
            lines.append("#: ")
                    .append(reference.indexOf(' ') >= 0 ? "\u2068" + reference + "\u2069" : reference)
                    .append(lineEnd);
        }
    }

    private static void line(String keyword, String text, StringBuilder lines, String lineEnd) {
        lines.append(keyword).append(PoStrings.quote(text, lineEnd)).append(lineEnd);
    }
}
