package mellow.core.set;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import mellow.core.format.EntryId;
import mellow.core.format.FileEntry;
import mellow.core.format.FilePatch;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;
import mellow.core.format.Position;
import mellow.core.format.Problem;
import mellow.core.format.UnwritableTextException;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;

/**
 * The files of a set read as one file of many languages. The file of the sources says which entries there are and what they are; the others bring their
 * texts. Entries that the source file lacks come last and do not {@linkplain #stands stand}. A text that its own file says is for another source than the
 * set's is for an older one. Cost: one pass over every file's keys; entries are put together when asked for.
 */
public final class SetReading implements FileReading {

    /**
     * A file of a set.
     *
     * @param path its path
     * @param file what was read
     * @param source whether it holds the sources
     */
    public record Part(String path, FileReading file, boolean source) {}

    private static final int ABSENT = -1;

    private final List<Part> parts;
    private final LanguageTag source;
    private final List<LanguageTag> languages;
    private final List<EntryId> ids = new ArrayList<>();
    private final int standing;
    private final int sourcePart;
    private final boolean sources;

    /** For each part the place of every entry in its file, or {@link #ABSENT}. */
    private final int[][] places;

    /** For each part the language of each of its columns, as an index of {@link #languages}; {@link #ABSENT} for none. */
    private final int[][] columns;

    /** For each part the column of its own sources, or {@link #ABSENT}. */
    private final int[] sourceColumns;

    /**
     * Puts files together.
     *
     * @param source the language that the set is translated from
     * @param parts the files; at most one of them holds the sources
     */
    public SetReading(LanguageTag source, List<Part> parts) {
        this.parts = List.copyOf(parts);
        this.source = source;
        this.sourcePart = sourcePart(parts);
        this.sourceColumns = new int[parts.size()];
        Set<LanguageTag> all = new LinkedHashSet<>();
        boolean any = false;
        for (int part = 0; part < parts.size(); part++) {
            sourceColumns[part] = parts.get(part).file().sourceColumn(source);
            any |= sourceColumns[part] >= 0 && (sourcePart < 0 || sourcePart == part);
        }
        this.sources = any;
        if (sources) {
            all.add(source);
        }
        for (int part = 0; part < parts.size(); part++) {
            List<LanguageTag> own = parts.get(part).file().languages();
            for (int i = 0; i < own.size(); i++) {
                if (i != sourceColumns[part] && !own.get(i).equals(source)) {
                    all.add(own.get(i));
                }
            }
        }
        this.languages = List.copyOf(all);
        this.columns = new int[parts.size()][];
        for (int part = 0; part < parts.size(); part++) {
            List<LanguageTag> own = parts.get(part).file().languages();
            columns[part] = new int[own.size()];
            for (int i = 0; i < own.size(); i++) {
                boolean text = i != sourceColumns[part] && !own.get(i).equals(source);
                columns[part][i] = text ? languages.indexOf(own.get(i)) : ABSENT;
            }
        }
        this.places = new int[parts.size()][];
        this.standing = index();
    }

    private static int sourcePart(List<Part> parts) {
        for (int part = 0; part < parts.size(); part++) {
            if (parts.get(part).source()) {
                return part;
            }
        }
        return ABSENT;
    }

    private int index() {
        Map<EntryId, Integer> known = new HashMap<>();
        int stand = 0;
        List<Integer> order = new ArrayList<>();
        if (sourcePart >= 0) {
            order.add(sourcePart);
        }
        for (int part = 0; part < parts.size(); part++) {
            if (part != sourcePart) {
                order.add(part);
            }
        }
        List<int[]> found = new ArrayList<>();
        for (int part : order) {
            FileReading file = parts.get(part).file();
            int[] place = new int[file.size()];
            for (int i = 0; i < file.size(); i++) {
                EntryId id = file.id(i);
                Integer at = known.get(id);
                if (at == null) {
                    at = ids.size();
                    known.put(id, at);
                    ids.add(id);
                }
                place[i] = at;
            }
            found.add(place);
            if (part == sourcePart) {
                stand = ids.size();
            }
        }
        for (int n = 0; n < order.size(); n++) {
            int[] of = new int[ids.size()];
            Arrays.fill(of, ABSENT);
            int[] place = found.get(n);
            for (int i = 0; i < place.length; i++) {
                of[place[i]] = i;
            }
            places[order.get(n)] = of;
        }
        return sourcePart >= 0 ? stand : ids.size();
    }

