package mellow.server.entry;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import mellow.server.record.Stories;
import mellow.server.record.Stories.Telling;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** The append-only story of entries. */
@Component
class EntryStory {

    private static final String LINES =
            """
            select s.*, p.name person, i.file_name
            from entry_story s join person p on p.id = s.person_id left join intake i on i.id = s.intake_id
            where s.entry_id = :entry order by s.id desc limit 200
            """;
    private static final String OF_CHANGE =
            "select entry_id, version, was from entry_story where change_id = :change and person_id = :person order by entry_id";

    private final JdbcClient jdbc;
    private final Stories stories;
    private final JsonMapper json;

    EntryStory(JdbcClient jdbc, Stories stories, JsonMapper json) {
        this.jdbc = jdbc;
        this.stories = stories;
        this.json = json;
    }

    /**
     * A line to be told.
     *
     * @param was how the entry was before; as removed when it is new
     */
    record Line(Entry entry, @Nullable String before, @Nullable String after, Snapshot was) {}

    /** Adds the lines of one change. */
    void add(Telling telling, String what, List<Line> lines) {
        stories.addToEntries(
                telling,
                what,
                lines.stream()
                        .map(line -> new Stories.OfEntry(
                                line.entry().id(),
                                line.before(),
                                line.after(),
                                line.entry().sourceRevision(),
                                line.entry().version(),
                                json.writeValueAsString(line.was())))
                        .toList());
    }

    /** What a change did to an entry: the version it left and how the entry was before. */
    record Done(long entry, int version, Snapshot was) {}

    List<Done> of(long person, long change) {
        return jdbc.sql(OF_CHANGE)
                .param("change", change)
                .param("person", person)
                .query((row, n) -> new Done(
                        row.getLong("entry_id"),
                        row.getInt("version"),
                        json.readValue(row.getString("was"), Snapshot.class)))
                .list();
    }

    Optional<Snapshot> before(long entry, long line) {
        return jdbc.sql("select was from entry_story where entry_id = :entry and id = :line and was is not null")
                .param("entry", entry)
                .param("line", line)
                .query(String.class)
                .optional()
                .map(was -> json.readValue(was, Snapshot.class));
    }

    List<EntryLine> lines(long entry) {
        return jdbc.sql(LINES)
                .param("entry", entry)
                .query((row, n) -> new EntryLine(
                        row.getLong("id"),
                        row.getTimestamp("at").toInstant(),
                        row.getString("person"),
                        row.getString("what"),
                        row.getString("before"),
                        row.getString("after"),
                        row.getString("file_name"),
                        row.getString("was") != null))
                .list();
    }

    /**
     * A line of an entry's story.
     *
     * @param what added, source_rewritten, described, renamed, moved, removed, put_back, picture, undone
     * @param before the source, key, section or table before
     * @param after the same after
     * @param file the file it came from
     * @param canBePutBack whether the entry can be put back to how it was before this line
     */
    record EntryLine(
            long id,
            Instant at,
            String person,
            String what,
            @Nullable String before,
            @Nullable String after,
            @Nullable String file,
            boolean canBePutBack) {}
}
