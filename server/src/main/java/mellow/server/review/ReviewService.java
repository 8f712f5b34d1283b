package mellow.server.review;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.SortedMap;
import mellow.core.check.Checks;
import mellow.core.check.Checks.Measure;
import mellow.core.check.Finding;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import mellow.server.common.Refusal;
import mellow.server.common.TextColumns;
import mellow.server.language.LanguageService;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Reads what waits for an answer in a language, oldest or newest first, with all that one needs to judge it. */
@Service
public class ReviewService {

    /** As many strips as a page of the screen asks for. */
    static final int PAGE = 100;

    /** The source that an older offer was made for is what the first rewriting after it replaced. */
    private static final String STRIPS =
            """
            select o.id, o.entry_id, o.text, o.forms, o.based_on, o.offered_time, o.author_id, p.name author,
                e.key, e.context, e.source, e.source_forms, e.shape, e.note, e.reference, e.picture_id, e.max_length, e.max_lines, e.meaning_revision,
                t.slug, t.name table_name, c.text in_force, c.forms in_force_forms, c.standing, c.version, c.open_offers,
                case when o.based_on < e.meaning_revision then (
                    select s.before from entry_story s where s.entry_id = e.id and s.what = 'source_rewritten' and s.revision > o.based_on
                    order by s.revision limit 1) end source_then
            from offer o
            join entry e on e.id = o.entry_id and e.removed_at is null
            join ledger_table t on t.id = e.table_id and t.removed_at is null
            join cell c on c.entry_id = o.entry_id and c.language_id = o.language_id
            join person p on p.id = o.author_id
            where o.language_id = :language and o.answer = 0 and o.author_id <> :me and e.table_id = any(:tables)
              and (:person = 0 or o.author_id = :person)
            """;
    /** Figures of everybody who has offered anything in the language, those whose offers wait first. */
    private static final String CONTRIBUTORS =
            """
            select p.id, p.name, count(*) filter (where o.answer = 0) waiting, count(*) filter (where o.answer in (1, 2)) settled,
                count(*) filter (where o.answer = 2) amended, count(*) filter (where o.answer = 3) returned
            from offer o join entry e on e.id = o.entry_id and e.removed_at is null join person p on p.id = o.author_id
            where o.language_id = :language and o.author_id <> :me and e.table_id = any(:tables)
            group by p.id, p.name having count(*) filter (where o.answer = 0) > 0 or count(*) filter (where o.answer in (1, 2, 3)) > 0
            order by (count(*) filter (where o.answer = 0) > 0) desc, p.name, p.id
            """;

    private final TableService tables;
    private final LanguageService languages;
    private final JdbcClient jdbc;

    ReviewService(TableService tables, LanguageService languages, JdbcClient jdbc) {
        this.tables = tables;
        this.languages = languages;
        this.jdbc = jdbc;
    }

    /**
     * An offer with what it is judged by.
     *
     * @param offer the offer's number
     * @param version the cell's version, to be sent back with an answer
     * @param sourceThen the source that the offer was made for, null when that is the source as it reads now
     * @param inForce the text in force, null for none
     * @param offers number of open offers for this cell
     * @param blockers what keeps it from being settled, as sentences
     * @param warnings what else the checks found
     */
    public record Strip(
            long offer,
            long entry,
            int version,
            String table,
            String tableName,
            String key,
            String context,
            String shape,
            String source,
            @Nullable Map<String, String> sourceForms,
            @Nullable String sourceThen,
            String note,
            String reference,
            @Nullable Long picture,
            @Nullable String inForce,
            @Nullable Map<String, String> inForceForms,
            boolean settled,
            String text,
            @Nullable Map<String, String> forms,
            long authorId,
            String author,
            Instant at,
            int offers,
            int maxLength,
            List<String> blockers,
            List<String> warnings) {}

    /**
     * Somebody who offers texts in the language.
     *
     * @param waiting offers without an answer
     * @param settled offers that were settled, amended ones included
     * @param amended of those, the ones that were changed first
     * @param returned offers that were sent back
     */
    public record Contributor(long id, String name, int waiting, int settled, int amended, int returned) {}

