package mellow.server.entry;

import java.sql.Types;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.stream.Collectors;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import mellow.core.text.Text;
import mellow.server.common.Refusal;
import mellow.server.common.TextRules;
import mellow.server.file.AssetFiles;
import mellow.server.language.LanguageService;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** What has to hold before entries change: keys are there once, sources have the forms of their shape, tables keep the languages of the texts. */
@Component
class EntryRules {

    private static final String NAMED =
            """
            select exists (select 1 from entry where table_id = :table and key = :key and context = :context and removed_at is null and id <> :except)
            """;
    private static final String NAMED_SO =
            """
            select e.key from unnest(cast(:tables as bigint[]), cast(:keys as text[]), cast(:contexts as text[])) b (table_id, key, context)
            join entry e on e.table_id = b.table_id and e.key = b.key and e.context = b.context and e.removed_at is null and e.id <> all(:ids)
            limit 1
            """;
    /** A key that two of the entries share, or that one shares with another entry of the table. */
    private static final String TAKEN =
            """
            select m.key from entry m join entry e
              on e.key = m.key and e.context = m.context and e.id <> m.id
            where m.id = any(:ids)
              and ((e.removed_at is null and e.table_id = coalesce(cast(:table as bigint), m.table_id))
                   or (e.id = any(:ids) and (cast(:table as bigint) is not null or e.table_id = m.table_id)))
            limit 1
            """;

    private static final String LANGUAGES_OF_TEXTS =
            "select distinct language_id from cell where entry_id = any(:entries) and (text is not null or open_offers > 0)";

    private final JdbcClient jdbc;
    private final LanguageService languages;
    private final TableService tables;
    private final TextRules texts;
    private final AssetFiles assets;

    EntryRules(JdbcClient jdbc, LanguageService languages, TableService tables, TextRules texts, AssetFiles assets) {
        this.jdbc = jdbc;
        this.languages = languages;
        this.tables = tables;
        this.texts = texts;
        this.assets = assets;
    }

    void requireFree(long table, Entry entry) {
        boolean taken = jdbc.sql(NAMED)
                .param("table", table)
                .param("key", entry.key())
                .param("context", entry.context())
                .param("except", entry.idOrNone())
                .query(Boolean.class)
                .single();
        if (taken) {
            throw keyTaken(entry.key());
        }
    }

    /** @param table where the entries will be, null for the tables they are in */
    void requireFree(@Nullable Long table, List<Long> ids) {
        jdbc.sql(TAKEN)
                .param("table", table, Types.BIGINT)
                .param("ids", ids.toArray(Long[]::new))
                .query(String.class)
                .optional()
                .ifPresent(key -> {
                    throw keyTaken(key);
                });
    }

    /** @param becoming how some of the entries will be, at most once per entry */
    void requireFree(List<Long> ids, List<Snapshot> becoming) {
        Set<List<Object>> names = new HashSet<>();
        for (Snapshot one : becoming) {
            if (!names.add(List.of(
                    one.table(), one.description().key(), one.description().context()))) {
                throw keyTaken(one.description().key());
            }
        }
        jdbc.sql(NAMED_SO)
                .param("tables", becoming.stream().map(Snapshot::table).toArray(Long[]::new))
                .param(
                        "keys",
                        becoming.stream().map(one -> one.description().key()).toArray(String[]::new))
                .param(
                        "contexts",
                        becoming.stream()
                                .map(one -> one.description().context())
                                .toArray(String[]::new))
                .param("ids", ids.toArray(Long[]::new))
                .query(String.class)
                .optional()
                .ifPresent(key -> {
                    throw keyTaken(key);
                });
    }

    private static Refusal keyTaken(String key) {
        return Refusal.conflict(
                "key-taken", "There is an entry “{key}” in this table already.", Map.of("field", "key", "key", key));
    }

    void requireLanguages(TableInfo target, List<Long> moving, boolean addLanguages) {
        List<LanguageTag> missing = jdbc
                .sql(LANGUAGES_OF_TEXTS)
                .param("entries", moving.toArray(Long[]::new))
                .query(Integer.class)
                .list()
                .stream()
                .map(languages::tag)
                .filter(tag -> target.language(tag).isEmpty())
                .sorted()
                .toList();
        if (missing.isEmpty()) {
            return;
        }
        if (!addLanguages) {
            throw Refusal.conflict(
                    "languages-missing",
                    "{table} is not kept in {named}, and there are texts in them; add the languages to it, or their texts would be out of sight.",
                    Map.of(
                            "table",
                            target.name(),
                            "named",
                            missing.stream()
                                    .map(tag -> languages.describe(tag).englishName())
                                    .collect(Collectors.joining(", ")),
                            "languages",
                            missing.stream().map(LanguageTag::value).toList()));
        }
        tables.addLanguages(target.id(), missing, false);
    }

    Text text(Shape shape, SortedMap<String, String> forms, TableInfo table) {
        SortedMap<String, String> clean = new TreeMap<>(forms);
        clean.replaceAll((form, text) -> text.replace("\r\n", "\n").replace('\r', '\n'));
        clean.values().forEach(text -> texts.require(text, "source"));
        if (clean.values().stream().allMatch(String::isEmpty)) {
            throw Refusal.unacceptable("no-source", "An entry needs a source text.", Map.of("field", "source"));
        }
        shape.misfit(clean, languages.describe(table.source()).plurals().keySet())
                .ifPresent(misfit -> {
                    throw Refusal.unacceptable("wrong-forms", misfit, Map.of("field", "source"));
                });
        if (shape == Shape.ASSET) {
            assets.require(clean);
        }
        return Shape.text(clean);
    }
}
