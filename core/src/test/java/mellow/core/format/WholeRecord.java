package mellow.core.format;

import com.ibm.icu.text.PluralRules;
import com.ibm.icu.util.ULocale;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import mellow.core.text.Text;

/** A record that has everything, for tests of what files make of it: 36 entries with plurals of a language, states, limits, notes, contexts, codes, and all scripts. */
public final class WholeRecord {

    /** The source of all. */
    public static final LanguageTag ENGLISH = new LanguageTag("en");

    /** Plurals of two, three, four and six categories, with and without a form for fractions alone, and of one. */
    public static final List<String> LANGUAGES = List.of("de", "pl", "ru", "ar", "ja", "cy", "lv");

    private static final List<String> TEXTS = List.of(
            "Ramp up",
            "All aboard\nMind the gap\n",
            "Say \"ahoy\" and 'aye'",
            "Lift {0} metres, %s, %1$d",
            "Deck <x id=\"1\"/> is <g id=\"2\">open</g>",
            "Deck <pc id=\"1\">three</pc> of <ph id=\"2\" equiv=\"n\"/>",
            "Use <b>bold</b> & <i>more</i>",
            "No <g> here, nor <pc id=\"1\">there",
            "مرحبا بكم \u200Fعلى متن",
            "出航は９時です",
            "🚢 ahoy 🧑‍✈️",
            "  leading and trailing  ",
            "a\r\nb",
            "tab\there",
            "= not a formula",
            "'apostrophe first",
            "back\\slash \\n",
            "#mark# and @at?");

    private final LanguageTag target;
    private final List<FileEntry> entries = new ArrayList<>();

    /** In English and another language. */
    public WholeRecord(LanguageTag target) {
        this.target = target;
        for (int i = 0; i < 36; i++) {
            entries.add(entry(i));
        }
    }

    private FileEntry entry(int i) {
        Shape shape = i % 6 == 1 ? Shape.PLURAL : i == 34 ? Shape.STATES : Shape.PLAIN;
        String text = TEXTS.get(i % TEXTS.size());
        FileText source = forms(shape, ENGLISH, text + " " + i);
        FileText translated = i % 9 == 8 ? FileText.NONE : forms(shape, target, target.value() + " " + text + " " + i);
        FileState state = i % 4 == 0 ? FileState.PENCILLED : FileState.SETTLED;
        return FileEntry.of("deck." + i + (i == 20 ? " with space" : ""))
                .context(i % 12 == 3 ? "tablet" : i == 5 ? "On the bridge" : "")
                .shape(shape)
                .note(i % 5 == 0 ? "Note " + i + "\nof two lines" : "")
                .reference(i % 7 == 0 ? "deck.scr:" + i : "")
                .section(i >= 10 && i < 20 ? "Bow & stern" : "")
                .maxLength(i % 8 == 2 ? 80 + i : 0)
                .translatable(i != 30)
                .texts(List.of(source, translated.isEmpty() ? translated : translated.in(state)))
                .build();
    }

    private static FileText forms(Shape shape, LanguageTag language, String text) {
        Map<String, String> forms = new TreeMap<>();
        switch (shape) {
            case PLURAL ->
                PluralRules.forLocale(ULocale.forLanguageTag(language.value()))
                        .getKeywords()
                        .forEach(form -> forms.put(form, form + " " + text));
            case STATES -> {
                forms.put("0", "off " + text);
                forms.put("1", "on " + text);
            }
            default -> forms.put(Text.OTHER, text);
        }
        return FileText.of(forms);
    }

    /** Its entries. */
    public List<FileEntry> entries() {
        return List.copyOf(entries);
    }

    /** All of it, with its source. */
    public EntryList list() {
        return EntryList.of(Optional.of(ENGLISH), List.of(ENGLISH, target), entries);
    }

    /** Those of its entries that have forms, by which rows of files of plain texts are known. */
    public static Map<EntryId, Shape> formed(EntryList all) {
        Map<EntryId, Shape> formed = new HashMap<>();
        for (int i = 0; i < all.size(); i++) {
            if (all.entry(i).shape() != Shape.PLAIN) {
                formed.put(all.entry(i).id(), all.entry(i).shape());
            }
        }
        return formed;
    }
}
