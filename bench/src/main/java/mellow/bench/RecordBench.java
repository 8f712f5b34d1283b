package mellow.bench;

import static mellow.bench.Figures.ids;
import static mellow.bench.Figures.percentile;
import static mellow.bench.Figures.seconds;
import static mellow.bench.Figures.sql;

import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.Arrays;
import java.util.Locale;
import java.util.Random;
import tools.jackson.databind.JsonNode;

/** {@code ./mellow bench record}: board, scopes, pages, find and saving in one table of 200,000 entries in 20 languages, 4 million cells. */
public final class RecordBench {

    static final int ENTRIES = Integer.getInteger("mellow.bench.entries", 200_000);
    static final String[] LANGUAGES = {
        "de", "fi", "et", "pl", "pt-BR", "ar", "ja", "fr", "es", "it", "nl", "sv", "da", "nb", "cs", "sk", "hu", "ro",
        "lt", "lv"
    };
    private static final int TIMES = 200;
    private static final int PAGE = 60;
    private static final int WARM_UP = 60;

    private final Product product;
    private final Figures figures;
    private final PrintStream out;

    RecordBench(Product product, PrintStream out) {
        this.product = product;
        this.out = out;
        this.figures = new Figures(out);
    }

    public static void main(String[] arguments) throws Exception {
        PrintStream out = new PrintStream(new FileOutputStream(FileDescriptor.out), true, StandardCharsets.UTF_8);
        try (Product product = new Product()) {
            RecordBench bench = new RecordBench(product, out);
            bench.fill();
            bench.figures.line("work", "entries", "took", "against", "took", "ratio");
            bench.board();
            bench.scopes();
            bench.pages();
            bench.find();
            bench.save();
        }
    }

    /** 200,000 entries of real-looking words; of the cells 88 % settled, 4 % stale, 2 % pencilled, 1 % offered, the rest untranslated. */
    void fill() throws Exception {
        long start = System.nanoTime();
        StringBuilder languages = new StringBuilder();
        for (String tag : LANGUAGES) {
            languages
                    .append(languages.isEmpty() ? "" : ",")
                    .append('"')
                    .append(tag)
                    .append('"');
        }
        product.send("POST", "/api/tables", "{\"name\":\"Large\",\"source\":\"en\",\"languages\":[" + languages + "]}");
        try (Connection connection = product.database();
                Statement statement = connection.createStatement()) {
            statement.execute("set maintenance_work_mem = '512MB'");
            statement.execute("set synchronous_commit = off");
            statement.execute("drop index cell_find, cell_state, cell_unsettled");
            statement.execute(
                    """
                    insert into entry (table_id, position, key, source, section, words, changed_at, source_revision, meaning_revision)
                    select t.id, i, 'unit.' || i %% 997 || '.text.' || i,
                        (array['Lower','Raise','Open','Close','Check','Hold','Start','Stop'])[1 + i %% 8] || ' the ' ||
                        (array['ramp','visor','bilge pump','car deck','gangway','mooring line','fire door','lifeboat','anchor','thruster'])[1 + i / 8 %% 10]
                        || ' number ' || i,
                        'Section ' || i / 200, 5, now(), 2, case when i %% 25 = 0 then 2 else 1 end
                    from ledger_table t, generate_series(1, %d) i where t.slug = 'large'
                    """
                            .formatted(ENTRIES));
            statement.execute(
                    """
                    insert into cell (entry_id, language_id, text, standing, state, based_on, text_version, version, origin, author_id, changed_at, open_offers)
                    select e.id, l.language_id,
                        (array['Rampe','Klappe','Pumpe','Wagendeck','Steg','Leine','Feuertür','Rettungsboot','Anker','Strahlruder'])[1 + (e.position::int + l.language_id) % 10]
                        || ' ' || e.position::int || ' ' || md5(e.id || ' ' || l.language_id),
                        case when h.n < 3 then 1 else 2 end,
                        case when h.n < 1 then 0 when e.meaning_revision = 2 then 2 when h.n < 3 then 4 else 3 end, 1, 1, 1, 'file', p.id, now(), case when h.n < 1 then 1 else 0 end
                    from entry e join table_language l on l.table_id = e.table_id
                    cross join (select min(id) id from person) p
                    cross join lateral (select abs(hashint8(e.id * 31 + l.language_id)) % 100 n) h
                    where h.n < 95
                    """);
            statement.execute(
                    "insert into offer (entry_id, language_id, author_id, text, based_on, opened_version, offered_time) select entry_id, language_id, author_id, 'Offer', 2, 1, now() from cell where state = 0");
            statement.execute(
                    "create index cell_find on cell using gin ((coalesce(folded, text)) gin_trgm_ops) where not unindexed");
            statement.execute("create index cell_state on cell (language_id, entry_id, state)");
            statement.execute(
                    "create index cell_unsettled on cell (language_id, state, entry_id) where state not in (3, 5)");
            statement.execute(
                    "insert into coverage select e.table_id, c.language_id, c.state, count(*), sum(e.words) from entry e join cell c on c.entry_id = e.id where c.state <> 5 group by 1, 2, 3");
            statement.execute(
                    "update ledger_table t set (entries, words) = (select count(*), sum(words) from entry where table_id = t.id)");
            statement.execute("create table bare (entry bigint primary key, text text)");
            statement.execute("insert into bare select id, source from entry");
        }
        try (Connection connection = product.database();
                Statement statement = connection.createStatement()) {
            statement.execute("vacuum analyze");
        }
        out.printf(
                Locale.ROOT, "%,d entries in %d languages made in %.0f s%n", ENTRIES, LANGUAGES.length, seconds(start));
    }

