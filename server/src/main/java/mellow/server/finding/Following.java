package mellow.server.finding;

import java.util.List;
import mellow.server.finding.RecheckService.What;
import mellow.server.product.ProductService.ProductChanged;
import mellow.server.wordbook.WordsChanged;
import org.springframework.context.event.EventListener;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Has texts looked at again when the wordbook or a product changed, in the transaction that changed it. */
@Component
class Following {

    private static final String TABLES_OF_LANGUAGE =
            "select id from ledger_table where source_language_id = :language and removed_at is null order by id";
    private static final String TABLES_WITH_SETTINGS =
            """
            select t.id from ledger_table t where t.id = any(:tables) and t.removed_at is null
              and (exists (select 1 from check_setting where product_id = :product) or exists (select 1 from product_font where product_id = :product))
            order by 1
            """;

    private final RecheckService rechecks;
    private final JdbcClient jdbc;

    Following(RecheckService rechecks, JdbcClient jdbc) {
        this.rechecks = rechecks;
        this.jdbc = jdbc;
    }

    @EventListener
    void wordsChanged(WordsChanged changed) {
        List<Long> tables = jdbc.sql(TABLES_OF_LANGUAGE)
                .param("language", changed.source())
                .query(Long.class)
                .list();
        rechecks.ask(tables, changed.person(), new What(changed.languages(), changed.words(), false));
    }

    /** What a product says counts in other tables or languages now. */
    @EventListener
    void productChanged(ProductChanged changed) {
        List<Long> tables = jdbc.sql(TABLES_WITH_SETTINGS)
                .param("product", changed.product())
                .param("tables", changed.tables().toArray(Long[]::new))
                .query(Long.class)
                .list();
        rechecks.ask(tables, changed.person(), What.ALL);
    }
}
