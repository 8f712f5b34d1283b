package mellow.server.delivery;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Types;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.HashSet;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import mellow.core.delivery.UndeliverableException;
import mellow.core.format.UnwritableTextException;
import mellow.core.language.LanguageTag;
import mellow.server.common.Refusal;
import mellow.server.delivery.Judge.Judgement;
import mellow.server.delivery.Judge.LanguageVerdict;
import mellow.server.language.LanguageService;
import mellow.server.people.PeopleService;
import mellow.server.people.Reading;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.ProductReply;
import mellow.server.run.RunService;
import mellow.server.run.RunService.Order;
import mellow.server.run.RunService.Progress;
import mellow.server.run.RunService.RunReply;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;

/**
 * Delivers products: looks at the gates, makes the files from one state of the record, and keeps them as a numbered snapshot, all or nothing.
 */
@Service
class DeliveryService {

    static final String RUN = "deliver";
    private static final String BY_ITSELF = "by itself";
    private static final JsonMapper JSON = JsonMapper.shared();
    private static final String SEE = "see what is delivered";

    private final ProductService products;
    private final TableService tables;
    private final LanguageService languages;
    private final PeopleService people;
    private final Reading reading;
    private final Recipes recipes;
    private final Plans plans;
    private final Judge judge;
    private final Maker maker;
    private final Contents contents;
    private final EntryNumbers numbers;
    private final RunService runs;
    private final JdbcClient jdbc;
    private final Clock clock;
    private final TransactionTemplate oneState;

    DeliveryService(
            ProductService products,
            TableService tables,
            LanguageService languages,
            PeopleService people,
            Reading reading,
            Recipes recipes,
            Plans plans,
            Judge judge,
            Maker maker,
            Contents contents,
            EntryNumbers numbers,
            RunService runs,
            JdbcClient jdbc,
            Clock clock,
            PlatformTransactionManager transactions) {
        this.products = products;
        this.tables = tables;
        this.languages = languages;
        this.people = people;
        this.reading = reading;
        this.recipes = recipes;
        this.plans = plans;
        this.judge = judge;
        this.maker = maker;
        this.contents = contents;
        this.numbers = numbers;
        this.runs = runs;
        this.jdbc = jdbc;
        this.clock = clock;
        this.oneState = new TransactionTemplate(transactions);
        this.oneState.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
        this.oneState.setIsolationLevel(TransactionDefinition.ISOLATION_REPEATABLE_READ);
        this.oneState.setReadOnly(true);
        runs.handle(RUN, this::deliver);
    }

    /**
     * A delivery as it is told.
     *
     * @param contents SHA-256 over all paths and hashes, in hexadecimal digits
     * @param changed number of texts that are not as in the one before
     * @param languages what was said of each language when it went out
     * @param recalled why it was recalled, null when it was not
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
            @Nullable String recalled) {}

    /** A file of a delivery. */
    record DeliveredFile(String path, String recipe, @Nullable String language, String sha256, long bytes) {}

    /**
     * How a product stands.
     *
     * @param changed texts that changed since the last delivery, in the product's tables and languages
     * @param last the last one that was not recalled, null for none
     * @param run what is going on, null for nothing
     */
    record DeliveryOverview(
            String slug,
            String name,
            String kind,
            int nextNumber,
            int changed,
            boolean everDelivered,
            List<Recipe> recipes,
            Plans.DeliveryPlan plan,
            List<Judge.SourceHole> holes,
            List<LanguageVerdict> languages,
            @Nullable DeliveryReply last,
            @Nullable RunReply run) {}

    Product product(String slug) {
        ProductReply of = products.find(slug);
        List<TableInfo> used =
                of.tables().stream().map(one -> tables.find(one.slug())).toList();
        if (used.isEmpty() || of.languages().isEmpty()) {
            throw Refusal.unacceptable(
                    "nothing-to-deliver",
                    used.isEmpty()
                            ? "{product} has no table yet, so there is nothing to deliver."
                            : "{product} has no language yet, so there is nothing to deliver.",
                    Map.of("product", of.name()));
        }
        return new Product(
                of, used, products.languages(slug, used.get(0).source()).orElseThrow());
    }

