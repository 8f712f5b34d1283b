package mellow.core.format.sheet;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.IntFunction;
import java.util.regex.Pattern;
import mellow.core.format.EntryId;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileText;
import mellow.core.format.UnwritableTextException;
import mellow.core.format.sheet.Column.Role;
import mellow.core.language.LanguageTag;

/** Rows of a sheet as entries, by what its columns hold. Immutable. */
public final class RowEntries {

    /** No text is longer than a million characters. */
    private static final Pattern LIMIT = Pattern.compile("[0-9]{1,6}");

    private final SheetLayout layout;
    private final int[] textColumns;
    private final List<LanguageTag> languages;
    private final int key;
    private final int context;
    private final int note;
    private final int reference;
    private final int section;
    private final int limit;

    /** Rows under the headings of {@code layout}, which has no flaws. */
    public RowEntries(SheetLayout layout) {
        this.layout = layout;
        this.textColumns = layout.textColumns();
        this.languages = Arrays.stream(textColumns)
                .mapToObj(i -> layout.columns().get(i).language().orElseThrow())
                .toList();
        this.key = layout.find(Role.KEY);
        this.context = layout.find(Role.CONTEXT);
        this.note = layout.find(Role.NOTE);
        this.reference = layout.find(Role.REFERENCE);
        this.section = layout.find(Role.SECTION);
        this.limit = layout.find(Role.LIMIT);
    }

    /** The languages of the columns of texts, in order. */
    public List<LanguageTag> languages() {
        return languages;
    }

    /** The column of the language at {@code index}. */
    public int textColumn(int index) {
        return textColumns[index];
    }

    /** The column of keys. */
    public int keyColumn() {
        return key;
    }

    /** The column of limits, -1 for none. */
    public int limitColumn() {
        return limit;
    }

    /** Whether there is a column of that role. */
    public boolean has(Role role) {
        return layout.find(role) >= 0;
    }

    /** What tells a row's entry from others; a column of -1 has no cells. */
    public EntryId id(IntFunction<String> cell) {
        return new EntryId(cell.apply(key), cell.apply(context));
    }

    /**
     * A row as an entry.
     *
     * @param cell what stands in a column, empty for nothing and for column -1
     * @param text what stands in a column of texts
     */
    public FileEntry entry(int line, IntFunction<String> cell, IntFunction<String> text) {
        List<FileText> texts = new ArrayList<>(textColumns.length);
        for (int column : textColumns) {
            texts.add(FileText.plain(text.apply(column)));
        }
        return FileEntry.of(cell.apply(key))
                .line(line)
                .context(cell.apply(context))
                .note(cell.apply(note))
                .reference(cell.apply(reference))
                .section(cell.apply(section))
                .maxLength(limit(cell.apply(limit)))
                .texts(texts)
                .build();
    }

    /** The number that a limit is, 0 when it is none. */
    public static int limit(String value) {
        String digits = value.strip();
        return LIMIT.matcher(digits).matches() ? Integer.parseInt(digits) : 0;
    }

    /** What a new row holds under each heading. */
    public List<String> cellsOf(FileEntry entry) {
        List<String> cells = new ArrayList<>();
        int language = 0;
        for (Column column : layout.columns()) {
            cells.add(
                    switch (column.role()) {
                        case KEY -> entry.key();
                        case CONTEXT -> entry.context();
                        case NOTE -> entry.note();
                        case REFERENCE -> entry.reference();
                        case SECTION -> entry.section();
                        case LIMIT -> entry.maxLength() == 0 ? "" : Integer.toString(entry.maxLength());
                        case TEXT -> entry.text(language++);
                        case IGNORED -> "";
                    });
        }
        return cells;
    }

    /**
     * The columns that {@code entries} need: the key, what any of them has beside texts, and their languages.
     *
     * @throws UnwritableTextException when the key of one is blank
     */
    public static List<Column> columnsFor(EntryList entries) {
        boolean[] used = new boolean[Role.values().length];
        for (int i = 0; i < entries.size(); i++) {
            FileEntry entry = entries.entry(i);
            if (entry.key().isBlank()) {
                throw new UnwritableTextException("A row without a key is none, and the key of “" + entry.text(0)
                        + "” is blank; give the entry another key or choose another format.");
            }
            used[Role.CONTEXT.ordinal()] |= !entry.context().isEmpty();
            used[Role.SECTION.ordinal()] |= !entry.section().isEmpty();
            used[Role.NOTE.ordinal()] |= !entry.notes().isEmpty();
            used[Role.LIMIT.ordinal()] |= entry.maxLength() > 0;
            used[Role.REFERENCE.ordinal()] |= !entry.references().isEmpty();
        }
        List<Column> columns = new ArrayList<>();
        columns.add(Column.of(Role.KEY.heading(), Role.KEY));
        for (Role role : List.of(Role.CONTEXT, Role.SECTION, Role.NOTE, Role.LIMIT, Role.REFERENCE)) {
            if (used[role.ordinal()]) {
                columns.add(Column.of(role.heading(), role));
            }
        }
        entries.languages().forEach(language -> columns.add(Column.text(language.value(), language)));
        return columns;
    }
}
