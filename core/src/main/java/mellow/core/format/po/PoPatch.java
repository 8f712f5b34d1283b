package mellow.core.format.po;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import mellow.core.format.FileEntry;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.format.UnwritableTextException;
import mellow.core.format.po.PoMessage.Span;
import mellow.core.format.po.PoMessage.Value;
import mellow.core.format.source.OrderedPatch;
import mellow.core.format.source.SourceText;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import mellow.core.text.Text;

/** Writes a catalogue in place: translations, the fuzzy flag, rewritten sources, messages removed and added. */
final class PoPatch extends OrderedPatch {

    private final PoReading file;
    private final SourceText source;
    private final String lineEnd;
    private PluralForms forms;

    PoPatch(PoReading file) {
        super(file.source().splice());
        this.file = file;
        this.source = file.source();
        this.lineEnd = source.lineEnd();
        this.forms = file.forms();
    }

    @Override
    public void set(int entry, int language, FileText text) {
        PoMessage message = file.item(entry).message();
        String key = file.entry(entry).key();
        boolean plural = file.entry(entry).shape() == Shape.PLURAL;
        if (file.isSource(language)) {
            String one = text.form("one");
            replace(message.id(), plural && !one.isEmpty() ? one : text.main(), key);
            if (plural) {
                replace(message.plural(), text.main(), key);
            }
            return;
        }
        if (plural) {
            setForms(message, text, key);
        } else {
            replace(message.texts().get(0), text.main(), key);
        }
        text.state()
                .filter(state -> !text.isEmpty() || state == FileState.UNTRANSLATED)
                .ifPresent(state -> mark(message, state == FileState.PENCILLED, key));
    }

    /** The header names the language and its plural forms; what it says about people and times is the other language's, and goes, as do obsolete messages. */
    @Override
    public void rename(LanguageTag language, String spelled) {
        PoMessage header = file.header();
        forms = PluralForms.of(Optional.of(language));
        if (header != null) {
            String fields = header.texts().get(0).text();
            fields = field(fields, "Language", spelled);
            fields = field(fields, "Plural-Forms", forms.header());
            fields = field(fields, "Language-Team", "");
            fields = field(fields, "Last-Translator", "");
            fields = field(fields, "PO-Revision-Date", "");
            fields = fields.replace("charset=CHARSET", "charset=UTF-8");
            Value value = header.texts().get(0);
            splice.replace(value.start(), value.end(), PoStrings.quote(fields, lineEnd), spelled);
            mark(header, false, spelled);
        }
        for (int at = 0; at < source.text().length(); at = source.lineAfter(at)) {
            if (source.text().startsWith("#~", at)) {
                splice.remove(at, source.lineAfter(at));
            }
        }
    }

    /** The header with a field set; one that is not there is added where it says what the file cannot be read without. */
    private static String field(String header, String name, String value) {
        StringBuilder lines = new StringBuilder();
        boolean found = false;
        for (String line : header.split("\n")) {
            boolean own = line.regionMatches(true, 0, name + ":", 0, name.length() + 1);
            found |= own;
            lines.append(own ? name + ": " + value : line).append('\n');
        }
        boolean needed = name.equals("Language") || name.equals("Plural-Forms");
        return found || !needed
                ? lines.toString()
                : lines.append(name).append(": ").append(value).append('\n').toString();
    }

    private void replace(Value value, String text, String key) {
        if (!text.equals(value.text())) {
            splice.replace(value.start(), value.end(), PoStrings.quote(text, lineEnd), key);
        }
    }

    private void setForms(PoMessage message, FileText text, String key) {
        StringBuilder added = new StringBuilder();
        for (int i = 0; i < forms.count(); i++) {
            String category = forms.categories().get(i);
            String form = category.isEmpty() ? "" : text.form(category);
            if (i >= message.texts().size()) {
                added.append(lineEnd).append("msgstr[").append(i).append("] ").append(PoStrings.quote(form, lineEnd));
            } else if (!category.isEmpty()) {
                replace(message.texts().get(i), form, key);
            }
        }
        text.forms().keySet().stream()
                .filter(form -> forms.index(form) < 0
                        && !(form.equals(Text.OTHER) && text.forms().size() > 1))
                .findFirst()
                .ifPresent(form -> {
                    throw new UnwritableTextException("The catalogue's Plural-Forms has no place for the form “" + form
                            + "” of " + key + "; export it fresh instead.");
                });
        for (int i = forms.count(); i < message.texts().size(); i++) {
            Value extra = message.texts().get(i);
            splice.remove(source.lineStart(extra.start()), source.lineAfter(extra.end() - 1));
        }
        if (!added.isEmpty()) {
            Value last = message.texts().get(message.texts().size() - 1);
            splice.replace(last.end(), last.end(), added.toString(), key);
        }
    }

    /** Sets or clears "fuzzy" among the flags; the line goes when it was the only one. */
    private void mark(PoMessage message, boolean fuzzy, String key) {
        if (fuzzy == message.fuzzy()) {
            return;
        }
        if (fuzzy) {
            if (message.flagLines().isEmpty()) {
                splice.replace(message.keyword(), message.keyword(), "#, fuzzy" + lineEnd, key);
            } else {
                int place = message.flagLines().get(0).start() + 2;
                splice.replace(place, place, " fuzzy,", key);
            }
            return;
        }
        for (Span line : message.flagLines()) {
            String flags = source.text().substring(line.start() + 2, line.end());
            List<String> rest = Arrays.stream(flags.split(","))
                    .map(String::strip)
                    .filter(flag -> !flag.isEmpty() && !flag.equals("fuzzy"))
                    .toList();
            if (!flags.contains("fuzzy")) {
                continue;
            }
            if (rest.isEmpty()) {
                splice.replace(line.start(), source.lineAfter(line.start()), "", key);
            } else {
                splice.replace(line.start() + 2, line.end(), " " + String.join(", ", rest), key);
            }
        }
    }

    @Override
    protected void takeOut(int entry) {
        PoMessage message = file.item(entry).message();
        int end = message.end();
        // The blank line after a message goes with it.
        String text = source.text();
        if (end < text.length() && (text.charAt(end) == '\n' || text.charAt(end) == '\r')) {
            end = source.lineAfter(end);
        }
        splice.remove(message.start(), end);
    }

    @Override
    protected void putIn(int after, FileEntry added) {
        int place =
                after >= 0 ? file.item(after).message().end() : source.text().length();
        boolean open = place > 0 && "\r\n".indexOf(source.text().charAt(place - 1)) < 0;
        String message = PoWriter.message(added, file.languages(), file.habit(), file.translation(), forms, lineEnd);
        splice.replace(place, place, (open ? lineEnd : "") + lineEnd + message, added.key());
    }

    @Override
    protected int size() {
        return file.size();
    }
}
