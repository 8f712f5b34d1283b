package mellow.server.code;

import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import mellow.core.scan.KeyNames;
import mellow.server.code.CodeLists.Asked;
import mellow.server.code.CodeReplies.MissingKey;
import mellow.server.common.Hashes;
import mellow.server.common.Refusal;
import mellow.server.entry.Description;
import mellow.server.entry.EntryService;
import mellow.server.entry.EntryService.Changed;
import mellow.server.entry.EntryService.Made;
import mellow.server.people.PeopleService;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.ProductReply;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.util.DigestUtils;

/** What becomes of what was found in code: entries of keys that are missing and of texts without keys, or a decision to leave them. */
@Service
class CodeTaking {

    private static final int MOST_PLACES = 5;

    private static final String FOUND =
            "select position, path, line, text from scan_text where scan_id = :scan and position = any(:positions) order by position";
    private static final String DECIDE =
            """
            insert into text_decision (product_id, path, text_hash, decision, entry_id, key, person_id, decided_at)
            select distinct on (d.path, d.hash) :product, d.path, d.hash, :decision, nullif(d.entry, 0), nullif(d.key, ''), :person, :now
            from unnest(:paths::text[], :hashes::bytea[], :entries::bigint[], :keys::text[]) d(path, hash, entry, key)
            on conflict (product_id, path, text_hash) do update set
                decision = excluded.decision, entry_id = excluded.entry_id, key = excluded.key, person_id = excluded.person_id, decided_at = excluded.decided_at
            """;
    private static final String UNDECIDE =
            """
            delete from text_decision d using unnest(:paths::text[], :hashes::bytea[]) u(path, hash)
            where d.product_id = :product and d.path = u.path and d.text_hash = u.hash
            """;
    private static final String KNOWN =
            """
            select distinct on (e.source) e.source, e.id, e.key from entry e join product_table p on p.table_id = e.table_id and p.product_id = :product
            join ledger_table t on t.id = p.table_id and t.removed_at is null
            where md5(e.source) = any(:hashes) and e.removed_at is null and e.translatable and e.shape = 'plain' order by e.source, e.context, e.key
            """;
    private static final String USED =
            """
            insert into code_use (product_id, entry_id, how, since) select :product, e, :how, :now from unnest(:entries::bigint[]) e
            on conflict (product_id, entry_id) do update set how = excluded.how, since = excluded.since
            """;
    private static final String PLACES =
            "select key, coalesce(context, ''), path, line from scan_use where scan_id = :scan and how = 0 and not test and key = any(:keys) order by position";

    private final ProductService products;
    private final CodeLists lists;
    private final CodeEntries entries;
    private final EntryService making;
    private final PeopleService people;
    private final JdbcClient jdbc;
    private final Clock clock;

