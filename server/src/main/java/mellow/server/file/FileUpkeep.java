package mellow.server.file;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import mellow.server.common.Clearing;
import mellow.server.common.Perishable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Files that came in and that nothing names any more. Pictures and assets belong to the record, whose story may name them, and stay. */
@Component
class FileUpkeep implements Perishable {

    private static final Duration JUST_COMING = Duration.ofDays(1);

    private static final String ORPHANS =
            """
            delete from stored_file f where f.kind is null and f.created_at < :before
              and not exists (select 1 from intake_file i where i.file_id = f.id)
              and not exists (select 1 from dropped_file d where d.file_id = f.id)
              and not exists (select 1 from master_file m where m.file_id = f.id)
              and not exists (select 1 from asset_set_file a where a.file_id = f.id)
              and not exists (select 1 from intake i, jsonb_array_elements(i.master_was) was where (was ->> 'file_id')::bigint = f.id)
            """;

    private final JdbcClient jdbc;

    FileUpkeep(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    @Override
    public String what() {
        return "files that nothing names any more";
    }

    @Override
    public boolean namedByOthers() {
        return true;
    }

    @Override
    @Transactional
    public int forget(Instant now) {
        return Clearing.run(jdbc, List.of(ORPHANS), Map.of("before", now.minus(JUST_COMING)));
    }
}
