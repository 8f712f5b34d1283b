package mellow.server.wordbook;

import java.sql.ResultSet;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import mellow.core.language.LanguageTag;
import mellow.core.wordbook.AgreedTerm;
import mellow.core.wordbook.TermFinder;
import mellow.core.wordbook.WordForms;
import mellow.core.wordbook.WordForms.Word;
import mellow.server.common.Refusal;
import mellow.server.people.Reading;
import mellow.server.wordbook.WordbookService.Term;
import mellow.server.wordbook.WordbookService.TermText;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Counts where terms stand and whether texts follow them, and looks for words that could be terms. */
@Service
public class TermUse {

    private static final int FETCHED = 2_000;
    private static final int SUGGESTED = 50;
    private static final int LEAST_LETTERS = 4;
    private static final int LEAST_OFTEN = 3;
    private static final int MOST_SOURCES = 100_000;

    /** Words that no wordbook needs: of languages that sources are written in. */
    private static final Set<String> COMMON = Set.of(
            "about",
            "after",
            "again",
            "also",
            "been",
            "before",
            "being",
            "between",
            "cannot",
            "could",
            "does",
            "done",
            "down",
            "each",
            "else",
            "every",
            "from",
            "have",
            "here",
            "into",
            "just",
            "like",
            "make",
            "many",
            "more",
            "most",
            "much",
            "must",
            "need",
            "only",
            "other",
            "over",
            "please",
            "same",
            "should",
            "some",
            "still",
            "such",
            "take",
            "than",
            "that",
            "their",
            "them",
            "then",
            "there",
            "these",
            "they",
            "this",
            "those",
            "through",
            "under",
            "until",
            "upon",
            "very",
            "want",
            "were",
            "what",
            "when",
            "where",
            "which",
            "while",
            "will",
            "with",
            "without",
            "would",
            "your",
            "yours",
            "aber",
            "alle",
            "auch",
            "bitte",
            "dann",
            "dass",
            "dein",
            "diese",
            "dieser",
            "dieses",
            "durch",
            "eine",
            "einem",
            "einen",
            "einer",
            "haben",
            "hier",
            "ihre",
            "ihren",
            "kann",
            "kein",
            "keine",
            "mehr",
            "nach",
            "nicht",
            "noch",
            "oder",
            "ohne",
            "schon",
            "sich",
            "sind",
            "über",
            "unter",
            "werden",
            "wenn",
            "wird",
            "wurde",
            "zwischen");

    private static final String SOURCES =
            """
            select e.id, e.source from entry e join ledger_table t on t.id = e.table_id and t.removed_at is null and t.source_language_id = (select id from language where tag = :from)
            where e.removed_at is null and e.shape = 'plain' and e.translatable and e.source ilike any(:words)
              and (:everywhere or exists (select 1 from product_table u join product p on p.id = u.product_id where u.table_id = t.id and p.slug = any(:products)))
            """;
    private static final String TEXTS =
            """
            select l.tag, c.text from cell c join language l on l.id = c.language_id
            join entry e on e.id = c.entry_id join table_language k on k.table_id = e.table_id and k.language_id = c.language_id and k.archived_at is null
            where c.entry_id = any(:entries) and c.text is not null
            """;

    private final TermRows rows;
    private final Reading reading;
    private final JdbcClient jdbc;

    TermUse(TermRows rows, Reading reading, JdbcClient jdbc) {
        this.rows = rows;
        this.reading = reading;
        this.jdbc = jdbc;
    }

    /**
     * Whether texts of a language follow a term.
     *
     * @param texts of entries with the term in their source
     * @param followed that say what was agreed
     */
    public record TermFollowed(String language, int texts, int followed) {}

    /**
     * Where a term stands.
     *
     * @param entries with it in their source
     */
    public record TermCount(int entries, List<TermFollowed> languages) {}

