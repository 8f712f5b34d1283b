package mellow.server.check;

import java.nio.charset.Charset;
import java.nio.charset.IllegalCharsetNameException;
import java.nio.charset.UnsupportedCharsetException;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import mellow.core.check.Ground;
import mellow.core.check.Kind;
import mellow.core.check.Settings;
import mellow.core.check.Weight;
import mellow.core.fit.Face;
import mellow.core.language.LanguageTag;
import mellow.core.wordbook.AgreedTerm;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * What texts of a table are looked at by, as the database has it now: settings of the table and its products, the wordbook, fonts and character sets. Reads it
 * once for each table and language, so it is for one piece of work. Needs a transaction around it.
 */
public final class Grounds {

    private static final JsonMapper JSON = JsonMapper.shared();
    private static final TypeReference<Map<String, String>> WEIGHTS = new TypeReference<>() {};

    /** A table's source language, and settings: its own first, then those of its products. */
    private static final String TABLE =
            """
            select t.source_language_id, l.tag, s.table_id, coalesce(s.weights, '{}') weights, coalesce(s.placeholders, '{}') placeholders,
                coalesce(s.forbidden, '') forbidden, coalesce(s.length_factor, 0) length_factor, coalesce(s.key_rule, '') key_rule
            from ledger_table t join language l on l.id = t.source_language_id
            left join check_setting s on s.table_id = t.id or s.product_id in (
                select u.product_id from product_table u join product p on p.id = u.product_id and p.removed_at is null where u.table_id = t.id)
            where t.id = :table order by s.table_id nulls last, s.product_id
            """;

    private static final String TERMS =
            """
            select t.text term, coalesce(x.text, '') text, coalesce(x.avoid, '{}') avoid, x.forms, t.forms term_forms
            from term t join term_text x on x.term_id = t.id and x.language_id = :target
            where t.removed_at is null and t.status = 'agreed' and t.language_id = :source
              and (t.products = '{}' or exists (select 1 from product_table u where u.table_id = :table and u.product_id = any(t.products)))
            order by length(t.text) desc, t.text
            """;
    /** A language's tag, and what it is shown with in each product that shows it: its font for it, else its font for all; and the product's character set. */
    private static final String SHOWN =
            """
            select l.tag, f.* from language l left join lateral (
                select p.name product, n.name, n.file_id, n.size, null charset
                from product_table u join product p on p.id = u.product_id and p.removed_at is null
                join lateral (select * from product_font f where f.product_id = p.id and (f.language_id = l.id or f.language_id is null)
                    order by f.language_id nulls last limit 1) n on true
                where u.table_id = :table and (exists (select 1 from product_language o where o.product_id = p.id and o.language_id = l.id)
                    or l.id = (select source_language_id from ledger_table where id = :table))
                union all
                select p.name, null, null, null, s.charset
                from product_table u join product p on p.id = u.product_id and p.removed_at is null
                join check_setting s on s.product_id = p.id and s.charset <> ''
                where u.table_id = :table and exists (select 1 from product_language o where o.product_id = p.id and o.language_id = l.id)
                order by 1, 5 nulls first) f on true
            where l.id = :language
            """;

    private final JdbcClient jdbc;
    private final Map<Place, Ground> grounds = new HashMap<>();
    private final Map<Long, Table> tables = new HashMap<>();