    /** Whether the file of the sources has the entry; every entry stands where no file is that of the sources. */
    @Override
    public boolean stands(int index) {
        return index < standing;
    }

    @Override
    public List<LanguageTag> languages() {
        return languages;
    }

    @Override
    public Optional<LanguageTag> sourceLanguage() {
        return sources ? Optional.of(source) : Optional.empty();
    }

    @Override
    public int size() {
        return ids.size();
    }

    @Override
    public EntryId id(int index) {
        return ids.get(index);
    }

    @Override
    public FileEntry entry(int index) {
        int leading = leading(index);
        FileEntry first = parts.get(leading).file().entry(places[leading][index]);
        FileText from = sourceColumns[leading] < 0 || !sources
                ? FileText.NONE
                : first.texts().get(sourceColumns[leading]);
        FileText[] texts = new FileText[languages.size()];
        Arrays.fill(texts, FileText.NONE);
        if (sources) {
            texts[0] = from;
        }
        for (int part = 0; part < parts.size(); part++) {
            int place = places[part][index];
            if (place < 0) {
                continue;
            }
            FileEntry own = part == leading ? first : parts.get(part).file().entry(place);
            for (int i = 0; i < columns[part].length; i++) {
                int language = columns[part][i];
                if (language >= 0 && texts[language].isEmpty()) {
                    texts[language] = fitted(own, first.shape(), i, part, from);
                }
            }
        }
        return described(first, index, leading).with(Arrays.asList(texts));
    }

    /** The text as the entry's shape holds it, none where it cannot; for an older source where its file names another. */
    private FileText fitted(FileEntry own, Shape shape, int column, int part, FileText from) {
        FileText text = own.texts().get(column);
        if (text.isEmpty()) {
            return text;
        }
        if (own.shape() != shape) {
            boolean whole = own.shape() == Shape.PLAIN && shape == Shape.PLURAL;
            return whole ? new FileText(text.forms(), text.state(), text.older()) : FileText.NONE;
        }
        int beside = sourceColumns[part];
        boolean other = beside >= 0
                && beside != column
                && part != sourcePart
                && sourcePart >= 0
                && !from.isEmpty()
                && !own.texts().get(beside).isEmpty()
                && !own.texts().get(beside).says(from);
        return other ? text.forOlder() : text;
    }

    /** The part that says what an entry is: the source's, else the first that has it. */
    private int leading(int index) {
        if (index < standing && sourcePart >= 0) {
            return sourcePart;
        }
        for (int part = 0; part < parts.size(); part++) {
            if (places[part][index] >= 0) {
                return part;
            }
        }
        throw new IllegalStateException("an entry of no file");
    }

    /** What the source's file does not say of an entry, the first of the others that says it does. */
    private FileEntry described(FileEntry first, int index, int leading) {
        if (sourcePart >= 0) {
            return first;
        }
        FileEntry all = first;
        for (int part = 0; part < parts.size(); part++) {
            boolean more = part != leading
                    && places[part][index] >= 0
                    && (all.notes().isEmpty() || all.references().isEmpty());
            if (more) {
                FileEntry own = parts.get(part).file().entry(places[part][index]);
                all = all.copy()
                        .notes(all.notes().isEmpty() ? own.notes() : all.notes())
                        .references(all.references().isEmpty() ? own.references() : all.references())
                        .section(all.section().isEmpty() ? own.section() : all.section())
                        .maxLength(all.maxLength() == 0 ? own.maxLength() : all.maxLength())
                        .build();
            }
        }
        return all;
    }

    @Override
    public boolean bilingual() {
        return parts.stream().anyMatch(part -> part.file().bilingual());
    }

    @Override
    public Optional<Set<String>> forms(int index, int language) {
        for (int part = 0; part < parts.size(); part++) {
            int place = places[part][index];
            for (int i = 0; place >= 0 && i < columns[part].length; i++) {
                boolean ofSource = sources && language == 0 && i == sourceColumns[part] && part == leading(index);
                if (ofSource || columns[part][i] == language) {
                    return parts.get(part).file().forms(place, i);
                }
            }
        }
        return Optional.empty();
    }

