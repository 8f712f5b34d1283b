package mellow.server.record;

import java.time.Instant;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import mellow.core.language.LanguageTag;
import mellow.server.common.Coded;
import mellow.server.coverage.CoverageService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Puts back what {@link BulkWriter} changed for an intake: every cell and entry whose last change is that intake becomes what it was before; those changed
 * since are left, or put back too. First it is looked at, into temporary tables of the transaction; everything else works on those.
 */
@Component
@Transactional(propagation = Propagation.MANDATORY)
public class BulkUndo {

    private static final int LISTED = 200;

    /** Cells that the intake made or changed, with how they were; "since" when something happened to them later. */
    private static final String CELLS =
            """
            create temporary table taken_cell on commit drop as
            select w.entry_id, w.language_id, w.text, w.forms, w.folded, w.standing, w.based_on, w.text_version, c.version <> w.version + 1 since
            from intake_cell_was w join cell c on c.entry_id = w.entry_id and c.language_id = w.language_id
            where w.intake_id = :intake
            """;
    /** A new entry goes as a whole; it was changed since when it or any of its cells was. */
    private static final String ENTRIES =
            """
            create temporary table taken_entry on commit drop as
            select i.entry_id, true added, e.version <> 0 or exists (select 1 from cell c where c.entry_id = e.id and c.version > 1) since
            from intake_entry i join entry e on e.id = i.entry_id
            where i.intake_id = :intake and i.added and e.removed_at is null
            union all
            select w.entry_id, false, e.version <> w.version_after or (e.source_revision <> w.source_revision and exists (
                select 1 from cell c join taken_cell t on t.entry_id = c.entry_id and t.language_id = c.language_id and t.since
                where c.entry_id = e.id and c.based_on > w.source_revision))
                or (e.source_revision <> w.source_revision and exists (
                select 1 from cell c where c.entry_id = e.id and c.based_on > w.source_revision
                  and not exists (select 1 from taken_cell t where t.entry_id = c.entry_id and t.language_id = c.language_id)))
            from intake_entry_was w join entry e on e.id = w.entry_id
            where w.intake_id = :intake
            """;

    private static final String SINCE =
            """
            select e.key, null tag, coalesce(e.source, '') words from taken_entry t join entry e on e.id = t.entry_id where t.since
            union all
            select e.key, l.tag, coalesce(c.text, '') from taken_cell t join cell c on c.entry_id = t.entry_id and c.language_id = t.language_id
            join entry e on e.id = t.entry_id join language l on l.id = t.language_id where t.since
            order by 1, 2
            """;
    /** Languages in which texts go back, and whether settled ones are among them. */
    private static final String LEVELS = Coded.sql(
            """
            select l.tag, bool_or((t.standing = {standing.settled} or c.standing = {standing.settled}) and (c.standing <> t.standing or c.text is distinct from t.text or c.forms is distinct from t.forms)) settled
            from taken_cell t join cell c on c.entry_id = t.entry_id and c.language_id = t.language_id join language l on l.id = t.language_id
            group by 1
            """);

    private static final String KEYS_TAKEN =
            """
            select w.key from intake_entry_was w join taken_entry t on t.entry_id = w.entry_id and not t.since
            where w.intake_id = :intake and w.removed_at is null and exists (
                select 1 from entry o where o.table_id = :table and o.key = w.key and o.context = w.context and o.removed_at is null and o.id <> w.entry_id
                  and not exists (select 1 from taken_entry a where a.entry_id = o.id and a.added and not a.since)
                  and not exists (select 1 from intake_entry_was r join taken_entry q on q.entry_id = r.entry_id and not q.since
                      where r.intake_id = :intake and r.entry_id = o.id and (r.key, r.context) <> (o.key, o.context)))
            limit 1
            """;
    private static final List<String> STEPS = Stream.of(
                    // Offers of the intake that nobody answered are withdrawn; one's own that it set aside are open
                    // again.
                    """
            update offer o set answer = {answer.withdrawn}, answered_version = c.version + 1, answered_by = :person, answered_time = :at
            from taken_cell t join cell c on c.entry_id = t.entry_id and c.language_id = t.language_id
            where o.intake_id = :intake and o.answer = {answer.open} and o.entry_id = t.entry_id and o.language_id = t.language_id and (not t.since or :all)
            """,
                    """
            update offer o set answer = {answer.open}, answered_version = 0, answered_by = null, answered_time = null
            from taken_cell t, intake i
            where i.id = :intake and not t.since and o.entry_id = t.entry_id and o.language_id = t.language_id
              and o.answer = {answer.set_aside} and o.answered_by = i.person_id and o.author_id = i.person_id and o.answered_time = i.applied_at
            """,
                    """
            insert into cell_story (entry_id, language_id, at, person_id, what, origin, before, before_forms, after, after_forms, standing, based_on, intake_id)
            select c.entry_id, c.language_id, :at, :person, 'undone', 'undo', c.text, c.forms, t.text, t.forms, t.standing, t.based_on, :intake
            from taken_cell t join cell c on c.entry_id = t.entry_id and c.language_id = t.language_id where not t.since or :all
            """,
                    """
            update cell c set text = t.text, forms = t.forms, folded = t.folded, standing = t.standing, based_on = t.based_on,
                text_version = case when t.since then c.version + 1 else t.text_version end, version = c.version + 1, origin = 'undo', author_id = :person, changed_at = :at
            from taken_cell t where c.entry_id = t.entry_id and c.language_id = t.language_id and (not t.since or :all)
            """,
                    """
            insert into entry_story (entry_id, at, person_id, what, before, after, revision, intake_id)
            select e.id, :at, :person, case when t.added then 'removed' else 'undone' end, e.source, case when t.added then null else w.source end, e.source_revision, :intake
            from taken_entry t join entry e on e.id = t.entry_id left join intake_entry_was w on w.entry_id = e.id and w.intake_id = :intake
            where not t.since or :all
            """,
                    "update entry e set removed_at = :at, version = e.version + 1, changed_at = :at from taken_entry t where t.added and (not t.since or :all) and e.id = t.entry_id",
                    """
            update entry e set key = w.key, context = w.context, source = w.source, source_forms = w.source_forms, source_folded = w.source_folded,
                note = w.note, note_folded = w.note_folded, reference = w.reference, section = w.section, max_length = w.max_length, words = w.words,
                source_revision = case when t.since and e.source <> w.source then e.source_revision + 1 when t.since then e.source_revision else w.source_revision end,
                meaning_revision = case when t.since then e.meaning_revision else w.meaning_revision end,
                removed_at = w.removed_at, version = e.version + 1, changed_at = :at
            from intake_entry_was w join taken_entry t on t.entry_id = w.entry_id and not t.added
            where w.intake_id = :intake and e.id = w.entry_id and (not t.since or :all)
            """,
                    """
            update cell c set open_offers = n.open from taken_cell t
            join lateral (select count(*)::smallint open from offer o where o.entry_id = t.entry_id and o.language_id = t.language_id and o.answer = {answer.open}) n on true
            where c.entry_id = t.entry_id and c.language_id = t.language_id and c.open_offers <> n.open
            """,
                    """
            update cell c set state = s.state from (
                select c.entry_id, c.language_id, %s state
                from (select entry_id from taken_cell union select entry_id from taken_entry where not added) t
                join cell c on c.entry_id = t.entry_id join entry e on e.id = c.entry_id
                left join lateral (%s) n on true) s
            where c.entry_id = s.entry_id and c.language_id = s.language_id and c.state <> s.state
            """
                            .formatted(StateSql.of("c", "e.meaning_revision", "n"), StateSql.newest("c")))
            .map(Coded::sql)
            .toList();

