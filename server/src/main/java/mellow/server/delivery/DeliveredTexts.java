package mellow.server.delivery;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import mellow.core.bundle.BundleText;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import mellow.core.merge.RecordCell;
import mellow.core.product.ProductLanguage;
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
    private final Judge judge;

    DeliveredTexts(
            JdbcClient jdbc,
            Contents contents,
            DeliveryRecord record,
            ProductLoader products,
            RecordReader records,
            Judge judge) {
        this.jdbc = jdbc;
        this.contents = contents;
        this.record = record;
        this.products = products;
        this.records = records;
        this.judge = judge;
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

    /** Whether the database that is read has a delivery already; a replica may not. */
    @Transactional(readOnly = true)
    public boolean has(Snapshot delivery) {
        return jdbc.sql("select exists (select from delivery where id = :id and number = :number and at = :at)")
                .param("id", delivery.id)
                .param("number", delivery.number)
                .param("at", delivery.at.atOffset(ZoneOffset.UTC))
                .query(Boolean.class)
                .single();
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

    /**
     * What would be in force in a language now.
     *
     * @param offers whether the newest offer stands in where nothing is settled, and else a pencilled text
     */
    @Transactional(readOnly = true)
    public Map<Long, BundleText> now(String slug, LanguageTag tag, boolean offers) {
        Product product = products.product(slug);
        Map<Long, BundleText> now = new LinkedHashMap<>();
        for (TableInfo table : product.tables()) {
            records.texts(table.id(), List.of(tag), offers, RecordReader.ALL, entry -> {
                FileText settled = SharedReading.InForce.of(entry, table, tag);
                FileText text = settled.isEmpty() && offers ? offered(entry.cell(tag)) : settled;
                if (!text.isEmpty()) {
                    now.put(
                            entry.id(),
                            new BundleText(
                                    entry.entryId().key(), entry.entryId().context(), text.forms(), settled.isEmpty()));
                }
            });
        }
        return now;
    }

    private static FileText offered(RecordCell cell) {
        return cell.ownOffer().isEmpty() ? cell.text() : cell.ownOffer();
    }

    /**
     * How far a language is.
     *
     * @param entries those for translation
     * @param settled with a text in force
     */
    public record Far(ProductLanguage language, int settled, int entries) {}

    /** How far each language of a product is that is not hidden, in their order; it costs as much as looking at the product's counters. */
    @Transactional(readOnly = true)
    public List<Far> far(String slug) {
        Product product = products.product(slug);
        Judge.Look look = judge.at(product.tables());
        return product.languages().all().stream()
                .filter(one -> !one.hidden())
                .map(one -> {
                    Gates.LanguageCounts of = look.counts(product, one.tag());
                    return new Far(one, of.settled(), of.entries());
                })
                .toList();
    }

    /**
     * The languages of a product as they are answered for.
     *
     * @param source the one that its first table is written in
     * @param tables numbers of its tables
     */
    public record Spoken(ProductLanguages languages, LanguageTag source, Set<Long> tables) {}

    /** The same of one that has a table and a language. */
    @Transactional(readOnly = true)
    public Spoken languages(String slug) {
        Product product = products.product(slug);
        return new Spoken(
                product.languages(),
                product.source(),
                product.tables().stream().map(TableInfo::id).collect(Collectors.toSet()));
    }
}
