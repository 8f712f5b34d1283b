package mellow.core.format.xliff;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Deque;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import mellow.core.format.FileEntry;
import mellow.core.format.FileNames;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.format.Habits;
import mellow.core.format.KeyHabit;
import mellow.core.format.ReadOptions;
import mellow.core.format.Repeats;
import mellow.core.format.source.SourceText;
import mellow.core.format.xliff.XliffReading.Item;
import mellow.core.format.xml.XmlNode.Element;
import mellow.core.format.xml.XmlReader;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;

/** Reads one XLIFF file: walks its files and groups, and hands every unit on. One use. */
final class XliffReader {

    private final SourceText source;
    private final ReadOptions options;
    private final XmlReader xml;
    private final List<Item> items = new ArrayList<>();
    private final List<String> originals = new ArrayList<>();
    private final Set<LanguageTag> targets = new LinkedHashSet<>();
    private final Deque<Level> levels = new ArrayDeque<>();
    private Optional<LanguageTag> sourceLanguage = Optional.empty();
    private LanguageTag target = LanguageTag.UNDETERMINED;
    private boolean second;
    private int files;
    private int bodyEnd = -1;

    /** Which of {@link #originals} each item came from, and in which language. */
    private final List<Integer> fileOf = new ArrayList<>();

    private final List<LanguageTag> languageOf = new ArrayList<>();

    /** What an open file or group hands down to its units. */
    private record Level(String section, boolean translatable) {}

    XliffReader(SourceText source, ReadOptions options) {
        this.source = source;
        this.options = options;
        this.xml = new XmlReader(source, options.limits().textBytes());
    }

    XliffReading read() {
        root();
        levels.push(new Level("", true));
        walk();
        if (files == 0) {
            throw source.refuse(0, "an XLIFF document without a <file>", "at least one");
        }
        if (targets.isEmpty()) {
            FileNames.language(source.problems().file())
                    .or(() -> items.stream()
                                    .anyMatch(
                                            item -> !item.entry().texts().get(1).isEmpty())
                            ? Optional.of(LanguageTag.UNDETERMINED)
                            : Optional.empty())
                    .ifPresent(named -> {
                        targets.add(named);
                        languageOf.replaceAll(language -> named);
                    });
        }
        LanguageTag from = options.source().or(() -> sourceLanguage).orElse(LanguageTag.UNDETERMINED);
        boolean own = targets.equals(Set.of(from));
        Habits habits = habits(own);
        boolean keyed = habits.key().equals(Optional.of(KeyHabit.KEY));
        if (own && !keyed && items.stream().anyMatch(XliffReader::saysOtherwise)) {
            // Texts in their own source's language: a variant that the file's name tells, or somebody has to.
            LanguageTag variant = FileNames.language(source.problems().file())
                    .filter(named -> !named.equals(from))
                    .orElse(LanguageTag.UNDETERMINED);
            targets.clear();
            targets.add(variant);
            languageOf.replaceAll(language -> variant);
        }
        List<LanguageTag> languages = new ArrayList<>();
        if (!keyed || targets.isEmpty()) {
            languages.add(from);
        }
        targets.stream().filter(language -> keyed || !language.equals(from)).forEach(languages::add);
        List<Item> finished = new ArrayList<>(items.size());
        for (int i = 0; i < items.size(); i++) {
            finished.add(finish(items.get(i), i, languages, keyed));
        }
        return new XliffReading(
                source,
                List.copyOf(languages),
                habits,
                Repeats.lastOf(finished, Item::entry, source.problems()),
                second,
                bodyEnd);
    }

    private static boolean saysOtherwise(Item item) {
        FileText target = item.entry().texts().get(1);
        return !target.isEmpty() && !target.says(item.entry().texts().get(0));
    }

