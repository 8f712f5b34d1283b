package mellow.server.code;

import java.sql.Types;
import java.time.Clock;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import mellow.core.scan.FileFindings;
import mellow.core.scan.HardText;
import mellow.core.scan.KeyUse;
import mellow.core.scan.KeyUse.How;
import mellow.core.text.Keepable;
import mellow.server.code.CodeEntries.ByKey;
import mellow.server.code.Scanning.Seen;
import mellow.server.common.Refusal;
import mellow.server.product.ProductService.ProductReply;
import mellow.server.run.RunService.Progress;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.namedparam.MapSqlParameterSource;
import org.springframework.jdbc.core.namedparam.NamedParameterJdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Keeps what was found in code, compares it with what was found before, and says of each entry how the code uses it. */
@Component
class FoundWriter {

    private static final int MOST_USES = 1_000_000;
    private static final int MOST_TEXTS = 200_000;
    private static final int AT_ONCE = 5_000;
    private static final int LONGEST_PATH = 1_000;
    private static final int LONGEST = 4_000;
    private static final JsonMapper JSON = JsonMapper.shared();

    private static final String USE =
            """
            insert into scan_use (scan_id, position, path, line, at_column, around, how, folded, test, key, context, said, note, given, names)
            values (:scan, :position, :path, :line, :column, :around, :how, :folded, :test, :key, :context, :said, :note, :given, :names)
            """;
    private static final String TEXT =
            """
            insert into scan_text (scan_id, position, path, line, at_column, around, text, kind, likelihood, composed, lines, from_at, to_at, at_end)
            values (:scan, :position, :path, :line, :column, :around, :text, :kind, :likelihood, :composed, :lines, :from, :to, :end)
            """;
    private static final String FILE =
            "insert into scan_file (scan_id, path, import_after, import_line, imports) values (:scan, :path, :after, :line, :imports) on conflict do nothing";
    private static final String LAST =
            "select id from scan where product_id = :product and done_at is not null order by done_at desc, id desc limit 1";

    private static final String FRESH_KEYS =
            """
            update scan_use u set fresh = true where u.scan_id = :scan
              and not exists (select 1 from scan_use b where b.scan_id = :before and b.key = u.key and b.folded = u.folded and b.context is not distinct from u.context)
            """;
    private static final String KEYS_NEW =
            "select count(distinct (key, folded, context)) from scan_use where scan_id = :scan and fresh and how = 0";
    private static final String KEYS_GONE =
            """
            select count(distinct (b.key, b.folded, b.context)) from scan_use b where b.scan_id = :before and b.how = 0
              and not exists (select 1 from scan_use u where u.scan_id = :scan and u.key = b.key and u.folded = b.folded and u.context is not distinct from b.context)
            """;
    /** Of one text in one file as many as before are the same ones; of the rest as many as went from other files have moved. */
    private static final String FRESH_TEXTS =
            """
            with now as (
                select position, path, text, row_number() over (partition by path, text order by position) turn from scan_text where scan_id = :scan),
            was as (
                select position, path, text, row_number() over (partition by path, text order by position) turn from scan_text where scan_id = :before),
            came as (
                select position, text, row_number() over (partition by text order by position) turn from now
                where not exists (select 1 from was where was.path = now.path and was.text = now.text and was.turn = now.turn)),
            went as (
                select text, path, row_number() over (partition by text order by position) turn from was
                where not exists (select 1 from now where was.path = now.path and was.text = now.text and was.turn = now.turn)),
            fresh as (
                update scan_text t set fresh = true from came c where t.scan_id = :scan and t.position = c.position
                  and not exists (select 1 from went w where w.text = c.text and w.turn = c.turn) returning t.position)
            select (select count(*) from fresh) fresh,
                   (select count(*) from went w where not exists (select 1 from came c where c.text = w.text and c.turn = w.turn)) gone,
                   (select count(*) from went w join came c on c.text = w.text and c.turn = w.turn) moved
            """;
    /** A text that stands in another file now is decided as it was. */
    private static final String DECISIONS_MOVE =
            """
            insert into text_decision (product_id, path, text_hash, decision, entry_id, key, person_id, decided_at)
            select distinct on (n.path, d.text_hash) d.product_id, n.path, d.text_hash, d.decision, d.entry_id, d.key, d.person_id, d.decided_at
            from scan_text n join text_decision d on d.product_id = :product and d.text_hash = sha256(convert_to(n.text, 'UTF8')) and d.path <> n.path
            where n.scan_id = :scan and not n.fresh
              and not exists (select 1 from scan_text b where b.scan_id = :before and b.path = n.path and b.text = n.text)
              and not exists (select 1 from scan_text s where s.scan_id = :scan and s.path = d.path and s.text = n.text)
            order by n.path, d.text_hash, d.decided_at desc
            on conflict do nothing
            """;