    private static final String SUMS =
            """
            select (select count(*) from taken_cell where not since) texts, (select count(*) from taken_entry where not since and not added) entries,
                (select count(*) from taken_entry where not since and added) removed,
                (select count(*) from taken_cell where since) + (select count(*) from taken_entry where since) since
            """;

    private final JdbcClient jdbc;

    BulkUndo(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * What there is to put back.
     *
     * @param texts texts and offers to be put back to how they were
     * @param entries entries to be put back to how they were
     * @param removed new entries that go again
     * @param changedSince what was changed since
     * @param changed the first of them
     */
    public record Found(int texts, int entries, int removed, int changedSince, List<Since> changed) {}

    /**
     * Something that was changed since.
     *
     * @param language of the text, null for the entry itself
     * @param now what it says now, or what is said of it
     */
    public record Since(String key, @Nullable String language, String now) {}

    /** Who puts what back, when; {@code all} says that what was changed since is put back too. */
    public record Order(long intake, long person, Instant at, boolean all) {}

    /** Finds what there is to put back. */
    public Found look(long intake) {
        jdbc.sql(CELLS).param("intake", intake).update();
        jdbc.sql("analyze taken_cell").update();
        jdbc.sql(ENTRIES).param("intake", intake).update();
        jdbc.sql("analyze taken_entry").update();
        List<Since> since = jdbc.sql(SINCE + " limit " + LISTED)
                .query((row, n) -> new Since(row.getString("key"), row.getString("tag"), row.getString("words")))
                .list();
        return jdbc.sql(SUMS)
                .query((row, n) -> new Found(
                        row.getInt("texts"), row.getInt("entries"), row.getInt("removed"), row.getInt("since"), since))
                .single();
    }

    /** Whether entries are among it. */
    public boolean concernsEntries() {
        return jdbc.sql("select exists (select 1 from taken_entry)")
                .query(Boolean.class)
                .single();
    }

    /** The languages in which texts go back, each with whether settled ones are among them. */
    public Map<LanguageTag, Boolean> languages() {
        Map<LanguageTag, Boolean> languages = new HashMap<>();
        jdbc.sql(LEVELS).query((RowCallbackHandler)
                row -> languages.put(new LanguageTag(row.getString("tag")), row.getBoolean("settled")));
        return languages;
    }

    /** A key that another entry has now, although one that goes back needs it. */
    public Optional<String> keyTaken(long intake, long table) {
        return jdbc.sql(KEYS_TAKEN)
                .param("intake", intake)
                .param("table", table)
                .query(String.class)
                .optional();
    }

    /** The entries concerned; of more than can be counted one by one just as many as tell so. */
    public List<Long> concerned() {
        return jdbc.sql("select entry_id from taken_cell union select entry_id from taken_entry limit "
                        + (CoverageService.FEW + 1))
                .query(Long.class)
                .list();
    }

    /** Puts it back. */
    public void putBack(Order order) {
        for (String step : STEPS) {
            jdbc.sql(step)
                    .param("intake", order.intake())
                    .param("person", order.person())
                    .param("all", order.all())
                    .param("at", order.at().atOffset(ZoneOffset.UTC))
                    .update();
        }
    }
}
