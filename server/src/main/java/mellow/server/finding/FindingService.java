package mellow.server.finding;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import mellow.core.cell.Standing;
import mellow.core.check.Finding;
import mellow.core.check.Kind;
import mellow.core.check.Measure;
import mellow.server.check.CheckService.FindingReply;
import mellow.server.check.Inspector;
import mellow.server.check.MeasureColumns;
import mellow.server.common.Coded;
import mellow.server.common.Refusal;
import mellow.server.common.TextColumns;
import mellow.server.finding.RecheckService.RecheckState;
import mellow.server.language.LanguageService;
import mellow.server.sheet.SheetService;
import mellow.server.sheet.SheetService.Looked;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.core.simple.JdbcClient.StatementSpec;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** FindingCounts what the checks found in a scope, lists it kind by kind, and gathers what one sure change would mend. Changes nothing. */
@Service
public class FindingService {

    private static final int PAGE = 100;
    private static final int MOST_MENDS = 2_000;
    /** More would keep the screen waiting; what is left is found when these are mended. */
    private static final int MOST_LOOKED_AT = 10_000;

    private static final int AT_ONCE = 500;

    private static final String OF_SCOPE =
            """
            from finding_mask m where m.table_id = any(:tables) and (m.language_id = any(:languages)
                or m.language_id = (select source_language_id from ledger_table where id = m.table_id))
              and (:entries::bigint[] is null or m.entry_id = any(:entries))
            """;
    private static final String COUNTS =
            "select m.language_id, m.stops, m.minds, count(*) texts " + OF_SCOPE + " group by 1, 2, 3";
    private static final String TEXTS = Coded.sql(
            """
            select coalesce(sum(entries), 0) from coverage where table_id = any(:tables) and language_id = any(:languages) and state <> {state.untranslated}
            """);
    private static final String PLACES = "select m.entry_id, m.language_id " + OF_SCOPE
            + """
                     and (m.stops | m.minds) & :bit <> 0 and (m.entry_id, m.language_id) > (:entry, :language)
                    order by m.entry_id, m.language_id limit :most
                    """;
    private static final String TEXT =
            """
            select e.id, e.table_id, t.slug, e.key, e.context, e.section, e.version entry_version, e.translatable, %s, k.l language_id,
                c.text, c.forms, c.standing, c.version, t.source_language_id
            from unnest(:entries::bigint[], :languages::int[]) k(e, l)
            join entry e on e.id = k.e join ledger_table t on t.id = e.table_id
            left join cell c on c.entry_id = k.e and c.language_id = k.l
            """
                    .formatted(MeasureColumns.OF_ENTRY);
    private static final String EXCEPTED =
            """
            select x.entry_id, x.language_id, x.reason, p.name from check_exception x join entry e on e.id = x.entry_id join person p on p.id = x.person_id
            where x.kind = :kind and e.removed_at is null and e.table_id = any(:tables) and x.language_id = any(:languages)
              and (:entries::bigint[] is null or x.entry_id = any(:entries)) order by x.entry_id, x.language_id limit 200
            """;

    private final SheetService sheet;
    private final LanguageService languages;
    private final Inspector inspector;
    private final RecheckService rechecks;
    private final JdbcClient jdbc;

    FindingService(
            SheetService sheet,
            LanguageService languages,
            Inspector inspector,
            RecheckService rechecks,
            JdbcClient jdbc) {
        this.sheet = sheet;
        this.languages = languages;
        this.inspector = inspector;
        this.rechecks = rechecks;
        this.jdbc = jdbc;
    }

    /**
     * How many texts have a finding of a kind.
     *
     * @param stops texts that it stops
     * @param minds texts in which it is to be minded
     * @param usually how much the kind counts where nobody said otherwise: stop, mind or off
     * @param byLanguage how many of both, by tag
     */
    public record KindCount(String kind, int stops, int minds, String usually, Map<String, Integer> byLanguage) {}

    /**
     * What was found in a scope.
     *
     * @param kinds every kind, in the order in which they are told
     * @param texts how many texts there are
     * @param toMend how many of them have a finding
     * @param stopped how many must not be used as they are
     * @param again how far looking again is
     */
    public record FindingCounts(List<KindCount> kinds, long texts, int toMend, int stopped, RecheckState again) {}

