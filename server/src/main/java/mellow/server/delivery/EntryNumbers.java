package mellow.server.delivery;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Numbers that a product's programs know its entries by: given once, as entries come, and never to another entry; those of entries that are gone stay gaps. */
@Component
class EntryNumbers {

    private final JdbcClient jdbc;

    EntryNumbers(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** The numbers of a product, and those that are given while something is made. */
    static final class Numbers {
        private final Map<Long, Integer> given;
        private final Map<Long, Integer> added = new LinkedHashMap<>();
        private int last;

        private Numbers(Map<Long, Integer> given) {
            this.given = given;
            this.last =
                    given.values().stream().mapToInt(Integer::intValue).max().orElse(0);
        }

        /** The number of an entry: the one that it has, or the next. */
        int of(long entry) {
            Integer had = given.get(entry);
            return had != null ? had : added.computeIfAbsent(entry, one -> ++last);
        }
    }

    /** The numbers of a product; whoever means to keep what is added holds the product's plan. */
    Numbers of(long product) {
        Map<Long, Integer> given = new HashMap<>();
        jdbc.sql("select entry_id, number from entry_number where product_id = :product")
                .param("product", product)
                .query(row -> {
                    given.put(row.getLong(1), row.getInt(2));
                });
        return new Numbers(given);
    }

    /** Keeps what was added. */
    void keep(long product, Numbers numbers) {
        if (!numbers.added.isEmpty()) {
            jdbc.sql(
                            "insert into entry_number (product_id, entry_id, number) select :product, n.entry, n.number from unnest(:entries::bigint[], :numbers::int[]) n (entry, number)")
                    .param("product", product)
                    .param("entries", numbers.added.keySet().toArray(Long[]::new))
                    .param("numbers", numbers.added.values().toArray(Integer[]::new))
                    .update();
        }
    }
}
