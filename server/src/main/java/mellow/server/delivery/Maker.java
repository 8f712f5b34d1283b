package mellow.server.delivery;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import mellow.core.cell.Standing;
import mellow.core.delivery.FilePattern;
import mellow.core.delivery.KeyConstants;
import mellow.core.delivery.SelectorTable;
import mellow.core.delivery.UndeliverableException;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FileText;
import mellow.core.format.PlainForms;
import mellow.core.format.json.JsonFormat;
import mellow.core.format.registry.Formats;
import mellow.core.format.registry.Losses;
import mellow.core.format.yaml.YamlFormat;
import mellow.core.language.LanguageTag;
import mellow.core.merge.RecordCell;
import mellow.core.merge.RecordEntry;
import mellow.core.product.ProductLanguage;
import mellow.server.language.LanguageService;
import mellow.server.record.RecordReader;
import mellow.server.run.RunService.Progress;
import mellow.server.table.TableInfo;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/**
 * Makes the files of recipes from the record: the same bytes from the same record. Files of one language hold its entries in memory, one language at a time; a
 * file with a column per language is written entry by entry.
 */
@Component
class Maker {

    /** No limit. */
    static final int ALL = Integer.MAX_VALUE;

    static final long NOBODY = 0;
    private static final JsonMapper JSON = JsonMapper.shared();

    private final RecordReader records;
    private final LanguageService languages;
    private final OtherFiles others;

    Maker(RecordReader records, LanguageService languages, OtherFiles others) {
        this.records = records;
        this.languages = languages;
        this.others = others;
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
     * @param most entries of a table that are written, for an example; {@link #ALL} for all
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
            return new FilePattern(recipe.settings().pattern())
                    .name(new FilePattern.Fill(
                            product.of().slug(),
                            table == null ? "" : table.slug(),
                            "",
                            language == null ? null : language.tag(),
                            language == null ? null : language.selector(),
                            number,
                            key,
                            ending));
        }

        /** What a file of many entries is called. */
        String name(Recipe recipe, @Nullable TableInfo table, @Nullable ProductLanguage language) {
            return name(recipe, table, language, "", recipe.settings().ending());
        }
    }

    /** Makes what one recipe says into {@code made}. */
    void make(Recipe recipe, Order order, Made made, Progress progress) {
        switch (recipe.settings().kind()) {
            case "selectors" -> selectors(recipe, order, made);
            case "keys" -> keys(recipe, order, made);
            case "assets" -> others.assets(recipe, order, made, progress);
            case "fonts" -> others.fonts(recipe, order, made);
            case "wordbook" -> others.wordbook(recipe, order, made);
            default -> texts(recipe, order, made, progress);
        }
    }