    CodeTaking(
            ProductService products,
            CodeLists lists,
            CodeEntries entries,
            EntryService making,
            PeopleService people,
            JdbcClient jdbc,
            Clock clock) {
        this.products = products;
        this.lists = lists;
        this.entries = entries;
        this.making = making;
        this.people = people;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** A missing key to be made an entry: as the code names it, in a context or in an empty one, as the entry shall be called, and what its source says. */
    record TakenKey(String name, String context, String key, String source) {

        Asked asked() {
            return new Asked(name, context);
        }
    }

    /** A text to be made an entry, by its number in the look. */
    record TakenText(int position, String key) {}

    /**
     * What came of it.
     *
     * @param change the number for undo, 0 when no entry had to be made
     * @param made how many entries were made
     * @param known how many texts are said by an entry already, and have its key now
     */
    record Taken(long change, int made, int known) {}

    /** Makes entries of keys that no table has. */
    @Transactional
    public Taken keys(long person, String slug, long scan, String table, String section, List<TakenKey> wanted) {
        people.rights(person).requireCoordinator("make entries");
        ProductReply product = held(slug, scan);
        requireTable(product, table);
        Map<Asked, MissingKey> missing = new HashMap<>();
        lists.missing(product, scan, Asked.FIRST, Integer.MAX_VALUE)
                .forEach(one -> missing.put(new Asked(one.key(), one.context()), one));
        Map<Asked, List<String>> places = places(scan, wanted);
        List<Made> made = new ArrayList<>();
        for (TakenKey one : wanted) {
            MissingKey found = missing.get(one.asked());
            if (found == null) {
                throw Refusal.conflict(
                        "not-missing",
                        "“{key}” is not missing any more; look at the list again.",
                        Map.of("key", one.name()));
            }
            boolean same = found.folded()
                    ? KeyNames.folded(one.key().strip()).equals(one.name())
                    : one.key().strip().equals(one.name());
            if (!same) {
                throw Refusal.unacceptable(
                        "another-key",
                        "The code asks for “{key}”, which “{wanted}” would not answer.",
                        Map.of("field", "key", "key", one.name(), "wanted", one.key()));
            }
            made.add(new Made(
                    described(
                            one.key(),
                            one.context(),
                            found.note(),
                            reference(places.getOrDefault(one.asked(), List.of())),
                            section),
                    one.source()));
        }
        Changed changed = making.createMany(person, table, made);
        used(product.id(), changed.entries());
        return new Taken(changed.change(), changed.entries().size(), 0);
    }

    private Map<Asked, List<String>> places(long scan, List<TakenKey> wanted) {
        Map<Asked, List<String>> places = new HashMap<>();
        jdbc.sql(PLACES)
                .param("scan", scan)
                .param("keys", wanted.stream().map(TakenKey::name).toArray(String[]::new))
                .query((row, n) -> places.computeIfAbsent(
                                new Asked(row.getString(1), row.getString(2)), none -> new ArrayList<>())
                        .add(row.getString(3) + ":" + row.getInt(4)))
                .list();
        return places;
    }

    private static String reference(List<String> places) {
        return String.join("\n", places.subList(0, Math.min(places.size(), MOST_PLACES)));
    }

    private static Description described(String key, String context, String note, String reference, String section) {
        return new Description(key, context, note, reference, section, 0, 0, 0, List.of(), true);
    }

    /** A text as it was found. */
    private record FoundText(int position, String path, int line, String text) {}

    /** Makes entries of texts without keys; what an entry says already gets its key. */
    @Transactional
    public Taken texts(long person, String slug, long scan, String table, String section, List<TakenText> wanted) {
        people.rights(person).requireCoordinator("make entries");
        ProductReply product = held(slug, scan);
        requireTable(product, table);
        Map<Integer, String> keys = new TreeMap<>();
        wanted.forEach(one -> keys.put(one.position(), one.key().strip()));
        List<FoundText> found = found(scan, keys.keySet());
        Map<String, Map.Entry<Long, String>> known = known(product, found);
        Set<String> names = entries.byKey(product).names();
        // One key for each text, and as many places as there are in the entry's reference.
        Map<String, String> made = new LinkedHashMap<>();
        Map<String, List<String>> places = new HashMap<>();
        for (FoundText one : found) {
            if (!known.containsKey(one.text())) {
                places.computeIfAbsent(one.text(), none -> new ArrayList<>()).add(one.path() + ":" + one.line());
                made.computeIfAbsent(one.text(), text -> free(Objects.requireNonNull(keys.get(one.position())), names));
            }
        }
        Changed changed = made.isEmpty()
                ? new Changed(0, List.of(), List.of())
                : making.createMany(
                        person,
                        table,
                        made.entrySet().stream()
                                .map(one -> new Made(
                                        described(
                                                one.getValue(),
                                                "",
                                                "",
                                                reference(Objects.requireNonNull(places.get(one.getKey()))),
                                                section),
                                        one.getKey()))
                                .toList());
        int next = 0;
        for (Map.Entry<String, String> one : made.entrySet()) {
            known.put(one.getKey(), Map.entry(changed.entries().get(next++), one.getValue()));
        }
        decide(
                person,
                product.id(),
                "taken",
                found,
                found.stream()
                        .map(one ->
                                Objects.requireNonNull(known.get(one.text())).getKey())
                        .toArray(Long[]::new),
                found.stream()
                        .map(one ->
                                Objects.requireNonNull(known.get(one.text())).getValue())
                        .toArray(String[]::new));
        used(product.id(), known.values().stream().map(Map.Entry::getKey).toList());
        return new Taken(
                changed.change(),
                made.size(),
                found.size()
                        - (int) found.stream()
                                .filter(one -> made.containsKey(one.text()))
                                .count());
    }

    /** A key that nobody has: the wanted one, with a number where that is in use. */
    private static String free(String wanted, Set<String> names) {
        String key = wanted;
        for (int number = 2; !names.add(KeyNames.folded(key)); number++) {
            key = wanted + "-" + number;
        }
        return key;
    }

    private List<FoundText> found(long scan, Set<Integer> positions) {
        List<FoundText> found = jdbc.sql(FOUND)
                .param("scan", scan)
                .param("positions", positions.toArray(Integer[]::new))
                .query((row, n) -> new FoundText(row.getInt(1), row.getString(2), row.getInt(3), row.getString(4)))
                .list();
        if (found.size() < positions.size() || found.isEmpty()) {
            throw Refusal.conflict(
                    "no-such-text", "Some of these texts are not in the last look through the code.", Map.of());
        }
        return found;
    }

    private Map<String, Map.Entry<Long, String>> known(ProductReply product, List<FoundText> found) {
        Map<String, Map.Entry<Long, String>> known = new HashMap<>();
        jdbc.sql(KNOWN)
                .param("product", product.id())
                .param(
                        "hashes",
                        found.stream()
                                .map(one ->
                                        DigestUtils.md5DigestAsHex(one.text().getBytes(StandardCharsets.UTF_8)))
                                .distinct()
                                .toArray(String[]::new))
                .query((row, n) -> known.put(row.getString(1), Map.entry(row.getLong(2), row.getString(3))))
                .list();
        known.keySet().retainAll(found.stream().map(FoundText::text).toList());
        return known;
    }

    /** Puts texts off, ignores them for good, or opens them again. */
    @Transactional
    public int decide(long person, String slug, long scan, String decision, Set<Integer> positions) {
        people.rights(person).requireCoordinator("decide about texts in code");
        ProductReply product = held(slug, scan);
        List<FoundText> found = found(scan, positions);
        if (decision.equals("open")) {
            jdbc.sql(UNDECIDE)
                    .param("product", product.id())
                    .param("paths", found.stream().map(FoundText::path).toArray(String[]::new))
                    .param("hashes", hashes(found))
                    .update();
        } else if (decision.equals("later") || decision.equals("ignored")) {
            decide(
                    person,
                    product.id(),
                    decision,
                    found,
                    found.stream().map(one -> 0L).toArray(Long[]::new),
                    found.stream().map(one -> "").toArray(String[]::new));
        } else {
            throw Refusal.unacceptable(
                    "unknown-decision",
                    "A text is put off (later), ignored or open, not “{decision}”.",
                    Map.of("field", "decision", "decision", decision));
        }
        return found.size();
    }

    private void decide(long person, long product, String decision, List<FoundText> found, Long[] of, String[] keys) {
        jdbc.sql(DECIDE)
                .param("product", product)
                .param("decision", decision)
                .param("person", person)
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .param("paths", found.stream().map(FoundText::path).toArray(String[]::new))
                .param("hashes", hashes(found))
                .param("entries", of)
                .param("keys", keys)
                .update();
    }

    private static byte[][] hashes(List<FoundText> found) {
        return found.stream().map(one -> Hashes.sha256(one.text())).toArray(byte[][]::new);
    }

    private void used(long product, List<Long> made) {
        jdbc.sql(USED)
                .param("product", product)
                .param("how", CodeUseKind.USED.code())
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .param("entries", made.toArray(Long[]::new))
                .update();
    }

    /** The product, when the look is its last still. */
    private ProductReply held(String slug, long scan) {
        ProductReply product = products.find(slug);
        lists.requireLast(product, scan);
        return product;
    }

    private static void requireTable(ProductReply product, String table) {
        if (product.tables().stream().noneMatch(one -> one.slug().equals(table))) {
            throw Refusal.unacceptable(
                    "not-its-table",
                    "{product} does not use this table.",
                    Map.of("field", "table", "product", product.name()));
        }
    }
}