    /**
     * What waits.
     *
     * @param strips the first {@value #PAGE} after the place asked for
     * @param waiting number of all that wait
     */
    public record ReviewReply(List<Strip> strips, int waiting, List<Contributor> contributors) {}

    /**
     * What waits for {@code me}, whose own offers are left out.
     *
     * @param slugs names of tables in addresses; all when empty
     * @param person only offers of this person; 0 for all
     * @param newest whether the newest come first
     */
    @Transactional(readOnly = true)
    public ReviewReply waiting(long me, LanguageTag language, List<String> slugs, long person, boolean newest) {
        List<TableInfo> in = slugs.isEmpty()
                ? tables.all().stream().map(TableService.Listed::table).toList()
                : slugs.stream().map(tables::find).toList();
        Short number = languages
                .known(language)
                .orElseThrow(() -> Refusal.unacceptable("language-not-kept", "No table is kept in " + language + "."));
        Long[] numbers = in.stream().map(TableInfo::id).toArray(Long[]::new);
        Collection<String> categories = languages.describe(language).plurals().keySet();
        List<Contributor> contributors = jdbc.sql(CONTRIBUTORS)
                .param("language", number)
                .param("me", me)
                .param("tables", numbers)
                .query((row, n) -> new Contributor(
                        row.getLong("id"),
                        row.getString("name"),
                        row.getInt("waiting"),
                        row.getInt("settled"),
                        row.getInt("amended"),
                        row.getInt("returned")))
                .list();
        String order = newest ? " order by o.offered_time desc, o.id desc" : " order by o.offered_time, o.id";
        List<Strip> strips = new ArrayList<>();
        jdbc.sql(STRIPS + order + " limit " + PAGE)
                .param("language", number)
                .param("me", me)
                .param("tables", numbers)
                .param("person", person)
                .query(row -> {
                    strips.add(strip(row, categories));
                });
        int waiting = contributors.stream()
                .filter(one -> person == 0 || one.id() == person)
                .mapToInt(Contributor::waiting)
                .sum();
        return new ReviewReply(strips, waiting, contributors);
    }

    private static Strip strip(ResultSet row, Collection<String> categories) throws SQLException {
        SortedMap<String, String> source = TextColumns.allForms(row.getString("source"), row.getString("source_forms"));
        Measure measure = new Measure(
                Shape.of(row.getString("shape")).orElseThrow(),
                source,
                row.getInt("max_length"),
                row.getInt("max_lines"));
        List<String> blockers = new ArrayList<>();
        List<String> warnings = new ArrayList<>();
        for (Finding finding :
                Checks.of(measure, TextColumns.allForms(row.getString("text"), row.getString("forms")), categories)) {
            String form = measure.shape() == Shape.PLAIN ? "" : finding.form().toLowerCase(Locale.ROOT) + ": ";
            (finding.severity() == Finding.Severity.BLOCKER ? blockers : warnings).add(form + finding.sentence());
        }
        return new Strip(
                row.getLong("id"),
                row.getLong("entry_id"),
                row.getInt("version"),
                row.getString("slug"),
                row.getString("table_name"),
                row.getString("key"),
                row.getString("context"),
                row.getString("shape"),
                row.getString("source"),
                TextColumns.shown(row.getString("source_forms")),
                row.getString("source_then"),
                row.getString("note"),
                row.getString("reference"),
                row.getObject("picture_id", Long.class),
                row.getString("in_force"),
                TextColumns.shown(row.getString("in_force_forms")),
                row.getInt("standing") == 2,
                row.getString("text"),
                TextColumns.shown(row.getString("forms")),
                row.getLong("author_id"),
                row.getString("author"),
                row.getTimestamp("offered_time").toInstant(),
                row.getInt("open_offers"),
                row.getInt("max_length"),
                blockers,
                warnings);
    }
}