    /** Makes what is in force in every language, in one reading of the record. */
    void texts(Order order, Made made) {
        Map<LanguageTag, Made.Hashed> files = new LinkedHashMap<>();
        Map<LanguageTag, Writer> writers = new LinkedHashMap<>();
        Map<LanguageTag, Integer> counts = new HashMap<>();
        List<LanguageTag> tags = order.product.languages().all().stream()
                .map(ProductLanguage::tag)
                .filter(tag -> !order.former.containsKey(tag) && !order.without.contains(tag))
                .toList();
        try {
            for (LanguageTag tag : tags) {
                Made.Hashed file = made.new Hashed();
                files.put(tag, file);
                writers.put(tag, new OutputStreamWriter(file.open(), StandardCharsets.UTF_8));
            }
            for (TableInfo table : order.product.tables()) {
                read(table, tags, order.most, entry -> {
                    for (LanguageTag tag : tags) {
                        FileText text = tag.equals(table.source()) || !entry.translatable()
                                ? entry.source()
                                : settled(entry.cell(tag));
                        if (!text.isEmpty()) {
                            line(writers.get(tag), entry, text);
                            counts.merge(tag, 1, Integer::sum);
                        }
                    }
                });
            }
            for (Writer writer : writers.values()) {
                writer.close();
            }
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
        files.forEach((tag, file) ->
                made.texts(tag, new Made.TextsMade(counts.getOrDefault(tag, 0), file.content(), file.hash())));
    }

    private static void line(@Nullable Writer writer, RecordEntry entry, FileText text) {
        try {
            Objects.requireNonNull(writer)
                    .write(new TextLine(
                                            entry.id(),
                                            entry.entryId().key(),
                                            entry.entryId().context(),
                                            text.forms())
                                    .written()
                            + "\n");
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    private static FileText settled(RecordCell cell) {
        return cell.standing() == Standing.SETTLED ? cell.text() : FileText.NONE;
    }

    private void read(TableInfo table, List<LanguageTag> in, int most, Consumer<RecordEntry> reader) {
        records.read(table.id(), NOBODY, in, most, reader);
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

    private void keys(Recipe recipe, Order order, Made made) {
        List<KeyConstants.Key> keys = new ArrayList<>();
        for (TableInfo table : recipe.settings().of(order.product.tables())) {
            read(
                    table,
                    List.of(),
                    order.most,
                    entry -> keys.add(new KeyConstants.Key(
                            entry.entryId().key(),
                            entry.entryId().context(),
                            entry.source().main(),
                            recipe.settings().numbers() ? order.numbers.of(entry.id()) : null)));
        }
        Recipe.RecipeSettings settings = recipe.settings();
        String prefix = settings.prefix().isBlank() ? order.product.of().slug() : settings.prefix();
        KeyConstants constants = new KeyConstants(settings.constants(), prefix, settings.namespace());
        made.add(order.name(recipe, null, null), recipe.id(), null, out -> {
            Writer writer = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8));
            constants.write(keys, writer);
        });
    }

    private void texts(Recipe recipe, Order order, Made made, Progress progress) {
        List<ProductLanguage> chosen = order.chosen(recipe.settings());
        if (recipe.settings().together()) {
            made.add(order.name(recipe, null, null), recipe.id(), null, out -> together(recipe, order, chosen, out));
            return;
        }
        List<TableInfo> tables = recipe.settings().of(order.product.tables());
        if (tables.isEmpty()) {
            throw new UndeliverableException(
                    "no-table",
                    "The recipe {recipe} is made of no table of the product.",
                    Map.of("recipe", recipe.name()));
        }
        boolean perTable = recipe.settings().files().equals("table");
        long steps = (long) chosen.size() * (perTable ? tables.size() : 1);
        long step = 0;
        for (ProductLanguage language : chosen) {
            List<List<TableInfo>> groups =
                    perTable ? tables.stream().map(List::of).toList() : List.of(tables);
            for (List<TableInfo> group : groups) {
                progress.at(step++, steps);
                String name = order.name(recipe, perTable ? group.get(0) : null, language);
                made.add(name, recipe.id(), language.tag(), out -> apart(recipe, order, language, group, out));
            }
        }
    }

    /** A file of one language. */
    private void apart(Recipe recipe, Order order, ProductLanguage language, List<TableInfo> tables, OutputStream out)
            throws IOException {
        LanguageTag source = tables.get(0).source();
        boolean itself = language.tag().equals(source);
        List<FileEntry> entries = new ArrayList<>();
        FileKeys keys = new FileKeys(recipe, tables.size());
        for (TableInfo table : tables) {
            RecipeTexts texts = new RecipeTexts(recipe, order, table, List.of(language));
            read(table, texts.reads(), order.most, entry -> {
                FileText text = texts.of(entry, 0);
                if (!text.isEmpty() || !recipe.settings().hole().equals("out")) {
                    entries.add(described(entry, keys)
                            .texts(itself ? List.of(text) : List.of(entry.source(), text))
                            .build());
                }
            });
        }
        EntryList list =
                EntryList.of(Optional.of(source), itself ? List.of(source) : List.of(source, language.tag()), entries);
        FileFormat format = Formats.named(recipe.settings().format()).orElseThrow();
        boolean nested = recipe.settings().nested();
        switch (format.name()) {
            case "csv" ->
                Losses.write(format, list, () -> {
                    try (SeparatedFile separated = new SeparatedFile(recipe, out)) {
                        EntryList plain = PlainForms.of(list);
                        separated.begin(hasContext(plain), List.of(language.tag()));
                        for (int i = 0; i < plain.size(); i++) {
                            FileEntry entry = plain.entry(i);
                            separated.entry(entry.copy()
                                    .texts(List.of(
                                            entry.texts().get(entry.texts().size() - 1)))
                                    .build());
                        }
                    }
                });
            case "json" ->
                Losses.write(format, list, () -> {
                    if (nested) {
                        JsonFormat.nested(list, 2, recipe.settings().ascii(), out);
                    } else {
                        format.write(list, out);
                    }
                });
            case "yaml" ->
                Losses.write(format, list, () -> {
                    if (nested) {
                        YamlFormat.nested(list, out);
                    } else {
                        format.write(list, out);
                    }
                });
            default -> Losses.write(format, list, out);
        }
    }

    private static boolean hasContext(EntryList list) {
        for (int i = 0; i < list.size(); i++) {
            if (!list.entry(i).context().isEmpty()) {
                return true;
            }
        }
        return false;
    }

    /** A file with a column per language; separated text is written entry by entry. */
    private void together(Recipe recipe, Order order, List<ProductLanguage> chosen, OutputStream out)
            throws IOException {
        List<LanguageTag> tags = chosen.stream().map(ProductLanguage::tag).toList();
        List<TableInfo> tables = recipe.settings().of(order.product.tables());
        FileKeys keys = new FileKeys(recipe, tables.size());
        if (recipe.settings().format().equals("csv")) {
            boolean contexts =
                    records.anyContext(tables.stream().map(TableInfo::id).toList());
            try (SeparatedFile separated = new SeparatedFile(recipe, out)) {
                separated.begin(contexts, tags);
                for (TableInfo table : tables) {
                    RecipeTexts texts = new RecipeTexts(recipe, order, table, chosen);
                    read(table, texts.reads(), order.most, entry -> separated.all(texts.entry(entry, keys)));
                }
            }
            return;
        }
        Set<LanguageTag> columns = new LinkedHashSet<>();
        columns.add(order.product.source());
        columns.addAll(tags);
        List<FileEntry> entries = new ArrayList<>();
        for (TableInfo table : tables) {
            RecipeTexts texts = new RecipeTexts(recipe, order, table, chosen);
            read(table, texts.reads(), order.most, entry -> texts.entry(entry, keys)
                    .ifPresent(made -> {
                        List<FileText> all = new ArrayList<>();
                        if (!tags.contains(order.product.source())) {
                            all.add(entry.source());
                            all.addAll(made.texts());
                        } else {
                            int at = tags.indexOf(order.product.source());
                            all.add(made.texts().get(at));
                            for (int i = 0; i < tags.size(); i++) {
                                if (i != at) {
                                    all.add(made.texts().get(i));
                                }
                            }
                        }
                        entries.add(made.copy().texts(all).build());
                    }));
        }
        FileFormat format = Formats.named(recipe.settings().format()).orElseThrow();
        Losses.write(format, EntryList.of(Optional.of(order.product.source()), List.copyOf(columns), entries), out);
    }

    static FileEntry.Builder described(RecordEntry entry, FileKeys keys) {
        return FileEntry.of(keys.of(entry.entryId()))
                .context(entry.entryId().context())
                .shape(entry.shape())
                .note(entry.note())
                .reference(entry.reference())
                .section(entry.section())
                .maxLength(entry.maxLength())
                .translatable(entry.translatable());
    }
}
