package mellow.server.delivery;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Types;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import mellow.core.language.LanguageTag;
import mellow.server.common.Refusal;
import mellow.server.delivery.Judge.LanguageVerdict;
import mellow.server.language.LanguageService;
import mellow.server.people.Reading;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** What was delivered: the numbered snapshots, their files and the texts that were in force. */
@Component
class DeliveryRecord {

    private static final JsonMapper JSON = JsonMapper.shared();

    private static final String DELIVERIES =
            "select d.*, p.name by_name from delivery d join person p on p.id = d.person_id ";

    private final JdbcClient jdbc;
    private final LanguageService languages;
    private final Reading reading;

    DeliveryRecord(JdbcClient jdbc, LanguageService languages, Reading reading) {
        this.jdbc = jdbc;
        this.languages = languages;
        this.reading = reading;
    }

    /**
     * A delivery as it is told.
     *
     * @param contents SHA-256 over all paths and hashes, in hexadecimal digits
     * @param changed number of texts that are not as in the one before
     * @param languages what was said of each language when it went out
     * @param recalled why it was recalled, null when it was not
     * @param outboxSaid why it could not be laid into the outbox yet, empty when nothing went wrong
     */
    record DeliveryReply(
            int number,
            Instant at,
            String by,
            boolean scheduled,
            String contents,
            int files,
            long bytes,
            int changed,
            List<LanguageVerdict> languages,
            @Nullable String recalled,
            String outboxSaid) {}

    /** A delivery with the number of its row. */
    record KeptDelivery(long id, DeliveryReply reply) {}

    /** A file of a delivery. */
    record DeliveredFile(String path, String recipe, @Nullable String language, String sha256, long bytes) {}

    /** The number of a language when it went out. */
    record Numbered(String language, @Nullable Integer selector) {}

    /**
     * A delivery to be kept.
     *
     * @param byItself whether nobody asked for it
     * @param contents SHA-256 over all paths and hashes
     * @param changed number of texts that are not as in the one before
     */
    record NewDelivery(
            Product product,
            int number,
            Instant at,
            long person,
            boolean byItself,
            List<Recipe> recipes,
            List<LanguageVerdict> languages,
            byte[] contents,
            int changed,
            boolean toOutbox) {}

    /** The number that the next one gets. */
    int nextNumber(long product) {
        return jdbc.sql("select coalesce(max(number), 0) + 1 from delivery where product_id = :product")
                .param("product", product)
                .query(Integer.class)
                .single();
    }

    /** The last one that was not recalled. */
    Optional<KeptDelivery> last(long product) {
        return jdbc.sql(DELIVERIES
                        + "where d.product_id = :product and d.recalled_at is null order by d.number desc limit 1")
                .param("product", product)
                .query((row, n) -> kept(row))
                .optional();
    }

    /** The last one of every product. */
    Map<Long, DeliveryReply> lasts() {
        Map<Long, DeliveryReply> lasts = new HashMap<>();
        jdbc.sql(
                        DELIVERIES
                                + """
                          join (select product_id, max(number) number from delivery where recalled_at is null group by 1) l
                              on l.product_id = d.product_id and l.number = d.number
                          """)
                .query(row -> {
                    lasts.put(row.getLong("product_id"), kept(row).reply);
                });
        return lasts;
    }

    /** Some of a product, the last one first, with smaller numbers than {@code before}. */
    List<DeliveryReply> history(long product, int before, int most) {
        return jdbc.sql(DELIVERIES
                        + "where d.product_id = :product and d.number < :before order by d.number desc limit :most")
                .param("product", product)
                .param("before", before)
                .param("most", most)
                .query((row, n) -> kept(row).reply)
                .list();
    }

    /** One of a product. */
    KeptDelivery find(long product, int number) {
        return jdbc.sql(DELIVERIES + "where d.product_id = :product and d.number = :number")
                .param("product", product)
                .param("number", number)
                .query((row, n) -> kept(row))
                .optional()
                .orElseThrow(() -> Refusal.notFound(
                        "no-such-delivery", "There is no delivery no. {number}.", Map.of("number", number)));
    }

