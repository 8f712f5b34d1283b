package mellow.server.wordbook;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import mellow.core.language.LanguageTag;
import mellow.server.people.Reading;
import mellow.server.wordbook.WordbookService.Term;
import mellow.server.wordbook.WordbookService.TermSense;
import mellow.server.wordbook.WordbookService.TermText;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Reads terms as screens and files want them. */
@Service
public class TermRows {

    private static final int PAGE = 200;

    private static final String FOUND =
            """
            select t.id from term t where t.removed_at is null and (:status = '' or t.status = :status or (:status = 'proposed'
                    and exists (select 1 from term_text x where x.term_id = t.id and x.proposal is not null)))
              and (:product = '' or t.products = '{}' or exists (select 1 from product p where p.slug = :product and p.id = any(t.products)))
              and (:like = '%%' or t.text ilike :like or t.note ilike :like or array_to_string(t.forms, ' ') ilike :like or exists (select 1 from term_text x
                    where x.term_id = t.id and (x.text ilike :like or array_to_string(x.avoid || x.forms, ' ') ilike :like or x.proposal ilike :like)))
            order by lower(t.text), t.id
            """;
    private static final String ROWS =
            """
            select t.id, s.tag source, t.text term, t.note, t.version, t.part, t.status, t.forms term_forms, who.name term_by,
                (select coalesce(array_agg(p.slug order by p.slug), '{}') from product p where p.id = any(t.products)) products,
                l.tag language, x.text, x.avoid, x.forms, x.proposal, p.name proposed_by
            from unnest(:ids::bigint[]) with ordinality i(id, at) join term t on t.id = i.id join language s on s.id = t.language_id
            left join person who on who.id = t.proposed_by left join term_text x on x.term_id = t.id left join language l on l.id = x.language_id
            left join person p on p.id = x.proposed_by and x.proposal is not null order by i.at, l.tag
            """;

    private final Reading reading;
    private final JdbcClient jdbc;

    TermRows(Reading reading, JdbcClient jdbc) {
        this.reading = reading;
        this.jdbc = jdbc;
    }

    /**
     * Some terms.
     *
     * @param found how many there are of what was looked for
     * @param all how many terms there are
     */
    public record TermPage(List<Term> terms, int found, int all) {}

    /**
     * Terms in the order of their words, 200 at a time.
     *
     * @param words that a term, its note or what it is called has; empty for all
     * @param status agreed, proposed (also what it is called) or avoid; empty for all
     * @param product its slug, for what counts there; empty for all
     */
    @Transactional(readOnly = true)
    public TermPage page(String words, String status, String product, int first) {
        List<Long> found = found(words, status, product);
        int all = jdbc.sql("select count(*) from term where removed_at is null")
                .query(Integer.class)
                .single();
        int from = Math.min(first, found.size());
        return new TermPage(rows(found.subList(from, Math.min(found.size(), from + PAGE))), found.size(), all);
    }

    /** All terms in the order of their words. */
    @Transactional(readOnly = true)
    public List<Term> all() {
        return rows(found("", "", ""));
    }

    /** The term of that number. */
    @Transactional(readOnly = true)
    public Optional<Term> one(long id) {
        return rows(jdbc.sql("select id from term where id = :id and removed_at is null")
                        .param("id", id)
                        .query(Long.class)
                        .list())
                .stream()
                .findFirst();
    }

    private List<Long> found(String words, String status, String product) {
        String like = words.strip().replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_");
        return jdbc.sql(FOUND)
                .param("like", "%" + like + "%")
                .param("status", status)
                .param("product", product)
                .query(Long.class)
                .list();
    }

    private List<Term> rows(List<Long> ids) {
        Map<Long, Term> terms = new LinkedHashMap<>();
        jdbc.sql(ROWS).param("ids", ids.toArray(Long[]::new)).query(row -> {
            Term term = terms.get(row.getLong("id"));
            if (term == null) {
                term = new Term(
                        row.getLong("id"),
                        row.getString("source"),
                        row.getString("term"),
                        row.getString("note"),
                        new TermSense(
                                row.getString("part"),
                                strings(row, "products"),
                                row.getString("status"),
                                strings(row, "term_forms")),
                        new TreeMap<>(),
                        row.getString("term_by"),
                        row.getInt("version"));
                terms.put(term.id(), term);
            }
            String language = row.getString("language");
            if (language != null && reading.reads(new LanguageTag(language))) {
                term.texts()
                        .put(
                                language,
                                new TermText(
                                        row.getString("text"),
                                        strings(row, "avoid"),
                                        strings(row, "forms"),
                                        row.getString("proposal"),
                                        row.getString("proposed_by")));
            }
        });
        return List.copyOf(terms.values());
    }

    /** What a column of words has. */
    static List<String> strings(ResultSet row, String column) throws SQLException {
        return List.of((String[]) row.getArray(column).getArray());
    }

    /** Words without blanks around them, each once. */
    static String[] cleaned(List<String> words) {
        return words.stream()
                .map(String::strip)
                .filter(word -> !word.isEmpty())
                .distinct()
                .toArray(String[]::new);
    }
}
