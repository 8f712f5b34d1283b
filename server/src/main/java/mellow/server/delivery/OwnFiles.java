package mellow.server.delivery;

import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import mellow.core.cell.Standing;
import mellow.core.delivery.UndeliverableException;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.format.registry.Formats;
import mellow.core.format.registry.Losses;
import mellow.core.language.LanguageTag;
import mellow.core.merge.RecordCell;
import mellow.core.merge.RecordEntry;
import mellow.core.product.ProductLanguage;
import mellow.server.export.SetOut;
import mellow.server.record.RecordReader;
import mellow.server.run.RunService.Progress;
import mellow.server.table.TableInfo;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Makes the files that tables were taken in from, in place: every byte that belongs to no changed text stays. */
@Component
class OwnFiles {

    /** Of languages that do not go out, files keep what they have: they are told that something waits, and nothing stands. */
    private static final RecordCell AS_IN_FILE =
            new RecordCell(FileText.NONE, Standing.NONE, 0, false, false, new RecordCell.Waiting(1, FileText.NONE));

    private final SetOut files;
    private final RecordReader records;

    OwnFiles(SetOut files, RecordReader records) {
        this.files = files;
        this.records = records;
    }

    void make(Recipe recipe, Maker.Order order, Made made, Progress progress) {
        List<TableInfo> tables = recipe.settings().of(order.product().tables());
        for (int i = 0; i < tables.size(); i++) {
            progress.at(i, tables.size());
            TableInfo table = tables.get(i);
            OfTable ofTable = new OfTable(recipe, order, made, table);
            try {
                if (!files.all(table, ofTable.view(), ofTable)) {
                    throw new UndeliverableException(
                            "no-file",
                            "{table} was never taken in from a file, so there is none to be written in place.",
                            Map.of("table", table.name()));
                }
            } catch (IOException failed) {
                throw new UncheckedIOException(failed);
            }
        }
    }

    /** The files of one table. */
    private final class OfTable implements SetOut.Sink {
        private final Recipe recipe;
        private final Maker.Order order;
        private final Made made;
        private final TableInfo table;
        private final List<ProductLanguage> chosen;
        private final RecipeTexts texts;

        OfTable(Recipe recipe, Maker.Order order, Made made, TableInfo table) {
            this.recipe = recipe;
            this.order = order;
            this.made = made;
            this.table = table;
            this.chosen = order.chosen(recipe.settings());
            this.texts = new RecipeTexts(recipe, order, table, chosen);
        }

        SetOut.View view() {
            return new SetOut.View(
                    chosen.stream().map(ProductLanguage::tag).collect(Collectors.toSet()),
                    texts.reads(),
                    texts.offers(),
                    order.most(),
                    this::seen);
        }

        /** An entry with what goes out of it in place of what stands in the record. */
        private RecordEntry seen(RecordEntry entry, List<LanguageTag> in) {
            Map<LanguageTag, RecordCell> cells = new HashMap<>();
            in.forEach(tag -> cells.put(tag, AS_IN_FILE));
            for (int i = 0; entry.translatable() && i < chosen.size(); i++) {
                LanguageTag tag = chosen.get(i).tag();
                if (in.contains(tag)) {
                    cells.put(tag, cell(texts.of(entry, i)));
                }
            }
            return new RecordEntry(entry.id(), entry.position(), entry.entryId(), entry.said(), entry.about(), cells);
        }

        private static RecordCell cell(FileText text) {
            if (text.isEmpty()) {
                return RecordCell.NONE;
            }
            boolean settled = text.state().equals(Optional.of(FileState.SETTLED));
            return new RecordCell(
                    FileText.of(text.forms()),
                    settled ? Standing.SETTLED : Standing.PENCILLED,
                    0,
                    false,
                    false,
                    new RecordCell.Waiting(0, FileText.NONE));
        }

        @Override
        public void file(String path, @Nullable LanguageTag language, SetOut.Writing writing) {
            made.add(order.nameOf(recipe, table, language, path), recipe.id(), language, writing::to);
        }

        @Override
        public void fresh(String format, LanguageTag language, OutputStream out) throws IOException {
            List<LanguageTag> both = List.of(table.source(), language);
            FileKeys keys = new FileKeys(recipe, 1);
            List<FileEntry> entries = new ArrayList<>();
            records.texts(table.id(), texts.reads(), texts.offers(), order.most(), entry -> {
                RecordCell cell = seen(entry, both).cell(language);
                FileState state = cell.standing() == Standing.SETTLED ? FileState.SETTLED : FileState.PENCILLED;
                if (!cell.text().isEmpty()) {
                    entries.add(keys.entry(entry)
                            .texts(List.of(entry.source(), cell.text().in(state)))
                            .build());
                }
            });
            Losses.write(
                    Formats.named(format).orElseThrow(), EntryList.of(Optional.of(table.source()), both, entries), out);
        }
    }
}
