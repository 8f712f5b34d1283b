package mellow.server.delivery;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import mellow.core.check.Kind;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import mellow.core.product.LanguageResolver;
import mellow.core.product.ProductLanguage;
import mellow.core.product.TextResolver;
import mellow.core.pseudo.Pretend;
import mellow.core.text.Places;
import mellow.server.common.Coded;
import mellow.server.common.Refusal;
import mellow.server.common.TextColumns;
import mellow.server.language.LanguageService;
import mellow.server.people.Reading;
import mellow.server.product.StepReply;
import mellow.server.table.TableInfo;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Says which language and which text people see in a product, what they see in another language, and what would hurt later. */
@Service
class ProductAnswers {

    private static final int PAGE = 100;

    private static final String MISSING = Coded.sql(
            """
            select e.id, e.table_id, e.key, e.context, e.source, e.source_forms, l.language_id from entry e
            cross join unnest(:languages::int[]) with ordinality l (language_id, place)
            join ledger_table t on t.id = e.table_id
            left join cell c on c.entry_id = e.id and c.language_id = l.language_id and c.standing = {standing.settled}
            where e.table_id = any(:tables) and e.removed_at is null and e.translatable and e.shape <> 'asset' and c.entry_id is null and l.language_id <> t.source_language_id
              and (:find = '' or position(lower(:find) in lower(e.key)) > 0 or position(lower(:find) in lower(e.source)) > 0)
            order by array_position(:tables::bigint[], e.table_id), e.position, e.id, l.place offset :from limit :most
            """);
    private static final String IN_FORCE = Coded.sql(
            """
            select entry_id, language_id, text, forms from cell where entry_id = any(:entries) and language_id = any(:languages) and standing = {standing.settled}
            """);

    private final ProductLoader products;
    private final Judge judge;
    private final LanguageService languages;
    private final Reading reading;
    private final JdbcClient jdbc;

    ProductAnswers(ProductLoader products, Judge judge, LanguageService languages, Reading reading, JdbcClient jdbc) {
        this.products = products;
        this.judge = judge;
        this.languages = languages;
        this.reading = reading;
        this.jdbc = jdbc;
    }

    /**
     * An answer.
     *
     * @param language the language that is meant
     * @param text what people see, null when no entry was asked for or there is none of that key, which the steps of the text say then
     * @param from the language of what they see
     * @param key whether they see the key
     */
    record AnswerReply(
            String language,
            List<StepReply> steps,
            @Nullable Map<String, String> text,
            @Nullable String from,
            boolean borrowed,
            boolean key,
            List<StepReply> textSteps) {}

    /**
     * Which language is meant and which text is shown.
     *
     * @param how number, tag, list or address
     * @param key an entry's key, empty for none
     */
    @Transactional(readOnly = true)
    public AnswerReply answer(String slug, String how, String asked, String key) {
        Product product = products.product(slug);
        LanguageResolver resolver = new LanguageResolver(product.languages());
        LanguageResolver.Answer meant =
                switch (how) {
                    case "number" -> resolver.number(asked);
                    case "tag" -> resolver.tag(asked);
                    case "list" -> resolver.list(asked);
                    case "address" -> {
                        String bare = asked.replaceFirst("^[a-z]+://", "");
                        int slash = bare.indexOf('/');
                        yield resolver.address(
                                slash < 0 ? bare : bare.substring(0, slash), slash < 0 ? "/" : bare.substring(slash));
                    }
                    default ->
                        throw Refusal.unacceptable(
                                "unknown-choice",
                                "Ask by number, tag, list or address, not by “{said}”.",
                                Map.of("field", "how", "said", how));
                };
        if (key.isEmpty()) {
            return new AnswerReply(
                    meant.language().value(), StepReply.of(meant.steps()), null, null, false, false, List.of());
        }
        Optional<Entry> named = entry(product, key);
        if (named.isEmpty()) {
            Map<String, Object> values = Map.of("product", product.of().name(), "key", key);
            StepReply none = new StepReply(
                    "no-such-entry", values, Places.filled("No table of {product} has an entry “{key}”.", values));
            return new AnswerReply(
                    meant.language().value(), StepReply.of(meant.steps()), null, null, false, false, List.of(none));
        }
        Entry entry = named.get();
        TextResolver texts = new TextResolver(product.languages(), meant.language(), entry.source);
        Map<Long, Map<LanguageTag, FileText>> inForce = inForce(List.of(entry.id), texts.reads());
        TextResolver.Answer shown = texts.of(
                tag -> inForce.getOrDefault(entry.id, Map.of()).getOrDefault(tag, FileText.NONE),
                entry.text,
                entry.translatable);
        if (!reads(shown.from(), entry.source)) {
            throw Refusal.forbidden(
                    "own-languages-only",
                    "What is shown is in {language}, which is none of your languages.",
                    Map.of("language", shown.from()));
        }
        return new AnswerReply(
                meant.language().value(),
                StepReply.of(meant.steps()),
                shown.text().forms(),
                shown.from().value(),
                shown.borrowed(),
                shown.text().isEmpty(),
                StepReply.of(shown.steps()));
    }

