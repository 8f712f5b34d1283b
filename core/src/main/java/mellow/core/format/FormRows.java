package mellow.core.format;

import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import mellow.core.text.Text;

/**
 * A file of plain texts in which the forms of an entry stand as entries of their own, {@code key[form]}, as {@link PlainForms} writes them: read and
 * changed as if each were one entry. Rows belong together when they follow each other and either the table is known to have an entry with forms of
 * that key, or they name CLDR plural categories, {@value Text#OTHER} among them; others, like the {@code list[0]} of a program, stay what they are. A language
 * with one form writes {@code key_other} where others write several; that is a form where the table has such a plural.
 */
public final class FormRows implements FileReading {

    private static final Pattern ROW =
            Pattern.compile("(.+)\\[(zero|one|two|few|many|other|[0-9]{1,2})]", Pattern.DOTALL);
    private static final Pattern SUFFIXED = Pattern.compile("(.+)_(zero|one|two|few|many|other)", Pattern.DOTALL);

    private final FileReading file;
    private final List<Group> groups;

    /** Rows {@code first} to {@code first + forms.size() - 1}; no forms for a row that is an entry by itself. */
    private record Group(int first, String key, Shape shape, List<String> forms, Pattern spelling) {

        String row(String form) {
            return spelling == SUFFIXED ? key + "_" + form : key + "[" + form + "]";
        }

        int last() {
            return first + Math.max(1, forms.size()) - 1;
        }
    }

    private FormRows(FileReading file, List<Group> groups) {
        this.file = file;
        this.groups = groups;
    }

    /**
     * The same file with its rows of forms put together; the file itself when it has none.
     *
     * @param known the table's entries that have forms
     */
    public static FileReading of(FileReading file, Map<EntryId, Shape> known) {
        List<Group> groups = new ArrayList<>();
        boolean any = false;
        for (int i = 0; i < file.size(); ) {
            Group group = at(file, i, known);
            any |= !group.forms.isEmpty();
            groups.add(group);
            i = group.last() + 1;
        }
        return any ? new FormRows(file, groups) : file;
    }

    private static Group at(FileReading file, int first, Map<EntryId, Shape> known) {
        Group alone = new Group(first, "", Shape.PLAIN, List.of(), ROW);
        EntryId id = file.id(first);
        // Most keys end otherwise, and this is asked of every row.
        boolean bracketed = id.key().endsWith("]");
        boolean suffixed = !bracketed && !known.isEmpty() && id.key().lastIndexOf('_') > 0;
        Pattern spelling = bracketed ? ROW : SUFFIXED;
        Matcher row = bracketed || suffixed ? spelling.matcher(id.key()) : null;
        if (row == null || !row.matches() || file.entry(first).shape() != Shape.PLAIN) {
            return alone;
        }
        String key = row.group(1);
        List<String> forms = new ArrayList<>();
        for (int i = first; i < file.size(); i++) {
            Matcher next = spelling.matcher(file.id(i).key());
            if (!next.matches()
                    || !next.group(1).equals(key)
                    || !file.id(i).context().equals(id.context())
                    || forms.contains(next.group(2))) {
                break;
            }
            forms.add(next.group(2));
        }
        boolean numbered = forms.stream().allMatch(form -> Character.isDigit(form.charAt(0)));
        boolean named = forms.stream().noneMatch(form -> Character.isDigit(form.charAt(0)));
        Shape shape = known.get(new EntryId(key, id.context()));
        boolean fits = shape == Shape.STATES
                ? numbered
                : named
                        && (shape == Shape.PLURAL
                                || (shape == null && bracketed && forms.contains(Text.OTHER) && forms.size() > 1));
        return fits
                ? new Group(first, key, numbered ? Shape.STATES : Shape.PLURAL, List.copyOf(forms), spelling)
                : alone;
    }

    @Override
    public List<LanguageTag> languages() {
        return file.languages();
    }

    @Override
    public Optional<LanguageTag> sourceLanguage() {
        return file.sourceLanguage();
    }

    @Override
    public int size() {
        return groups.size();
    }

    @Override
    public EntryId id(int index) {
        Group group = groups.get(index);
        EntryId first = file.id(group.first);
        return group.forms.isEmpty() ? first : new EntryId(group.key, first.context());
    }

