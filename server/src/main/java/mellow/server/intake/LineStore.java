package mellow.server.intake;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import javax.sql.DataSource;
import mellow.core.merge.Arrival;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.server.common.Coded;
import mellow.server.common.Refusal;
import mellow.server.common.TextColumns;
import mellow.server.intake.PreviewReply.Group;
import mellow.server.intake.PreviewReply.Line;
import mellow.server.record.CopyFile;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.UncategorizedSQLException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DataSourceUtils;
import org.springframework.stereotype.Component;

/**
 * What open intakes would do, line by line, and what people decided about the lines. The lines are in a table that a crash empties and are found again; the
 * decisions are as safe as texts.
 */
@Component
class LineStore {

    private static final String COUNTS =
            """
            select kind, coalesce(choice, usual) chosen, min(usual) usual, taken, count(*) n,
                sum(texts_settled) settled, sum(texts_offered) offered, sum(texts_pencilled) pencilled
            from intake_line where intake_id = :intake group by 1, 2, 4
            """;
    private static final String STALE =
            """
            select tag, sum(n)::int n from (
                select tag, count(*) n from intake_line, unnest(string_to_array(stale, ',')) tag
                where intake_id = :intake and stale <> '' and coalesce(choice, usual) = :changed group by tag
                union all
                select t.language, -count(*) from intake_line t
                join intake_line s on s.intake_id = t.intake_id and s.key = t.key and s.context = t.context and s.stale <> ''
                where t.intake_id = :intake and t.spares and coalesce(t.choice, t.usual) = :take and coalesce(s.choice, s.usual) = :changed group by t.language) n
            group by tag having sum(n) > 0
            """;
    private static final String PAGE =
            """
            select *, (select string_agg(t.language, ',') from intake_line t
                where t.intake_id = s.intake_id and md5(t.key) = md5(s.key) and t.key = s.key and t.context = s.context and t.spares and coalesce(t.choice, t.usual) = :take) spared
            from intake_line s where intake_id = :intake and kind = :kind
            """;
    /**
     * Which languages have a text that is current: those that the new source would make stale. Line by line, because nothing tells the planner yet how
     * many lines there are: joined, it once read all cells of the database for each of them.
     */
    private static final String FIND_STALE = Coded.sql(
            """
            update intake_line t set stale = coalesce((
                select string_agg(g.tag, ',' order by g.tag) from cell c join language g on g.id = c.language_id
                where c.entry_id = t.entry_id and c.standing <> {standing.none} and c.based_on >= (select e.meaning_revision from entry e where e.id = t.entry_id)), '')
            where t.intake_id = :intake and t.kind = any(:kinds)
            """);

    /** Decides about lines and keeps it where a crash does not reach: the lines are found again, decisions would not be. */
    private static final String CHOOSE =
            """
            with decided as (
                update intake_line set choice = :choice where intake_id = :intake and kind = :kind %s
                returning intake_id, kind, key, context, coalesce(language, '') language, choice),
            kept as (
                insert into intake_decision (intake_id, kind, key, context, language, choice)
                select distinct on (key, context, language) * from decided
                on conflict (intake_id, kind, md5(key || E'\\n' || context), language) do update set choice = excluded.choice)
            select count(*)::int from decided
            """;

    private static final String FOUND =
            """
             and (:find = '' or position(lower(:find) in lower(key)) > 0 or position(lower(:find) in lower(coalesce(former, ''))) > 0 or position(lower(:find) in lower(coalesce(before, ''))) > 0
                or position(lower(:find) in lower(coalesce(after, ''))) > 0)
            """;

    private final JdbcClient jdbc;
    private final DataSource database;

    LineStore(JdbcClient jdbc, DataSource database) {
        this.jdbc = jdbc;
        this.database = database;
    }

