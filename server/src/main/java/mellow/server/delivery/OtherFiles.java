package mellow.server.delivery;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import mellow.core.delivery.UndeliverableException;
import mellow.core.fit.FontSubset;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileText;
import mellow.core.format.memory.TbxFormat;
import mellow.core.language.LanguageTag;
import mellow.core.merge.RecordEntry;
import mellow.core.product.ProductLanguage;
import mellow.core.text.Shape;
import mellow.core.text.Text;
import mellow.server.file.FileStore;
import mellow.server.record.RecordReader;
import mellow.server.run.RunService.Progress;
import mellow.server.table.TableInfo;
import mellow.server.wordbook.WordbookService;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Makes the files of recipes that are no texts: pictures and sounds of entries, fonts that languages are shown with, the wordbook. */
@Component
class OtherFiles {

    /** How an OpenType font begins whose outlines are of the CFF kind (OpenType 1.9, the font directory). */
    private static final byte[] CFF = "OTTO".getBytes(StandardCharsets.US_ASCII);

    private final RecordReader records;
    private final FileStore files;
    private final WordbookService wordbook;
    private final JdbcClient jdbc;

    OtherFiles(RecordReader records, FileStore files, WordbookService wordbook, JdbcClient jdbc) {
        this.records = records;
        this.files = files;
        this.wordbook = wordbook;
        this.jdbc = jdbc;
    }

    /** A file of an entry in a language. */
    private record Asset(String key, ProductLanguage language, long file, String ending) {}

    /** The files of entries of shape asset, each named after its key and language. */
    void assets(Recipe recipe, Maker.Order order, Made made, Progress progress) {
        List<ProductLanguage> chosen = order.chosen(recipe.settings());
        for (TableInfo table : recipe.settings().of(order.product().tables())) {
            RecipeTexts texts = new RecipeTexts(recipe, order, table, chosen);
            List<Asset> assets = new ArrayList<>();
            records.texts(table.id(), texts.reads(), texts.offers(), order.most(), entry -> {
                for (int i = 0; entry.shape() == Shape.ASSET && i < chosen.size(); i++) {
                    FileText text = texts.of(entry, i);
                    String file = text.forms().get(Shape.FILE);
                    if (file != null) {
                        assets.add(new Asset(
                                entry.entryId().key(),
                                chosen.get(i),
                                Long.parseLong(file),
                                ending(text.forms().getOrDefault(Text.OTHER, ""))));
                    }
                }
            });
            for (int i = 0; i < assets.size(); i++) {
                progress.at(i, assets.size());
                Asset one = assets.get(i);
                made.add(
                        order.name(recipe, table, one.language, one.key, one.ending),
                        recipe.id(),
                        one.language.tag(),
                        out -> out.write(files.load(one.file)));
            }
        }
    }

    private static String ending(String name) {
        int dot = name.lastIndexOf('.');
        return dot < 0 || dot == name.length() - 1 ? "bin" : name.substring(dot + 1);
    }

    /** The fonts of a product by language; that of nobody in particular is for all others. */
    private Map<Optional<LanguageTag>, Long> fontsOf(long product) {
        Map<Optional<LanguageTag>, Long> fonts = new HashMap<>();
        jdbc.sql(
                        "select l.tag, f.file_id from product_font f left join language l on l.id = f.language_id where f.product_id = :product")
                .param("product", product)
                .query(row -> {
                    fonts.put(Optional.ofNullable(row.getString(1)).map(LanguageTag::new), row.getLong(2));
                });
        return fonts;
    }

    /** The font that each language is shown with: its own, else that of all languages. */
    void fonts(Recipe recipe, Maker.Order order, Made made) {
        Map<Optional<LanguageTag>, Long> fonts = fontsOf(order.product().id());
        for (ProductLanguage language : order.chosen(recipe.settings())) {
            font(fonts, language).ifPresent(content -> add(recipe, order, made, language, content));
        }
    }

    private Optional<byte[]> font(Map<Optional<LanguageTag>, Long> fonts, ProductLanguage language) {
        Long font = fonts.getOrDefault(Optional.of(language.tag()), fonts.get(Optional.<LanguageTag>empty()));
        return Optional.ofNullable(font).map(files::load);
    }

