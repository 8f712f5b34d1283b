package mellow.server.fill;

import java.util.List;
import mellow.core.language.LanguageTag;
import mellow.server.common.Coded;
import mellow.server.language.LanguageService;
import mellow.server.people.Reading;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Finds where else a settled text could stand: untranslated cells with the same source. */
@Service
public class SpreadService {

    private static final int MOST = 500;

    private static final String SAME = Coded.sql(
                    """
            select o.id, o.key, t.name table_name, coalesce(c.version, 0) version
            from entry e join ledger_table own on own.id = e.table_id join entry o on o.source = e.source and o.id <> e.id and o.removed_at is null
                and o.translatable and o.shape = 'plain'
            join ledger_table t on t.id = o.table_id and t.removed_at is null and t.source_language_id = own.source_language_id
            join table_language k on k.table_id = t.id and k.language_id = :language and k.archived_at is null
            join cell s on s.entry_id = e.id and s.language_id = :language and s.state = {state.settled}
            left join cell c on c.entry_id = o.id and c.language_id = :language
            where e.id = :entry and e.shape = 'plain' and e.source <> '' and coalesce(c.state, {state.untranslated}) = {state.untranslated}
            order by t.name, o.position, o.id limit
            """)
            + MOST;

    private final LanguageService languages;
    private final Reading reading;
    private final JdbcClient jdbc;

    SpreadService(LanguageService languages, Reading reading, JdbcClient jdbc) {
        this.languages = languages;
        this.reading = reading;
        this.jdbc = jdbc;
    }

    /**
     * An untranslated cell with the same source.
     *
     * @param table the name of its table
     * @param version of the cell
     */
    public record SameSource(long entry, String key, String table, int version) {}

    /** Those of a settled cell, at most 500; none where it is not settled. */
    @Transactional(readOnly = true)
    public List<SameSource> of(long entry, LanguageTag language) {
        reading.require(language);
        return jdbc.sql(SAME)
                .param("entry", entry)
                .param("language", languages.numberOrNone(language))
                .query((row, n) -> new SameSource(
                        row.getLong("id"), row.getString("key"), row.getString("table_name"), row.getInt("version")))
                .list();
    }
}
