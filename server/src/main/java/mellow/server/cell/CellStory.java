package mellow.server.cell;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import mellow.core.cell.Cell;
import mellow.core.cell.CellEvent.PutBack;
import mellow.core.cell.Outcome.What;
import mellow.core.cell.Standing;
import mellow.core.text.Text;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** The append-only story of cells. */
@Component
class CellStory {

    private static final String ADD =
            """
            insert into cell_story (entry_id, language_id, at, person_id, what, origin, before, after, standing, based_on, offer_id, reason)
            values (:entry, :language, :at, :person, :what, :origin, :before, :after, :standing, :basedOn, :offer, :reason)
            """;
    private static final String LINES =
            """
            select s.*, p.name person, i.file_name
            from cell_story s join person p on p.id = s.person_id left join intake i on i.id = s.intake_id
            where s.entry_id = :entry and s.language_id = :language
            order by s.id desc limit 200
            """;
    private static final String LINE =
            "select * from cell_story where entry_id = :entry and language_id = :language and id = :id";

    /** Lines after which the text they name was in force. */
    private static final Set<String> IN_FORCE = Set.of("pencilled", "settled", "amended", "put_back", "still_holds");

    private final JdbcClient jdbc;

    CellStory(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    void add(
            CellKey key,
            Instant at,
            long person,
            What what,
            String origin,
            Cell before,
            Cell after,
            @Nullable Long offer,
            @Nullable String offered,
            @Nullable String reason) {
        jdbc.sql(ADD)
                .param("entry", key.entryId())
                .param("language", key.languageId())
                .param("at", at.atOffset(java.time.ZoneOffset.UTC))
                .param("person", person)
                .param("what", what.name().toLowerCase(java.util.Locale.ROOT))
                .param("origin", origin)
                .param("before", before.text().map(Text::main).orElse(null))
                .param(
                        "after",
                        offered != null ? offered : after.text().map(Text::main).orElse(null))
                .param("standing", after.standing().ordinal())
                .param("basedOn", after.basedOn())
                .param("offer", offer)
                .param("reason", reason)
                .update();
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
                        row.getString("after"),
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
                .query((row, n) -> IN_FORCE.contains(row.getString("what")) && row.getString("after") != null
                        ? Optional.of(new PutBack(
                                Text.plain(row.getString("after")),
                                Standing.values()[row.getShort("standing")],
                                row.getInt("based_on")))
                        : Optional.<PutBack>empty())
                .optional()
                .flatMap(found -> found);
    }

    /**
     * A line of the story.
     *
     * @param id its number in the cell's story
     * @param at when
     * @param person who
     * @param what what happened: pencilled, offered, settled, …
     * @param origin how: typed, file, undo, …
     * @param before the text in force before
     * @param after the text in force after, or the text offered
     * @param file the file it came from
     * @param reason why an offer was returned
     * @param canBePutBack whether this line's text can be put back
     */
    public record StoryLine(
            long id,
            Instant at,
            String person,
            String what,
            String origin,
            @Nullable String before,
            @Nullable String after,
            @Nullable String file,
            @Nullable String reason,
            boolean canBePutBack) {}
}
