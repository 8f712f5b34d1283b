package mellow.server.fill;

import java.time.Clock;
import java.time.ZoneOffset;
import java.util.List;
import mellow.server.fill.Filling.Chosen;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Notes which settled texts and units of shelves cells were filled with, and by whom. */
@Component
class UsedMemory {

    /** Of those that were filled: the story has a line of them. */
    private static final String USED =
            """
            insert into memory_use (change_id, entry_id, language_id, person_id, at, from_entry, from_unit)
            select :change, k.entry, :language, :person, :now, nullif(k.from_entry, 0), nullif(k.from_unit, 0)
            from unnest(:entries::bigint[], :fromEntries::bigint[], :fromUnits::bigint[]) k(entry, from_entry, from_unit)
            where exists (select 1 from cell_story s where s.change_id = :change and s.entry_id = k.entry and s.language_id = :language)
            on conflict do nothing
            """;

    private final JdbcClient jdbc;
    private final Clock clock;

    UsedMemory(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    void used(long change, long person, int language, List<Chosen> known) {
        jdbc.sql(USED)
                .param("change", change)
                .param("language", language)
                .param("person", person)
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .param("entries", known.stream().map(Chosen::entry).toArray(Long[]::new))
                .param("fromEntries", known.stream().map(Chosen::fromEntry).toArray(Long[]::new))
                .param("fromUnits", known.stream().map(Chosen::fromUnit).toArray(Long[]::new))
                .update();
    }
}
