package mellow.server.product;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Types;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import mellow.core.language.LanguageTag;
import mellow.core.product.ProductLanguage;
import mellow.core.product.ProductLanguages;
import mellow.server.common.Refusal;
import mellow.server.language.LanguageName;
import mellow.server.language.LanguageService;
import mellow.server.people.PeopleService;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.jdbc.UncategorizedSQLException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Products with their tables and languages. Coordinators change them. */
@Service
public class ProductService {

    private static final Set<String> KINDS = Set.of("game", "panel", "app", "site");
    private static final String TABLES =
            """
            select p.product_id, t.slug, t.name from product_table p join ledger_table t on t.id = p.table_id
            where t.removed_at is null order by p.product_id, p.position
            """;
    private static final String LANGUAGES = "select * from product_language order by product_id, position";
    private static final String FORGET_TABLES = "delete from product_table where product_id = :product";
    private static final String FORGET_LANGUAGES = "delete from product_language where product_id = :product";
    private static final String ADD_TABLE =
            "insert into product_table (product_id, table_id, position) values (:product, :table, :position)";
    private static final String ADD_LANGUAGE =
            """
            insert into product_language (product_id, language_id, position, selector, hidden, shown_as, fallbacks, prefix)
            values (:product, :language, :position, :selector, :hidden, :shownAs, :fallbacks, :prefix)
            """;
    private static final String HOSTS =
            "select product_id, host, language_id from product_host order by product_id, host";

    private final ProductRepository products;
    private final TableService tables;
    private final PeopleService people;
    private final LanguageService languages;
    private final JdbcClient jdbc;
    private final ApplicationEventPublisher events;
    private final Clock clock;

