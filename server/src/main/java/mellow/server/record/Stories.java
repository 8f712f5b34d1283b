package mellow.server.record;

import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import mellow.server.common.TextColumns;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.namedparam.MapSqlParameterSource;
import org.springframework.jdbc.core.namedparam.NamedParameterJdbcTemplate;
import org.springframework.jdbc.core.namedparam.SqlParameterSource;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** The append-only stories of cells and entries: a line for everything that happens to one, in the transaction in which it happens. */
@Component
@Transactional(propagation = Propagation.MANDATORY)
public class Stories {

    private static final String ADD_TO_CELLS =
            """
            insert into cell_story (entry_id, language_id, at, person_id, what, origin, before, before_forms, after, after_forms, standing, based_on,
                offer_id, reason, version, was, change_id)
            values (:entry, :language, :at, :person, :what, :origin, :before, :beforeForms, :after, :afterForms, :standing, :basedOn,
                :offer, :reason, :version, :was, :change)
            """;
    private static final String ADD_TO_ENTRIES =
            """
            insert into entry_story (entry_id, at, person_id, what, before, after, revision, version, was, change_id)
            values (:entry, :at, :person, :what, :before, :after, :revision, :version, :was, :change)
            """;

    private final JdbcClient jdbc;
    private final NamedParameterJdbcTemplate batch;

    Stories(JdbcClient jdbc, NamedParameterJdbcTemplate batch) {
        this.jdbc = jdbc;
        this.batch = batch;
    }

    /** Takes the number of a new change. */
    @Transactional(propagation = Propagation.SUPPORTS)
    public long nextChange() {
        return jdbc.sql("select nextval('change_seq')").query(Long.class).single();
    }

    /**
     * What all lines of one change share.
     *
     * @param origin how texts came: typed, pasted, file, …; empty for entries
     * @param reason why an offer was returned, or what its author said with it
     */
    public record Telling(long change, long person, Instant at, String origin, @Nullable String reason) {}

    /**
     * A line of a cell's story.
     *
     * @param what what happened, in small letters
     * @param after the text in force after, or the text offered
     * @param standing the standing in force after, by its number
     * @param offer the offer it is about
     * @param version the version it left
     * @param was how the cell was before, as JSON
     */
    public record OfCell(
            long entry,
            int language,
            String what,
            TextColumns before,
            TextColumns after,
            int standing,
            int basedOn,
            @Nullable Long offer,
            int version,
            String was) {}

    /**
     * A line of an entry's story.
     *
     * @param before the source, key, section or table before
     * @param after the same after
     * @param revision the source's revision
     * @param version the version it left
     * @param was how the entry was before, as JSON
     */
    public record OfEntry(
            long entry, @Nullable String before, @Nullable String after, int revision, int version, String was) {}

    /** Adds lines to stories of cells. */
    public void addToCells(Telling telling, List<OfCell> lines) {
        batch.batchUpdate(
                ADD_TO_CELLS,
                lines.stream()
                        .map(line -> shared(telling, line.what())
                                .addValue("entry", line.entry())
                                .addValue("language", line.language())
                                .addValue("origin", telling.origin())
                                .addValue("before", line.before().text())
                                .addValue("beforeForms", line.before().forms())
                                .addValue("after", line.after().text())
                                .addValue("afterForms", line.after().forms())
                                .addValue("standing", line.standing())
                                .addValue("basedOn", line.basedOn())
                                .addValue("offer", line.offer())
                                .addValue("reason", telling.reason())
                                .addValue("version", line.version())
                                .addValue("was", line.was()))
                        .toArray(SqlParameterSource[]::new));
    }

    /** Adds lines to stories of entries; {@code what} happened to all of them. */
    public void addToEntries(Telling telling, String what, List<OfEntry> lines) {
        batch.batchUpdate(
                ADD_TO_ENTRIES,
                lines.stream()
                        .map(line -> shared(telling, what)
                                .addValue("entry", line.entry())
                                .addValue("before", line.before())
                                .addValue("after", line.after())
                                .addValue("revision", line.revision())
                                .addValue("version", line.version())
                                .addValue("was", line.was()))
                        .toArray(SqlParameterSource[]::new));
    }

    private static MapSqlParameterSource shared(Telling telling, String what) {
        return new MapSqlParameterSource()
                .addValue("at", telling.at().atOffset(ZoneOffset.UTC))
                .addValue("person", telling.person())
                .addValue("what", what)
                .addValue("change", telling.change());
    }
}