    /** Whether whoever asks may read a text; sources are read by everybody. */
    private boolean reads(LanguageTag from, LanguageTag source) {
        return from.equals(source) || reading.reads(from);
    }

    private record Entry(long id, LanguageTag source, FileText text, boolean translatable) {}

    private Optional<Entry> entry(Product product, String key) {
        return jdbc.sql(
                        """
                        select e.id, e.table_id, e.source, e.source_forms, e.translatable from entry e
                        where e.table_id = any(:tables) and e.removed_at is null and e.key = :key
                        order by array_position(:tables::bigint[], e.table_id), e.position limit 1
                        """)
                .param("tables", tables(product))
                .param("key", key)
                .query((row, n) -> new Entry(
                        row.getLong(1),
                        sourceOf(product, row.getLong(2)),
                        new FileText(TextColumns.allForms(row.getString(3), row.getString(4)), Optional.empty()),
                        row.getBoolean(5)))
                .optional();
    }

    private static LanguageTag sourceOf(Product product, long table) {
        return product.tables().stream()
                .filter(one -> one.id() == table)
                .map(TableInfo::source)
                .findFirst()
                .orElseThrow();
    }

    private static Long[] tables(Product product) {
        return product.tables().stream().map(TableInfo::id).toArray(Long[]::new);
    }

    private Map<Long, Map<LanguageTag, FileText>> inForce(List<Long> entries, List<LanguageTag> tags) {
        Map<Long, Map<LanguageTag, FileText>> inForce = new HashMap<>();
        jdbc.sql(IN_FORCE)
                .param("entries", entries.toArray(Long[]::new))
                .param(
                        "languages",
                        tags.stream()
                                .flatMap(tag -> languages.known(tag).stream())
                                .toArray(Integer[]::new))
                .query(row -> {
                    inForce.computeIfAbsent(row.getLong("entry_id"), e -> new HashMap<>())
                            .put(
                                    languages.tag(row.getInt("language_id")),
                                    new FileText(
                                            TextColumns.allForms(row.getString("text"), row.getString("forms")),
                                            Optional.empty()));
                });
        return inForce;
    }

    /**
     * A text that people see in another language.
     *
     * @param language the language in which they look
     * @param text what they see; empty for those who may not read it
     * @param from the language that they see
     */
    record BorrowedText(
            String table,
            String key,
            String context,
            String language,
            Map<String, String> text,
            String from,
            boolean source) {}

    /** Some of what is borrowed. */
    record BorrowedPage(List<BorrowedText> texts, boolean more) {}

