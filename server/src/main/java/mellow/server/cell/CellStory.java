package mellow.server.cell;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import mellow.core.cell.Cell;
import mellow.core.cell.CellEvent.PutBack;
import mellow.core.cell.CellEvent.Undo;
import mellow.core.cell.CellWas;
import mellow.core.cell.Outcome.What;
import mellow.core.cell.Standing;
import mellow.core.text.Text;
import mellow.server.common.TextColumns;
import mellow.server.record.Stories;
import mellow.server.record.Stories.Telling;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** The append-only story of cells. */
@Component
class CellStory {

    private static final String LINES =
            """
            select s.*, p.name person, i.file_name
            from cell_story s join person p on p.id = s.person_id left join intake i on i.id = s.intake_id
            where s.entry_id = :entry and s.language_id = :language
            order by s.id desc limit 200
            """;
    /** Whose text a line tells of: the offer's author, else who brought it; nobody when a file did. */
    private static final String AUTHOR =
            "case when s.intake_id is not null then 0 else coalesce((select o.author_id from offer o where o.id = s.offer_id), s.person_id) end";

    private static final String LINE = "select s.*, " + AUTHOR
            + " author from cell_story s where s.entry_id = :entry and s.language_id = :language and s.id = :id";

    /**
     * The lines of a change, each with who alone stands behind the text that was in force before it: wrote it and put it in force. A line knows the version
     * it left, so the one that put the former text in force is found by that; lines of files have none.
     */
    private static final String OF_CHANGE =
            """
            select c.entry_id, c.language_id, c.version, c.was, coalesce((
                select case when %s = s.person_id and s.what in ('settled', 'amended') then s.person_id else 0 end
                from cell_story s
                where s.entry_id = c.entry_id and s.language_id = c.language_id and s.version = (c.was::jsonb ->> 'textAt')::int limit 1), 0) alone
            from cell_story c where c.change_id = :change and c.person_id = :person order by c.entry_id, c.language_id
            """
                    .formatted(AUTHOR);

    /** Lines after which the text they name was in force. */
    private static final Set<String> IN_FORCE =
            Set.of("pencilled", "settled", "settled_by_rule", "amended", "put_back", "still_holds", "undone");

    private final JdbcClient jdbc;
    private final Stories stories;

    CellStory(JdbcClient jdbc, Stories stories) {
        this.jdbc = jdbc;
        this.stories = stories;
    }

    /**
     * A line to be told.
     *
     * @param offer the offer it is about
     * @param offered the text that was put forward by it
     */
    record Told(CellKey key, What what, Cell before, Cell after, @Nullable Long offer, @Nullable Text offered) {}

    void add(Telling telling, List<Told> lines) {
        stories.addToCells(telling, lines.stream().map(CellStory::line).toList());
    }

    private static Stories.OfCell line(Told line) {
        Optional<Text> after = line.offered() != null
                ? Optional.of(line.offered())
                : line.after().text();
        return new Stories.OfCell(
                line.key().entryId(),
                line.key().languageId(),
                line.what().name().toLowerCase(Locale.ROOT),
                TextColumns.of(line.before().text()),
                TextColumns.of(after),
                line.after().standing().ordinal(),
                line.after().basedOn(),
                line.offer(),
                line.after().version(),
                WasJson.write(CellWas.between(line.before(), line.after())));
    }

    List<StoryLine> lines(CellKey key) {
        return jdbc.sql(LINES)
                .param("entry", key.entryId())
                .param("language", key.languageId())
                .query((row, n) -> new StoryLine(
                        row.getLong("id"),
                        row.getTimestamp("at").toInstant(),
                        row.getString("person"),
                        row.getString("what"),
                        row.getString("origin"),
                        row.getString("before"),
                        TextColumns.shown(row.getString("before_forms")),
                        row.getString("after"),
                        TextColumns.shown(row.getString("after_forms")),
                        row.getString("file_name"),
                        row.getString("reason"),
                        IN_FORCE.contains(row.getString("what")) && row.getString("after") != null))
                .list();
    }

    Optional<PutBack> putBack(CellKey key, long line) {
        return jdbc.sql(LINE)
                .param("entry", key.entryId())
                .param("language", key.languageId())
                .param("id", line)
                .query((row, n) -> TextColumns.read(row.getString("after"), row.getString("after_forms"))
                        .filter(text -> inForce(row))
                        .map(text -> putBack(text, row)))
                .optional()
                .flatMap(found -> found);
    }

    private static boolean inForce(ResultSet row) {
        try {
            return IN_FORCE.contains(row.getString("what"));
        } catch (SQLException broken) {
            throw new IllegalStateException(broken);
        }
    }

    private static PutBack putBack(Text text, ResultSet row) {
        try {
            return new PutBack(
                    text, Standing.values()[row.getInt("standing")], row.getInt("based_on"), row.getLong("author"));
        } catch (SQLException broken) {
            throw new IllegalStateException(broken);
        }
    }

    /** So many new numbers of offers. */
    List<Long> offerNumbers(int amount) {
        return jdbc.sql("select nextval('offer_seq') from generate_series(1, :amount)")
                .param("amount", amount)
                .query(Long.class)
                .list();
    }

    /** What takes each cell of {@code person}'s change back to where it was before. */
    Map<CellKey, Undo> undo(long person, long change) {
        Map<CellKey, Undo> undo = new LinkedHashMap<>();
        jdbc.sql(OF_CHANGE).param("change", change).param("person", person).query(row -> {
            undo.put(
                    new CellKey(row.getLong("entry_id"), row.getInt("language_id")),
                    new Undo(row.getInt("version"), WasJson.read(row.getString("was")), row.getLong("alone")));
        });
        return undo;
    }
}