    /** How a product stands. */
    @Transactional(readOnly = true)
    public DeliveryOverview overview(String slug) {
        ProductReply of = products.find(slug);
        Plans.DeliveryPlan plan = plans.of(of.id());
        Optional<DeliveryReply> last = last(of.id());
        boolean some = !of.tables().isEmpty() && !of.languages().isEmpty();
        Judgement judged = some ? judge.of(product(slug), plan.gates()) : new Judgement(List.of(), List.of(), Map.of());
        return new DeliveryOverview(
                of.slug(),
                of.name(),
                of.kind(),
                nextNumber(of.id()),
                last.map(one -> changedSince(of, one.at())).orElse(0),
                last.isPresent(),
                recipes.of(of.id()),
                plan,
                judged.holes(),
                judged.languages().stream()
                        .filter(one -> reading.reads(new LanguageTag(one.language())))
                        .toList(),
                last.orElse(null),
                runs.latest(RUN, of.id())
                        .filter(run -> run.open() || run.status().equals("failed"))
                        .orElse(null));
    }

    /** A product in the list of them. */
    record ProductWaiting(
            String slug,
            String name,
            String kind,
            int recipes,
            int changed,
            int held,
            @Nullable DeliveryReply last,
            @Nullable Instant nextAt) {}

    /** Every product with what waits. */
    @Transactional(readOnly = true)
    public List<ProductWaiting> all() {
        return products.all().stream()
                .map(of -> {
                    DeliveryOverview one = overview(of.slug());
                    return new ProductWaiting(
                            of.slug(),
                            of.name(),
                            of.kind(),
                            (int) one.recipes().stream().filter(Recipe::active).count(),
                            one.changed(),
                            (int) one.languages().stream()
                                    .filter(language -> !language.answer().equals("yes"))
                                    .count(),
                            one.last(),
                            one.plan().nextAt());
                })
                .toList();
    }

    private int nextNumber(long product) {
        return jdbc.sql("select coalesce(max(number), 0) + 1 from delivery where product_id = :product")
                .param("product", product)
                .query(Integer.class)
                .single();
    }

    private int changedSince(ProductReply of, Instant at) {
        return jdbc.sql(
                        """
                        select (select count(distinct (s.entry_id, s.language_id)) from cell_story s join entry e on e.id = s.entry_id
                                where s.at > :at and e.table_id in (select table_id from product_table where product_id = :product)
                                  and s.language_id in (select language_id from product_language where product_id = :product))
                            + (select count(distinct s.entry_id) from entry_story s join entry e on e.id = s.entry_id
                                where s.at > :at and e.table_id in (select table_id from product_table where product_id = :product))
                        """)
                .param("at", at.atOffset(ZoneOffset.UTC))
                .param("product", of.id())
                .query(Integer.class)
                .single();
    }

    private static final String DELIVERIES =
            "select d.*, p.name by_name from delivery d join person p on p.id = d.person_id where d.product_id = :product ";

    private Optional<DeliveryReply> last(long product) {
        return jdbc.sql(DELIVERIES + "and d.recalled_at is null order by d.number desc limit 1")
                .param("product", product)
                .query((row, n) -> reply(row))
                .optional();
    }

    private DeliveryReply reply(ResultSet row) throws SQLException {
        List<LanguageVerdict> told = List.of(JSON.readValue(row.getString("languages"), LanguageVerdict[].class));
        return new DeliveryReply(
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
                row.getString("recall_reason"));
    }

    /**
     * The deliveries of a product, the last one first.
     *
     * @param before only those with a smaller number
     */
    @Transactional(readOnly = true)
    public List<DeliveryReply> history(String slug, int before) {
        return jdbc.sql(DELIVERIES + "and d.number < :before order by d.number desc limit 50")
                .param("product", products.find(slug).id())
                .param("before", before)
                .query((row, n) -> reply(row))
                .list();
    }

    /** Starts a delivery. */
    @Transactional(readOnly = true)
    public void start(long person, String slug) {
        people.rights(person).requireCoordinator("deliver");
        Product product = product(slug);
        if (recipes.of(product.id()).stream().noneMatch(Recipe::active)) {
            throw Refusal.unacceptable(
                    "no-recipe",
                    "{product} has no recipe that is switched on, so there is nothing to deliver.",
                    Map.of("product", product.of().name()));
        }
        runs.start(RUN, product.id(), person, "");
    }

    /** What is going on or was last. */
    @Transactional(readOnly = true)
    public Optional<RunReply> run(String slug) {
        return runs.latest(RUN, products.find(slug).id());
    }