    /** Reads from {@code jdbc}. */
    public Grounds(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private record Place(long table, int language) {}

    private record Table(int source, LanguageTag tag, Settings settings) {}

    private record Shown(LanguageTag tag, List<Face> faces) {}

    /** What a table's texts in a language are looked at by. */
    public Ground of(long table, int language) {
        return grounds.computeIfAbsent(new Place(table, language), this::read);
    }

    /** What counts as wrong in a table. */
    public Settings settings(long table) {
        return table(table).settings();
    }

    /** The number of a table's source language. */
    public int sourceLanguage(long table) {
        return table(table).source();
    }

    private Table table(long number) {
        return tables.computeIfAbsent(number, this::readTable);
    }

    private Table readTable(long number) {
        Gathered gathered = new Gathered();
        Integer[] source = new Integer[1];
        String[] tag = new String[1];
        jdbc.sql(TABLE).param("table", number).query((RowCallbackHandler) row -> {
            source[0] = row.getInt("source_language_id");
            tag[0] = row.getString("tag");
            gathered.add(row);
        });
        return new Table(
                Objects.requireNonNull(source[0]),
                new LanguageTag(Objects.requireNonNull(tag[0])),
                gathered.settings());
    }

    private Ground read(Place place) {
        Table table = table(place.table());
        Shown shown = shown(place);
        return Ground.of(table.tag(), shown.tag())
                .with(
                        table.source() == place.language()
                                ? List.of()
                                : terms(place.table(), table.source(), place.language()))
                .with(table.settings())
                .shownIn(shown.faces());
    }

    private Shown shown(Place place) {
        List<Face> faces = new ArrayList<>();
        String[] tag = new String[1];
        jdbc.sql(SHOWN)
                .param("table", place.table())
                .param("language", place.language())
                .query((RowCallbackHandler) row -> {
                    tag[0] = row.getString("tag");
                    String charset = row.getString("charset");
                    if (charset != null) {
                        faces.add(Face.of(
                                "The character set " + charset + " of " + row.getString("product"), charset(charset)));
                    } else if (row.getObject("file_id") != null) {
                        faces.add(Face.of(
                                row.getString("product") + "’s font " + row.getString("name"),
                                Fonts.file(jdbc, row.getLong("file_id")),
                                row.getFloat("size")));
                    }
                });
        return new Shown(new LanguageTag(Objects.requireNonNull(tag[0])), faces);
    }

    private List<AgreedTerm> terms(long table, int source, int language) {
        return jdbc.sql(TERMS)
                .param("table", table)
                .param("source", source)
                .param("target", language)
                .query((row, n) -> new AgreedTerm(
                        row.getString("term"),
                        row.getString("text"),
                        strings(row, "avoid"),
                        strings(row, "forms"),
                        strings(row, "term_forms")))
                .list();
    }

    private static List<String> strings(ResultSet row, String column) throws SQLException {
        return List.of((String[]) row.getArray(column).getArray());
    }

    private static Charset charset(String name) {
        try {
            return Charset.forName(name);
        } catch (IllegalCharsetNameException | UnsupportedCharsetException unknown) {
            throw new IllegalStateException("a character set that this Java does not have: " + name, unknown);
        }
    }

    /** A table's own settings win; where it has none, the strictest of its products does. Patterns and characters of all count. */
    private static final class Gathered {
        private final Map<Kind, Weight> own = new EnumMap<>(Kind.class);
        private final Map<Kind, Weight> inherited = new EnumMap<>(Kind.class);
        private final Set<String> placeholders = new LinkedHashSet<>();
        private final StringBuilder forbidden = new StringBuilder();
        private double factor;
        private String keys = "";

        void add(ResultSet row) throws SQLException {
            boolean ofTable = row.getObject("table_id") != null;
            JSON.readValue(row.getString("weights"), WEIGHTS).forEach((kind, weight) -> Kind.of(kind)
                    .ifPresent(known -> Weight.of(weight).ifPresent(heavy -> {
                        if (ofTable) {
                            own.put(known, heavy);
                        } else {
                            inherited.merge(known, heavy, (one, other) -> one.compareTo(other) > 0 ? one : other);
                        }
                    })));
            placeholders.addAll(List.of((String[]) row.getArray("placeholders").getArray()));
            forbidden.append(row.getString("forbidden"));
            double given = row.getDouble("length_factor");
            if (given > 0 && factor == 0) {
                factor = given;
            }
            if (keys.isEmpty()) {
                keys = row.getString("key_rule");
            }
        }

        Settings settings() {
            Map<Kind, Weight> weights = new EnumMap<>(Kind.class);
            weights.putAll(inherited);
            weights.putAll(own);
            return Settings.of(weights, List.copyOf(placeholders), forbidden.toString(), factor, keys);
        }
    }
}