    /** FindingCounts what was found. */
    @Transactional(readOnly = true)
    public FindingCounts counts(String scope) {
        Looked in = sheet.looked(scope);
        int n = Kind.values().length;
        int[] stops = new int[n];
        int[] minds = new int[n];
        int[] sums = new int[2];
        List<Map<String, Integer>> byLanguage = new ArrayList<>();
        for (int i = 0; i < n; i++) {
            byLanguage.add(new TreeMap<>());
        }
        of(COUNTS, in).query((RowCallbackHandler) row -> {
            int texts = row.getInt("texts");
            long stopping = row.getLong("stops");
            long minding = row.getLong("minds");
            String tag = languages.tag(row.getInt("language_id")).value();
            sums[0] += texts;
            sums[1] += stopping != 0 ? texts : 0;
            for (Kind kind : Kind.values()) {
                boolean here = ((stopping | minding) & kind.bit()) != 0;
                stops[kind.ordinal()] += (stopping & kind.bit()) != 0 ? texts : 0;
                minds[kind.ordinal()] += (stopping & kind.bit()) == 0 && here ? texts : 0;
                if (here) {
                    byLanguage.get(kind.ordinal()).merge(tag, texts, Integer::sum);
                }
            }
        });
        List<KindCount> kinds = new ArrayList<>();
        for (Kind kind : Kind.values()) {
            kinds.add(new KindCount(
                    kind.word(),
                    stops[kind.ordinal()],
                    minds[kind.ordinal()],
                    kind.usual().word(),
                    byLanguage.get(kind.ordinal())));
        }
        long texts = jdbc.sql(TEXTS)
                .param("tables", in.tables().toArray(Long[]::new))
                .param("languages", in.languages().toArray(Integer[]::new))
                .query(Long.class)
                .single();
        return new FindingCounts(kinds, texts, sums[0], sums[1], rechecks.state(in.tables()));
    }

    private StatementSpec of(String sql, Looked in) {
        return jdbc.sql(sql)
                .param("tables", in.tables().toArray(Long[]::new))
                .param("languages", in.languages().toArray(Integer[]::new))
                .param("entries", in.entries() == null ? null : in.entries().toArray(Long[]::new));
    }

    /**
     * A text with what was found in it.
     *
     * @param language its tag; the table's source language where the source itself is meant
     * @param ofSource whether it is the source itself
     * @param version of the cell, or of the entry for a source
     * @param findings those of the kind asked for
     * @param right why somebody said that it is right, null when nobody did
     * @param by who said so
     */
    public record FindingPlace(
            long entry,
            String table,
            String key,
            String context,
            String section,
            String shape,
            SortedMap<String, String> source,
            String language,
            boolean ofSource,
            SortedMap<String, String> text,
            boolean settled,
            int version,
            List<FindingReply> findings,
            @Nullable String right,
            @Nullable String by) {}

    /**
     * A page of them.
     *
     * @param places what was found, in the order in which entries were made
     * @param right what somebody said is right, on the first page
     * @param next where the next page begins, null when this is the last
     */
    public record FindingPage(List<FindingPlace> places, List<FindingPlace> right, @Nullable String next) {}

    private record Key(long entry, int language) {}

    /** Lists the texts of a scope in which a kind was found. */
    @Transactional(readOnly = true)
    public FindingPage list(String scope, String kind, @Nullable String after) {
        Kind wanted = kind(kind);
        Looked in = sheet.looked(scope);
        List<Key> keys = keys(in, wanted, after, PAGE + 1);
        boolean more = keys.size() > PAGE;
        List<Key> page = more ? keys.subList(0, PAGE) : keys;
        Key last = more ? page.get(PAGE - 1) : null;
        return new FindingPage(
                read(page, wanted, Map.of()),
                after == null || after.isEmpty() ? right(in, wanted) : List.of(),
                last == null ? null : last.entry() + "-" + last.language());
    }

    private List<Key> keys(Looked in, Kind kind, @Nullable String after, int most) {
        long entry = 0;
        int language = 0;
        if (after != null && !after.isEmpty()) {
            String[] parts = after.split("-", 2);
            try {
                entry = Long.parseLong(parts[0]);
                language = Integer.parseInt(parts[parts.length - 1]);
            } catch (NumberFormatException none) {
                throw Refusal.unacceptable(
                        "bad-page", "“{after}” is no place in this list.", Map.of("field", "after", "after", after));
            }
        }
        return of(PLACES, in)
                .param("bit", kind.bit())
                .param("entry", entry)
                .param("language", language)
                .param("most", most)
                .query((row, n) -> new Key(row.getLong(1), row.getInt(2)))
                .list();
    }

    private record Said(String reason, String by) {}

    private List<FindingPlace> right(Looked in, Kind kind) {
        Map<Key, Said> said = new HashMap<>();
        of(EXCEPTED, in).param("kind", kind.word()).query((RowCallbackHandler) row -> said.put(
                new Key(row.getLong("entry_id"), row.getInt("language_id")),
                new Said(row.getString("reason"), row.getString("name"))));
        // Those that ended by themselves are findings again, or the text has none any more.
        return read(List.copyOf(said.keySet()), kind, said).stream()
                .filter(place -> place.right() != null)
                .toList();
    }

    private List<FindingPlace> read(List<Key> keys, Kind kind, Map<Key, Said> said) {
        Map<Key, FindingPlace> places = new HashMap<>();
        Inspector.Look look =
                inspector.look().about(keys.stream().map(Key::entry).toList());
        jdbc.sql(TEXT)
                .param("entries", keys.stream().map(Key::entry).toArray(Long[]::new))
                .param("languages", keys.stream().map(Key::language).toArray(Integer[]::new))
                .query((RowCallbackHandler) row -> {
                    Key key = new Key(row.getLong("id"), row.getInt("language_id"));
                    places.put(key, place(row, key, kind, look, said.get(key)));
                });
        List<FindingPlace> inOrder = new ArrayList<>();
        keys.forEach(key -> {
            FindingPlace place = places.get(key);
            if (place != null) {
                inOrder.add(place);
            }
        });
        return inOrder;
    }