    /** Ends what is going on. */
    public void cancel(long person, String slug) {
        people.rights(person).requireCoordinator("deliver");
        runs.cancel(RUN, products.find(slug).id());
    }

    /** Begins the deliveries whose time has come; of several servers one does each. */
    public void beginDue() {
        for (Plans.Due due : plans.due()) {
            runs.startWhen(RUN, due.product(), due.person(), BY_ITSELF, () -> plans.claim(due.product()));
        }
    }

    /** Delivers in the transaction under way, without a run. */
    void deliverNow(long person, String slug) {
        deliver(new Order(product(slug).id(), person, ""), Progress.UNWATCHED);
    }

    private void deliver(Order order, Progress progress) {
        boolean byItself = order.arguments().equals(BY_ITSELF);
        try {
            String said = delivered(order, byItself, progress);
            if (byItself) {
                plans.said(order.subject(), said);
            }
        } catch (UndeliverableException | UnwritableTextException stopped) {
            throw refused(stopped);
        }
    }

    private static Refusal refused(RuntimeException stopped) {
        return stopped instanceof UndeliverableException undeliverable
                ? Refusal.conflict(undeliverable.code(), undeliverable.pattern(), undeliverable.values())
                : Refusal.conflict("unwritable-text", String.valueOf(stopped.getMessage()), Map.of());
    }

    private String delivered(Order order, boolean byItself, Progress progress) {
        people.rights(order.person()).requireCoordinator("deliver");
        String slug = jdbc.sql("select slug from product where id = :id and removed_at is null")
                .param("id", order.subject())
                .query(String.class)
                .optional()
                .orElseThrow(() -> Refusal.notFound("no-such-product", "This product was removed."));
        plans.make(order.subject());
        // One delivery of a product after the other, on any server; and numbers are given to nobody else meanwhile.
        jdbc.sql("select product_id from delivery_plan where product_id = :product for update")
                .param("product", order.subject())
                .query(Long.class)
                .single();
        Plans.DeliveryPlan plan = plans.of(order.subject());
        List<Recipe> active =
                recipes.of(order.subject()).stream().filter(Recipe::active).toList();
        Product product = product(slug);
        if (active.stream()
                .anyMatch(recipe -> recipe.settings().kind().equals("keys")
                        && recipe.settings().numbers())) {
            numbers.give(product);
        }
        Map<Long, Integer> given = numbers.of(product.id());
        int number = nextNumber(order.subject());
        try (Made made = new Made()) {
            Judgement judged = Objects.requireNonNull(
                    oneState.execute(status -> make(product, plan, active, number, given, 0, made, progress)));
            Optional<DeliveryReply> former = last(order.subject());
            byte[] whole = made.contents();
            boolean same = former.isPresent()
                    && former.get().contents().equals(HexFormat.of().formatHex(whole));
            if (byItself && same) {
                return "Nothing had changed, so nothing was delivered.";
            }
            progress.at(1, 1);
            keep(order, byItself, plan, product, active, number, judged, made, whole, former);
            return "Delivered as no. " + number + ".";
        }
    }

    /** Looks at the gates and makes everything, from one state of the record. */
    private Judgement make(
            Product product,
            Plans.DeliveryPlan plan,
            List<Recipe> active,
            int number,
            Map<Long, Integer> given,
            int most,
            Made made,
            Progress progress) {
        Judgement judged = judge.of(product, plan.gates());
        requireOpen(product, judged);
        Optional<DeliveryReply> former = last(product.id());
        Map<LanguageTag, Map<Long, TextLine>> held = new HashMap<>();
        Set<LanguageTag> without = new HashSet<>();
        for (LanguageVerdict one : judged.languages()) {
            if (one.answer().equals("held")) {
                LanguageTag tag = new LanguageTag(one.language());
                Optional<byte[]> kept = former.flatMap(last -> textsOf(product.id(), last.number(), tag));
                if (kept.isEmpty()) {
                    without.add(tag);
                    continue;
                }
                Map<Long, TextLine> lines = TextLine.all(contents.open(kept.get()));
                held.put(tag, lines);
                made.texts(tag, new Made.TextsMade(lines.size(), null, kept.get()));
            }
        }
        Maker.Order order = new Maker.Order(
                product,
                number,
                held,
                without,
                plan.gates().stale().equals("hole"),
                plan.gates().blockers().equals("out") ? judged.blocked() : Map.of(),
                given,
                most);
        for (Recipe recipe : active) {
            maker.make(recipe, order, made, progress);
        }
        maker.texts(order, made);
        return judged;
    }

