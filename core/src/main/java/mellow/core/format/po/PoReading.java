package mellow.core.format.po;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.regex.Pattern;
import mellow.core.format.FileEntry;
import mellow.core.format.FileNames;
import mellow.core.format.FilePatch;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.format.ReadOptions;
import mellow.core.format.Repeats;
import mellow.core.format.source.SourceText;
import mellow.core.format.source.TextReading;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import mellow.core.text.Text;
import org.jspecify.annotations.Nullable;

/** A catalogue as it was read. Its languages are the source, unless msgid is the key, and the translation's, unless it is a template. */
final class PoReading extends TextReading<PoReading.Item> {

    /** The header field of our own that says that msgctxt holds the key. */
    static final String KEY_FIELD = "X-Mellow-Key";

    private static final Pattern KEY =
            Pattern.compile("[\\p{L}\\p{N}_$-]+([.:/_-][\\p{L}\\p{N}_$-]+)+|[A-Z][A-Z0-9]*(_[A-Z0-9]+)+");

    /** The gettext manual takes it for granted that programs speak English. */
    private static final LanguageTag ENGLISH = new LanguageTag("en");

    /** What identifies a message. */
    enum Habit {
        /** msgid is the source and the key at once. */
        SOURCE,
        /** msgid is the key; the file has no sources. */
        KEY,
        /** msgctxt is the key, msgid the source: what we write. */
        CONTEXT
    }

    private final @Nullable PoMessage header;
    private final Habit habit;
    private final PluralForms forms;
    private final boolean translated;

    record Item(FileEntry entry, PoMessage message) {}

    private PoReading(
            SourceText source,
            List<LanguageTag> languages,
            boolean translated,
            Habit habit,
            PluralForms forms,
            @Nullable PoMessage header,
            List<Item> items) {
        super(
                source,
                languages,
                habit == Habit.KEY ? Optional.empty() : Optional.of(languages.get(0)),
                items,
                Item::entry);
        this.header = header;
        this.translated = translated;
        this.habit = habit;
        this.forms = forms;
    }

    static PoReading of(SourceText source, ReadOptions options) {
        List<PoMessage> messages = new ArrayList<>();
        List<PoMessage> headers = new ArrayList<>();
        PoParser.parse(source, options.limits(), message -> (message.header() ? headers : messages).add(message));
        if (headers.isEmpty() && messages.isEmpty()) {
            throw source.refuse(0, "there are no messages in the file", "“msgid” and “msgstr”");
        }
        Map<String, String> header = headers.isEmpty() ? Map.of() : fields(headers.get(0));
        if (headers.size() > 1) {
            source.warn(headers.get(1).keyword(), "a second header", "the first one counts");
        }
        Habit habit = header.getOrDefault(KEY_FIELD, "").equals("msgctxt") ? Habit.CONTEXT : habitOf(messages);
        Optional<LanguageTag> target = options.language()
                .or(() -> LanguageTag.parse(header.getOrDefault("Language", "")))
                .or(() -> FileNames.language(source.problems().file()));
        boolean any = messages.stream().anyMatch(message -> message.texts().stream()
                .anyMatch(text -> !text.text().isEmpty()));
        PluralForms forms = forms(source, headers, header, target);
        List<LanguageTag> languages = new ArrayList<>();
        if (habit != Habit.KEY) {
            languages.add(options.source()
                    .or(() -> LanguageTag.parse(header.getOrDefault("X-Source-Language", "")))
                    .orElse(ENGLISH));
        }
        boolean translated = target.isPresent() || any || habit == Habit.KEY;
        if (translated) {
            languages.add(target.orElse(LanguageTag.UNDETERMINED));
        }
        List<Item> items = new ArrayList<>(messages.size());
        for (PoMessage message : messages) {
            items.add(new Item(entry(source, message, habit, translated, forms), message));
        }
        return new PoReading(
                source,
                List.copyOf(languages),
                translated,
                habit,
                forms,
                headers.isEmpty() ? null : headers.get(0),
                Repeats.lastOf(items, Item::entry, source.problems()));
    }

    private static Map<String, String> fields(PoMessage header) {
        Map<String, String> fields = new HashMap<>();
        for (String line : header.texts().get(0).text().split("\n")) {
            int colon = line.indexOf(':');
            if (colon > 0) {
                fields.putIfAbsent(
                        line.substring(0, colon).strip(),
                        line.substring(colon + 1).strip());
            }
        }
        return fields;
    }