    private FindingPlace place(ResultSet row, Key key, Kind kind, Inspector.Look look, @Nullable Said said)
            throws SQLException {
        Measure measure = MeasureColumns.read(row);
        boolean ofSource = row.getInt("source_language_id") == key.language();
        SortedMap<String, String> text =
                ofSource ? measure.source() : TextColumns.allForms(row.getString("text"), row.getString("forms"));
        Inspector.Place at = new Inspector.Place(key.entry(), row.getLong("table_id"), key.language());
        Said right = said != null && look.right(kind, at, measure, text) ? said : null;
        List<Finding> found = ofSource ? look.atSource(at, measure, row.getString("key")) : look.at(at, measure, text);
        return new FindingPlace(
                key.entry(),
                row.getString("slug"),
                row.getString("key"),
                row.getString("context"),
                row.getString("section"),
                row.getString("shape"),
                measure.source(),
                languages.tag(key.language()).value(),
                ofSource,
                text,
                row.getInt("standing") == Standing.SETTLED.ordinal(),
                ofSource ? row.getInt("entry_version") : row.getInt("version"),
                found.stream()
                        .filter(finding -> finding.kind() == kind)
                        .map(FindingReply::of)
                        .toList(),
                right == null ? null : right.reason(),
                right == null ? null : right.by());
    }

    /**
     * A text as it would be.
     *
     * @param labels what was done to it
     */
    public record MendedText(
            long entry,
            String table,
            String key,
            String language,
            int version,
            boolean settled,
            SortedMap<String, String> before,
            SortedMap<String, String> after,
            Set<String> labels) {}

    /**
     * What can be mended in one sure way.
     *
     * @param texts the first {@value #MOST_MENDS} of them
     * @param looked how many texts with a finding of the kind were looked at, not more than {@value #MOST_LOOKED_AT}
     */
    public record FindingMends(List<MendedText> texts, int looked) {}

    /** FindingMends all that are sure, one after the other in each text, as a proposal. Sources are not mended: what they say is their author's. */
    @Transactional(readOnly = true)
    public FindingMends mends(String scope, String kind) {
        Kind wanted = kind(kind);
        Looked in = sheet.looked(scope);
        List<MendedText> mended = new ArrayList<>();
        int looked = 0;
        String after = null;
        List<Key> keys = keys(in, wanted, after, AT_ONCE);
        while (!keys.isEmpty() && mended.size() < MOST_MENDS && looked < MOST_LOOKED_AT) {
            looked += keys.size();
            mended.addAll(mend(keys, wanted));
            Key last = keys.get(keys.size() - 1);
            keys = keys.size() < AT_ONCE ? List.of() : keys(in, wanted, last.entry() + "-" + last.language(), AT_ONCE);
        }
        return new FindingMends(mended.stream().limit(MOST_MENDS).toList(), looked);
    }

    private List<MendedText> mend(List<Key> keys, Kind kind) {
        List<MendedText> mended = new ArrayList<>();
        Inspector.Look look =
                inspector.look().about(keys.stream().map(Key::entry).toList());
        jdbc.sql(TEXT)
                .param("entries", keys.stream().map(Key::entry).toArray(Long[]::new))
                .param("languages", keys.stream().map(Key::language).toArray(Integer[]::new))
                .query((RowCallbackHandler) row -> {
                    if (row.getString("text") == null
                            || row.getInt("source_language_id") == row.getInt("language_id")) {
                        return;
                    }
                    Measure measure = MeasureColumns.read(row);
                    SortedMap<String, String> before =
                            TextColumns.allForms(row.getString("text"), row.getString("forms"));
                    Set<String> labels = new HashSet<>();
                    Inspector.Place at =
                            new Inspector.Place(row.getLong("id"), row.getLong("table_id"), row.getInt("language_id"));
                    SortedMap<String, String> after = look.mended(kind, at, measure, before, labels);
                    if (!labels.isEmpty()) {
                        mended.add(new MendedText(
                                row.getLong("id"),
                                row.getString("slug"),
                                row.getString("key"),
                                languages.tag(row.getInt("language_id")).value(),
                                row.getInt("version"),
                                row.getInt("standing") == Standing.SETTLED.ordinal(),
                                before,
                                after,
                                labels));
                    }
                });
        return mended;
    }

    /** Numbers of the tables in a scope. */
    List<Long> tables(String scope) {
        return sheet.looked(scope).tables();
    }

    static Kind kind(String word) {
        return Kind.of(word)
                .orElseThrow(() -> Refusal.unacceptable(
                        "unknown-kind",
                        "There is no kind of finding “{said}”.",
                        Map.of("field", "kind", "said", word)));
    }
}
