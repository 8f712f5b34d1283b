package mellow.server.delivery;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import mellow.core.delivery.FilePattern;
import mellow.core.delivery.KeyConstants;
import mellow.core.delivery.SelectorTable;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FileText;
import mellow.core.format.registry.Formats;
import mellow.core.format.registry.Losses;
import mellow.core.language.LanguageTag;
import mellow.core.merge.RecordEntry;
import mellow.core.product.ProductLanguage;
import mellow.server.language.LanguageService;
import mellow.server.record.RecordReader;
import mellow.server.run.RunService.Progress;
import mellow.server.table.TableInfo;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Makes the files of recipes from the record: the same bytes from the same record. A separated file with a column per language is written entry by entry. */
@Component
class Maker {

    private static final JsonMapper JSON = JsonMapper.shared();

    private final RecordReader records;
    private final LanguageService languages;
    private final OtherFiles others;
    private final LanguageFiles apart;
    private final OwnFiles inPlace;

    Maker(RecordReader records, LanguageService languages, OtherFiles others, LanguageFiles apart, OwnFiles inPlace) {
        this.records = records;
        this.languages = languages;
        this.others = others;
        this.apart = apart;
        this.inPlace = inPlace;
    }

    /**
     * What is made.
     *
     * @param number of the delivery
     * @param former the texts of the last delivery of languages that are held back
     * @param without languages that are held back and were never delivered
     * @param staleOut whether stale texts count as missing
     * @param blocked texts that are left out because they would break, by language
     * @param numbers what stands for entries
     * @param most entries of a table that are written, for an example; {@link RecordReader#ALL} for all
     */
    record Order(
            Product product,
            int number,
            Map<LanguageTag, Map<Long, TextLine>> former,
            Set<LanguageTag> without,
            boolean staleOut,
            Map<LanguageTag, Set<Long>> blocked,
            EntryNumbers.Numbers numbers,
            int most) {

        /** The languages of a recipe that go out. */
        List<ProductLanguage> chosen(Recipe.RecipeSettings settings) {
            return product.languages().all().stream()
                    .filter(one -> switch (settings.which()) {
                        case "all" -> true;
                        case "chosen" -> settings.languages().contains(one.tag().value());
                        default -> !one.hidden();
                    })
                    .filter(one -> !without.contains(one.tag()))
                    .toList();
        }

        /** What a file of a recipe is called. */
        String name(
                Recipe recipe,
                @Nullable TableInfo table,
                @Nullable ProductLanguage language,
                String key,
                String ending) {
            return name(recipe, table, language, key, "", ending);
        }

        /** What a file is called that lay at a path. */
        String nameOf(Recipe recipe, TableInfo table, @Nullable LanguageTag language, String path) {
            ProductLanguage ours = product.languages().all().stream()
                    .filter(one -> one.tag().equals(language))
                    .findFirst()
                    .orElse(null);
            return name(recipe, table, ours, "", path, "");
        }

        private String name(
                Recipe recipe,
                @Nullable TableInfo table,
                @Nullable ProductLanguage language,
                String key,
                String path,
                String ending) {
            return new FilePattern(recipe.settings().pattern())
                    .name(new FilePattern.Fill(
                            product.of().slug(),
                            table == null ? "" : table.slug(),
                            "",
                            language == null ? null : language.tag(),
                            language == null ? null : language.selector(),
                            number,
                            key,
                            path,
                            ending));
        }

        /** What a file of many entries is called. */
        String name(Recipe recipe, @Nullable TableInfo table, @Nullable ProductLanguage language) {
            return name(recipe, table, language, "", recipe.settings().ending());
        }
    }

    /** Makes what recipes say into {@code made}, and what is in force in every language. */
    void make(List<Recipe> recipes, Order order, Made made, Progress progress) {
        SharedReading shared = new SharedReading(records, order);
        for (Recipe recipe : recipes) {
            make(recipe, order, made, shared, progress);
        }
        shared.add(new SharedReading.InForce(order, made));
        shared.run(progress);
    }

