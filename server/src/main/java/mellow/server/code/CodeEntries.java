package mellow.server.code;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;
import mellow.core.scan.KeyNames;
import mellow.core.scan.KeyUse;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.ProductReply;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** The entries of a product by their keys, as code names them. */
@Component
class CodeEntries {

    private static final String ENTRIES =
            """
            select e.id, e.key, e.context from entry e join product_table p on p.table_id = e.table_id
            join ledger_table t on t.id = p.table_id and t.removed_at is null where p.product_id = :product and e.removed_at is null
            """;

    private final ProductService products;
    private final JdbcClient jdbc;

    CodeEntries(ProductService products, JdbcClient jdbc) {
        this.products = products;
        this.jdbc = jdbc;
    }

    /** The keys of a product. */
    @Transactional(readOnly = true)
    public Set<String> keys(String slug) {
        return keys(products.find(slug));
    }

    Set<String> keys(ProductReply product) {
        Set<String> keys = new HashSet<>();
        jdbc.sql(ENTRIES)
                .param("product", product.id())
                .query((row, n) -> keys.add(row.getString(2)))
                .list();
        return keys;
    }

    /** An entry as code may name it. */
    private record Named(long id, String context) {}

    /** All of a product's entries by key, and by their names as resources. */
    static final class ByKey {
        private final NavigableMap<String, List<Named>> exact = new TreeMap<>();
        private final NavigableMap<String, List<Named>> folded = new TreeMap<>();
        private int size;

        /** How many entries there are. */
        int size() {
            return size;
        }

        /** Whether some entry is meant by a whole key. */
        boolean knows(KeyUse use) {
            return (use.folded() ? folded : exact).containsKey(use.key());
        }

        /** Tells the entries that a use means: of that context when it names one, those that begin and end so when a part of the key is computed. */
        void meant(KeyUse use, Consumer<Long> take) {
            NavigableMap<String, List<Named>> all = use.folded() ? folded : exact;
            int hole = use.how() == KeyUse.How.PART ? use.key().indexOf('*') : -1;
            if (hole < 0) {
                tell(all.get(use.key()), use.context(), take);
                return;
            }
            String begins = use.key().substring(0, hole);
            String ends = use.key().substring(use.key().lastIndexOf('*') + 1);
            int least = begins.length() + ends.length();
            all.tailMap(begins, true).entrySet().stream()
                    .takeWhile(one -> one.getKey().startsWith(begins))
                    .filter(one -> one.getKey().length() > least && one.getKey().endsWith(ends))
                    .forEach(one -> tell(one.getValue(), use.context(), take));
        }

        private static void tell(@Nullable List<Named> named, @Nullable String context, Consumer<Long> take) {
            if (named != null) {
                named.stream()
                        .filter(one -> context == null || one.context.equals(context))
                        .forEach(one -> take.accept(one.id));
            }
        }

        /** Every entry. */
        void each(Consumer<Long> take) {
            exact.values().forEach(named -> named.forEach(one -> take.accept(one.id)));
        }

        /** The names that are in use, as of resources. */
        Set<String> names() {
            return new HashSet<>(folded.keySet());
        }
    }

    ByKey byKey(ProductReply product) {
        ByKey all = new ByKey();
        Map<String, String> shared = new HashMap<>();
        jdbc.sql(ENTRIES)
                .param("product", product.id())
                .query((row, n) -> {
                    Named named =
                            new Named(row.getLong(1), shared.computeIfAbsent(row.getString(3), context -> context));
                    String key = row.getString(2);
                    all.exact.computeIfAbsent(key, none -> new ArrayList<>(1)).add(named);
                    all.folded
                            .computeIfAbsent(KeyNames.folded(key), none -> new ArrayList<>(1))
                            .add(named);
                    all.size++;
                    return named;
                })
                .list();
        return all;
    }
}