    private static final String USED =
            """
            insert into code_use (product_id, entry_id, how, since)
            select :product, u.entry, u.how, :now from unnest(:entries::bigint[], :hows::smallint[]) u(entry, how)
            on conflict (product_id, entry_id) do update set how = excluded.how, since = excluded.since where code_use.how <> excluded.how
            """;

    private final CodeEntries entries;
    private final NamedParameterJdbcTemplate template;
    private final JdbcClient jdbc;
    private final Clock clock;

    FoundWriter(CodeEntries entries, NamedParameterJdbcTemplate template, JdbcClient jdbc, Clock clock) {
        this.entries = entries;
        this.template = template;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** Something that hands over what was found, file by file. */
    @FunctionalInterface
    interface Findings {
        void each(Consumer<FileFindings> take);
    }

    /** Keeps it as the product's last look. In the transaction of the run. */
    void write(long scan, ProductReply product, Seen seen, Findings findings, Progress progress) {
        // Two looks that end at once are compared one after the other.
        jdbc.sql("select pg_advisory_xact_lock(hashtext('scanning'), hashtext(:product))")
                .param("product", Long.toString(product.id()))
                .query((row, n) -> n)
                .single();
        Kept kept = new Kept(scan, progress);
        findings.each(kept::file);
        kept.send();
        @Nullable
        Long before = jdbc.sql(LAST)
                .param("product", product.id())
                .query(Long.class)
                .optional()
                .orElse(null);
        OffsetDateTime now = clock.instant().atOffset(ZoneOffset.UTC);
        Map<String, Object> compared = before == null ? Map.of() : compare(scan, before, product.id());
        used(product, kept, now);
        jdbc.sql(
                        "update scan set done_at = :now, files = :files, lines = :lines, skipped = :skipped::jsonb, compared = :compared::jsonb where id = :scan")
                .param("now", now)
                .param("files", seen.files())
                .param("lines", seen.lines())
                .param(
                        "skipped",
                        JSON.writeValueAsString(
                                Map.of("ignored", seen.ignored(), "binary", seen.binary(), "large", seen.large())))
                .param("compared", JSON.writeValueAsString(compared))
                .param("scan", scan)
                .update();
        forget(product.id(), scan, before);
    }

    private Map<String, Object> compare(long scan, long before, long product) {
        Map<String, Object> both = Map.of("scan", scan, "before", before, "product", product);
        jdbc.sql("analyze scan_use, scan_text").update();
        template.update(FRESH_KEYS, both);
        Map<String, Object> texts = template.queryForMap(FRESH_TEXTS, both);
        template.update(DECISIONS_MOVE, both);
        Map<String, Object> compared = new HashMap<>();
        compared.put("keysNew", template.queryForObject(KEYS_NEW, both, Long.class));
        compared.put("keysGone", template.queryForObject(KEYS_GONE, both, Long.class));
        compared.put("textsNew", texts.get("fresh"));
        compared.put("textsGone", texts.get("gone"));
        compared.put("textsMoved", texts.get("moved"));
        return compared;
    }

    /** How each entry is used, by the surest of its uses. */
    private void used(ProductReply product, Kept kept, OffsetDateTime now) {
        ByKey all = entries.byKey(product);
        Map<Long, Short> hows = new HashMap<>(all.size() * 2);
        all.each(entry -> hows.put(entry, CodeUseKind.UNUSED.code()));
        kept.distinct
                .values()
                .forEach(one ->
                        all.meant(one.use, entry -> hows.merge(entry, one.kind.code(), (a, b) -> a > b ? a : b)));
        List<Map.Entry<Long, Short>> rows =
                hows.entrySet().stream().sorted(Map.Entry.comparingByKey()).toList();
        for (int from = 0; from < rows.size(); from += AT_ONCE) {
            List<Map.Entry<Long, Short>> some = rows.subList(from, Math.min(rows.size(), from + AT_ONCE));
            jdbc.sql(USED)
                    .param("product", product.id())
                    .param("now", now)
                    .param("entries", some.stream().map(Map.Entry::getKey).toArray(Long[]::new))
                    .param("hows", some.stream().map(Map.Entry::getValue).toArray(Short[]::new))
                    .update();
        }
    }

    /** Of scans before the last two the figures stay. */
    private void forget(long product, long scan, @Nullable Long before) {
        for (String table : List.of("scan_use", "scan_text", "scan_file")) {
            jdbc.sql(
                            "delete from " + table
                                    + " where scan_id in (select id from scan where product_id = :product and id <> :scan and id <> :before)")
                    .param("product", product)
                    .param("scan", scan)
                    .param("before", before == null ? scan : before)
                    .update();
        }
    }

    /** A key in the way it is used, once for all its places. */
    private record Distinct(KeyUse use, CodeUseKind kind) {}

    private record Name(String key, boolean folded, How how, @Nullable String context, boolean test) {}

    /** Rows that wait, and what they have in common. */
    private final class Kept {
        private final long scan;
        private final Progress progress;
        private final List<MapSqlParameterSource> uses = new ArrayList<>();
        private final List<MapSqlParameterSource> texts = new ArrayList<>();
        private final List<MapSqlParameterSource> files = new ArrayList<>();
        private final Map<Name, Distinct> distinct = new HashMap<>();
        private final Set<String> paths = new HashSet<>();
        private int useCount;
        private int textCount;

        private Kept(long scan, Progress progress) {
            this.scan = scan;
            this.progress = progress;
        }

        void file(FileFindings found) {
            require(found.path(), LONGEST_PATH);
            if (!paths.add(found.path())) {
                throw Refusal.unacceptable(
                        "path-twice",
                        "The file “{path}” was told twice.",
                        Map.of("path", Keepable.shown(found.path(), 200)));
            }
            for (KeyUse use : found.uses()) {
                use(found, use);
            }
            for (HardText text : found.texts()) {
                text(found, text);
            }
            if (!found.texts().isEmpty()) {
                require(found.imports().line(), LONGEST);
                require(found.imports().existing(), LONGEST);
                files.add(new MapSqlParameterSource()
                        .addValue("scan", scan)
                        .addValue("path", found.path())
                        .addValue("after", found.imports().after())
                        .addValue("line", found.imports().line())
                        .addValue("imports", found.imports().existing()));
            }
            if (uses.size() + texts.size() > AT_ONCE) {
                send();
            }
        }

        private void use(FileFindings found, KeyUse use) {
            if (++useCount > MOST_USES) {
                throw tooMany("uses of keys", MOST_USES);
            }
            require(use.key(), LONGEST_PATH);
            require(use.context(), LONGEST);
            require(use.text(), LONGEST);
            require(use.note(), LONGEST);
            require(use.place().around(), LONGEST);
            KeyUse.Values values = use.values();
            uses.add(new MapSqlParameterSource()
                    .addValue("scan", scan)
                    .addValue("position", useCount)
                    .addValue("path", found.path())
                    .addValue("line", use.place().line())
                    .addValue("column", use.place().column())
                    .addValue("around", use.place().around())
                    .addValue("how", use.how().ordinal())
                    .addValue("folded", use.folded())
                    .addValue("test", found.test())
                    .addValue("key", use.key())
                    .addValue("context", use.context())
                    .addValue("said", use.text())
                    .addValue("note", use.note())
                    .addValue("given", values == null ? null : values.count(), Types.INTEGER)
                    .addValue("names", values == null ? null : values.names().toArray(String[]::new), Types.ARRAY));
            Name name = new Name(use.key(), use.folded(), use.how(), use.context(), found.test());
            distinct.computeIfAbsent(name, none -> new Distinct(use, CodeUseKind.of(use.how(), found.test())));
        }

        private void text(FileFindings found, HardText text) {
            if (++textCount > MOST_TEXTS) {
                throw tooMany("texts without keys", MOST_TEXTS);
            }
            require(text.text(), LONGEST);
            require(text.place().around(), LONGEST);
            require(text.spot().lines(), LONGEST);
            HardText.Spot spot = text.spot();
            boolean known = spot.known()
                    && spot.from() >= 0
                    && spot.to() <= spot.lines().length();
            texts.add(new MapSqlParameterSource()
                    .addValue("scan", scan)
                    .addValue("position", textCount)
                    .addValue("path", found.path())
                    .addValue("line", text.place().line())
                    .addValue("column", text.place().column())
                    .addValue("around", text.place().around())
                    .addValue("text", text.text())
                    .addValue("kind", CodeSettings.word(text.kind()))
                    .addValue("likelihood", text.likelihood())
                    .addValue("composed", text.composed())
                    .addValue("lines", known ? spot.lines() : null)
                    .addValue("from", known ? spot.from() : null, Types.INTEGER)
                    .addValue("to", known ? spot.to() : null, Types.INTEGER)
                    .addValue("end", known ? spot.last() : null, Types.BOOLEAN));
        }

        private void send() {
            progress.at(useCount, useCount + 1L);
            send(USE, uses);
            send(TEXT, texts);
            send(FILE, files);
        }

        private void send(String sql, List<MapSqlParameterSource> rows) {
            if (!rows.isEmpty()) {
                template.batchUpdate(sql, rows.toArray(MapSqlParameterSource[]::new));
                rows.clear();
            }
        }

        private void require(@Nullable String text, int longest) {
            if (text != null) {
                Keepable.against(text, longest).ifPresent(why -> {
                    throw Refusal.unacceptable("bad-findings", "Something that was found {why}.", Map.of("why", why));
                });
            }
        }

        private Refusal tooMany(String what, int most) {
            return Refusal.unacceptable(
                    "too-many-findings",
                    "The code has more than {most} {what}; leave out what was made by programs.",
                    Map.of("most", most, "what", what));
        }
    }
}