    /** Makes what one recipe says. */
    void make(Recipe recipe, Order order, Made made) {
        SharedReading shared = new SharedReading(records, order);
        make(recipe, order, made, shared, Progress.UNWATCHED);
        shared.run(Progress.UNWATCHED);
    }

    /** What files of a recipe would not hold, by language; nothing of those that are no new files of texts. */
    List<LanguageFiles.LanguageLosses> losses(Recipe recipe, Order order) {
        return recipe.settings().ofTexts() && !recipe.settings().inPlace() ? apart.losses(recipe, order) : List.of();
    }

    /** Makes it, or has it made with all that is made in the shared reading. */
    private void make(Recipe recipe, Order order, Made made, SharedReading shared, Progress progress) {
        switch (recipe.settings().kind()) {
            case "selectors" -> selectors(recipe, order, made);
            case "keys" -> shared.add(new Constants(recipe, order, made));
            case "assets" -> others.assets(recipe, order, made, progress);
            case "fonts" -> {
                if (recipe.settings().format().equals("cut")) {
                    shared.add(others.cutFonts(recipe, order, made));
                } else {
                    others.fonts(recipe, order, made);
                }
            }
            case "wordbook" -> others.wordbook(recipe, order, made);
            default -> {
                if (recipe.settings().inPlace()) {
                    inPlace.make(recipe, order, made, progress);
                } else if (!recipe.settings().together()) {
                    apart.make(recipe, order, made, progress);
                } else if (recipe.settings().format().equals("csv")) {
                    shared.add(new Separated(recipe, order, made));
                } else {
                    shared.add(new Together(recipe, order, made));
                }
            }
        }
    }

    private void selectors(Recipe recipe, Order order, Made made) {
        List<SelectorTable.Row> rows = order.chosen(recipe.settings()).stream()
                .map(one -> new SelectorTable.Row(
                        one.selector(),
                        one.tag().value(),
                        Objects.requireNonNull(
                                        order.product.shown().get(one.tag().value()))
                                .shownAs(),
                        languages.describe(one.tag()).rightToLeft() ? "rtl" : "ltr",
                        one.tag().equals(order.product.languages().start())))
                .toList();
        made.add(order.name(recipe, null, null), recipe.id(), null, out -> {
            if (recipe.settings().format().equals("json")) {
                out.write(JSON.writerWithDefaultPrettyPrinter().writeValueAsBytes(rows));
                out.write('\n');
            } else {
                try (SeparatedFile separated = new SeparatedFile(recipe, out)) {
                    for (SelectorTable.Row row : rows) {
                        separated.require("name", row.name(), row.tag());
                    }
                    SelectorTable.csv(rows, recipe.settings().between(), separated.writer());
                }
            }
        });
    }

    /** Constants for keys, held in memory. */
    private static final class Constants implements SharedReading.Part {
        private final Recipe recipe;
        private final Order order;
        private final Made made;
        private final List<KeyConstants.Key> keys = new ArrayList<>();

        Constants(Recipe recipe, Order order, Made made) {
            this.recipe = recipe;
            this.order = order;
            this.made = made;
        }

        @Override
        public Consumer<RecordEntry> begin(TableInfo table, Collection<LanguageTag> reads) {
            if (!recipe.settings().of(order.product.tables()).contains(table)) {
                return entry -> {};
            }
            return entry -> keys.add(new KeyConstants.Key(
                    entry.entryId().key(),
                    entry.entryId().context(),
                    entry.source().main(),
                    recipe.settings().numbers() ? order.numbers.of(entry.id()) : null));
        }