    private void board() throws Exception {
        double bare = sql(product, "select * from coverage");
        figures.compare(
                "board: all counters over HTTP",
                ENTRIES,
                Figures.best(() -> product.get("/api/tables").length),
                "reading the counters",
                bare);
        product.get("/api/board/left");
        figures.compare(
                "board: left to settle and forecasts",
                ENTRIES,
                Figures.best(() -> product.get("/api/board/left").length),
                "reading the counters",
                bare);
    }

    private void scopes() throws Exception {
        String in = "(select id from language where tag in ('de', 'ar', 'ja'))";
        String all =
                "select id, section from entry where table_id = (select id from ledger_table where slug = 'large') and removed_at is null";
        String[][] filters = {
            {"", ""},
            {
                "&only=untranslated",
                " and (select count(*) from cell c where c.entry_id = entry.id and c.language_id in " + in
                        + " and c.state <> 5) < 3"
            },
            {
                "&only=stale,offered",
                " and id in (select entry_id from cell c where c.language_id in " + in + " and c.state in (0, 2))"
            },
            {
                "&words=lifeboat",
                " and (key ilike '%lifeboat%' or source ilike '%lifeboat%' or id in (select entry_id from cell c where c.language_id in "
                        + in + " and text ilike '%lifeboat%'))"
            }
        };
        for (String[] filter : filters) {
            figures.compare(
                    "open a scope in 3 languages " + filter[0].replace("&", ""),
                    ENTRIES,
                    Figures.best(() -> product.get("/api/scope?table=large&in=de,ar,ja" + filter[0]).length),
                    "bare SQL",
                    sql(product, all + filter[1] + " order by position"));
        }
        figures.compare(
                "open a scope in 20 languages only=untranslated",
                ENTRIES,
                Figures.best(
                        () -> product.get("/api/scope?table=large&only=untranslated&in=" + String.join(",", LANGUAGES))
                                .length),
                "bare SQL",
                sql(
                        product,
                        all
                                + " and (select count(*) from cell c where c.entry_id = entry.id and c.state <> 5) < 20 order by position"));
    }