    private Habits habits(boolean own) {
        List<KeyHabit> possible = List.of(KeyHabit.CONTEXT, KeyHabit.KEY);
        if (options.keys().filter(possible::contains).isPresent()) {
            return Habits.ofKeys(options.keys().get(), possible, Habits.CHOSEN);
        }
        List<String> sources = texts(0);
        if (!targets.isEmpty() && KeyHabit.areKeys(sources)) {
            return Habits.ofKeys(
                    KeyHabit.KEY,
                    possible,
                    "Nearly every source looks like a key, such as “" + sources.get(0)
                            + "”, so they are keys and no texts.");
        }
        if (own && KeyHabit.areKeysOf(sources, texts(1))) {
            return Habits.ofKeys(
                    KeyHabit.KEY,
                    possible,
                    "The file translates its own source language, and its sources are single words that the targets put"
                            + " otherwise, so sources are keys and the targets are the source texts.");
        }
        return Habits.ofKeys(
                KeyHabit.CONTEXT,
                possible,
                "Sources are sentences, so units are told apart by their names or numbers.");
    }

    private List<String> texts(int column) {
        return items.stream().map(item -> item.entry().text(column)).toList();
    }

    private void root() {
        XmlReader.Event event = xml.next();
        while (event == XmlReader.Event.REMARK) {
            event = xml.next();
        }
        Element root = xml.element();
        if (event != XmlReader.Event.START || !root.name().equals("xliff")) {
            throw source.refuse(root.start(), "the document is <" + root.name() + ">", "<xliff>");
        }
        String version = root.value("version");
        second = version.startsWith("2.");
        if (!second && !version.equals("1.2") && !version.equals("1.1") && !version.equals("1.0")) {
            throw source.refuse(
                    root.start(),
                    version.isEmpty() ? "<xliff> without a version" : "XLIFF version " + version,
                    "version 1.2, 2.0 or 2.1");
        }
        if (second) {
            sourceLanguage = language(root, "srcLang");
            if (sourceLanguage.isEmpty()) {
                throw source.refuse(root.start(), "<xliff> without srcLang", "the language of its sources");
            }
            target(language(root, "trgLang"));
        }
    }

    private void target(Optional<LanguageTag> stated) {
        target = options.language().or(() -> stated).orElse(LanguageTag.UNDETERMINED);
        if (options.language().isPresent() || stated.isPresent()) {
            targets.add(target);
        }
    }

    private Optional<LanguageTag> language(Element element, String attribute) {
        String value = element.value(attribute);
        if (value.isBlank()) {
            return Optional.empty();
        }
        Optional<LanguageTag> tag = LanguageTag.parse(value.strip());
        if (tag.isEmpty()) {
            source.warn(element.start(), "“" + value + "” is no language tag", "read as a file without one");
        }
        return tag;
    }

    private void walk() {
        while (true) {
            switch (xml.next()) {
                case START -> {
                    Element element = xml.element();
                    switch (element.name()) {
                        case "file" -> file(element);
                        case "group" -> {
                            if (isForms(element)) {
                                forms(xml.readElement());
                            } else {
                                levels.push(group(element));
                            }
                        }
                        case "trans-unit", "unit" -> unit(xml.readElement());
                        case "body" -> {}
                        // Headers, skeletons, notes of files, other namespaces: they stay, and are not read.
                        default -> xml.readElement();
                    }
                }
                case END -> {
                    String name = xml.element().name();
                    if (name.equals("file") || name.equals("group")) {
                        levels.pop();
                    }
                    if (name.equals("body") || (second && name.equals("file"))) {
                        bodyEnd = xml.hasEndTag() ? xml.endTagStart() : -1;
                    }
                }
                case DONE -> {
                    return;
                }
                default -> {}
            }
        }
    }

    private void file(Element file) {
        files++;
        originals.add(second && file.value("original").isEmpty() ? file.value("id") : file.value("original"));
        if (!second) {
            Optional<LanguageTag> from = language(file, "source-language");
            if (sourceLanguage.isEmpty()) {
                sourceLanguage = from;
            } else if (from.isPresent() && !from.equals(sourceLanguage)) {
                source.warn(
                        file.start(),
                        "a file from " + from.get() + " beside one from " + sourceLanguage.get(),
                        "its sources are taken as " + sourceLanguage.get());
            }
            target(language(file, "target-language"));
        }
        levels.push(new Level("", translatable(file)));
    }

