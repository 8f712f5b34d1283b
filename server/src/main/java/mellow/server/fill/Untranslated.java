package mellow.server.fill;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import mellow.core.language.LanguageTag;
import mellow.server.check.Grounds;
import mellow.server.common.Coded;
import mellow.server.draft.Drafting.ToDraft;
import mellow.server.language.LanguageService;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Reads what has no text in a language, and has a source of one form that wants one. */
@Component
class Untranslated {

    private static final String CELLS = Coded.sql(
            """
            select e.id, e.key, e.source, e.table_id, e.context, e.note, e.max_length, t.source_language_id, coalesce(c.version, 0) as version
            from entry e join ledger_table t on t.id = e.table_id join language l on l.id = :language
            join table_language k on k.table_id = e.table_id and k.language_id = l.id
            left join cell c on c.entry_id = e.id and c.language_id = l.id
            where e.id = any(:ids) and e.removed_at is null and e.translatable and e.shape = 'plain' and e.source <> ''
              and coalesce(c.state, {state.untranslated}) = {state.untranslated}
            """);

    private final LanguageService languages;
    private final JdbcClient jdbc;

    Untranslated(LanguageService languages, JdbcClient jdbc) {
        this.languages = languages;
        this.jdbc = jdbc;
    }

    /** @param version of its cell, 0 where there is none yet */
    record Empty(
            long id,
            String key,
            String source,
            long table,
            String context,
            String note,
            int maxLength,
            int sourceLanguage,
            int version) {}

    /** Those of some entries, by their numbers. */
    Map<Long, Empty> of(List<Long> entries, LanguageTag language) {
        Map<Long, Empty> empty = new LinkedHashMap<>();
        jdbc.sql(CELLS)
                .param("ids", entries.toArray(Long[]::new))
                .param("language", languages.numberOrNone(language))
                .query((row, n) -> new Empty(
                        row.getLong("id"),
                        row.getString("key"),
                        row.getString("source"),
                        row.getLong("table_id"),
                        row.getString("context"),
                        row.getString("note"),
                        row.getInt("max_length"),
                        row.getInt("source_language_id"),
                        row.getInt("version")))
                .list()
                .forEach(one -> empty.put(one.id, one));
        return empty;
    }

    /** The same as a service is asked for them, by the placeholders of their tables. */
    List<ToDraft> toDraft(List<Empty> empty) {
        Grounds grounds = new Grounds(jdbc);
        return empty.stream()
                .map(one -> new ToDraft(
                        one.id,
                        one.table,
                        languages.tag(one.sourceLanguage),
                        one.source,
                        one.context,
                        one.note,
                        one.maxLength,
                        grounds.settings(one.table).placeholders()))
                .toList();
    }
}