    private KeptDelivery kept(ResultSet row) throws SQLException {
        List<LanguageVerdict> told = List.of(JSON.readValue(row.getString("languages"), LanguageVerdict[].class));
        return new KeptDelivery(
                row.getLong("id"),
                new DeliveryReply(
                        row.getInt("number"),
                        row.getTimestamp("at").toInstant(),
                        row.getString("by_name"),
                        row.getBoolean("scheduled"),
                        HexFormat.of().formatHex(row.getBytes("contents")),
                        row.getInt("files"),
                        row.getLong("bytes"),
                        row.getInt("changed"),
                        told.stream()
                                .filter(one -> reading.reads(new LanguageTag(one.language())))
                                .toList(),
                        row.getString("recall_reason"),
                        row.getString("outbox_said")));
    }

    /** The files of one, by their paths; of a language only to those who may read it. */
    List<DeliveredFile> files(long delivery) {
        return jdbc
                .sql(
                        """
                        select f.path, r.name, l.tag, f.hash, c.bytes from delivery_file f join recipe r on r.id = f.recipe_id join delivered c on c.hash = f.hash
                        left join language l on l.id = f.language_id where f.delivery_id = :id order by f.path collate "C"
                        """)
                .param("id", delivery)
                .query((row, n) -> new DeliveredFile(
                        row.getString(1),
                        row.getString(2),
                        row.getString(3),
                        HexFormat.of().formatHex(row.getBytes(4)),
                        row.getLong(5)))
                .list()
                .stream()
                .filter(file -> file.language() == null || reading.reads(new LanguageTag(file.language())))
                .toList();
    }

    /** The hash of what was in force in a language. */
    Optional<byte[]> texts(long delivery, LanguageTag tag) {
        return jdbc.sql("select hash from delivery_texts where delivery_id = :delivery and language_id = :language")
                .param("delivery", delivery)
                .param("language", languages.numberOrNone(tag))
                .query(byte[].class)
                .optional();
    }

    /** Keeps one, whose contents are kept already; the number of its row. */
    long add(NewDelivery delivery, Made made) {
        long id = jdbc.sql(
                        """
                        insert into delivery (product_id, number, at, person_id, scheduled, recipes, languages, selectors, contents, files, bytes, changed, to_outbox)
                        values (:product, :number, :at, :person, :scheduled, cast(:recipes as jsonb), cast(:languages as jsonb), cast(:selectors as jsonb), :contents, :files, :bytes, :changed, :outbox)
                        returning id
                        """)
                .param("product", delivery.product.id())
                .param("number", delivery.number)
                .param("at", delivery.at.atOffset(ZoneOffset.UTC))
                .param("person", delivery.person)
                .param("scheduled", delivery.byItself)
                .param("recipes", JSON.writeValueAsString(delivery.recipes))
                .param("languages", JSON.writeValueAsString(delivery.languages))
                .param(
                        "selectors",
                        JSON.writeValueAsString(delivery.product.languages().all().stream()
                                .map(one -> new Numbered(one.tag().value(), one.selector()))
                                .toList()))
                .param("contents", delivery.contents)
                .param("files", made.files().size())
                .param("bytes", made.bytes())
                .param("changed", delivery.changed)
                .param("outbox", delivery.toOutbox)
                .query(Long.class)
                .single();
        for (Made.FileMade file : made.files()) {
            jdbc.sql(
                            "insert into delivery_file (delivery_id, path, recipe_id, language_id, hash) values (:delivery, :path, :recipe, :language, :hash)")
                    .param("delivery", id)
                    .param("path", file.path())
                    .param("recipe", file.recipe())
                    .param(
                            "language",
                            file.language() == null ? null : languages.number(file.language()),
                            Types.SMALLINT)
                    .param("hash", file.hash())
                    .update();
        }
        made.texts().forEach((tag, texts) -> jdbc.sql(
                        "insert into delivery_texts (delivery_id, language_id, texts, hash) values (:delivery, :language, :texts, :hash)")
                .param("delivery", id)
                .param("language", languages.number(tag))
                .param("texts", texts.texts())
                .param("hash", texts.hash())
                .update());
        return id;
    }

    /** Notes that one was recalled; whether it was not before. */
    boolean recall(long delivery, Instant at, long person, String reason) {
        return jdbc.sql(
                                """
                                update delivery set recalled_at = :at, recalled_by = :person, recall_reason = :reason, to_outbox = false
                                where id = :id and recalled_at is null
                                """)
                        .param("at", at.atOffset(ZoneOffset.UTC))
                        .param("person", person)
                        .param("reason", reason)
                        .param("id", delivery)
                        .update()
                > 0;
    }
}