    /** A file of texts alone says nothing about notes and references: those of the source's file count. */
    @Override
    public boolean has(Field field) {
        return sourcePart >= 0
                ? parts.get(sourcePart).file().has(field)
                : sources && parts.stream().anyMatch(part -> part.file().has(field));
    }

    /** The problems of every file, and texts that have no place in the set. */
    @Override
    public List<Problem> problems() {
        List<Problem> all = new ArrayList<>();
        for (int part = 0; part < parts.size(); part++) {
            all.addAll(parts.get(part).file().problems());
            all.addAll(misshapen(part));
        }
        return all;
    }

    /** Entries of a part that are of another shape in the file of the sources, where the text has no place. */
    public List<Problem> misshapen(int part) {
        List<Problem> all = new ArrayList<>();
        if (sourcePart < 0 || part == sourcePart) {
            return all;
        }
        FileReading leader = parts.get(sourcePart).file();
        FileReading file = parts.get(part).file();
        for (int index = 0; index < standing; index++) {
            if (places[part][index] < 0) {
                continue;
            }
            FileEntry own = file.entry(places[part][index]);
            Shape shape = leader.entry(index).shape();
            if (own.shape() != shape && !(own.shape() == Shape.PLAIN && shape == Shape.PLURAL)) {
                all.add(Problem.warning(
                        parts.get(part).path(),
                        new Position(Math.max(1, own.line()), 1, 0),
                        "the key “" + own.key() + "” is of the shape "
                                + own.shape().word() + ", and of the shape " + shape.word() + " in "
                                + parts.get(sourcePart).path(),
                        "its text stays out"));
            }
        }
        return all;
    }

    /** How many entries of a part the file of the sources lacks. */
    public int unknownIn(int part) {
        int unknown = 0;
        for (int index = standing; index < ids.size(); index++) {
            unknown += places[part][index] >= 0 ? 1 : 0;
        }
        return unknown;
    }

    /** How many entries that the file of the sources has are without a text in a part. */
    public int missingIn(int part) {
        int column = textColumn(part);
        if (sourcePart < 0 || column < 0) {
            return 0;
        }
        int missing = 0;
        FileReading file = parts.get(part).file();
        for (int index = 0; index < standing; index++) {
            int place = places[part][index];
            missing += place < 0
                            || (column >= 0
                                    && file.entry(place).texts().get(column).isEmpty())
                    ? 1
                    : 0;
        }
        return missing;
    }

    /** How many texts a part holds: of the source in the source's file, else of the others. */
    public int textsIn(int part) {
        FileReading file = parts.get(part).file();
        int column = part == sourcePart && textColumn(part) < 0 ? sourceColumns[part] : textColumn(part);
        int texts = 0;
        for (int i = 0; column >= 0 && i < file.size(); i++) {
            texts += file.entry(i).texts().get(column).isEmpty() ? 0 : 1;
        }
        return texts;
    }

    /** How many of a part's texts differ from those of the file of the sources, where both are in the source's language. */
    public int otherwiseIn(int part) {
        int column = sourceColumns[part];
        boolean catalogue = parts.get(part).file().languages().size() > 1;
        if (sourcePart < 0 || part == sourcePart || column < 0 || textColumn(part) >= 0 || catalogue) {
            return 0;
        }
        int otherwise = 0;
        FileReading leader = parts.get(sourcePart).file();
        FileReading file = parts.get(part).file();
        for (int index = 0; index < ids.size(); index++) {
            int place = places[part][index];
            if (place < 0 || file.entry(place).texts().get(column).isEmpty()) {
                continue;
            }
            boolean same = index < standing
                    && leader.entry(index)
                            .texts()
                            .get(sourceColumns[sourcePart])
                            .says(file.entry(place).texts().get(column));
            otherwise += same ? 0 : 1;
        }
        return otherwise;
    }

    private int textColumn(int part) {
        for (int i = 0; i < columns[part].length; i++) {
            if (columns[part][i] >= 0) {
                return i;
            }
        }
        return ABSENT;
    }

    @Override
    public String charset() {
        return parts.get(Math.max(0, sourcePart)).file().charset();
    }

    /** A set is written file by file. */
    @Override
    public FilePatch patch() {
        throw new UnwritableTextException("The files of a set are written one by one.");
    }
}
