package mellow.server.draft;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import mellow.core.text.EditDistance;
import mellow.core.text.EditDistance.Changed;
import mellow.server.common.Coded;
import mellow.server.people.PeopleService;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Whether drafts pay: of those whose cell is settled now, how many stayed as they were, and how much the others were changed. */
@Service
public class DraftWorth {

    private static final int MOST = 50_000;
    private static final double PERCENT = 100.0;

    private static final String DRAFTS = Coded.sql(
            """
            select s.name service, l.tag, t.name table_name, d.text, case when c.state = {state.settled} then c.text end settled
            from (select * from draft order by id desc limit :most) d join draft_service s on s.id = d.service_id
            join entry e on e.id = d.entry_id join ledger_table t on t.id = e.table_id join language l on l.id = d.language_id
            left join cell c on c.entry_id = d.entry_id and c.language_id = d.language_id
            """);

    private final PeopleService people;
    private final JdbcClient jdbc;

    DraftWorth(PeopleService people, JdbcClient jdbc) {
        this.people = people;
        this.jdbc = jdbc;
    }

    /**
     * What became of the drafts of a service in a language for a table.
     *
     * @param drafts how many became a text
     * @param settled how many of these cells are settled
     * @param kept how many of the settled read as they were drafted
     * @param changed how much of the settled ones' letters was changed, in percent of the longer of draft and text
     */
    public record Worth(
            String service, String language, String table, int drafts, int settled, int kept, int changed) {}

    private static final class Sum {
        private int drafts;
        private int settled;
        private int kept;
        private long distance;
        private long length;
    }

    private record Of(String service, String language, String table) {}

    /** For the newest 50,000 drafts. */
    @Transactional(readOnly = true)
    public List<Worth> of(long person) {
        people.rights(person).requireCoordinator("see what drafts are worth");
        Map<Of, Sum> sums = new LinkedHashMap<>();
        jdbc.sql(DRAFTS).param("most", MOST).query(row -> {
            Sum sum = sums.computeIfAbsent(
                    new Of(row.getString("service"), row.getString("tag"), row.getString("table_name")),
                    of -> new Sum());
            sum.drafts++;
            String draft = row.getString("text");
            String settled = row.getString("settled");
            if (settled != null) {
                sum.settled++;
                Changed changed = EditDistance.between(draft, settled);
                sum.kept += changed.changed() == 0 ? 1 : 0;
                sum.distance += changed.changed();
                sum.length += changed.of();
            }
        });
        List<Worth> worth = new ArrayList<>();
        sums.forEach((of, sum) -> worth.add(new Worth(
                of.service,
                of.language,
                of.table,
                sum.drafts,
                sum.settled,
                sum.kept,
                sum.length == 0 ? 0 : (int) Math.round(PERCENT * sum.distance / sum.length))));
        worth.sort(Comparator.comparing(Worth::service)
                .thenComparing(Worth::language)
                .thenComparing(Worth::table));
        return worth;
    }
}