    private void pages() throws Exception {
        for (String filter : new String[] {"", "&only=untranslated", "&only=stale"}) {
            long[] ids = ids(product, "/api/scope?table=large" + filter);
            Random random = new Random(7);
            double[] took = new double[TIMES];
            double[] bare = new double[TIMES];
            try (Connection connection = product.database();
                    PreparedStatement page = connection.prepareStatement(
                            "select e.*, c.* from entry e left join cell c on c.entry_id = e.id and c.language_id in (select id from language where tag in ('de', 'ar', 'ja')) where e.id = any(?)")) {
                for (int i = -WARM_UP; i < TIMES; i++) {
                    int from = random.nextInt(Math.max(1, ids.length - PAGE));
                    long[] wanted = Arrays.copyOfRange(ids, from, Math.min(ids.length, from + PAGE));
                    String query = String.join(
                            ",", Arrays.stream(wanted).mapToObj(Long::toString).toList());
                    long start = System.nanoTime();
                    product.get("/api/rows?in=de,ar,ja&ids=" + query);
                    double over = seconds(start);
                    start = System.nanoTime();
                    page.setArray(
                            1,
                            connection.createArrayOf(
                                    "bigint", Arrays.stream(wanted).boxed().toArray()));
                    try (ResultSet row = page.executeQuery()) {
                        while (row.next()) {
                            row.getString("key");
                        }
                    }
                    if (i >= 0) {
                        took[i] = over;
                        bare[i] = seconds(start);
                    }
                }
            }
            both("a page of 60 rows × 3 languages " + filter.replace("&", ""), took, "one SQL page by key", bare);
        }
    }

    private void find() throws Exception {
        String[] words = {
            "lifeboat",
            "unit.17.text",
            "feuertur",
            "rampe 4711",
            "number 12345",
            "the",
            "a7f3",
            "strahl",
            "zzzz",
            "raise"
        };
        double[] took = new double[TIMES];
        Random random = new Random(3);
        for (int i = -WARM_UP; i < TIMES; i++) {
            String word = words[random.nextInt(words.length)];
            long start = System.nanoTime();
            product.get("/api/find?words=" + word.replace(" ", "%20"));
            if (i >= 0) {
                took[i] = seconds(start);
            }
        }
        out.printf(
                Locale.ROOT,
                "find over keys, sources, notes and texts: median %.1f ms, p95 %.1f ms%n",
                percentile(took, 50) * 1000,
                percentile(took, 95) * 1000);
    }

    private void save() throws Exception {
        long[] ids = ids(product, "/api/scope?table=large&only=untranslated");
        double[] took = new double[TIMES];
        double[] bare = new double[TIMES];
        try (Connection connection = product.database();
                PreparedStatement update = connection.prepareStatement("update bare set text = ? where entry = ?")) {
            for (int i = -WARM_UP; i < TIMES; i++) {
                long id = ids[i + WARM_UP];
                JsonNode cells = product.json(product.get("/api/rows?in=de&ids=" + id))
                        .get(0)
                        .path("cells");
                int version =
                        cells.size() == 0 ? 0 : cells.get(0).path("version").asInt();
                long start = System.nanoTime();
                product.send(
                        "POST",
                        "/api/entries/" + id + "/cells/de/changes",
                        "{\"action\":\"PUT_FORWARD\",\"version\":" + version + ",\"text\":\"Neuer Text " + i
                                + "\",\"meaningConfirmed\":false}");
                double over = seconds(start);
                start = System.nanoTime();
                update.setString(1, "new text " + i);
                update.setLong(2, id);
                update.executeUpdate();
                if (i >= 0) {
                    took[i] = over;
                    bare[i] = seconds(start);
                }
            }
        }
        both("save one cell", took, "one UPDATE committed", bare);
    }

    private void both(String work, double[] took, String against, double[] bare) {
        figures.compare(work + ", median", ENTRIES, percentile(took, 50), against, percentile(bare, 50));
        figures.compare(work + ", p95", ENTRIES, percentile(took, 95), against, percentile(bare, 95));
    }
}