    /** Replaces the lines of an intake, in the transaction under way. */
    void store(long intake, CopyFile rows) {
        forgetLines(intake);
        Connection connection = DataSourceUtils.getConnection(database);
        try {
            rows.send(connection);
        } catch (SQLException failed) {
            throw new UncategorizedSQLException("keep what a file would do", null, failed);
        } finally {
            DataSourceUtils.releaseConnection(connection, database);
        }
        Short[] kinds = Arrays.stream(ChangeKind.values())
                .filter(kind -> kind.choices().contains(Choice.CHANGED))
                .map(kind -> (short) kind.ordinal())
                .toArray(Short[]::new);
        jdbc.sql(FIND_STALE).param("intake", intake).param("kinds", kinds).update();
    }

    /** Forgets the lines and what was decided about them, when the intake is taken in or left. */
    void forget(long intake) {
        forgetLines(intake);
        jdbc.sql("delete from intake_decision where intake_id = :intake")
                .param("intake", intake)
                .update();
    }

    private void forgetLines(long intake) {
        jdbc.sql("delete from intake_line where intake_id = :intake")
                .param("intake", intake)
                .update();
    }

    boolean any(long intake) {
        return jdbc.sql("select exists (select 1 from intake_line where intake_id = :intake)")
                .param("intake", intake)
                .query(Boolean.class)
                .single();
    }

    /** What all lines add up to. */
    record Sums(List<Group> groups, Map<Arrival, Integer> arrivals, Map<String, Integer> stale) {}

    Sums sums(long intake) {
        Map<ChangeKind, Map<Choice, Integer>> counts = new EnumMap<>(ChangeKind.class);
        Map<ChangeKind, Choice> usual = new EnumMap<>(ChangeKind.class);
        Map<Arrival, Integer> arrivals = new EnumMap<>(Arrival.class);
        jdbc.sql(COUNTS).param("intake", intake).query(row -> {
            ChangeKind kind = ChangeKind.values()[row.getInt("kind")];
            Choice chosen = Choice.values()[row.getInt("chosen")];
            int n = row.getInt("n");
            usual.putIfAbsent(kind, Choice.values()[row.getInt("usual")]);
            counts.computeIfAbsent(kind, k -> new EnumMap<>(Choice.class)).merge(chosen, n, Integer::sum);
            Arrival taken = taken(row);
            if (taken != null && chosen == Choice.TAKE) {
                arrivals.merge(taken, n, Integer::sum);
            } else if (taken != null && chosen == Choice.OFFER) {
                arrivals.merge(Arrival.OFFERED, n, Integer::sum);
            } else if (chosen == Choice.PENCIL) {
                arrivals.merge(Arrival.PENCILLED, n, Integer::sum);
            }
            if (chosen == Choice.TAKE || chosen == Choice.BOTH || chosen == Choice.REPLACE) {
                arrivals.merge(Arrival.SETTLED, row.getInt("settled"), Integer::sum);
                arrivals.merge(Arrival.OFFERED, row.getInt("offered"), Integer::sum);
                arrivals.merge(Arrival.PENCILLED, row.getInt("pencilled"), Integer::sum);
            }
        });
        Map<String, Integer> stale = new TreeMap<>();
        jdbc.sql(STALE)
                .param("intake", intake)
                .param("changed", Choice.CHANGED.ordinal())
                .param("take", Choice.TAKE.ordinal())
                .query(row -> {
                    stale.put(row.getString("tag"), row.getInt("n"));
                });
        List<Group> groups = new ArrayList<>();
        counts.forEach((kind, chosen) -> groups.add(new Group(
                kind,
                chosen.values().stream().mapToInt(Integer::intValue).sum(),
                chosen,
                kind.choices(),
                Objects.requireNonNull(usual.get(kind)),
                List.of())));
        return new Sums(groups, arrivals, stale);
    }

    private static @Nullable Arrival taken(ResultSet row) throws SQLException {
        int taken = row.getInt("taken");
        return row.wasNull() ? null : Arrival.values()[taken];
    }

    /** Some of the lines of a kind, and how many there are. */
    record Page(int total, List<Line> lines) {}

