package mellow.server.delivery;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.BiFunction;
import mellow.core.language.LanguageTag;
import mellow.server.common.Refusal;
import mellow.server.delivery.Delivering.RecipeExample;
import mellow.server.delivery.DeliveryRecord.DeliveredFile;
import mellow.server.delivery.DeliveryRecord.DeliveryReply;
import mellow.server.delivery.DeliveryRecord.KeptDelivery;
import mellow.server.delivery.Judge.Judgement;
import mellow.server.delivery.Judge.LanguageVerdict;
import mellow.server.people.PeopleService;
import mellow.server.people.Reading;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.ProductReply;
import mellow.server.run.RunService;
import mellow.server.run.RunService.Order;
import mellow.server.run.RunService.Progress;
import mellow.server.run.RunService.RunReply;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.annotation.Transactional;

/** What products wait for and what they got, for those who look; begins, ends and recalls deliveries. */
@Service
class DeliveryService {

    private static final String SEE = "see what is delivered";
    private static final int PAGE = 50;
    /** So many changes are counted one by one; what is more is told as more. */
    private static final int MOST_COUNTED = 10_000;

    /** Texts and entries of each product that changed since a moment, up to a limit. */
    private static final String CHANGED =
            """
            select w.product, least(:most, (select count(*) from (
                select distinct entry_id, language_id from (
                    select s.entry_id, s.language_id from cell_story s join entry e on e.id = s.entry_id
                    where s.at > w.at and e.table_id in (select table_id from product_table where product_id = w.product)
                      and s.language_id in (select language_id from product_language where product_id = w.product)
                    limit :most) texts
                union all
                select distinct entry_id, 0 from (
                    select s.entry_id from entry_story s join entry e on e.id = s.entry_id
                    where s.at > w.at and e.table_id in (select table_id from product_table where product_id = w.product)
                    limit :most) entries) changed))::int n
            from unnest(:products::bigint[], :ats::timestamptz[]) w (product, at)
            """;

    private final ProductService products;
    private final ProductLoader loader;
    private final PeopleService people;
    private final Reading reading;
    private final Recipes recipes;
    private final Plans plans;
    private final Judge judge;
    private final Contents contents;
    private final Delivering delivering;
    private final DeliveryRecord record;
    private final Webhooks webhooks;
    private final RunService runs;
    private final JdbcClient jdbc;
    private final Clock clock;

