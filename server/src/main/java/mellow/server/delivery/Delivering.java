package mellow.server.delivery;

import java.io.InputStream;
import java.time.Clock;
import java.util.HashMap;
import java.util.HashSet;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.stream.Collectors;
import mellow.core.delivery.UndeliverableException;
import mellow.core.format.UnwritableTextException;
import mellow.core.language.LanguageTag;
import mellow.server.common.Refusal;
import mellow.server.delivery.DeliveryRecord.KeptDelivery;
import mellow.server.delivery.Judge.Judgement;
import mellow.server.delivery.Judge.LanguageVerdict;
import mellow.server.people.PeopleService;
import mellow.server.record.RecordReader;
import mellow.server.run.RunService;
import mellow.server.run.RunService.Order;
import mellow.server.run.RunService.Progress;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;

/** Delivers: looks at the gates, makes the files from one state of the record, and keeps them as a numbered snapshot, all or nothing. */
@Component
class Delivering {

    static final String RUN = "deliver";
    /** What a run is told that nobody asked for. */
    static final String BY_ITSELF = "by itself";

    private final ProductLoader products;
    private final PeopleService people;
    private final Recipes recipes;
    private final Plans plans;
    private final Judge judge;
    private final List<BeforeJudging> before;
    private final Maker maker;
    private final Contents contents;
    private final EntryNumbers numbers;
    private final DeliveryRecord record;
    private final Webhooks webhooks;
    private final JdbcClient jdbc;
    private final Clock clock;
    private final TransactionTemplate oneState;

    Delivering(
            ProductLoader products,
            PeopleService people,
            Recipes recipes,
            Plans plans,
            Judge judge,
            List<BeforeJudging> before,
            Maker maker,
            Contents contents,
            EntryNumbers numbers,
            DeliveryRecord record,
            Webhooks webhooks,
            RunService runs,
            JdbcClient jdbc,
            Clock clock,
            PlatformTransactionManager transactions) {
        this.products = products;
        this.people = people;
        this.recipes = recipes;
        this.plans = plans;
        this.judge = judge;
        this.before = before;
        this.maker = maker;
        this.contents = contents;
        this.numbers = numbers;
        this.record = record;
        this.webhooks = webhooks;
        this.jdbc = jdbc;
        this.clock = clock;
        this.oneState = new TransactionTemplate(transactions);
        this.oneState.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
        this.oneState.setIsolationLevel(TransactionDefinition.ISOLATION_REPEATABLE_READ);
        this.oneState.setReadOnly(true);
        runs.handle(RUN, this::deliver);
    }

    /** Delivers in the transaction under way. */
    void deliver(Order order, Progress progress) {
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
        long number = order.subject();
        Product product = products.product(jdbc.sql("select slug from product where id = :id and removed_at is null")
                .param("id", number)
                .query(String.class)
                .optional()
                .orElseThrow(() -> Refusal.notFound("no-such-product", "This product was removed.")));
        // One delivery of a product after the other, on any server; and numbers are given to nobody else meanwhile.
        plans.hold(number);
        Plans.DeliveryPlan plan = plans.of(number);
        Making making =
                new Making(product, plan.gates(), active(number), record.nextNumber(number), numbers.of(number));
        before.forEach(one -> one.bringUpToDate(product.of().slug()));
        try (Made made = new Made()) {
            Judgement judged = Objects.requireNonNull(oneState.execute(status -> make(making, made, progress)));
            Optional<KeptDelivery> former = record.last(number);
            byte[] whole = made.contents();
            if (byItself
                    && former.isPresent()
                    && former.get().reply().contents().equals(HexFormat.of().formatHex(whole))) {
                return "Nothing had changed, so nothing was delivered.";
            }
            numbers.keep(number, making.numbers);
            keep(made);
            long id = record.add(
                    new DeliveryRecord.NewDelivery(
                            product,
                            making.number,
                            clock.instant(),
                            order.person(),
                            byItself,
                            making.recipes,
                            judged.languages(),
                            whole,
                            changed(product, made, former),
                            plan.outbox()),
                    made);
            webhooks.tell(product.of(), id, making.number, Packing.hex(whole), "delivered");
            return "Delivered as no. " + making.number + ".";
        }
    }

    private List<Recipe> active(long product) {
        return recipes.of(product).stream().filter(Recipe::active).toList();
    }

    /**
     * What is to be made.
     *
     * @param number of the delivery
     */
    private record Making(
            Product product, Gates gates, List<Recipe> recipes, int number, EntryNumbers.Numbers numbers) {}