    /**
     * Lines of a kind in the file's order.
     *
     * @param find only those whose key or texts hold these words, whatever the case; empty for all
     */
    Page page(long intake, ChangeKind kind, String find, int from, int size) {
        int total = jdbc.sql("select count(*) from intake_line where intake_id = :intake and kind = :kind" + FOUND)
                .param("intake", intake)
                .param("kind", kind.ordinal())
                .param("find", find)
                .query(Integer.class)
                .single();
        List<Line> lines = jdbc.sql(PAGE + FOUND + " order by n offset :from limit :size")
                .param("take", Choice.TAKE.ordinal())
                .param("intake", intake)
                .param("kind", kind.ordinal())
                .param("find", find)
                .param("from", from)
                .param("size", size)
                .query((row, n) -> line(row))
                .list();
        return new Page(total, lines);
    }

    private Line line(ResultSet row) throws SQLException {
        int decided = row.getInt("choice");
        Choice choice = Choice.values()[row.wasNull() ? row.getInt("usual") : decided];
        Arrival taken = taken(row);
        String becomes = taken == null
                ? null
                : switch (choice) {
                    case TAKE -> taken.name().toLowerCase(Locale.ROOT);
                    case OFFER -> "offered";
                    case PENCIL -> "pencilled";
                    default -> null;
                };
        List<String> stale = tags(row.getString("stale"));
        stale.removeAll(tags(row.getString("spared")));
        return new Line(
                row.getInt("n"),
                new Line.Of(
                        row.getString("key"),
                        row.getString("former"),
                        row.getString("language"),
                        row.getString("source")),
                new Line.Before(row.getString("before"), TextColumns.shown(row.getString("before_forms"))),
                new Line.After(row.getString("after"), TextColumns.shown(row.getString("after_forms"))),
                new Line.Outcome(
                        choice,
                        becomes,
                        stale,
                        row.getInt("texts_settled") + row.getInt("texts_offered") + row.getInt("texts_pencilled"),
                        row.getString("against")));
    }

    private static List<String> tags(@Nullable String joined) {
        return joined == null || joined.isEmpty()
                ? new ArrayList<>()
                : new ArrayList<>(Arrays.asList(joined.split(",")));
    }

    /** Whether what is done about lines of a kind changes others: those that stand for the same entry, or that would have some if it came in otherwise. */
    boolean shaped(long intake, ChangeKind kind) {
        if (kind.succeeds() || kind == ChangeKind.WITHOUT_SOURCE) {
            return true;
        }
        return jdbc.sql(
                        """
                        select exists (select 1 from intake_line s join intake_line t
                            on t.intake_id = s.intake_id and t.kind <> s.kind and t.key = s.key and t.context = s.context
                            where s.intake_id = :intake and s.kind = :kind)
                        """)
                .param("intake", intake)
                .param("kind", kind.ordinal())
                .query(Boolean.class)
                .single();
    }

    /**
     * Decides about lines of a kind.
     *
     * @param numbers which of them; null for all that hold {@code find}
     * @return how many
     */
    int choose(long intake, ChangeKind kind, Choice choice, @Nullable List<Integer> numbers, String find) {
        if (!kind.choices().contains(choice)) {
            throw Refusal.unacceptable(
                    "no-such-choice",
                    "What can be done about this is {choices}, not {choice}.",
                    Map.of("field", "choice", "choices", kind.choices(), "choice", choice));
        }
        if (numbers == null && find.isEmpty()) {
            jdbc.sql("delete from intake_decision where intake_id = :intake and kind = :kind")
                    .param("intake", intake)
                    .param("kind", kind.ordinal())
                    .update();
            return jdbc.sql(
                            "update intake_line set usual = :choice, choice = null where intake_id = :intake and kind = :kind")
                    .param("choice", choice.ordinal())
                    .param("intake", intake)
                    .param("kind", kind.ordinal())
                    .update();
        }
        return jdbc.sql(CHOOSE.formatted(numbers == null ? FOUND : " and n = any(:numbers) and :find is not null"))
                .param("choice", choice.ordinal())
                .param("intake", intake)
                .param("kind", kind.ordinal())
                .param("find", find)
                .param("numbers", numbers == null ? new Integer[0] : numbers.toArray(Integer[]::new))
                .query(Integer.class)
                .single();
    }
}