    DeliveryService(
            ProductService products,
            ProductLoader loader,
            PeopleService people,
            Reading reading,
            Recipes recipes,
            Plans plans,
            Judge judge,
            Contents contents,
            Delivering delivering,
            DeliveryRecord record,
            Webhooks webhooks,
            RunService runs,
            JdbcClient jdbc,
            Clock clock) {
        this.products = products;
        this.loader = loader;
        this.people = people;
        this.reading = reading;
        this.recipes = recipes;
        this.plans = plans;
        this.judge = judge;
        this.contents = contents;
        this.delivering = delivering;
        this.record = record;
        this.webhooks = webhooks;
        this.runs = runs;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /**
     * How a product stands.
     *
     * @param changed texts that changed since the last delivery, in the product's tables and languages, as far as they are counted
     * @param last the last one that was not recalled, null for none
     * @param telling which programs are told
     * @param run what is going on, or was tried last and failed; null for nothing
     */
    record DeliveryOverview(
            String slug,
            String name,
            String kind,
            int nextNumber,
            int changed,
            List<Recipe> recipes,
            Plans.DeliveryPlan plan,
            List<Judge.SourceHole> holes,
            List<LanguageVerdict> languages,
            @Nullable DeliveryReply last,
            Webhooks.Telling telling,
            @Nullable RunReply run) {}

    /** How a product stands, from one state of the record: whoever sees that nothing is going on any more sees what came of it. */
    @Transactional(readOnly = true, isolation = Isolation.REPEATABLE_READ)
    public DeliveryOverview overview(String slug) {
        ProductReply of = products.find(slug);
        Plans.DeliveryPlan plan = plans.of(of.id());
        Optional<DeliveryReply> last = record.last(of.id()).map(KeptDelivery::reply);
        Judgement judged = loader.product(of)
                .map(product -> judge.at(product.tables()).judge(product, plan.gates()))
                .orElse(Judgement.NOTHING);
        return new DeliveryOverview(
                of.slug(),
                of.name(),
                of.kind(),
                record.nextNumber(of.id()),
                last.map(one -> changed(Map.of(of.id(), one)).getOrDefault(of.id(), 0))
                        .orElse(0),
                recipes.of(of.id()),
                plan,
                judged.holes(),
                readable(judged),
                last.orElse(null),
                webhooks.telling(of.id()),
                runs.latest(Delivering.RUN, of.id())
                        .filter(run -> run.open() || run.status().equals("failed"))
                        .orElse(null));
    }

    private List<LanguageVerdict> readable(Judgement judged) {
        return judged.languages().stream()
                .filter(one -> reading.reads(new LanguageTag(one.language())))
                .toList();
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

    /** Every product with what waits, in a dozen statements. */
    @Transactional(readOnly = true, isolation = Isolation.REPEATABLE_READ)
    public List<ProductWaiting> all() {
        Map<ProductReply, Optional<Product>> all = loader.all();
        Map<Long, Plans.DeliveryPlan> planned = plans.all();
        Map<Long, Integer> active = recipes.active();
        Map<Long, DeliveryReply> lasts = record.lasts();
        Map<Long, Integer> changed = changed(lasts);
        Judge.Look look = judge.at(all.values().stream()
                .flatMap(Optional::stream)
                .flatMap(product -> product.tables().stream())
                .toList());
        List<ProductWaiting> waiting = new ArrayList<>();
        all.forEach((of, product) -> {
            Plans.DeliveryPlan plan = planned.getOrDefault(of.id(), Plans.DeliveryPlan.NONE);
            Judgement judged = product.map(one -> look.judge(one, plan.gates())).orElse(Judgement.NOTHING);
            waiting.add(new ProductWaiting(
                    of.slug(),
                    of.name(),
                    of.kind(),
                    active.getOrDefault(of.id(), 0),
                    changed.getOrDefault(of.id(), 0),
                    (int) readable(judged).stream()
                            .filter(language -> !language.answer().equals("yes"))
                            .count(),
                    lasts.get(of.id()),
                    plan.nextAt()));
        });
        return waiting;
    }

    /** What changed in products since a delivery of each. */
    private Map<Long, Integer> changed(Map<Long, DeliveryReply> since) {
        Map<Long, Integer> changed = new HashMap<>();
        List<Long> numbers = List.copyOf(since.keySet());
        jdbc.sql(CHANGED)
                .param("most", MOST_COUNTED)
                .param("products", numbers.toArray(Long[]::new))
                .param(
                        "ats",
                        numbers.stream()
                                .map(one -> Objects.requireNonNull(since.get(one))
                                        .at()
                                        .atOffset(ZoneOffset.UTC)
                                        .toString())
                                .toArray(String[]::new))
                .query(row -> {
                    changed.put(row.getLong("product"), row.getInt("n"));
                });
        return changed;
    }

    /**
     * The deliveries of a product, the last one first.
     *
     * @param before only those with a smaller number
     */
    @Transactional(readOnly = true)
    public List<DeliveryReply> history(String slug, int before) {
        return record.history(products.find(slug).id(), before, PAGE);
    }

    /** Starts a delivery. */
    @Transactional(readOnly = true)
    public void start(long person, String slug) {
        people.rights(person).requireCoordinator("deliver");
        Product product = loader.product(slug);
        if (recipes.of(product.id()).stream().noneMatch(Recipe::active)) {
            throw Refusal.unacceptable(
                    "no-recipe",
                    "{product} has no recipe that is switched on, so there is nothing to deliver.",
                    Map.of("product", product.of().name()));
        }
        runs.start(Delivering.RUN, product.id(), person, "");
    }

    /** What is going on or was last. */
    @Transactional(readOnly = true)
    public Optional<RunReply> run(String slug) {
        return runs.latest(Delivering.RUN, products.find(slug).id());
    }

    /** Ends what is going on. */
    public void cancel(long person, String slug) {
        people.rights(person).requireCoordinator("deliver");
        runs.cancel(Delivering.RUN, products.find(slug).id());
    }

    /** Begins the deliveries whose time has come; of several servers one does each. */
    public void beginDue() {
        for (Plans.Due due : plans.due()) {
            runs.startWhen(
                    Delivering.RUN,
                    due.product(),
                    due.person(),
                    Delivering.BY_ITSELF,
                    () -> plans.claim(due.product()));
        }
    }

    /** Delivers in the transaction under way, without a run. */
    void deliverNow(long person, String slug) {
        delivering.deliver(new Order(loader.product(slug).id(), person, ""), Progress.UNWATCHED);
    }

    /** Makes everything and keeps nothing; what {@code use} makes of it and of what is said of the languages. */
    public <T> T tried(long person, String slug, BiFunction<Made, List<LanguageVerdict>, T> use) {
        people.rights(person).requireCoordinator("deliver");
        return delivering.tried(slug, use);
    }

    /** Files of a recipe as it is being written. */
    public List<RecipeExample> example(String slug, Recipe.RecipeSettings settings) {
        reading.requireAll(SEE);
        return delivering.example(slug, settings);
    }

    /** What files of such a recipe would not hold, by language. */
    public List<LanguageFiles.LanguageLosses> losses(long person, String slug, Recipe.RecipeSettings settings) {
        people.rights(person).requireCoordinator("have all texts of a recipe looked at");
        return delivering.losses(slug, settings);
    }

    /** A delivery of a product. */
    @Transactional(readOnly = true)
    public KeptDelivery found(String slug, int number) {
        return record.find(products.find(slug).id(), number);
    }

    /** The files of a delivery. */
    @Transactional(readOnly = true)
    public List<DeliveredFile> files(String slug, int number) {
        return record.files(found(slug, number).id());
    }

    /** Takes a delivery back with a reason: it stays in the list, and the one before counts as the last. */
    @Transactional
    public void recall(long person, String slug, int number, String reason) {
        people.rights(person).requireCoordinator("recall deliveries");
        KeptDelivery found = found(slug, number);
        if (reason.isBlank()) {
            throw Refusal.unacceptable("no-reason", "Say why it is recalled.", Map.of("field", "reason"));
        }
        if (!record.recall(found.id(), clock.instant(), person, reason.strip())) {
            throw Refusal.conflict("recalled-already", "This delivery was recalled already.", Map.of());
        }
        webhooks.tell(products.find(slug), found.id(), number, found.reply().contents(), "recalled");
    }

    /** What the next delivery would change since the last one; it is made for that, and not kept. */
    public Compared ahead(long person, String slug) {
        people.rights(person).requireCoordinator("deliver");
        Optional<Long> last = record.last(products.find(slug).id()).map(KeptDelivery::id);
        return delivering.tried(slug, (made, languages) -> Compared.ahead(jdbc, contents, last, made));
    }

    /** What is different between two deliveries. */
    @Transactional(readOnly = true)
    public Compared compare(String slug, int from, int to) {
        reading.requireAll(SEE);
        return Compared.of(
                jdbc, contents, found(slug, from).id(), found(slug, to).id());
    }
}