    /** Counts where a term stands and whether it is followed. */
    @Transactional(readOnly = true)
    public TermCount of(long id) {
        Term term = rows.one(id).orElseThrow(() -> Refusal.notFound("no-such-term", "There is no such term any more."));
        Locale from = Locale.forLanguageTag(term.source());
        AgreedTerm known = new AgreedTerm(
                term.term(), "", List.of(), List.of(), term.sense().forms());
        TermFinder finder = TermFinder.of(List.of(known), from);
        List<String> words = new ArrayList<>(List.of(term.term()));
        words.addAll(term.sense().forms());
        List<Long> entries = new ArrayList<>();
        jdbc.sql(SOURCES)
                .param("from", term.source())
                .param("words", words.stream().map(word -> pattern(word, from)).toArray(String[]::new))
                .param("everywhere", term.sense().products().isEmpty())
                .param("products", term.sense().products().toArray(String[]::new))
                .query((ResultSet row) -> {
                    if (!finder.in(row.getString("source")).isEmpty()) {
                        entries.add(row.getLong("id"));
                    }
                });
        Map<String, int[]> counted = new TreeMap<>();
        for (int at = 0; at < entries.size(); at += FETCHED) {
            jdbc.sql(TEXTS)
                    .param(
                            "entries",
                            entries.subList(at, Math.min(entries.size(), at + FETCHED))
                                    .toArray(Long[]::new))
                    .query((ResultSet row) -> {
                        String tag = row.getString("tag");
                        TermText agreed = term.texts().get(tag);
                        if (agreed != null && !agreed.text().isEmpty() && reading.reads(new LanguageTag(tag))) {
                            int[] sum = counted.computeIfAbsent(tag, language -> new int[2]);
                            sum[0]++;
                            sum[1] += says(row.getString("text"), agreed, tag) ? 1 : 0;
                        }
                    });
        }
        List<TermFollowed> languages = new ArrayList<>();
        counted.forEach((tag, sum) -> languages.add(new TermFollowed(tag, sum[0], sum[1])));
        return new TermCount(entries.size(), languages);
    }

    private static String pattern(String word, Locale from) {
        String begins = WordForms.in(from).beginning(word, from);
        return "%" + begins.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_") + "%";
    }

    private static boolean says(String text, TermText agreed, String tag) {
        Locale locale = Locale.forLanguageTag(tag);
        return TermFinder.says(text, agreed.text(), locale)
                || agreed.forms() != null
                        && agreed.forms().stream().anyMatch(form -> TermFinder.says(text, form, locale));
    }

    /**
     * A word or two that often stand in sources and are no term.
     *
     * @param entries with it in their source
     * @param example one of these sources
     */
    public record SuggestedTerm(String words, int entries, String example) {}

    private static final class Seen {
        private final Map<String, Integer> spelled = new HashMap<>();
        private int entries;
        private String example = "";
    }

    /** The most frequent words of a table's sources, alone and in pairs, that no term has; in the order of how often they stand there. */
    @Transactional(readOnly = true)
    public List<SuggestedTerm> suggested(long table, LanguageTag from) {
        Locale locale = Locale.forLanguageTag(from.value());
        WordForms forms = WordForms.in(locale);
        Set<String> known = new HashSet<>();
        jdbc.sql(
                        "select unnest(t.text || t.forms) from term t join language l on l.id = t.language_id where t.removed_at is null and l.tag = :tag")
                .param("tag", from.value())
                .query(String.class)
                .list()
                .forEach(word -> forms.words(word, locale).forEach(one -> known.add(one.base())));
        Map<String, Seen> seen = new HashMap<>();
        jdbc.sql(
                        "select source from entry where table_id = :table and removed_at is null and shape = 'plain' and translatable limit :most")
                .param("table", table)
                .param("most", MOST_SOURCES)
                .query((ResultSet row) -> count(row.getString(1), forms, locale, known, seen));
        List<SuggestedTerm> suggested = new ArrayList<>();
        seen.forEach((key, one) -> {
            if (one.entries >= LEAST_OFTEN) {
                String spelled = one.spelled.entrySet().stream()
                        .max(Map.Entry.<String, Integer>comparingByValue().thenComparing(Map.Entry.comparingByKey()))
                        .orElseThrow()
                        .getKey();
                suggested.add(new SuggestedTerm(spelled, one.entries, one.example));
            }
        });
        suggested.sort(Comparator.comparingInt(SuggestedTerm::entries)
                .reversed()
                .thenComparing(one -> -one.words().length())
                .thenComparing(SuggestedTerm::words));
        return List.copyOf(suggested.subList(0, Math.min(suggested.size(), SUGGESTED)));
    }

    private static void count(
            String source, WordForms forms, Locale locale, Set<String> known, Map<String, Seen> seen) {
        Set<String> here = new HashSet<>();
        Word before = null;
        for (Word word : forms.words(source, locale)) {
            if (!fits(word, known)) {
                before = null;
                continue;
            }
            note(word.base(), word.marked(), source, here, seen);
            if (before != null) {
                note(before.base() + " " + word.base(), before.marked() + " " + word.marked(), source, here, seen);
            }
            before = word;
        }
    }

    private static boolean fits(Word word, Set<String> known) {
        return word.plain().length() >= LEAST_LETTERS
                && word.plain().chars().allMatch(Character::isLetter)
                && !COMMON.contains(word.marked())
                && !known.contains(word.base())
                && word.stems().stream().noneMatch(known::contains);
    }

    private static void note(String key, String spelled, String source, Set<String> here, Map<String, Seen> seen) {
        Seen one = seen.computeIfAbsent(key, any -> new Seen());
        one.spelled.merge(spelled, 1, Integer::sum);
        if (here.add(key)) {
            one.entries++;
            one.example = one.example.isEmpty() ? source : one.example;
        }
    }
}