    /**
     * What people see in another language.
     *
     * @param in a language, empty for all of the product
     * @param find words that key or source have, empty for all
     */
    @Transactional(readOnly = true)
    public BorrowedPage borrowed(String slug, String in, String find, int from) {
        Product product = products.product(slug);
        List<LanguageTag> tags = product.languages().all().stream()
                .map(ProductLanguage::tag)
                .filter(tag -> (in.isEmpty() || tag.value().equals(in)) && reading.reads(tag))
                .filter(tag -> Pretend.of(tag).isEmpty())
                .toList();
        record Missing(long entry, long table, String key, String context, FileText source, LanguageTag tag) {}
        List<Missing> missing = jdbc.sql(MISSING)
                .param("languages", tags.stream().map(languages::number).toArray(Integer[]::new))
                .param("tables", tables(product))
                .param("find", find)
                .param("from", Math.max(0, from))
                .param("most", PAGE + 1)
                .query((row, n) -> new Missing(
                        row.getLong("id"),
                        row.getLong("table_id"),
                        row.getString("key"),
                        row.getString("context"),
                        new FileText(
                                TextColumns.allForms(row.getString("source"), row.getString("source_forms")),
                                Optional.empty()),
                        languages.tag(row.getInt("language_id"))))
                .list();
        Map<LanguageTag, TextResolver> resolvers = new TreeMap<>();
        Set<LanguageTag> reads = new HashSet<>();
        for (Missing one : missing) {
            resolvers.computeIfAbsent(
                    one.tag, tag -> new TextResolver(product.languages(), tag, sourceOf(product, one.table)));
        }
        resolvers.values().forEach(one -> reads.addAll(one.reads()));
        Map<Long, Map<LanguageTag, FileText>> inForce =
                inForce(missing.stream().map(Missing::entry).distinct().toList(), List.copyOf(reads));
        List<BorrowedText> borrowed = new ArrayList<>();
        for (Missing one : missing.subList(0, Math.min(PAGE, missing.size()))) {
            TextResolver.Answer shown = Objects.requireNonNull(resolvers.get(one.tag))
                    .of(
                            tag -> inForce.getOrDefault(one.entry, Map.of()).getOrDefault(tag, FileText.NONE),
                            one.source,
                            true);
            TableInfo table = product.tables().stream()
                    .filter(info -> info.id() == one.table)
                    .findFirst()
                    .orElseThrow();
            borrowed.add(new BorrowedText(
                    table.slug(),
                    one.key,
                    one.context,
                    one.tag.value(),
                    reads(shown.from(), table.source()) ? shown.text().forms() : Map.of(),
                    shown.from().value(),
                    shown.from().equals(table.source())));
        }
        return new BorrowedPage(borrowed, missing.size() > PAGE);
    }

    /**
     * Something that would hurt later.
     *
     * @param code stable
     * @param values what stands in the sentence
     * @param stops whether it stops a delivery
     * @param table where to look, null for nowhere
     * @param language where to look, null for nowhere
     */
    record ProductWarning(
            String code,
            String sentence,
            Map<String, Object> values,
            boolean stops,
            @Nullable String table,
            @Nullable String language) {

        static ProductWarning of(
                String code,
                String pattern,
                Map<String, Object> values,
                boolean stops,
                @Nullable String table,
                @Nullable String language) {
            return new ProductWarning(code, Places.filled(pattern, values), values, stops, table, language);
        }
    }

    /** What would hurt later. */
    @Transactional(readOnly = true)
    public List<ProductWarning> warnings(String slug) {
        Product product = products.product(slug);
        List<ProductWarning> warnings = new ArrayList<>();
        for (Judge.SourceHole hole :
                judge.at(product.tables()).judge(product, Gates.USUAL).holes()) {
            warnings.add(ProductWarning.of(
                    "base-not-whole",
                    hole.entries() == 1
                            ? "{table}: {n} entry has no source text. It stops every delivery."
                            : "{table}: {n} entries have no source text. They stop every delivery.",
                    Map.of("table", hole.tableName(), "n", hole.entries()),
                    true,
                    hole.table(),
                    null));
        }
        Set<LanguageTag> listed = new HashSet<>();
        product.languages().all().forEach(one -> listed.add(one.tag()));
        product.tables().stream()
                .flatMap(table -> table.languages().stream())
                .map(TableInfo.Kept::tag)
                .filter(tag -> !listed.contains(tag) && reading.reads(tag))
                .distinct()
                .forEach(tag -> warnings.add(ProductWarning.of(
                        "not-in-product",
                        "{language} is kept in these tables and is not in this product.",
                        Map.of("language", languages.describe(tag).englishName()),
                        false,
                        null,
                        tag.value())));
        product.languages().all().stream()
                .map(ProductLanguage::tag)
                .filter(tag -> Pretend.of(tag).isEmpty())
                .filter(tag -> product.tables().stream()
                        .noneMatch(table -> table.source().equals(tag)
                                || table.language(tag).isPresent()))
                .forEach(tag -> warnings.add(ProductWarning.of(
                        "kept-nowhere",
                        "{language} is in this product, and none of its tables is kept in it.",
                        Map.of("language", languages.describe(tag).englishName()),
                        false,
                        null,
                        tag.value())));
        twins(product, warnings);
        renumbered(product, warnings);
        letters(product, warnings);
        return warnings;
    }