    private static void requireOpen(Product product, Judgement judged) {
        if (!judged.holes().isEmpty()) {
            Judge.SourceHole hole = judged.holes().get(0);
            throw new UndeliverableException(
                    "base-not-whole",
                    hole.entries() == 1
                            ? "{table} has an entry without a source text, which stops every delivery."
                            : "{table} has {n} entries without a source text, which stops every delivery.",
                    Map.of("table", hole.tableName(), "n", hole.entries()));
        }
        for (LanguageVerdict one : judged.languages()) {
            boolean start = one.start() && one.answer().equals("held");
            if (one.answer().equals("stop") || start) {
                throw new UndeliverableException(
                        start ? "start-held-back" : "gate-stops",
                        start
                                ? "{language} would be held back, and {product} starts in it: {why}."
                                : "{language} stops the delivery: {why}.",
                        Map.of(
                                "language",
                                one.language(),
                                "product",
                                product.of().name(),
                                "why",
                                one.reasons().stream()
                                        .map(Gates.GateReason::sentence)
                                        .collect(Collectors.joining(", "))));
            }
        }
    }

    private Optional<byte[]> textsOf(long product, int number, LanguageTag tag) {
        return jdbc.sql(
                        """
                        select t.hash from delivery_texts t join delivery d on d.id = t.delivery_id
                        where d.product_id = :product and d.number = :number and t.language_id = :language
                        """)
                .param("product", product)
                .param("number", number)
                .param("language", languages.numberOrNone(tag))
                .query(byte[].class)
                .optional();
    }