        @Override
        public void finish() {
            Recipe.RecipeSettings settings = recipe.settings();
            String prefix = settings.prefix().isBlank() ? order.product.of().slug() : settings.prefix();
            KeyConstants constants = new KeyConstants(settings.constants(), prefix, settings.namespace());
            made.add(order.name(recipe, null, null), recipe.id(), null, out -> {
                Writer writer = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8));
                constants.write(keys, writer);
            });
        }
    }

    /** Separated text with a column per language, written entry by entry. */
    private final class Separated implements SharedReading.Part {
        private final Recipe recipe;
        private final Order order;
        private final List<ProductLanguage> chosen;
        private final List<TableInfo> tables;
        private final FileKeys keys;
        private final Made.Begun file;
        private final SeparatedFile separated;

        Separated(Recipe recipe, Order order, Made made) {
            this.recipe = recipe;
            this.order = order;
            this.chosen = order.chosen(recipe.settings());
            this.tables = recipe.settings().of(order.product.tables());
            this.keys = new FileKeys(recipe, tables.size());
            this.file = made.begin(order.name(recipe, null, null), recipe.id(), null);
            try {
                this.separated = new SeparatedFile(recipe, file.out());
                separated.begin(
                        records.anyContext(tables.stream().map(TableInfo::id).toList()),
                        chosen.stream().map(ProductLanguage::tag).toList());
            } catch (IOException failed) {
                throw new UncheckedIOException(failed);
            }
        }

        @Override
        public boolean offers() {
            return recipe.settings().offers();
        }

        @Override
        public Consumer<RecordEntry> begin(TableInfo table, Collection<LanguageTag> reads) {
            if (!tables.contains(table)) {
                return entry -> {};
            }
            RecipeTexts texts = new RecipeTexts(recipe, order, table, chosen);
            reads.addAll(texts.reads());
            return entry -> separated.all(texts.entry(entry, keys));
        }

        @Override
        public void finish() throws IOException {
            separated.close();
            file.finish();
        }
    }

    /** A file with the texts of every language in a format that is written at once; held in memory until then. */
    private static final class Together implements SharedReading.Part {
        private final Recipe recipe;
        private final Order order;
        private final Made made;
        private final List<ProductLanguage> chosen;
        private final List<TableInfo> tables;
        private final FileKeys keys;
        private final List<FileEntry> entries = new ArrayList<>();

        Together(Recipe recipe, Order order, Made made) {
            this.recipe = recipe;
            this.order = order;
            this.made = made;
            LanguageTag source = order.product.source();
            // Such a file begins with the language of the sources.
            this.chosen = new ArrayList<>(order.chosen(recipe.settings()));
            chosen.sort(Comparator.comparing(one -> !one.tag().equals(source)));
            this.tables = recipe.settings().of(order.product.tables());
            this.keys = new FileKeys(recipe, tables.size());
        }

        private boolean hasSource() {
            return !chosen.isEmpty() && chosen.get(0).tag().equals(order.product.source());
        }

        @Override
        public boolean offers() {
            return recipe.settings().offers();
        }

        @Override
        public Consumer<RecordEntry> begin(TableInfo table, Collection<LanguageTag> reads) {
            if (!tables.contains(table)) {
                return entry -> {};
            }
            RecipeTexts texts = new RecipeTexts(recipe, order, table, chosen);
            reads.addAll(texts.reads());
            return entry -> texts.entry(entry, keys).ifPresent(one -> {
                if (hasSource()) {
                    entries.add(one);
                } else {
                    List<FileText> all = new ArrayList<>();
                    all.add(entry.source());
                    all.addAll(one.texts());
                    entries.add(one.copy().texts(all).build());
                }
            });
        }

        @Override
        public void finish() {
            List<LanguageTag> columns = new ArrayList<>();
            if (!hasSource()) {
                columns.add(order.product.source());
            }
            chosen.forEach(one -> columns.add(one.tag()));
            FileFormat format = Formats.named(recipe.settings().format()).orElseThrow();
            made.add(
                    order.name(recipe, null, null),
                    recipe.id(),
                    null,
                    out -> Losses.write(
                            format, EntryList.of(Optional.of(order.product.source()), columns, entries), out));
        }
    }
}