    private Level group(Element group) {
        String name = second
                ? group.value("name").isEmpty() ? group.value("id") : group.value("name")
                : group.value("resname").isEmpty() ? group.value("id") : group.value("resname");
        String outer = levels.element().section;
        return new Level(outer.isEmpty() ? name : name.isEmpty() ? outer : outer + "/" + name, translatable(group));
    }

    private boolean translatable(Element element) {
        String own = element.value("translate");
        return own.isEmpty() ? levels.element().translatable : !own.equals("no");
    }

    private void unit(Element unit) {
        source.checkCount(items.size() + 1, unit.start(), options.limits());
        List<Item> read = second
                ? Unit2.entries(source, unit, levels.element().section, translatable(unit))
                : List.of(Unit12.entry(source, unit, levels.element().section, translatable(unit)));
        for (Item item : read) {
            add(item);
        }
    }

    private void add(Item item) {
        items.add(item);
        fileOf.add(files - 1);
        languageOf.add(target);
    }

    static boolean isForms(Element group) {
        return group.value("restype").startsWith("x-mellow-")
                || group.value("type").startsWith("mellow:");
    }

    /** Our own group of one entry's forms, a unit each. */
    private void forms(Element group) {
        source.checkCount(items.size() + 1, group.start(), options.limits());
        String kind = second
                ? group.value("type").substring("mellow:".length())
                : group.value("restype").substring(9);
        Shape shape = Shape.of(kind).filter(known -> known == Shape.STATES).orElse(Shape.PLURAL);
        List<String> names = new ArrayList<>();
        var sources = new TreeMap<String, String>();
        var texts = new TreeMap<String, String>();
        Optional<FileState> state = Optional.empty();
        FileEntry first = null;
        for (Element unit : group.elements()) {
            if (!unit.name().equals(second ? "unit" : "trans-unit")) {
                continue;
            }
            FileEntry form = (second
                            ? Unit2.entries(source, unit, "", true).get(0)
                            : Unit12.entry(source, unit, "", true))
                    .entry();
            String name = unit.value(second ? "name" : "resname");
            names.add(name);
            sources.put(name, form.text(0));
            texts.put(name, form.text(1));
            first = first == null ? form : first;
            if (!form.texts().get(1).isEmpty() || state.isEmpty()) {
                state = form.texts().get(1).state();
            }
        }
        if (first == null) {
            source.warn(group.start(), "a group of forms without any", "left out");
            return;
        }
        FileEntry.Builder entry = FileEntry.of(group.value(second ? "name" : "resname"))
                .context(first.context())
                .line(source.line(group.start()))
                .shape(shape)
                .section(levels.element().section)
                .maxLength(first.maxLength())
                .translatable(translatable(group))
                .texts(List.of(FileText.of(sources), new FileText(texts, state)));
        first.notes().forEach(entry::note);
        first.references().forEach(entry::reference);
        add(new Item(entry.build(), group.start(), 0, List.copyOf(names)));
    }

    /** Puts the target under its language, and tells equal keys of several files apart. */
    private Item finish(Item item, int index, List<LanguageTag> languages, boolean keyed) {
        FileEntry entry = item.entry();
        List<FileText> texts = entry.texts();
        boolean asRead = !keyed && languages.size() == 2 && languages.get(1).equals(languageOf.get(index));
        if (!asRead) {
            List<FileText> placed = new ArrayList<>(Collections.nCopies(languages.size(), FileText.NONE));
            int place = languages.indexOf(languageOf.get(index));
            if (!keyed) {
                placed.set(0, texts.get(0));
            }
            if (place > 0 || (keyed && place == 0)) {
                placed.set(place, texts.get(1));
            }
            texts = placed;
        }
        String context = files > 1 && entry.context().isEmpty() ? originals.get(fileOf.get(index)) : entry.context();
        // Forms of an entry have sources of their own, and only our own files have such groups.
        boolean named = !keyed || entry.shape() != Shape.PLAIN || entry.text(0).isEmpty();
        FileEntry finished = entry.copy()
                .key(named ? entry.key() : entry.text(0))
                .context(context)
                .texts(texts)
                .build();
        return new Item(finished, item.unit(), item.segment(), item.form());
    }
}