    private void keep(
            Order order,
            boolean byItself,
            Plans.DeliveryPlan plan,
            Product product,
            List<Recipe> active,
            int number,
            Judgement judged,
            Made made,
            byte[] whole,
            Optional<DeliveryReply> former) {
        List<Made.FileMade> files = made.files();
        int changed = 0;
        for (Map.Entry<LanguageTag, Made.TextsMade> one : made.texts().entrySet()) {
            Made.TextsMade texts = one.getValue();
            if (texts.content() != null) {
                contents.keep(texts.hash(), texts.content());
            }
            changed += former.map(last -> textsOf(order.subject(), last.number(), one.getKey())
                            .map(hash -> Compared.texts(contents, hash, texts.hash(), 0, line -> {}))
                            .orElse(texts.texts()))
                    .orElse(texts.texts());
        }
        long id = jdbc.sql(
                        """
                        insert into delivery (product_id, number, at, person_id, scheduled, recipes, languages, selectors, contents, files, bytes, changed, to_outbox)
                        values (:product, :number, :at, :person, :scheduled, cast(:recipes as jsonb), cast(:languages as jsonb), cast(:selectors as jsonb), :contents, :files, :bytes, :changed, :outbox)
                        returning id
                        """)
                .param("product", order.subject())
                .param("number", number)
                .param("at", clock.instant().atOffset(ZoneOffset.UTC))
                .param("person", order.person())
                .param("scheduled", byItself)
                .param("recipes", JSON.writeValueAsString(active))
                .param("languages", JSON.writeValueAsString(judged.languages()))
                .param("selectors", JSON.writeValueAsString(selectors(product)))
                .param("contents", whole)
                .param("files", files.size())
                .param("bytes", made.bytes())
                .param("changed", changed)
                .param("outbox", plan.outbox())
                .query(Long.class)
                .single();
        for (Made.FileMade file : files) {
            contents.keep(file.hash(), file.content());
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
    }

    /** The number of a language when it went out. */
    private record Numbered(String language, @Nullable Integer selector) {}

    private static List<Numbered> selectors(Product product) {
        return product.languages().all().stream()
                .map(one -> new Numbered(one.tag().value(), one.selector()))
                .toList();
    }

    /** Makes everything and keeps nothing; what {@code use} makes of it. */
    public <T> T tried(long person, String slug, Function<Made, T> use) {
        people.rights(person).requireCoordinator("deliver");
        Product product = product(slug);
        List<Recipe> active =
                recipes.of(product.id()).stream().filter(Recipe::active).toList();
        return made(product, active, 0, use);
    }

    private <T> T made(Product product, List<Recipe> made, int most, Function<Made, T> use) {
        try (Made files = new Made()) {
            oneState.executeWithoutResult(status -> make(
                    product,
                    plans.of(product.id()),
                    made,
                    nextNumber(product.id()),
                    numbers.asGiven(product),
                    most,
                    files,
                    Progress.UNWATCHED));
            return use.apply(files);
        } catch (UndeliverableException | UnwritableTextException stopped) {
            throw refused(stopped);
        }
    }

    /** What the files of a recipe would be called and how they begin, from the first entries of each table. */
    record RecipeExample(String path, String begins) {}

    /** Files of a recipe as it is being written. */
    public List<RecipeExample> example(String slug, Recipe.RecipeSettings settings) {
        reading.requireAll(SEE);
        settings.requireSound();
        Product product = product(slug);
        try (Made files = new Made()) {
            oneState.executeWithoutResult(status -> maker.make(
                    new Recipe(0, "example", settings, true, 0),
                    new Maker.Order(
                            product,
                            nextNumber(product.id()),
                            Map.of(),
                            Set.of(),
                            false,
                            Map.of(),
                            numbers.asGiven(product),
                            Compared.EXAMPLE_ENTRIES),
                    files,
                    Progress.UNWATCHED));
            return files.files().stream()
                    .map(file -> new RecipeExample(file.path(), Compared.beginning(file.content())))
                    .toList();
        } catch (UndeliverableException | UnwritableTextException stopped) {
            throw refused(stopped);
        }
    }

    /** A delivery of a product. */
    record KeptDelivery(long id, DeliveryReply reply, String slug) {}

    KeptDelivery found(String slug, int number) {
        return jdbc.sql(DELIVERIES + "and d.number = :number")
                .param("product", products.find(slug).id())
                .param("number", number)
                .query((row, n) -> new KeptDelivery(row.getLong("id"), reply(row), slug))
                .optional()
                .orElseThrow(() -> Refusal.notFound(
                        "no-such-delivery", "There is no delivery no. {number}.", Map.of("number", number)));
    }

    /** The files of a delivery. */
    @Transactional(readOnly = true)
    public List<DeliveredFile> files(String slug, int number) {
        return jdbc
                .sql(
                        """
                        select f.path, r.name, l.tag, f.hash, c.bytes from delivery_file f join recipe r on r.id = f.recipe_id join delivered c on c.hash = f.hash
                        left join language l on l.id = f.language_id where f.delivery_id = :id order by f.path collate "C"
                        """)
                .param("id", found(slug, number).id())
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

    /** Takes a delivery back with a reason: it stays in the list, and the one before counts as the last. */
    @Transactional
    public void recall(long person, String slug, int number, String reason) {
        people.rights(person).requireCoordinator("recall deliveries");
        KeptDelivery found = found(slug, number);
        if (reason.isBlank()) {
            throw Refusal.unacceptable("no-reason", "Say why it is recalled.", Map.of("field", "reason"));
        }
        int done = jdbc.sql(
                        """
                        update delivery set recalled_at = :at, recalled_by = :person, recall_reason = :reason, to_outbox = false
                        where id = :id and recalled_at is null
                        """)
                .param("at", clock.instant().atOffset(ZoneOffset.UTC))
                .param("person", person)
                .param("reason", reason.strip())
                .param("id", found.id())
                .update();
        if (done == 0) {
            throw Refusal.conflict("recalled-already", "This delivery was recalled already.", Map.of());
        }
    }

    /** What is different between two deliveries. */
    @Transactional(readOnly = true)
    public Compared compare(String slug, int from, int to) {
        reading.requireAll(SEE);
        KeptDelivery before = found(slug, from);
        KeptDelivery after = found(slug, to);
        return Compared.of(jdbc, contents, before.id(), after.id());
    }

    /** Texts of the last delivery in each language, by their hash; for tests of what is kept. */
    Map<String, Integer> languagesOf(String slug, int number) {
        Map<String, Integer> texts = new LinkedHashMap<>();
        jdbc.sql(
                        "select l.tag, t.texts from delivery_texts t join language l on l.id = t.language_id where t.delivery_id = :id order by 1")
                .param("id", found(slug, number).id())
                .query(row -> {
                    texts.put(row.getString(1), row.getInt(2));
                });
        return texts;
    }
}
