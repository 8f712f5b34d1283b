package mellow.server.code;

import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Tells where the code of products uses an entry. */
@Service
public class CodeUses {

    private static final int MOST = 200;

    private static final String USES =
            """
            select p.slug, p.name, u.path, u.line, u.around, u.how, u.test from entry e
            join product_table pt on pt.table_id = e.table_id
            join product p on p.id = pt.product_id and p.removed_at is null
            join lateral (select id from scan where product_id = p.id and done_at is not null order by done_at desc, id desc limit 1) s on true
            join scan_use u on u.scan_id = s.id
              and u.key = any(array[e.key, translate(e.key, '.-/:', '____')]) and (u.folded or u.key = e.key)
              and (not u.folded or u.key = translate(e.key, '.-/:', '____')) and (u.context is null or u.context = e.context)
            where e.id = :entry order by u.how, u.test, p.name, u.position limit :most
            """;

    private final JdbcClient jdbc;

    CodeUses(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * A place in the code of a product that uses an entry.
     *
     * @param product the product's name in addresses
     * @param how used, maybe or tests
     */
    public record CodePlace(String product, String productName, String path, int line, String around, String how) {}

    /** The places in the code of all products that use an entry by its whole key, at most 200. */
    @Transactional(readOnly = true)
    public List<CodePlace> of(long entry) {
        return jdbc.sql(USES)
                .param("entry", entry)
                .param("most", MOST)
                .query((row, n) -> new CodePlace(
                        row.getString(1),
                        row.getString(2),
                        row.getString(3),
                        row.getInt(4),
                        row.getString(5),
                        row.getBoolean(7) ? "tests" : row.getInt(6) == 0 ? "used" : "maybe"))
                .list();
    }
}
