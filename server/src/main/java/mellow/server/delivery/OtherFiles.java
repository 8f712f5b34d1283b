package mellow.server.delivery;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileText;
import mellow.core.format.memory.TbxFormat;
import mellow.core.language.LanguageTag;
import mellow.core.product.ProductLanguage;
import mellow.core.text.Shape;
import mellow.core.text.Text;
import mellow.server.file.FileStore;
import mellow.server.record.RecordReader;
import mellow.server.run.RunService.Progress;
import mellow.server.table.TableInfo;
import mellow.server.wordbook.WordbookService;
import org.jspecify.annotations.Nullable;
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

    /** The font that each language is shown with: its own, else that of all languages. */
    void fonts(Recipe recipe, Maker.Order order, Made made) {
        Map<Optional<LanguageTag>, Long> fonts = new HashMap<>();
        jdbc.sql(
                        "select l.tag, f.file_id from product_font f left join language l on l.id = f.language_id where f.product_id = :product")
                .param("product", order.product().id())
                .query(row -> {
                    fonts.put(Optional.ofNullable(row.getString(1)).map(LanguageTag::new), row.getLong(2));
                });
        for (ProductLanguage language : order.chosen(recipe.settings())) {
            @Nullable
            Long font = fonts.getOrDefault(Optional.of(language.tag()), fonts.get(Optional.<LanguageTag>empty()));
            if (font != null) {
                byte[] content = files.load(font);
                boolean outlines = Arrays.equals(content, 0, CFF.length, CFF, 0, CFF.length);
                made.add(
                        order.name(recipe, null, language, "", outlines ? "otf" : "ttf"),
                        recipe.id(),
                        language.tag(),
                        out -> out.write(content));
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