    /** Keys have no spaces and are spelled like names; a catalogue is one of keys when nearly all its msgids are. */
    private static Habit habitOf(List<PoMessage> messages) {
        int keys = 0;
        for (PoMessage message : messages) {
            keys += KEY.matcher(message.id().text()).matches() ? 1 : 0;
        }
        return messages.isEmpty() || keys < messages.size() * 0.9 ? Habit.SOURCE : Habit.KEY;
    }

    private static PluralForms forms(
            SourceText source, List<PoMessage> headers, Map<String, String> header, Optional<LanguageTag> target) {
        String field = header.getOrDefault("Plural-Forms", "");
        if (field.isBlank() || field.contains("INTEGER")) {
            return PluralForms.of(target);
        }
        try {
            return PluralForms.parse(field, target);
        } catch (IllegalArgumentException wrong) {
            source.warn(
                    headers.get(0).keyword(),
                    "plural forms that cannot be evaluated: " + wrong.getMessage(),
                    "read with the forms of the language");
            return PluralForms.of(target);
        }
    }

    private static FileEntry entry(
            SourceText source, PoMessage message, Habit habit, boolean translated, PluralForms forms) {
        boolean plural = message.plural().present();
        String key = message.id().text();
        String context = message.context().text();
        if (habit == Habit.CONTEXT && message.context().present()) {
            int split = context.indexOf('\n');
            key = split < 0 ? context : context.substring(0, split);
            context = split < 0 ? "" : context.substring(split + 1);
        }
        List<FileText> texts = new ArrayList<>(2);
        if (habit != Habit.KEY) {
            texts.add(
                    plural ? sourceForms(message) : FileText.plain(message.id().text()));
        }
        if (translated) {
            texts.add(translation(source, message, plural, forms));
        }
        FileEntry.Builder entry = FileEntry.of(key)
                .line(source.line(message.keyword()))
                .context(context)
                .shape(plural ? Shape.PLURAL : Shape.PLAIN)
                .note(String.join("\n", message.translator()))
                .note(String.join("\n", message.extracted()))
                .flags(message.flags())
                .texts(texts);
        message.references().forEach(entry::reference);
        return entry.build();
    }

    private static FileText sourceForms(PoMessage message) {
        SortedMap<String, String> forms = new TreeMap<>();
        if (!message.id().text().equals(message.plural().text())) {
            forms.put("one", message.id().text());
        }
        forms.put(Text.OTHER, message.plural().text());
        return FileText.of(forms);
    }

    private static FileText translation(SourceText source, PoMessage message, boolean plural, PluralForms forms) {
        SortedMap<String, String> texts = new TreeMap<>();
        for (int i = 0; i < message.texts().size(); i++) {
            String text = message.texts().get(i).text();
            String category = !plural
                    ? Text.OTHER
                    : i < forms.count() ? forms.categories().get(i) : "";
            if (!category.isEmpty()) {
                texts.put(category, text);
            } else if (!text.isEmpty()) {
                source.warn(
                        message.texts().get(i).start(),
                        "the plural form " + i + ", which stands for no category of the language",
                        "it stays in the file, and is not taken in");
            }
        }
        FileText text = FileText.of(texts);
        if (text.isEmpty()) {
            return text.in(FileState.UNTRANSLATED);
        }
        FileText stated = message.fuzzy() ? text.in(FileState.PENCILLED) : text;
        return message.fuzzy() && message.renewed() ? stated.forOlder() : stated;
    }

    /** The message that holds the header, null for none. */
    @Nullable
    PoMessage header() {
        return header;
    }

    PoMessage message(int index) {
        return item(index).message;
    }

    Habit habit() {
        return habit;
    }

    PluralForms forms() {
        return forms;
    }

    /** Whether the text of that language is what msgid says. */
    boolean isSource(int language) {
        return habit != Habit.KEY && language == 0;
    }

    /** Index of the translation, -1 in a template. */
    int translation() {
        return translated ? languages().size() - 1 : -1;
    }

    @Override
    public boolean has(Field field) {
        return switch (field) {
            case CONTEXT, NOTE, REFERENCE -> true;
            case SECTION, LIMIT -> false;
        };
    }

    @Override
    public FilePatch patch() {
        return new PoPatch(this);
    }
}