    @Override
    public FileEntry entry(int index) {
        Group group = groups.get(index);
        FileEntry first = file.entry(group.first);
        if (group.forms.isEmpty()) {
            return first;
        }
        List<Map<String, String>> texts = new ArrayList<>();
        first.texts().forEach(text -> texts.add(new TreeMap<>()));
        for (int i = 0; i < group.forms.size(); i++) {
            FileEntry row = file.entry(group.first + i);
            for (int language = 0; language < texts.size(); language++) {
                texts.get(language).put(group.forms.get(i), row.text(language));
            }
        }
        return FileEntry.of(group.key)
                .line(first.line())
                .context(first.context())
                .shape(group.shape)
                .note(first.note())
                .reference(first.reference())
                .section(first.section())
                .maxLength(first.maxLength())
                .translatable(first.translatable())
                .flags(first.flags())
                .texts(texts.stream().map(FileText::of).toList())
                .build();
    }

    @Override
    public Habits habits() {
        return file.habits();
    }

    @Override
    public boolean keepsReturns() {
        return file.keepsReturns();
    }

    @Override
    public boolean bilingual() {
        return file.bilingual();
    }

    @Override
    public Optional<Set<String>> forms(int index, int language) {
        Group group = groups.get(index);
        return group.forms.isEmpty() ? file.forms(group.first, language) : Optional.of(Set.copyOf(group.forms));
    }

    @Override
    public boolean has(Field field) {
        return file.has(field);
    }

    @Override
    public List<Problem> problems() {
        return file.problems();
    }

    @Override
    public String charset() {
        return file.charset();
    }

    @Override
    public FilePatch patch() {
        return new Rows(file.patch());
    }

    /** Changes a group row by row; forms that it has no row for get one behind it. */
    private final class Rows implements FilePatch {

        private final FilePatch patch;
        private final Map<Integer, Map<String, List<FileText>>> missing = new LinkedHashMap<>();
        private final Set<Integer> removed = new HashSet<>();

        Rows(FilePatch patch) {
            this.patch = patch;
        }

        @Override
        public void set(int entry, int language, FileText text) {
            Group group = groups.get(entry);
            if (group.forms.isEmpty()) {
                patch.set(group.first, language, text);
                return;
            }
            FileEntry then = entry(entry);
            for (int i = 0; i < group.forms.size(); i++) {
                String form = group.forms.get(i);
                if (!text.form(form).equals(then.texts().get(language).form(form))) {
                    patch.set(group.first + i, language, FileText.plain(text.form(form)));
                }
            }
            text.forms().forEach((form, words) -> {
                if (!group.forms.contains(form)) {
                    missing.computeIfAbsent(entry, one -> new TreeMap<>())
                            .computeIfAbsent(
                                    form,
                                    one -> new ArrayList<>(languages().stream()
                                            .map(tag -> FileText.NONE)
                                            .toList()))
                            .set(language, FileText.plain(words));
                }
            });
        }

        @Override
        public void remove(int entry) {
            removed.add(entry);
            Group group = groups.get(entry);
            for (int i = group.first; i <= group.last(); i++) {
                patch.remove(i);
            }
        }

        @Override
        public void insert(int after, FileEntry added) {
            EntryList rows = PlainForms.of(EntryList.of(sourceLanguage(), languages(), List.of(added)));
            int row = after < 0 ? -1 : groups.get(after).last();
            for (int i = 0; i < rows.size(); i++) {
                patch.insert(row, rows.entry(i));
            }
        }

        @Override
        public void rename(LanguageTag language, String spelled) {
            patch.rename(language, spelled);
        }

        @Override
        public void like(List<FileReading> siblings) {
            patch.like(siblings);
        }

        @Override
        public void writeTo(OutputStream out) throws IOException {
            missing.forEach((entry, forms) -> {
                if (!removed.contains(entry)) {
                    FileEntry then = entry(entry);
                    forms.forEach((form, texts) -> patch.insert(
                            groups.get(entry).last(),
                            FileEntry.of(groups.get(entry).row(form))
                                    .context(then.context())
                                    .texts(texts)
                                    .build()));
                }
            });
            missing.clear();
            patch.writeTo(out);
        }
    }
}
