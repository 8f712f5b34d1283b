package mellow.core.format.po;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import mellow.core.format.FileEntry;
import mellow.core.format.FileNames;
import mellow.core.format.FilePatch;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.format.Habits;
import mellow.core.format.KeyHabit;
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

    /** The gettext manual takes it for granted that programs speak English. */
    private static final LanguageTag ENGLISH = new LanguageTag("en");

    private static final Set<String> SOURCE_FORMS = Set.of("one", Text.OTHER);

    private final @Nullable PoMessage header;
    private final Habits habits;
    private final KeyHabit habit;
    private final PluralForms forms;
    private final boolean translated;

    record Item(FileEntry entry, PoMessage message) {}

    private PoReading(
            SourceText source,
            List<LanguageTag> languages,
            boolean translated,
            Habits habits,
            PluralForms forms,
            @Nullable PoMessage header,
            List<Item> items) {
        super(
                source,
                languages,
                habits.key().equals(Optional.of(KeyHabit.KEY)) ? Optional.empty() : Optional.of(languages.get(0)),
                items,
                Item::entry);
        this.header = header;
        this.translated = translated;
        this.habits = habits;
        this.habit = habits.key().orElseThrow();
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
        Optional<LanguageTag> target = options.language()
                .or(() -> LanguageTag.parse(header.getOrDefault("Language", "")))
                .or(() -> FileNames.language(source.problems().file()));
        boolean any = messages.stream().anyMatch(message -> message.texts().stream()
                .anyMatch(text -> !text.text().isEmpty()));
        PluralForms forms = forms(source, headers, header, target);
        LanguageTag from = options.source()
                .or(() -> LanguageTag.parse(header.getOrDefault("X-Source-Language", "")))
                .orElse(ENGLISH);
        boolean own = target.equals(Optional.of(from));
        Habits habits = habits(options, header, messages, own);
        KeyHabit habit = habits.key().orElseThrow();
        List<LanguageTag> languages = new ArrayList<>();
        if (habit != KeyHabit.KEY) {
            languages.add(from);
        }
        boolean translated = target.isPresent() || any || habit == KeyHabit.KEY;
        if (own && habit != KeyHabit.KEY) {
            // Texts in their own source's language: the same again, or a variant that the file's name tells, or
            // somebody has to.
            translated = messages.stream().anyMatch(PoReading::saysOtherwise);
            target = FileNames.language(source.problems().file()).filter(named -> !named.equals(from));
        }
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
                habits,
                forms,
                headers.isEmpty() ? null : headers.get(0),
                Repeats.lastOf(whole(source, items, Item::entry), Item::entry, source.problems()));
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

    private static Habits habits(
            ReadOptions options, Map<String, String> header, List<PoMessage> messages, boolean own) {
        List<KeyHabit> possible = List.of(KeyHabit.values());
        if (options.keys().isPresent()) {
            return Habits.ofKeys(options.keys().get(), possible, Habits.CHOSEN);
        }
        if (header.getOrDefault(KEY_FIELD, "").equals("msgctxt")) {
            return Habits.ofKeys(KeyHabit.CONTEXT, possible, "The header says that msgctxt holds the key.");
        }
        List<String> ids = messages.stream().map(message -> message.id().text()).toList();
        List<String> contexts = messages.stream()
                .filter(message -> message.context().present())
                .map(message -> message.context().text())
                .toList();
        boolean named = contexts.size() == messages.size()
                && Set.copyOf(contexts).size() == contexts.size()
                && KeyHabit.areKeys(contexts);
        if (named) {
            return Habits.ofKeys(
                    KeyHabit.CONTEXT,
                    possible,
                    "Every message has a msgctxt of its own that looks like a key, such as “" + contexts.get(0)
                            + "”, so that is the key.");
        }
        if (KeyHabit.areKeys(ids)) {
            return Habits.ofKeys(
                    KeyHabit.KEY,
                    possible,
                    "Nearly every msgid looks like a key, such as “" + ids.get(0)
                            + "”, so they are keys and no texts.");
        }
        List<String> texts =
                messages.stream().map(message -> message.texts().get(0).text()).toList();
        if (own && KeyHabit.areKeysOf(ids, texts)) {
            return Habits.ofKeys(
                    KeyHabit.KEY,
                    possible,
                    "The file translates its own source language, and its msgids are single words that the texts put"
                            + " otherwise, so msgids are keys and the texts are the sources.");
        }
        return Habits.ofKeys(
                KeyHabit.SOURCE, possible, "msgids are sentences, so they are the source texts and the keys.");
    }

    private static boolean saysOtherwise(PoMessage message) {
        return message.texts().stream()
                .map(PoMessage.Value::text)
                .anyMatch(text -> !text.isEmpty()
                        && !text.equals(message.id().text())
                        && !text.equals(message.plural().text()));
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
            SourceText source, PoMessage message, KeyHabit habit, boolean translated, PluralForms forms) {
        boolean plural = message.plural().present();
        String key = message.id().text();
        String context = message.context().text();
        if (habit == KeyHabit.CONTEXT && message.context().present()) {
            int split = context.indexOf('\n');
            key = split < 0 ? context : context.substring(0, split);
            context = split < 0 ? "" : context.substring(split + 1);
        }
        List<FileText> texts = new ArrayList<>(2);
        if (habit != KeyHabit.KEY) {
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
                .former(habit == KeyHabit.SOURCE ? message.previous() : "")
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

    KeyHabit habit() {
        return habit;
    }

    PluralForms forms() {
        return forms;
    }

    /** Whether the text of that language is what msgid says. */
    boolean isSource(int language) {
        return habit != KeyHabit.KEY && language == 0;
    }

    /** Index of the translation, -1 in a template. */
    int translation() {
        return translated ? languages().size() - 1 : -1;
    }

    @Override
    public Habits habits() {
        return habits;
    }

    @Override
    public boolean bilingual() {
        return habit != KeyHabit.KEY;
    }

    @Override
    public Optional<Set<String>> forms(int index, int language) {
        if (entry(index).shape() != Shape.PLURAL) {
            return Optional.empty();
        }
        return Optional.of(isSource(language) ? SOURCE_FORMS : Set.copyOf(forms.categories()));
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
