package mellow.core.format.po;

import java.util.List;
import mellow.core.format.FileEntry;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.format.UnwritableTextException;
import mellow.core.format.po.PoMessage.Span;
import mellow.core.format.po.PoMessage.Value;
import mellow.core.format.source.OrderedPatch;
import mellow.core.format.source.SourceText;
import mellow.core.text.Shape;
import mellow.core.text.Text;

/** Writes a catalogue in place: translations, the fuzzy flag, rewritten sources, messages removed and added. */
final class PoPatch extends OrderedPatch {

    private final PoReading file;
    private final SourceText source;
    private final String lineEnd;

    PoPatch(PoReading file) {
        super(file.source().splice());
        this.file = file;
        this.source = file.source();
        this.lineEnd = source.lineEnd();
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
                .filter(state -> !text.isEmpty())
                .ifPresent(state -> mark(message, state == FileState.PENCILLED, key));
    }

    private void replace(Value value, String text, String key) {
        if (!text.equals(value.text())) {
            splice.replace(value.start(), value.end(), PoStrings.quote(text, "", lineEnd), key);
        }
    }

    private void setForms(PoMessage message, FileText text, String key) {
        PluralForms forms = file.forms();
        StringBuilder added = new StringBuilder();
        for (int i = 0; i < forms.count(); i++) {
            String category = forms.categories().get(i);
            String form = category.isEmpty() ? "" : text.form(category);
            if (i >= message.texts().size()) {
                added.append(lineEnd)
                        .append("msgstr[")
                        .append(i)
                        .append("] ")
                        .append(PoStrings.quote(form, "", lineEnd));
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
            List<String> rest = java.util.Arrays.stream(flags.split(","))
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
        String message =
                PoWriter.message(added, file.languages(), file.habit(), file.translation(), file.forms(), lineEnd);
        splice.replace(place, place, (open ? lineEnd : "") + lineEnd + message, added.key());
    }

    @Override
    protected int size() {
        return file.size();
    }
}
