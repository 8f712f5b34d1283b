package mellow.server.delivery;

import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.CharsetEncoder;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import mellow.core.delivery.UndeliverableException;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FileText;
import mellow.core.format.PlainForms;
import mellow.core.format.UnwritableTextException;
import mellow.core.format.json.JsonFormat;
import mellow.core.format.registry.Formats;
import mellow.core.format.registry.Losses;
import mellow.core.format.yaml.YamlFormat;
import mellow.core.language.LanguageTag;
import mellow.core.product.ProductLanguage;
import mellow.core.text.Shape;
import mellow.server.record.RecordReader;
import mellow.server.run.RunService.Progress;
import mellow.server.table.TableInfo;
import org.springframework.stereotype.Component;

/** Makes files of one language each. They hold its entries in memory, one language at a time. */
@Component
class LanguageFiles {

    private final RecordReader records;

    LanguageFiles(RecordReader records) {
        this.records = records;
    }

    void make(Recipe recipe, Maker.Order order, Made made, Progress progress) {
        List<ProductLanguage> chosen = order.chosen(recipe.settings());
        List<TableInfo> tables = tables(recipe, order);
        boolean perTable = recipe.settings().files().equals("table");
        List<List<TableInfo>> groups = perTable ? tables.stream().map(List::of).toList() : List.of(tables);
        long steps = (long) chosen.size() * groups.size();
        long step = 0;
        for (ProductLanguage language : chosen) {
            for (List<TableInfo> group : groups) {
                progress.at(step++, steps);
                String name = order.name(recipe, perTable ? group.get(0) : null, language);
                made.add(
                        name,
                        recipe.id(),
                        language.tag(),
                        out -> write(recipe, language.tag(), list(recipe, order, language, group), out));
            }
        }
    }

    private static List<TableInfo> tables(Recipe recipe, Maker.Order order) {
        List<TableInfo> tables = recipe.settings().of(order.product().tables());
        if (tables.isEmpty()) {
            throw new UndeliverableException(
                    "no-table",
                    "The recipe {recipe} is made of no table of the product.",
                    Map.of("recipe", recipe.name()));
        }
        return tables;
    }

    /** What is in a file: beside each text its source, unless they are one. */
    private EntryList list(Recipe recipe, Maker.Order order, ProductLanguage language, List<TableInfo> tables) {
        LanguageTag source = tables.get(0).source();
        boolean itself = language.tag().equals(source);
        List<FileEntry> entries = new ArrayList<>();
        FileKeys keys = new FileKeys(recipe, tables.size());
        for (TableInfo table : tables) {
            RecipeTexts texts = new RecipeTexts(recipe, order, table, List.of(language));
            records.texts(table.id(), texts.reads(), texts.offers(), order.most(), entry -> {
                FileText text = texts.of(entry, 0);
                boolean goes = entry.shape() != Shape.ASSET;
                if (goes && (!text.isEmpty() || !recipe.settings().hole().equals("out"))) {
                    entries.add(keys.entry(entry)
                            .texts(itself ? List.of(text) : List.of(entry.source(), text))
                            .build());
                }
            });
        }
        return EntryList.of(Optional.of(source), itself ? List.of(source) : List.of(source, language.tag()), entries);
    }

    private static void write(Recipe recipe, LanguageTag language, EntryList list, OutputStream out)
            throws IOException {
        FileFormat format = Formats.named(recipe.settings().format()).orElseThrow();
        boolean nested = recipe.settings().nested();
        Losses.write(format, list, () -> {
            switch (format.name()) {
                case "csv" -> writeRows(recipe, language, PlainForms.of(list), out);
                case "json" -> {
                    if (nested) {
                        JsonFormat.nested(list, 2, recipe.settings().ascii(), out);
                    } else {
                        format.write(list, out);
                    }
                }
                case "yaml" -> {
                    if (nested) {
                        YamlFormat.nested(list, out);
                    } else {
                        format.write(list, out);
                    }
                }
                default -> format.write(list, out);
            }
        });
    }

    private static void writeRows(Recipe recipe, LanguageTag language, EntryList plain, OutputStream out)
            throws IOException {
        try (SeparatedFile separated = new SeparatedFile(recipe, out)) {
            separated.begin(hasContext(plain), List.of(language));
            for (int i = 0; i < plain.size(); i++) {
                FileEntry entry = plain.entry(i);
                separated.entry(entry.copy().texts(List.of(last(entry))).build());
            }
        }
    }

    private static FileText last(FileEntry entry) {
        return entry.texts().get(entry.texts().size() - 1);
    }

    private static boolean hasContext(EntryList list) {
        for (int i = 0; i < list.size(); i++) {
            if (!list.entry(i).context().isEmpty()) {
                return true;
            }
        }
        return false;
    }

    /**
     * What the file of a language would not hold.
     *
     * @param counts how many entries or texts are concerned, by what is lost of them
     * @param refused keys of entries that cannot be written at all, the first {@value Losses#NAMED} of them
     * @param why the sentence about the first of them, empty when there is none
     */
    record LanguageLosses(
            String language, Map<String, Integer> counts, List<String> refused, int refusedCount, String why) {}

    /** What the files of a recipe of texts would not hold, by language; those that hold everything are absent. Looks at every text. */
    List<LanguageLosses> losses(Recipe recipe, Maker.Order order) {
        List<LanguageLosses> all = new ArrayList<>();
        List<TableInfo> tables = tables(recipe, order);
        for (ProductLanguage language : order.chosen(recipe.settings())) {
            LanguageLosses one = losses(recipe, language.tag(), list(recipe, order, language, tables));
            if (one.refusedCount > 0 || !one.counts.isEmpty()) {
                all.add(one);
            }
        }
        return all;
    }

    private static LanguageLosses losses(Recipe recipe, LanguageTag language, EntryList list) {
        Losses losses = Losses.of(Formats.named(recipe.settings().format()).orElseThrow(), list);
        Map<String, Integer> counts = new LinkedHashMap<>();
        // Separated text of a recipe is keys and texts, which is all that is asked of it.
        boolean separated = recipe.settings().format().equals("csv");
        if (!separated) {
            losses.counts().forEach((aspect, count) -> counts.put(aspect.word(), count));
        }
        List<String> refused = new ArrayList<>(losses.refused());
        int refusedCount = losses.refusedCount();
        String why = losses.why();
        if (separated) {
            CharsetEncoder encoder = SeparatedFile.encoder(recipe.settings());
            for (int i = 0; i < list.size(); i++) {
                FileEntry entry = list.entry(i);
                String letters = SeparatedFile.lacking(
                        encoder,
                        entry.key()
                                + entry.context()
                                + String.join("", last(entry).forms().values()));
                if (!letters.isEmpty()) {
                    why = why.isEmpty()
                            ? "%s has letters that %s lacks: %s."
                                    .formatted(entry.key(), recipe.settings().charset(), letters)
                            : why;
                    refusedCount++;
                    if (refused.size() < Losses.NAMED) {
                        refused.add(entry.key());
                    }
                }
            }
        } else if (refused.isEmpty()) {
            // What two entries are to each other, such as a key that is also a level, is seen only in writing.
            try {
                write(recipe, language, list, OutputStream.nullOutputStream());
            } catch (UnwritableTextException together) {
                refusedCount = 1;
                why = String.valueOf(together.getMessage());
            } catch (IOException impossible) {
                throw new UncheckedIOException(impossible);
            }
        }
        return new LanguageLosses(language.value(), counts, refused, refusedCount, why);
    }
}
