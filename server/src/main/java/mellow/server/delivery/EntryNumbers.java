package mellow.server.delivery;

import java.util.HashMap;
import java.util.Map;
import mellow.server.table.TableInfo;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Numbers that a product's programs know its entries by: given once, in table order, and never to another entry; those of entries that are gone stay gaps. */
@Component
class EntryNumbers {

    private final JdbcClient jdbc;

    EntryNumbers(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Those that were given. */
    Map<Long, Integer> of(long product) {
        Map<Long, Integer> given = new HashMap<>();
        jdbc.sql("select entry_id, number from entry_number where product_id = :product")
                .param("product", product)
                .query(row -> {
                    given.put(row.getLong(1), row.getInt(2));
                });
        return given;
    }

    /** Gives a number to every entry that has none; whoever calls holds the product's plan. */
    void give(Product product) {
        jdbc.sql(
                        """
                        insert into entry_number (product_id, entry_id, number)
                        select :product, e.id, coalesce((select max(number) from entry_number where product_id = :product), 0)
                            + row_number() over (order by array_position(:tables::bigint[], e.table_id), e.position, e.id)
                        from entry e where e.table_id = any(:tables) and e.removed_at is null
                          and not exists (select 1 from entry_number n where n.product_id = :product and n.entry_id = e.id)
                        """)
                .param("product", product.id())
                .param("tables", product.tables().stream().map(TableInfo::id).toArray(Long[]::new))
                .update();
    }

    /** Those that were given, and those that would be given now. */
    Map<Long, Integer> asGiven(Product product) {
        Map<Long, Integer> given = of(product.id());
        int[] next = {given.values().stream().mapToInt(Integer::intValue).max().orElse(0)};
        jdbc.sql(
                        """
                        select e.id from entry e where e.table_id = any(:tables) and e.removed_at is null
                        order by array_position(:tables::bigint[], e.table_id), e.position, e.id
                        """)
                .param("tables", product.tables().stream().map(TableInfo::id).toArray(Long[]::new))
                .query(row -> {
                    if (!given.containsKey(row.getLong(1))) {
                        given.put(row.getLong(1), ++next[0]);
                    }
                });
        return given;
    }
}