    /** Looks at the gates and makes everything, from one state of the record. */
    private Judgement make(Making making, Made made, Progress progress) {
        Product product = making.product;
        Judgement judged = judge.at(product.tables()).judge(product, making.gates);
        requireOpen(product, judged);
        Optional<KeptDelivery> former = record.last(product.id());
        Map<LanguageTag, Map<Long, TextLine>> held = new HashMap<>();
        Set<LanguageTag> without = new HashSet<>();
        for (LanguageVerdict one : judged.languages()) {
            if (!one.answer().equals("held")) {
                continue;
            }
            LanguageTag tag = new LanguageTag(one.language());
            Optional<byte[]> hash = former.flatMap(last -> record.texts(last.id(), tag));
            if (hash.isEmpty()) {
                without.add(tag);
            } else {
                Map<Long, TextLine> lines = TextLine.all(contents.open(hash.get()));
                held.put(tag, lines);
                made.texts(tag, new Made.TextsMade(lines.size(), null, hash.get()));
            }
        }
        Maker.Order order = new Maker.Order(
                product,
                making.number,
                held,
                without,
                making.gates.stale().equals("hole"),
                making.gates.blockers().equals("out") ? judge.blocked(product) : Map.of(),
                making.numbers,
                RecordReader.ALL);
        maker.make(making.recipes, order, made, progress);
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

    private void keep(Made made) {
        made.texts().values().forEach(texts -> {
            if (texts.content() != null) {
                contents.keep(texts.hash(), texts.content());
            }
        });
        made.files().forEach(file -> contents.keep(file.hash(), file.content()));
    }

    private int changed(Product product, Made made, Optional<KeptDelivery> former) {
        Function<byte[], InputStream> open = Compared.opener(made, contents);
        int changed = 0;
        for (Map.Entry<LanguageTag, Made.TextsMade> one : made.texts().entrySet()) {
            Optional<byte[]> then = former.flatMap(last -> record.texts(last.id(), one.getKey()));
            if (then.isPresent()) {
                changed += Compared.texts(open, then.get(), open, one.getValue().hash(), 0, line -> {});
            } else if (product.languages().language(one.getKey()).isPresent()) {
                changed += one.getValue().texts();
            }
        }
        return changed;
    }

    /** Makes everything and keeps nothing; what {@code use} makes of it. */
    <T> T tried(String slug, BiFunction<Made, List<LanguageVerdict>, T> use) {
        Product product = products.product(slug);
        Making making = new Making(
                product,
                plans.of(product.id()).gates(),
                active(product.id()),
                record.nextNumber(product.id()),
                numbers.of(product.id()));
        before.forEach(one -> one.bringUpToDate(slug));
        try (Made made = new Made()) {
            Judgement judged =
                    Objects.requireNonNull(oneState.execute(status -> make(making, made, Progress.UNWATCHED)));
            return use.apply(made, judged.languages());
        } catch (UndeliverableException | UnwritableTextException stopped) {
            throw refused(stopped);
        }
    }

    /** What the files of a recipe would be called and how they begin, from the first entries of each table. */
    record RecipeExample(String path, String begins) {}

    /** Files of a recipe as it is being written. */
    List<RecipeExample> example(String slug, Recipe.RecipeSettings settings) {
        return looked(slug, settings, Compared.EXAMPLE_ENTRIES, (recipe, order) -> {
            try (Made made = new Made()) {
                maker.make(recipe, order, made);
                return made.files().stream()
                        .map(file -> new RecipeExample(file.path(), Compared.beginning(file.content())))
                        .toList();
            }
        });
    }

    /** What files of such a recipe would not hold. */
    List<LanguageFiles.LanguageLosses> losses(String slug, Recipe.RecipeSettings settings) {
        return looked(slug, settings, RecordReader.ALL, maker::losses);
    }

    /** What comes of a recipe that is not kept, from one state of the record. */
    private <T> T looked(
            String slug, Recipe.RecipeSettings settings, int most, BiFunction<Recipe, Maker.Order, T> use) {
        settings.requireSound();
        Product product = products.product(slug);
        Maker.Order order = new Maker.Order(
                product,
                record.nextNumber(product.id()),
                Map.of(),
                Set.of(),
                false,
                Map.of(),
                numbers.of(product.id()),
                most);
        try {
            return Objects.requireNonNull(
                    oneState.execute(status -> use.apply(new Recipe(0, "example", settings, true, 0), order)));
        } catch (UndeliverableException | UnwritableTextException stopped) {
            throw refused(stopped);
        }
    }
}
