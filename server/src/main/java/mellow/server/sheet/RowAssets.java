package mellow.server.sheet;

import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import mellow.core.asset.AssetFacts;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import mellow.server.file.AssetFactReader;
import mellow.server.people.Reading;
import mellow.server.sheet.SheetService.RowReply;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Tells beside rows what the pictures and sounds in them are, and which languages have one. */
final class RowAssets {

    /** The files of assets in all languages, that of the source among them. */
    private static final String FILES =
            """
            select c.entry_id id, l.tag, false source, (c.forms::jsonb ->> 'file')::bigint file from cell c
            join language l on l.id = c.language_id where c.entry_id = any(:ids) and c.forms::jsonb ->> 'file' ~ '^[0-9]{1,18}$'
            union all
            select e.id, l.tag, true, (e.source_forms::jsonb ->> 'file')::bigint from entry e join ledger_table t on t.id = e.table_id
            join language l on l.id = t.source_language_id where e.id = any(:ids) and e.source_forms::jsonb ->> 'file' ~ '^[0-9]{1,18}$'
            """;

    private final JdbcClient jdbc;
    private final Reading reading;

    RowAssets(JdbcClient jdbc, Reading reading) {
        this.jdbc = jdbc;
        this.reading = reading;
    }

    /** The same rows with what the pictures and sounds of entries of shape asset are, in two statements however many they are. */
    List<RowReply> told(List<RowReply> rows) {
        Long[] assets = rows.stream()
                .filter(row -> row.shape().equals(Shape.ASSET.word()))
                .map(RowReply::id)
                .toArray(Long[]::new);
        if (assets.length == 0) {
            return rows;
        }
        Set<Long> files = new HashSet<>();
        rows.forEach(row -> files.addAll(row.named()));
        Map<Long, Map<String, Long>> everywhere = new HashMap<>();
        jdbc.sql(FILES).param("ids", assets).query((RowCallbackHandler) row -> {
            String tag = row.getString("tag");
            if (row.getBoolean("source") || reading.reads(new LanguageTag(tag))) {
                long file = row.getLong("file");
                files.add(file);
                everywhere
                        .computeIfAbsent(row.getLong("id"), any -> new TreeMap<>())
                        .put(tag, file);
            }
        });
        Map<Long, AssetFacts> known = new AssetFactReader(jdbc).of(files);
        return rows.stream()
                .map(row -> row.with(known, everywhere.getOrDefault(row.id(), Map.of())))
                .toList();
    }
}
