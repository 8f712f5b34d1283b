package mellow.core.format.sheet;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import mellow.core.format.sheet.Column.Role;
import mellow.core.language.LanguageNames;
import mellow.core.language.LanguageTag;

/**
 * Guesses the layout of a sheet from its first rows: the header is the row that names most languages and other columns, so titles above it do no
 * harm. A guess is only ever a proposal; people see and correct it.
 */
public final class LayoutFinder {

    /** How many rows may stand above the header. */
    public static final int SEARCHED_ROWS = 30;

    private static final Map<String, Role> NAMES = names();
    private static final double LOOKS_LIKE_KEYS = 0.8;

    /** Headings of the texts that the others are made after, where they tell no language; products are mostly written in English. */
    private static final Set<String> SOURCE = Set.of(
            "source",
            "source text",
            "source string",
            "original",
            "original text",
            "ausgangstext",
            "quelltext",
            "l\u00e4hdeteksti");

    private static final LanguageTag ENGLISH = new LanguageTag("en");

    private LayoutFinder() {}

    /**
     * The most likely layout.
     *
     * @param rows the first rows that are not blank, cell values as read; {@value #SEARCHED_ROWS} and a few more are enough
     */
    public static SheetLayout find(List<List<String>> rows) {
        int best = -1;
        int bestScore = 0;
        for (int i = 0; i < Math.min(rows.size(), SEARCHED_ROWS); i++) {
            int score = score(classify(rows.get(i)));
            if (score > bestScore) {
                best = i;
                bestScore = score;
            }
        }
        return best < 0 ? new SheetLayout(-1, List.of()) : withHeader(rows, best);
    }

    /** The layout when the header is known to be row {@code headerRow} of {@code rows}. */
    public static SheetLayout withHeader(List<List<String>> rows, int headerRow) {
        List<Column> columns = classify(rows.get(headerRow));
        boolean hasKey = columns.stream().anyMatch(column -> column.role() == Role.KEY);
        if (!hasKey && !columns.isEmpty() && columns.get(0).role() == Role.IGNORED) {
            boolean blank = columns.get(0).heading().isBlank();
            if (blank || looksLikeKeys(rows.subList(headerRow + 1, rows.size()))) {
                columns.set(0, Column.of(columns.get(0).heading(), Role.KEY));
            }
        }
        return new SheetLayout(headerRow, columns);
    }

    /**
     * Columns that a layout leaves out although most of their cells hold words.
     *
     * @param rows the rows below the header, some of them are enough
     */
    public static List<Integer> leftOut(SheetLayout layout, List<List<String>> rows) {
        List<Integer> full = new ArrayList<>();
        for (int column = 0; column < layout.columns().size(); column++) {
            int place = column;
            long words = rows.stream()
                    .filter(row ->
                            place < row.size() && row.get(place).codePoints().anyMatch(Character::isLetter))
                    .count();
            if (layout.columns().get(column).role() == Role.IGNORED && words > 0 && 2 * words >= rows.size()) {
                full.add(column);
            }
        }
        return full;
    }

    /** The sentence about such a column. */
    public static String leftOutSentence(SheetLayout layout, int column) {
        String heading = layout.columns().get(column).heading();
        return "column " + (column + 1) + (heading.isBlank() ? "" : ", “" + heading.strip() + "”,")
                + " is full of texts and tells no language";
    }

    private static List<Column> classify(List<String> headings) {
        boolean plainKey =
                headings.stream().anyMatch(heading -> NAMES.get(folded(heading)) == Role.KEY && !isId(heading));
        List<Column> columns = new ArrayList<>(headings.size());
        Set<Role> taken = new HashSet<>();
        for (String heading : headings) {
            Role role = NAMES.get(folded(heading));
            // "id" is also Indonesian: it is the key only where nothing else is called a key.
            if (role != null && !(isId(heading) && (plainKey || taken.contains(Role.KEY))) && taken.add(role)) {
                columns.add(Column.of(heading, role));
                continue;
            }
            Optional<LanguageTag> language = heading.isBlank() ? Optional.empty() : LanguageNames.recognise(heading);
            columns.add(
                    language.map(tag -> Column.text(heading, tag)).orElseGet(() -> Column.of(heading, Role.IGNORED)));
        }
        return withSource(columns);
    }

    /** Gives a column that is only called the source its language: English, unless another column is. */
    private static List<Column> withSource(List<Column> columns) {
        boolean english = columns.stream()
                .anyMatch(column -> column.language().filter(ENGLISH::equals).isPresent());
        for (int i = 0; i < columns.size() && !english; i++) {
            Column column = columns.get(i);
            if (column.role() == Role.IGNORED && SOURCE.contains(folded(column.heading()))) {
                columns.set(i, Column.text(column.heading(), ENGLISH));
                english = true;
            }
        }
        return columns;
    }

    private static boolean isId(String heading) {
        return folded(heading).equals("id");
    }

    /** Distinct languages count double: a row of data may contain a word such as "Note" by chance. */
    private static int score(List<Column> columns) {
        Set<LanguageTag> languages = new HashSet<>();
        int roles = 0;
        for (Column column : columns) {
            column.language().ifPresent(languages::add);
            roles += column.role() != Role.TEXT && column.role() != Role.IGNORED ? 1 : 0;
        }
        return languages.isEmpty() ? 0 : 2 * languages.size() + roles;
    }

    private static boolean looksLikeKeys(List<List<String>> rows) {
        Set<String> distinct = new HashSet<>();
        int filled = 0;
        int wordless = 0;
        for (List<String> row : rows) {
            String first = row.isEmpty() ? "" : row.get(0);
            if (!first.isBlank()) {
                filled++;
                distinct.add(first);
                wordless += first.strip().contains(" ") ? 0 : 1;
            }
        }
        return filled > 1 && distinct.size() == filled && wordless >= LOOKS_LIKE_KEYS * filled;
    }

    private static String folded(String heading) {
        return heading.strip()
                .toLowerCase(Locale.ROOT)
                .replaceAll("[\\s_\\-.:]+", " ")
                .strip();
    }

    private static Map<String, Role> names() {
        Map<String, Role> names = new HashMap<>();
        put(
                names,
                Role.KEY,
                "key",
                "keys",
                "id",
                "key id",
                "string id",
                "text id",
                "identifier",
                "label id",
                "schl\u00fcssel",
                "kennung",
                "avain",
                "klucz",
                "chave",
                "v\u00f5ti");
        put(names, Role.CONTEXT, "context", "kontext");
        put(names, Role.SECTION, "section", "group", "chapter", "abschnitt", "gruppe");
        put(
                names,
                Role.NOTE,
                "note",
                "notes",
                "comment",
                "comments",
                "description",
                "remark",
                "remarks",
                "bemerkung",
                "kommentar",
                "hinweis");
        put(
                names,
                Role.LIMIT,
                "limit",
                "max",
                "max length",
                "maxlength",
                "max chars",
                "max characters",
                "length limit",
                "zeichen",
                "max zeichen");
        put(names, Role.REFERENCE, "reference", "references", "where used", "used in", "location", "verwendung");
        return Map.copyOf(names);
    }

    private static void put(Map<String, Role> names, Role role, String... spellings) {
        for (String spelling : spellings) {
            names.put(spelling, role);
        }
    }
}