    private static void add(Recipe recipe, Maker.Order order, Made made, ProductLanguage language, byte[] content) {
        boolean outlines = Arrays.equals(content, 0, CFF.length, CFF, 0, CFF.length);
        made.add(
                order.name(recipe, null, language, "", outlines ? "otf" : "ttf"),
                recipe.id(),
                language.tag(),
                out -> out.write(content));
    }

    /** The same cut down to the letters of what goes out in each language and of what it borrows, and to ASCII, which programs put in by themselves. */
    SharedReading.Part cutFonts(Recipe recipe, Maker.Order order, Made made) {
        return new CutFonts(recipe, order, made);
    }

    private final class CutFonts implements SharedReading.Part {
        private final Recipe recipe;
        private final Maker.Order order;
        private final Made made;
        private final List<ProductLanguage> chosen;
        private final List<BitSet> letters;

        CutFonts(Recipe recipe, Maker.Order order, Made made) {
            this.recipe = recipe;
            this.order = order;
            this.made = made;
            this.chosen = order.chosen(recipe.settings());
            this.letters = chosen.stream()
                    .map(one -> {
                        BitSet ascii = new BitSet();
                        ascii.set(' ', '\u007f');
                        return ascii;
                    })
                    .toList();
        }

        @Override
        public boolean offers() {
            return recipe.settings().offers();
        }

        @Override
        public Consumer<RecordEntry> begin(TableInfo table, Collection<LanguageTag> reads) {
            RecipeTexts texts = new RecipeTexts(recipe, order, table, chosen, "borrowed");
            reads.addAll(texts.reads());
            return entry -> {
                for (int i = 0; i < chosen.size(); i++) {
                    BitSet of = letters.get(i);
                    texts.of(entry, i).forms().values().forEach(text -> text.codePoints()
                            .forEach(of::set));
                }
            };
        }

        @Override
        public void finish() {
            Map<Optional<LanguageTag>, Long> fonts = fontsOf(order.product().id());
            for (int i = 0; i < chosen.size(); i++) {
                ProductLanguage language = chosen.get(i);
                Optional<byte[]> font = font(fonts, language);
                if (font.isPresent()) {
                    try {
                        add(recipe, order, made, language, FontSubset.of(font.get(), letters.get(i)));
                    } catch (FontSubset.NotCut cannot) {
                        throw new UndeliverableException("font-not-cut", String.valueOf(cannot.getMessage()), Map.of());
                    }
                }
            }
        }
    }

    /** The agreed terms in the languages of the recipe, as TBX-Basic (ISO 30042). */
    void wordbook(Recipe recipe, Maker.Order order, Made made) {
        Set<LanguageTag> columns = new LinkedHashSet<>();
        columns.add(order.product().source());
        order.chosen(recipe.settings()).forEach(one -> columns.add(one.tag()));
        List<FileEntry> terms = new ArrayList<>();
        for (WordbookService.Term term : wordbook.all()) {
            boolean ours = columns.contains(new LanguageTag(term.source()));
            if (ours && terms.size() < order.most()) {
                terms.add(concept(term, List.copyOf(columns)));
            }
        }
        EntryList list = EntryList.of(Optional.of(order.product().source()), List.copyOf(columns), terms);
        made.add(
                order.name(recipe, null, null, "", recipe.settings().ending()),
                recipe.id(),
                null,
                out -> new TbxFormat().write(list, out));
    }

    private static FileEntry concept(WordbookService.Term term, List<LanguageTag> columns) {
        FileEntry.Builder entry = FileEntry.of("term." + term.id());
        if (!term.note().isEmpty()) {
            entry.note(term.note());
        }
        List<FileText> texts = new ArrayList<>();
        for (LanguageTag tag : columns) {
            WordbookService.TermText text = term.texts().get(tag.value());
            String word = tag.value().equals(term.source()) ? term.term() : text == null ? "" : text.text();
            texts.add(word.isEmpty() ? FileText.NONE : FileText.plain(word));
            if (text != null) {
                text.avoid().forEach(avoided -> entry.note("Avoid in " + tag + ": " + avoided));
            }
        }
        return entry.texts(texts).build();
    }
}