    ProductService(
            ProductRepository products,
            TableService tables,
            PeopleService people,
            LanguageService languages,
            JdbcClient jdbc,
            ApplicationEventPublisher events,
            Clock clock) {
        this.events = events;
        this.products = products;
        this.tables = tables;
        this.people = people;
        this.languages = languages;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /**
     * A product as it shall be.
     *
     * @param version the version that was seen, 0 for a new one
     * @param kind game, panel, app or site
     * @param tables names of its tables in addresses, in order
     * @param languages its languages in order
     * @param start the language it starts in, null for the source
     * @param hosts the start languages of a site's hosts, null for none
     */
    public record Definition(
            @Min(0) int version,
            @NotBlank @Size(max = 120) String name,
            @NotBlank String kind,
            @NotNull List<@NotBlank String> tables,
            @NotNull List<@Valid Selected> languages,
            @Nullable String start,
            @Nullable Map<@NotBlank @Size(max = 253) String, @NotBlank String> hosts) {

        public Definition(
                int version,
                String name,
                String kind,
                List<String> tables,
                List<Selected> languages,
                @Nullable String start) {
            this(version, name, kind, tables, languages, start, null);
        }
    }

    /**
     * A language of a product.
     *
     * @param selector the number that a panel writes to its register for it, null for products that switch by tag
     * @param hidden whether it is delivered and not offered to people, null for no
     * @param shownAs its name in the product's language picker, null for its own name
     * @param fallbacks the languages that its missing texts are taken from first, null for none
     * @param prefix the first part of its addresses on a site, null for none
     */
    public record Selected(
            @NotBlank String tag,
            @Nullable @Min(0) Integer selector,
            @Nullable Boolean hidden,
            @Nullable @Size(max = 120) String shownAs,
            @Nullable List<@NotBlank String> fallbacks,
            @Nullable @Size(max = 60) String prefix) {

        public Selected(String tag, @Nullable Integer selector) {
            this(tag, selector, false, null, null, null);
        }
    }

    /** A product as screens show it. */
    public record ProductReply(
            long id,
            String slug,
            String name,
            String kind,
            List<TableOf> tables,
            List<LanguageOf> languages,
            @Nullable String start,
            Map<String, String> hosts,
            int version) {}

    /** A table of a product. */
    public record TableOf(String slug, String name) {}

    /**
     * A language of a product with its selector number, if it has one.
     *
     * @param shownAs its name in the language picker
     * @param fallbacks tags
     * @param prefix empty for none
     */
    public record LanguageOf(
            LanguageName language,
            @Nullable Integer selector,
            boolean hidden,
            String shownAs,
            List<String> fallbacks,
            String prefix) {}

    /**
     * The languages of a product, which has one at least, as answers are found among them.
     *
     * @param source the language that is started in where the product does not say
     */
    public static ProductLanguages languages(ProductReply product, LanguageTag source) {
        Map<String, LanguageTag> hosts = new HashMap<>();
        product.hosts().forEach((host, tag) -> hosts.put(host, new LanguageTag(tag)));
        return ProductLanguages.of(
                product.languages().stream()
                        .map(one -> new ProductLanguage(
                                new LanguageTag(one.language().tag()),
                                one.selector(),
                                one.hidden(),
                                one.fallbacks().stream().map(LanguageTag::new).toList(),
                                one.prefix()))
                        .toList(),
                product.start() == null ? null : new LanguageTag(product.start()),
                source,
                hosts);
    }

    /** All products by name. */
    @Transactional(readOnly = true)
    public List<ProductReply> all() {
        return replies(products.findByRemovedAtNullOrderByNameAsc());
    }

    /** Removed products, the last one first. */
    @Transactional(readOnly = true)
    public List<ProductReply> removed() {
        return replies(products.findByRemovedAtNotNullOrderByRemovedAtDesc());
    }

    /** The product of that name in addresses. */
    @Transactional(readOnly = true)
    public ProductReply find(String slug) {
        return replies(List.of(bySlug(slug))).get(0);
    }

    /** Makes a product. */
    @Transactional
    public ProductReply create(long person, Definition wanted) {
        people.rights(person).requireCoordinator("make products");
        String slug = TableService.slug(wanted.name().strip());
        if (products.findBySlug(slug).isPresent()) {
            throw nameTaken(wanted);
        }
        Product product = new Product(slug, clock.instant());
        save(person, product, wanted);
        return find(slug);
    }

    /** Changes a product. */
    @Transactional
    public ProductReply edit(long person, String slug, Definition wanted) {
        people.rights(person).requireCoordinator("change products");
        Product product = bySlug(slug);
        if (product.version() != wanted.version()) {
            throw Refusal.conflict(
                    "product-moved-on", "Someone changed this product meanwhile; look at it again.", Map.of());
        }
        save(person, product, wanted);
        return find(slug);
    }

    /** Takes a product out of sight; its tables stay. */
    @Transactional
    public void remove(long person, String slug) {
        people.rights(person).requireCoordinator("remove products");
        Product product = bySlug(slug);
        product.remove(clock.instant());
        events.publishEvent(new ProductChanged(person, product.id(), tableNumbers(product.id())));
    }

    /** Puts a removed product back. */
    @Transactional
    public ProductReply putBack(long person, long id) {
        people.rights(person).requireCoordinator("put products back");
        Product product = products.findById(id)
                .filter(Product::removed)
                .orElseThrow(() -> Refusal.notFound("no-such-product", "No removed product has this number."));
        if (products.findBySlug(product.slug()).isPresent()) {
            throw Refusal.conflict(
                    "name-taken",
                    "Another product is called “{product}” now; rename that one first.",
                    Map.of("product", product.name()));
        }
        product.remove(null);
        products.flush();
        events.publishEvent(new ProductChanged(person, id, tableNumbers(id)));
        return find(product.slug());
    }

    /**
     * A product's tables, languages or being there changed; told in the transaction that changes it.
     *
     * @param person who changed it
     * @param tables numbers of the tables that it had and that it has
     */
    public record ProductChanged(long person, long product, Set<Long> tables) {}

    private Set<Long> tableNumbers(long product) {
        return new HashSet<>(jdbc.sql("select table_id from product_table where product_id = :product")
                .param("product", product)
                .query(Long.class)
                .list());
    }

    private void save(long person, Product product, Definition wanted) {
        requireSound(product, wanted);
        product.become(
                wanted.name().strip(),
                wanted.kind(),
                wanted.start() == null ? null : Integer.valueOf(languages.number(languages.parse(wanted.start()))));
        long id = products.saveAndFlush(product).id();
        Set<Long> concerned = tableNumbers(id);
        jdbc.sql(FORGET_TABLES).param("product", id).update();
        jdbc.sql(FORGET_LANGUAGES).param("product", id).update();
        int position = 1;
        for (String table : wanted.tables()) {
            TableInfo info = tables.find(table);
            jdbc.sql(ADD_TABLE)
                    .param("product", id)
                    .param("table", info.id())
                    .param("position", position++)
                    .update();
        }
        for (Selected one : wanted.languages()) {
            jdbc.sql(ADD_LANGUAGE)
                    .param("product", id)
                    .param("language", languages.number(languages.parse(one.tag())))
                    .param("position", position++)
                    .param("selector", one.selector(), Types.INTEGER)
                    .param("hidden", Boolean.TRUE.equals(one.hidden()))
                    .param("shownAs", blankToNull(one.shownAs()), Types.VARCHAR)
                    .param(
                            "fallbacks",
                            Objects.requireNonNullElse(one.fallbacks(), List.<String>of()).stream()
                                    .map(tag -> (short) languages.number(languages.parse(tag)))
                                    .toArray(Short[]::new))
                    .param("prefix", prefix(one))
                    .update();
        }
        jdbc.sql("delete from product_host where product_id = :product")
                .param("product", id)
                .update();
        hosts(wanted).forEach((host, tag) -> jdbc.sql(
                        "insert into product_host (product_id, host, language_id) values (:product, :host, :language)")
                .param("product", id)
                .param("host", host)
                .param("language", languages.number(tag))
                .update());
        concerned.addAll(tableNumbers(id));
        events.publishEvent(new ProductChanged(person, id, concerned));
    }

    private static @Nullable String blankToNull(@Nullable String text) {
        return text == null || text.isBlank() ? null : text.strip();
    }

    private static String prefix(Selected one) {
        return one.prefix() == null ? "" : one.prefix().strip().replaceAll("^/+|/+$", "");
    }

    private Map<String, LanguageTag> hosts(Definition wanted) {
        Map<String, LanguageTag> hosts = new TreeMap<>();
        if (wanted.hosts() != null) {
            wanted.hosts()
                    .forEach((host, tag) -> hosts.put(
                            host.strip().toLowerCase(Locale.ROOT).replaceAll("\\.$", ""), languages.parse(tag)));
        }
        return hosts;
    }

    private void requireSound(Product product, Definition wanted) {
        if (!KINDS.contains(wanted.kind())) {
            throw Refusal.unacceptable(
                    "unknown-kind",
                    "A product is a game, panel, app or site, not “{kind}”.",
                    Map.of("field", "kind", "kind", wanted.kind()));
        }
        products.findByName(wanted.name().strip())
                .filter(other -> other != product)
                .ifPresent(other -> {
                    throw nameTaken(wanted);
                });
        if (new HashSet<>(wanted.tables()).size() < wanted.tables().size()) {
            throw Refusal.unacceptable("table-twice", "A product uses a table once.", Map.of("field", "tables"));
        }
        Set<String> tags = new HashSet<>();
        Set<String> prefixes = new HashSet<>();
        Map<Integer, String> selectors = new HashMap<>();
        for (Selected one : wanted.languages()) {
            String tag = languages.parse(one.tag()).value();
            if (!tags.add(tag)) {
                throw Refusal.unacceptable(
                        "language-twice",
                        "A product has a language once, and {language} is there twice.",
                        Map.of("field", "languages", "language", tag));
            }
            if (!prefix(one).matches("[^/?#%\\s]*")) {
                throw Refusal.unacceptable(
                        "bad-prefix",
                        "The prefix of {language} is one part of an address, such as de.",
                        Map.of("field", "languages", "language", tag));
            }
            if (!prefix(one).isEmpty() && !prefixes.add(prefix(one).toLowerCase(Locale.ROOT))) {
                throw Refusal.unacceptable(
                        "prefix-twice",
                        "The prefix {prefix} stands for two languages.",
                        Map.of("field", "languages", "prefix", prefix(one)));
            }
            String other = one.selector() == null ? null : selectors.put(one.selector(), tag);
            if (other != null) {
                throw Refusal.unacceptable(
                        "selector-twice",
                        "The selector number {selector} stands for {other} already.",
                        Map.of("field", "languages", "selector", one.selector(), "other", other));
            }
        }
        if (wanted.start() != null
                && !tags.contains(languages.parse(wanted.start()).value())) {
            throw Refusal.unacceptable(
                    "start-not-listed",
                    "A product starts in one of its languages, and {language} is none.",
                    Map.of("field", "start", "language", wanted.start()));
        }
        requireListed(tags, hosts(wanted));
    }

    private static void requireListed(Set<String> tags, Map<String, LanguageTag> hosts) {
        hosts.forEach((host, tag) -> {
            if (!tags.contains(tag.value())) {
                throw Refusal.unacceptable(
                        "start-not-listed",
                        "A product starts in one of its languages, and {language} is none.",
                        Map.of("field", "hosts", "language", tag, "host", host));
            }
        });
    }

    private static Refusal nameTaken(Definition wanted) {
        return Refusal.conflict(
                "name-taken",
                "There is a product called “{name}” already.",
                Map.of("field", "name", "name", wanted.name().strip()));
    }

    private Product bySlug(String slug) {
        return products.findBySlug(slug)
                .orElseThrow(() -> Refusal.notFound(
                        "no-such-product", "There is no product “{product}”.", Map.of("product", slug)));
    }

    private List<ProductReply> replies(List<Product> found) {
        Map<Long, List<TableOf>> tablesOf = new HashMap<>();
        jdbc.sql(TABLES).query(row -> {
            tablesOf.computeIfAbsent(row.getLong("product_id"), p -> new ArrayList<>())
                    .add(new TableOf(row.getString("slug"), row.getString("name")));
        });
        Map<Long, List<LanguageOf>> languagesOf = new HashMap<>();
        jdbc.sql(LANGUAGES).query(row -> {
            languagesOf
                    .computeIfAbsent(row.getLong("product_id"), p -> new ArrayList<>())
                    .add(new LanguageOf(
                            LanguageName.of(languages.describe(languages.tag(row.getInt("language_id")))),
                            row.getObject("selector", Integer.class),
                            row.getBoolean("hidden"),
                            Objects.requireNonNullElseGet(
                                    row.getString("shown_as"),
                                    () -> languages.describe(languageTag(row)).ownName()),
                            Arrays.stream((Short[]) row.getArray("fallbacks").getArray())
                                    .map(number -> languages.tag(number).value())
                                    .toList(),
                            row.getString("prefix")));
        });
        Map<Long, Map<String, String>> hostsOf = new HashMap<>();
        jdbc.sql(HOSTS).query(row -> {
            hostsOf.computeIfAbsent(row.getLong("product_id"), p -> new TreeMap<>())
                    .put(row.getString("host"), languageTag(row).value());
        });
        return found.stream()
                .map(product -> new ProductReply(
                        product.id(),
                        product.slug(),
                        product.name(),
                        product.kind(),
                        tablesOf.getOrDefault(product.id(), List.of()),
                        languagesOf.getOrDefault(product.id(), List.of()),
                        product.startLanguage() == null
                                ? null
                                : languages
                                        .tag(Objects.requireNonNull(product.startLanguage()))
                                        .value(),
                        hostsOf.getOrDefault(product.id(), Map.of()),
                        product.version()))
                .toList();
    }

    private LanguageTag languageTag(ResultSet row) {
        try {
            return languages.tag(row.getInt("language_id"));
        } catch (SQLException failed) {
            throw new UncategorizedSQLException("read a product", null, failed);
        }
    }
}
