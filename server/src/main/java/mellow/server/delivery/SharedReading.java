package mellow.server.delivery;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Stream;
import mellow.core.cell.Standing;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import mellow.core.merge.RecordCell;
import mellow.core.merge.RecordEntry;
import mellow.core.product.ProductLanguage;
import mellow.server.record.RecordReader;
import mellow.server.run.RunService.Progress;
import mellow.server.table.TableInfo;

/** What can be written entry by entry: all of it is, in one reading of the record. */
final class SharedReading {

    private static final int TOLD_EVERY = 1_000;

    private final RecordReader records;
    private final Maker.Order order;
    private final List<Part> parts = new ArrayList<>();

    SharedReading(RecordReader records, Maker.Order order) {
        this.records = records;
        this.order = order;
    }

    /** One thing that is made of all entries of some tables, in the order of the product. */
    interface Part {

        /** Whether the newest offers are needed. */
        default boolean offers() {
            return false;
        }

        /** What to do with each entry of a table; languages that are needed for it are added to {@code reads}. */
        Consumer<RecordEntry> begin(TableInfo table, Collection<LanguageTag> reads);

        /** Called once, after the last entry. */
        void finish() throws IOException;
    }

    void add(Part part) {
        parts.add(part);
    }

    /** Reads once, and finishes all parts. */
    void run(Progress progress) {
        if (parts.isEmpty()) {
            return;
        }
        long total = records.count(
                order.product().tables().stream().map(TableInfo::id).toList());
        boolean offers = parts.stream().anyMatch(Part::offers);
        long[] done = {0};
        for (TableInfo table : order.product().tables()) {
            Set<LanguageTag> reads = new LinkedHashSet<>();
            List<Consumer<RecordEntry>> readers =
                    parts.stream().map(part -> part.begin(table, reads)).toList();
            records.texts(table.id(), reads, offers, order.most(), entry -> {
                if (done[0]++ % TOLD_EVERY == 0) {
                    progress.at(Math.min(done[0], total), total);
                }
                readers.forEach(reader -> reader.accept(entry));
            });
        }
        try {
            for (Part part : parts) {
                part.finish();
            }
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    /** What is in force in every language that goes out, and the source, which stands in where a language has nothing. */
    static final class InForce implements Part {
        private final Made made;
        private final List<OfLanguage> all;

        /** A language, and what is written of it. */
        private static final class OfLanguage {
            final LanguageTag tag;
            final Made.Hashed file;
            final TextLine.Lines lines;

            OfLanguage(LanguageTag tag, Made made) {
                this.tag = tag;
                this.file = made.new Hashed();
                this.lines = new TextLine.Lines(file.open());
            }
        }

        InForce(Maker.Order order, Made made) {
            this.made = made;
            this.all = Stream.concat(
                            order.product().languages().all().stream().map(ProductLanguage::tag),
                            Stream.of(order.product().source()))
                    .distinct()
                    .filter(tag ->
                            !order.former().containsKey(tag) && !order.without().contains(tag))
                    .map(tag -> new OfLanguage(tag, made))
                    .toList();
        }

        @Override
        public Consumer<RecordEntry> begin(TableInfo table, Collection<LanguageTag> reads) {
            all.forEach(one -> reads.add(one.tag));
            return entry -> all.forEach(one -> {
                FileText text = of(entry, table, one.tag);
                if (!text.isEmpty()) {
                    one.lines.write(TextLine.of(entry, text));
                }
            });
        }

        /** What is in force of an entry in a language; {@link FileText#NONE} for nothing. */
        static FileText of(RecordEntry entry, TableInfo table, LanguageTag tag) {
            if (tag.equals(table.source()) || !entry.translatable()) {
                return entry.source();
            }
            RecordCell cell = entry.cell(tag);
            return cell.standing() == Standing.SETTLED ? cell.text() : FileText.NONE;
        }

        @Override
        public void finish() throws IOException {
            for (OfLanguage one : all) {
                one.lines.close();
                made.texts(one.tag, new Made.TextsMade(one.lines.written(), one.file.content(), one.file.hash()));
            }
        }
    }
}
