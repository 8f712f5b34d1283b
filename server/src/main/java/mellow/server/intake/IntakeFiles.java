package mellow.server.intake;

import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mellow.server.master.ReadingChoice;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** The files of intakes. Needs a transaction around it. */
@Component
class IntakeFiles {

    private static final String ADD =
            """
            insert into intake_file (intake_id, position, path, file_id, reading, source, left_out, facts)
            select :intake, f.position, f.path, f.file, f.reading, f.source, f."leftOut", f.facts from jsonb_to_recordset(cast(:files as jsonb))
                as f (position int, path text, file bigint, reading jsonb, source boolean, "leftOut" boolean, facts jsonb)
            """;

    private final JdbcClient jdbc;
    private final JsonMapper json;

    IntakeFiles(JdbcClient jdbc, JsonMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    /** The only file of an intake, which is read as the intake's options say. */
    void addOnly(long intake, String path, long file) {
        add(intake, List.of(new IntakeFile(new IntakeFile.Place(0, path, file), null, true, false, null)));
    }

    private void add(long intake, List<IntakeFile> files) {
        jdbc.sql(ADD)
                .param("intake", intake)
                .param("files", json.writeValueAsString(files))
                .update();
    }

    /** Replaces what was decided about the files of an intake; who decides at the same moment waits. */
    void decide(long intake, List<IntakeFile> files) {
        jdbc.sql("select id from intake where id = :intake for update")
                .param("intake", intake)
                .query(Long.class)
                .single();
        jdbc.sql("delete from intake_file where intake_id = :intake")
                .param("intake", intake)
                .update();
        add(intake, files);
    }

    /** The files of an intake, that of the sources first. */
    List<IntakeFile> of(long intake) {
        return jdbc.sql("select * from intake_file where intake_id = :intake order by source desc, position")
                .param("intake", intake)
                .query((row, n) -> {
                    String reading = row.getString("reading");
                    String facts = row.getString("facts");
                    return new IntakeFile(
                            new IntakeFile.Place(row.getInt("position"), row.getString("path"), row.getLong("file_id")),
                            reading == null ? null : json.readValue(reading, ReadingChoice.class),
                            row.getBoolean("source"),
                            row.getBoolean("left_out"),
                            facts == null ? null : json.readValue(facts, IntakeFile.Facts.class));
                })
                .list();
    }

    /** How many files of intakes are not left out. */
    Map<Long, Integer> counts(Collection<Long> intakes) {
        Map<Long, Integer> counts = new HashMap<>();
        jdbc.sql(
                        "select intake_id, count(*) from intake_file where intake_id = any(:intakes) and not left_out group by 1")
                .param("intakes", intakes.toArray(Long[]::new))
                .query((RowCallbackHandler) row -> counts.put(row.getLong(1), row.getInt(2)));
        return counts;
    }
}
