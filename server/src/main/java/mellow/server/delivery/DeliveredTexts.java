package mellow.server.delivery;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import mellow.core.bundle.BundleText;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import mellow.core.product.ProductLanguages;
import mellow.server.record.RecordReader;
import mellow.server.table.TableInfo;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What was in force in a product when it was delivered, for those who hand it on; who may have it is theirs to ask. */
@Component
public class DeliveredTexts {

    private static final String DELIVERIES =
            "select id, number, at from delivery where product_id = :product and recalled_at is null ";

    private final JdbcClient jdbc;
    private final Contents contents;
    private final DeliveryRecord record;
    private final ProductLoader products;
    private final RecordReader records;

    DeliveredTexts(
            JdbcClient jdbc, Contents contents, DeliveryRecord record, ProductLoader products, RecordReader records) {
        this.jdbc = jdbc;
        this.contents = contents;
        this.record = record;
        this.products = products;
        this.records = records;
    }

    /** A delivery that was not recalled. */
    public record Snapshot(long id, int number, Instant at) {}

    /** The last one of a product. */
    @Transactional(readOnly = true)
    public Optional<Snapshot> last(long product) {
        return jdbc.sql(DELIVERIES + "order by number desc limit 1")
                .param("product", product)
                .query((row, n) -> snapshot(row))
                .optional();
    }

    /** One of a product, unless it was recalled. */
    @Transactional(readOnly = true)
    public Optional<Snapshot> numbered(long product, int number) {
        return jdbc.sql(DELIVERIES + "and number = :number")
                .param("product", product)
                .param("number", number)
                .query((row, n) -> snapshot(row))
                .optional();
    }

    private static Snapshot snapshot(ResultSet row) throws SQLException {
        return new Snapshot(
                row.getLong("id"), row.getInt("number"), row.getTimestamp("at").toInstant());
    }

    /** What was in force in a language then, by entry in the order of the tables; empty where the language was not delivered. */
    @Transactional(readOnly = true)
    public Map<Long, BundleText> texts(Snapshot delivery, LanguageTag tag) {
        Map<Long, BundleText> texts = new LinkedHashMap<>();
        record.texts(delivery.id, tag)
                .ifPresent(hash -> TextLine.each(
                        contents.open(hash),
                        line -> texts.put(line.entry(), new BundleText(line.key(), line.context(), line.forms()))));
        return texts;
    }

    /** What would be in force in a language now. */
    @Transactional(readOnly = true)
    public Map<Long, BundleText> now(String slug, LanguageTag tag) {
        Product product = products.product(slug);
        Map<Long, BundleText> now = new LinkedHashMap<>();
        for (TableInfo table : product.tables()) {
            records.texts(table.id(), List.of(tag), false, RecordReader.ALL, entry -> {
                FileText text = SharedReading.InForce.of(entry, table, tag);
                if (!text.isEmpty()) {
                    now.put(
                            entry.id(),
                            new BundleText(
                                    entry.entryId().key(), entry.entryId().context(), text.forms()));
                }
            });
        }
        return now;
    }

    /**
     * The languages of a product as they are answered for.
     *
     * @param source the one that its first table is written in
     */
    public record Spoken(ProductLanguages languages, LanguageTag source) {}

    /** The same of one that has a table and a language. */
    @Transactional(readOnly = true)
    public Spoken languages(String slug) {
        Product product = products.product(slug);
        return new Spoken(product.languages(), product.source());
    }
}
