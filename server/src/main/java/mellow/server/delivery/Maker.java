package mellow.server.delivery;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.Charset;
import java.nio.charset.CharsetEncoder;
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
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.format.PlainForms;
import mellow.core.format.csv.CsvDialect;
import mellow.core.format.csv.CsvWriter;
import mellow.core.format.json.JsonFormat;
import mellow.core.format.registry.Formats;
import mellow.core.format.registry.Losses;
import mellow.core.format.sheet.Column;
import mellow.core.format.yaml.YamlFormat;
import mellow.core.language.LanguageTag;
import mellow.core.merge.RecordCell;
import mellow.core.merge.RecordEntry;
import mellow.core.product.ProductLanguage;
import mellow.core.product.TextResolver;
import mellow.core.text.Shape;
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

    private static final long NOBODY = 0;
    private static final JsonMapper JSON = JsonMapper.shared();

    private final RecordReader records;
    private final LanguageService languages;

    Maker(RecordReader records, LanguageService languages) {
        this.records = records;
        this.languages = languages;
    }

    /**
     * What is made.
     *
     * @param number of the delivery
     * @param former the texts of the last delivery of languages that are held back
     * @param without languages that are held back and were never delivered
     * @param staleOut whether stale texts count as missing
     * @param blocked texts that are left out because they would break, by language
     * @param numbers what stands for entries, by entry
     * @param most entries of a table that are written, for an example; 0 for all
     */
    record Order(
            Product product,
            int number,
            Map<LanguageTag, Map<Long, TextLine>> former,
            Set<LanguageTag> without,
            boolean staleOut,
            Map<LanguageTag, Set<Long>> blocked,
            Map<Long, Integer> numbers,
            int most) {}

    /** Makes what one recipe says into {@code made}. */
    void make(Recipe recipe, Order order, Made made, Progress progress) {
        switch (recipe.settings().kind()) {
            case "selectors" -> selectors(recipe, order, made);
            case "keys" -> keys(recipe, order, made);
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
        int[] read = {0};
        records.read(table.id(), NOBODY, in, entry -> {
            if (most == 0 || read[0]++ < most) {
                reader.accept(entry);
            }
        });
    }

    private List<ProductLanguage> chosen(Recipe.RecipeSettings settings, Order order) {
        return order.product.languages().all().stream()
                .filter(one -> switch (settings.which()) {
                    case "all" -> true;
                    case "chosen" -> settings.languages().contains(one.tag().value());
                    default -> !one.hidden();
                })
                .filter(one -> !order.without.contains(one.tag()))
                .toList();
    }

    private String name(Recipe recipe, Order order, @Nullable TableInfo table, @Nullable ProductLanguage language) {
        return new FilePattern(recipe.settings().pattern())
                .name(new FilePattern.Fill(
                        order.product.of().slug(),
                        table == null ? "" : table.slug(),
                        "",
                        language == null ? null : language.tag(),
                        language == null ? null : language.selector(),
                        order.number,
                        "",
                        recipe.settings().ending()));
    }

    private void selectors(Recipe recipe, Order order, Made made) {
        List<SelectorTable.Row> rows = chosen(recipe.settings(), order).stream()
                .map(one -> new SelectorTable.Row(
                        one.selector(),
                        one.tag().value(),
                        Objects.requireNonNull(
                                        order.product.shown().get(one.tag().value()))
                                .shownAs(),
                        languages.describe(one.tag()).rightToLeft() ? "rtl" : "ltr",
                        one.tag().equals(order.product.languages().start())))
                .toList();
        made.add(name(recipe, order, null, null), recipe.id(), null, out -> {
            if (recipe.settings().format().equals("json")) {
                out.write(JSON.writerWithDefaultPrettyPrinter().writeValueAsBytes(rows));
                out.write('\n');
            } else {
                try (Separated separated = new Separated(recipe, out)) {
                    for (SelectorTable.Row row : rows) {
                        separated.require("name", row.name(), row.tag());
                    }
                    SelectorTable.csv(rows, recipe.settings().between(), separated.writer);
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
                            recipe.settings().numbers() ? order.numbers.getOrDefault(entry.id(), 0) : null)));
        }
        Recipe.RecipeSettings settings = recipe.settings();
        String prefix = settings.prefix().isBlank() ? order.product.of().slug() : settings.prefix();
        KeyConstants constants = new KeyConstants(settings.constants(), prefix, settings.namespace());
        made.add(name(recipe, order, null, null), recipe.id(), null, out -> {
            Writer writer = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8));
            constants.write(keys, writer);
        });
    }

    private void texts(Recipe recipe, Order order, Made made, Progress progress) {
        List<ProductLanguage> chosen = chosen(recipe.settings(), order);
        if (recipe.settings().together()) {
            made.add(name(recipe, order, null, null), recipe.id(), null, out -> together(recipe, order, chosen, out));
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
            List<List<TableInfo>> groups = perTable
                    ? recipe.settings().of(order.product.tables()).stream()
                            .map(List::of)
                            .toList()
                    : List.of(recipe.settings().of(order.product.tables()));
            for (List<TableInfo> group : groups) {
                progress.at(step++, steps);
                String name = name(recipe, order, perTable ? group.get(0) : null, language);
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
        for (TableInfo table : tables) {
            Texts texts = new Texts(recipe, order, table, List.of(language));
            read(table, texts.reads(), order.most, entry -> {
                FileText text = texts.of(entry, 0);
                if (!text.isEmpty() || !recipe.settings().hole().equals("out")) {
                    entries.add(described(entry)
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
                    try (Separated separated = new Separated(recipe, out)) {
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
        if (recipe.settings().format().equals("csv")) {
            boolean[] contexts = {false};
            for (TableInfo table : recipe.settings().of(order.product.tables())) {
                read(
                        table,
                        List.of(),
                        order.most,
                        entry -> contexts[0] |= !entry.entryId().context().isEmpty());
            }
            try (Separated separated = new Separated(recipe, out)) {
                separated.begin(contexts[0], tags);
                for (TableInfo table : recipe.settings().of(order.product.tables())) {
                    Texts texts = new Texts(recipe, order, table, chosen);
                    read(table, texts.reads(), order.most, entry -> separated.all(texts.entry(entry)));
                }
            }
            return;
        }
        Set<LanguageTag> columns = new LinkedHashSet<>();
        columns.add(order.product.source());
        columns.addAll(tags);
        List<FileEntry> entries = new ArrayList<>();
        for (TableInfo table : recipe.settings().of(order.product.tables())) {
            Texts texts = new Texts(recipe, order, table, chosen);
            read(table, texts.reads(), order.most, entry -> texts.entry(entry).ifPresent(made -> {
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

    private static FileEntry.Builder described(RecordEntry entry) {
        return FileEntry.of(entry.entryId().key())
                .context(entry.entryId().context())
                .shape(entry.shape())
                .note(entry.note())
                .reference(entry.reference())
                .section(entry.section())
                .maxLength(entry.maxLength())
                .translatable(entry.translatable());
    }

    /** What stands in files for the entries of one table, in some languages. */
    private static final class Texts {
        private final Recipe.RecipeSettings settings;
        private final Order order;
        private final TableInfo table;
        private final List<ProductLanguage> in;
        private final List<TextResolver> resolvers;

        Texts(Recipe recipe, Order order, TableInfo table, List<ProductLanguage> in) {
            this.settings = recipe.settings();
            this.order = order;
            this.table = table;
            this.in = in;
            this.resolvers = in.stream()
                    .map(one -> new TextResolver(order.product.languages(), one.tag(), table.source()))
                    .toList();
        }

        List<LanguageTag> reads() {
            return resolvers.stream()
                    .flatMap(one -> settings.hole().equals("borrowed")
                            ? one.reads().stream()
                            : one.reads().stream().limit(1))
                    .distinct()
                    .toList();
        }

        /** The entry with a text for each language; empty where it has none at all and holes are left out. */
        Optional<FileEntry> entry(RecordEntry entry) {
            List<FileText> texts = new ArrayList<>(in.size());
            boolean any = false;
            for (int i = 0; i < in.size(); i++) {
                FileText text = of(entry, i);
                any |= !text.isEmpty();
                texts.add(text);
            }
            return any || !settings.hole().equals("out")
                    ? Optional.of(described(entry).texts(texts).build())
                    : Optional.empty();
        }

        /** What stands there for an entry in the language at {@code index}. */
        FileText of(RecordEntry entry, int index) {
            LanguageTag tag = in.get(index).tag();
            if (!entry.translatable() || tag.equals(table.source())) {
                return entry.source().in(FileState.SETTLED);
            }
            FileText own = inForce(entry, tag);
            if (!own.isEmpty()) {
                return own;
            }
            return switch (settings.hole()) {
                case "borrowed" -> {
                    FileText near = resolvers
                            .get(index)
                            .of(other -> inForce(entry, other), entry.source(), true)
                            .text();
                    yield near.isEmpty() ? keyOf(entry) : near.in(FileState.UNTRANSLATED);
                }
                case "source" ->
                    entry.source().isEmpty() ? keyOf(entry) : entry.source().in(FileState.UNTRANSLATED);
                case "key" -> keyOf(entry);
                default -> FileText.NONE;
            };
        }

        private static FileText keyOf(RecordEntry entry) {
            return entry.shape() == Shape.ASSET
                    ? FileText.NONE
                    : FileText.plain(entry.entryId().key()).in(FileState.UNTRANSLATED);
        }

        private FileText inForce(RecordEntry entry, LanguageTag tag) {
            Map<Long, TextLine> former = order.former.get(tag);
            if (former != null) {
                TextLine line = former.get(entry.id());
                return line == null ? FileText.NONE : FileText.of(line.forms()).in(FileState.SETTLED);
            }
            RecordCell cell = entry.cell(tag);
            boolean settled = cell.standing() == Standing.SETTLED;
            boolean out = cell.text().isEmpty()
                    || order.without.contains(tag)
                    || (!settled && !settings.texts().equals("pencilled"))
                    || (cell.stale() && (order.staleOut || settings.texts().equals("fresh")))
                    || order.blocked.getOrDefault(tag, Set.of()).contains(entry.id());
            return out ? FileText.NONE : cell.text().in(settled ? FileState.SETTLED : FileState.PENCILLED);
        }
    }

    /** Separated text in a character set, which refuses what the set has no letters for. */
    private static final class Separated implements AutoCloseable {
        private final Recipe.RecipeSettings settings;
        private final CharsetEncoder encoder;
        private final Writer writer;
        private @Nullable CsvWriter rows;
        private List<LanguageTag> tags = List.of();

        Separated(Recipe recipe, OutputStream out) throws IOException {
            settings = recipe.settings();
            boolean marked = settings.charset().endsWith("-bom");
            Charset charset = Charset.forName(settings.charset().replace("-bom", ""));
            encoder = charset.newEncoder();
            writer = new BufferedWriter(new OutputStreamWriter(out, charset.newEncoder()));
            if (marked) {
                writer.write('\uFEFF');
            }
        }

        void begin(boolean contexts, List<LanguageTag> in) throws IOException {
            tags = in;
            List<Column> columns = new ArrayList<>();
            columns.add(Column.of("key", Column.Role.KEY));
            if (contexts) {
                columns.add(Column.of("context", Column.Role.CONTEXT));
            }
            in.forEach(tag -> columns.add(Column.text(tag.value(), tag)));
            rows = new CsvWriter(writer, new CsvDialect(settings.between(), '"'), columns, settings.guard());
            rows.header();
        }

        /** The rows of an entry: one, or one per form. */
        void all(Optional<FileEntry> entry) {
            entry.ifPresent(one -> {
                EntryList plain = PlainForms.of(EntryList.of(Optional.empty(), tags, List.of(one)));
                for (int i = 0; i < plain.size(); i++) {
                    entry(plain.entry(i));
                }
            });
        }

        void entry(FileEntry entry) {
            require(entry.key(), entry.key() + entry.context(), "");
            for (int i = 0; i < tags.size(); i++) {
                require(entry.key(), entry.text(i), tags.get(i).value());
            }
            try {
                Objects.requireNonNull(rows).entry(entry);
            } catch (IOException failed) {
                throw new UncheckedIOException(failed);
            }
        }

        void require(String key, String text, String language) {
            if (encoder.canEncode(text)) {
                return;
            }
            String letters = text.codePoints()
                    .filter(c -> !encoder.canEncode(Character.toString(c)))
                    .distinct()
                    .limit(5)
                    .mapToObj(Character::toString)
                    .reduce("", String::concat);
            throw new UndeliverableException(
                    "letters-lacking",
                    language.isEmpty()
                            ? "The key {key} has letters that {charset} lacks: {letters}."
                            : "{key} in {language} has letters that {charset} lacks: {letters}.",
                    Map.of("key", key, "language", language, "charset", settings.charset(), "letters", letters));
        }

        @Override
        public void close() throws IOException {
            writer.flush();
        }
    }
}
