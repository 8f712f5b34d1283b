package mellow.server.review;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mellow.core.check.Finding;
import mellow.server.check.CheckService.FindingReply;
import mellow.server.check.Inspector;
import mellow.server.check.MeasureColumns;
import mellow.server.common.Coded;
import mellow.server.common.TextColumns;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.core.simple.JdbcClient.StatementSpec;
import org.springframework.stereotype.Component;

/** Finds which offers wait for someone, and reads those that a page shows. Offers for one cell always stand together. */
@Component
class Strips {

    private static final String WAITING = Coded.sql(
            """
            from offer o
            join entry e on e.id = o.entry_id and e.removed_at is null
            join ledger_table t on t.id = e.table_id and t.removed_at is null
            join cell c on c.entry_id = o.entry_id and c.language_id = o.language_id
            where o.language_id = :language and o.answer = {answer.open} and o.author_id <> :me and e.table_id = any(:tables)
              and (:person = 0 or o.author_id = :person) and o.offered_time <= :before
            """);
    private static final Map<ReviewQuery.Order, String> ORDERS = Map.of(
            ReviewQuery.Order.OLDEST,
            " order by min(o.offered_time) over (partition by o.entry_id), o.entry_id, o.offered_time, o.id",
            ReviewQuery.Order.NEWEST,
            " order by max(o.offered_time) over (partition by o.entry_id) desc, o.entry_id desc, o.offered_time, o.id",
            ReviewQuery.Order.TABLE,
            " order by t.name, t.id, e.position, o.entry_id, o.offered_time, o.id");
    private static final String MEASURED =
            "select o.id, o.entry_id, e.table_id, c.version, o.text, o.forms, " + MeasureColumns.OF_ENTRY + " ";

    /** The source that an older offer was made for is what the first rewriting after it replaced. */
    private static final String STRIPS = Coded.sql(
            """
            select o.id, o.entry_id, o.text, o.forms, o.based_on, o.offered_time, o.author_id, o.note offer_note, p.name author,
                o.origin in ('memory', 'draft') by_machine,
                e.key, e.context, e.source, e.source_forms, e.shape, e.note, e.reference, e.picture_id, e.max_length, e.max_lines, e.max_width, e.table_id, e.meaning_revision,
                t.slug, t.name table_name, c.text in_force, c.forms in_force_forms, c.standing, c.version, c.open_offers,
                case when o.based_on < e.meaning_revision then (
                    select s.before from entry_story s where s.entry_id = e.id and s.what = 'source_rewritten' and s.revision > o.based_on
                    order by s.revision limit 1) end source_then,
                array(select q.name from product_table u join product q on q.id = u.product_id and q.removed_at is null
                    where u.table_id = t.id order by q.name) used_by
            from offer o
            join entry e on e.id = o.entry_id
            join ledger_table t on t.id = e.table_id
            join cell c on c.entry_id = o.entry_id and c.language_id = o.language_id
            join person p on p.id = o.author_id
            where o.language_id = :language and o.answer = {answer.open} and o.author_id <> :me and o.entry_id = any(:entries)
            order by o.offered_time, o.id
            """);

    private final Inspector inspector;
    private final JdbcClient jdbc;
    private final Clock clock;

    Strips(Inspector inspector, JdbcClient jdbc, Clock clock) {
        this.inspector = inspector;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** An offer that waits, the entry it is for, and the version of its cell. */
    record Waiting(long offer, long entry, int version) {}

    /** All that wait and match, in order; {@code me} sees none of their own. */
    List<Waiting> waiting(long me, ReviewQuery query) {
        boolean checked = query.checks() != ReviewQuery.Checked.ALL;
        StatementSpec statement = jdbc.sql((checked ? MEASURED : "select o.id, o.entry_id, c.version ")
                        + WAITING
                        + ORDERS.get(query.order()))
                .param("language", query.number())
                .param("me", me)
                .param("tables", query.tables().toArray(Long[]::new))
                .param("person", query.person())
                .param("before", before(query).atOffset(ZoneOffset.UTC));
        Looker looker = new Looker(query);
        List<Waiting> waiting = new ArrayList<>();
        statement.query(row -> {
            if (!checked || query.checks().holds(looker.findings(row))) {
                waiting.add(new Waiting(row.getLong("id"), row.getLong("entry_id"), row.getInt("version")));
            }
        });
        return waiting;
    }

    private Instant before(ReviewQuery query) {
        return clock.instant().minus(Duration.ofDays(query.olderThanDays()));
    }

    /** What is offered for the cells of {@code page}, cell by cell in its order, each with all its offers. */
    List<Strip> read(long me, ReviewQuery query, List<Waiting> page) {
        Map<Long, Integer> places = new HashMap<>();
        page.forEach(one -> places.putIfAbsent(one.entry(), places.size()));
        Looker looker = new Looker(query);
        List<Strip> strips = new ArrayList<>();
        jdbc.sql(STRIPS)
                .param("language", query.number())
                .param("me", me)
                .param("entries", places.keySet().toArray(Long[]::new))
                .query(row -> {
                    strips.add(strip(row, looker));
                });
        strips.sort(Comparator.comparing(strip -> places.get(strip.entry())));
        return strips;
    }

    /** Looks at the offered texts of a query. */
    private final class Looker {
        private final int language;
        private final Inspector.Look look;

        Looker(ReviewQuery query) {
            this.language = query.number();
            this.look = inspector.look().about(language);
        }

        List<Finding> findings(ResultSet row) throws SQLException {
            return look.at(
                    new Inspector.Place(row.getLong("entry_id"), row.getLong("table_id"), language),
                    MeasureColumns.read(row),
                    TextColumns.allForms(row.getString("text"), row.getString("forms")));
        }
    }

    private static Strip strip(ResultSet row, Looker looker) throws SQLException {
        List<FindingReply> blockers = new ArrayList<>();
        List<FindingReply> warnings = new ArrayList<>();
        for (Finding finding : looker.findings(row)) {
            (finding.blocks() ? blockers : warnings).add(FindingReply.of(finding));
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
                List.of((String[]) row.getArray("used_by").getArray()),
                row.getObject("picture_id", Long.class),
                row.getString("in_force"),
                TextColumns.shown(row.getString("in_force_forms")),
                row.getInt("standing") == 2,
                row.getString("text"),
                TextColumns.shown(row.getString("forms")),
                row.getString("offer_note"),
                row.getBoolean("by_machine"),
                row.getLong("author_id"),
                row.getString("author"),
                row.getTimestamp("offered_time").toInstant(),
                row.getInt("open_offers"),
                row.getInt("max_length"),
                blockers,
                warnings);
    }
}