    /** Texts whose letters a font or a character set lacks, as the checks keep it beside them. */
    private void letters(Product product, List<ProductWarning> warnings) {
        Map<String, Integer> lacking = new HashMap<>();
        jdbc.sql(
                        """
                        select l.tag, count(*)::int n from finding_mask m join language l on l.id = m.language_id
                        where m.table_id = any(:tables) and (m.stops | m.minds) & :letters <> 0 group by 1
                        """)
                .param("tables", product.tables().stream().map(TableInfo::id).toArray(Long[]::new))
                .param("letters", Kind.LETTERS.bit())
                .query(row -> {
                    lacking.put(row.getString("tag"), row.getInt("n"));
                });
        for (ProductLanguage one : product.languages().all()) {
            Integer n = lacking.get(one.tag().value());
            if (n != null && reading.reads(one.tag())) {
                warnings.add(ProductWarning.of(
                        "letters-lacking",
                        n == 1
                                ? "{n} text in {language} has letters that a font or a character set lacks."
                                : "{n} texts in {language} have letters that a font or a character set lacks.",
                        Map.of("n", n, "language", languages.describe(one.tag()).englishName()),
                        false,
                        null,
                        one.tag().value()));
            }
        }
    }

    private static void twins(Product product, List<ProductWarning> warnings) {
        LanguageResolver resolver = new LanguageResolver(product.languages());
        for (ProductLanguage one : product.languages().all()) {
            LanguageTag meant = resolver.tag(one.tag().value()).language();
            if (!meant.equals(one.tag())) {
                warnings.add(ProductWarning.of(
                        "same-language",
                        "{tag} and {other} mean the same language.",
                        Map.of("tag", one.tag().value(), "other", meant.value()),
                        false,
                        null,
                        one.tag().value()));
            }
        }
    }

    /** Programs out there still write the numbers that the last delivery told them. */
    private void renumbered(Product product, List<ProductWarning> warnings) {
        Map<String, Integer> then = new HashMap<>();
        jdbc.sql(
                        """
                        select l.value ->> 'language' tag, (l.value ->> 'selector')::int selector from delivery d, jsonb_array_elements(d.selectors) l
                        where d.product_id = :product and d.recalled_at is null
                          and d.number = (select max(number) from delivery where product_id = :product and recalled_at is null)
                        """)
                .param("product", product.id())
                .query(row -> {
                    if (row.getObject("selector") != null) {
                        then.put(row.getString("tag"), row.getInt("selector"));
                    }
                });
        for (ProductLanguage one : product.languages().all()) {
            Integer was = then.get(one.tag().value());
            if (was != null && !was.equals(one.selector())) {
                warnings.add(ProductWarning.of(
                        "renumbered",
                        one.selector() == null
                                ? "{language} had the number {was} in the last delivery and has none now; programs out there still write the old one."
                                : "{language} had the number {was} in the last delivery and has {number} now; programs out there still write the old one.",
                        Map.of(
                                "language",
                                languages.describe(one.tag()).englishName(),
                                "was",
                                was,
                                "number",
                                one.selector() == null ? 0 : one.selector()),
                        false,
                        null,
                        one.tag().value()));
            }
        }
    }
}
