package mellow.server.finding;

import java.time.Clock;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import mellow.core.fit.Face;
import mellow.core.fit.FontFile;
import mellow.core.fit.FontFile.NoFont;
import mellow.core.language.LanguageTag;
import mellow.server.common.Refusal;
import mellow.server.common.TextColumns;
import mellow.server.file.FileStore;
import mellow.server.finding.RecheckService.What;
import mellow.server.language.LanguageService;
import mellow.server.people.PeopleService;
import mellow.server.people.Reading;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.ProductReply;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Fonts that a product shows its texts with, per language or for all; which letters its texts use, and which its font lacks. */
@Service
public class FontService {

    private static final int SMALLEST = 4;
    private static final int LARGEST = 400;
    private static final int MOST_PLACES = 5;

    private static final String FONTS =
            """
            select f.id, f.name, f.size, l.tag, s.bytes, f.file_id from product_font f join stored_file s on s.id = f.file_id
            left join language l on l.id = f.language_id where f.product_id = :product order by l.tag nulls first
            """;
    private static final String PUT =
            """
            insert into product_font (product_id, language_id, name, file_id, size, changed_at) values (:product, :language, :name, :file, :size, :at)
            on conflict (product_id, coalesce(language_id, 0)) do update
            set name = excluded.name, file_id = excluded.file_id, size = excluded.size, changed_at = excluded.changed_at
            """;
    private static final String TEXTS =
            """
            select e.id, e.key, t.slug, c.text, c.forms from product_table u join entry e on e.table_id = u.table_id and e.removed_at is null and e.shape <> 'asset'
            join ledger_table t on t.id = e.table_id and t.removed_at is null
            join cell c on c.entry_id = e.id and c.language_id = :language and c.text is not null
            where u.product_id = :product and e.translatable order by u.position, e.position
            """;
    private static final String SOURCES =
            """
            select e.id, e.key, t.slug, e.source text, e.source_forms forms from product_table u
            join entry e on e.table_id = u.table_id and e.removed_at is null and e.shape <> 'asset'
            join ledger_table t on t.id = e.table_id and t.removed_at is null
            where u.product_id = :product and (t.source_language_id = :language or not e.translatable) order by u.position, e.position
            """;

    private final ProductService products;
    private final PeopleService people;
    private final LanguageService languages;
    private final Reading reading;
    private final FileStore files;
    private final SettingsService settings;
    private final RecheckService rechecks;
    private final JdbcClient jdbc;
    private final Clock clock;

    FontService(
            ProductService products,
            PeopleService people,
            LanguageService languages,
            Reading reading,
            FileStore files,
            SettingsService settings,
            RecheckService rechecks,
            JdbcClient jdbc,
            Clock clock) {
        this.products = products;
        this.people = people;
        this.languages = languages;
        this.reading = reading;
        this.files = files;
        this.settings = settings;
        this.rechecks = rechecks;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /**
     * A font of a product.
     *
     * @param language the language it is for, null for all that have none of their own
     * @param size in pixels per em
     * @param bytes of the file
     */
    public record FontReply(long id, String name, @Nullable String language, double size, long bytes) {}

    /** The fonts of a product. */
    @Transactional(readOnly = true)
    public List<FontReply> all(String product) {
        return jdbc.sql(FONTS)
                .param("product", products.find(product).id())
                .query((row, n) -> new FontReply(
                        row.getLong("id"),
                        row.getString("name"),
                        row.getString("tag"),
                        row.getDouble("size"),
                        row.getLong("bytes")))
                .list();
    }

    /** The file of a font of a product, as it came. */
    @Transactional(readOnly = true)
    public byte[] file(String product, long font) {
        ProductReply of = products.find(product);
        long file = jdbc.sql("select file_id from product_font where id = :font and product_id = :product")
                .param("font", font)
                .param("product", of.id())
                .query(Long.class)
                .optional()
                .orElseThrow(() -> noSuchFont(of));
        return files.load(file);
    }

    private static Refusal noSuchFont(ProductReply product) {
        return Refusal.notFound(
                "no-such-font", "{product} has no font of this number.", Map.of("product", product.name()));
    }

    /** Refuses whoever may not set fonts, before anything is sent. */
    void requireMay(long person) {
        people.rights(person).requireCoordinator("change the fonts of products");
    }

    /** Refuses by size alone. */
    static void requireSize(long bytes) {
        if (bytes > FontFile.LARGEST_BYTES) {
            throw Refusal.tooLarge("font-too-large", "A font may have at most 16 MB; make it smaller.");
        }
    }

    /**
     * Sets the font of a product for a language, or for all.
     *
     * @throws Refusal 422 when the file is no font
     */
    @Transactional
    public List<FontReply> put(long person, String product, @Nullable LanguageTag language, double size, byte[] file) {
        requireMay(person);
        ProductReply of = products.find(product);
        if (!(size >= SMALLEST && size <= LARGEST)) {
            throw Refusal.unacceptable(
                    "bad-size",
                    "A font is shown at {least} to {most} pixels.",
                    Map.of("field", "size", "least", SMALLEST, "most", LARGEST));
        }
        if (language != null
                && of.languages().stream().noneMatch(one -> one.language().tag().equals(language.value()))) {
            throw Refusal.unacceptable(
                    "language-not-shown",
                    "{product} is not shown in {language}.",
                    Map.of("field", "language", "product", of.name(), "language", language));
        }
        FontFile read;
        try {
            read = FontFile.read(file);
        } catch (NoFont none) {
            throw Refusal.unacceptable("no-font", String.valueOf(none.getMessage()), Map.of("field", "file"));
        }
        long stored = files.store(person, read.family(), file, "font", null);
        jdbc.sql(PUT)
                .param("product", of.id())
                .param("language", language == null ? null : Integer.valueOf(languages.number(language)))
                .param("name", read.family())
                .param("file", stored)
                .param("size", size)
                .param("at", clock.instant().atOffset(ZoneOffset.UTC))
                .update();
        again(person, of, language);
        return all(product);
    }

    /** Takes a font away. */
    @Transactional
    public void remove(long person, String product, long font) {
        requireMay(person);
        ProductReply of = products.find(product);
        Optional<FontReply> there =
                all(product).stream().filter(one -> one.id() == font).findFirst();
        FontReply gone = there.orElseThrow(() -> noSuchFont(of));
        jdbc.sql("delete from product_font where id = :font")
                .param("font", font)
                .update();
        again(person, of, gone.language() == null ? null : new LanguageTag(gone.language()));
    }

    private void again(long person, ProductReply product, @Nullable LanguageTag language) {
        rechecks.ask(
                settings.tablesOf(product.id()),
                person,
                language == null ? What.ALL : What.in(List.of(languages.number(language))));
    }

    /**
     * A letter that texts use.
     *
     * @param letter the letter
     * @param code its code point, as "U+0141"
     * @param times how often it stands in texts
     * @param lacking whether the product's font has no such letter
     * @param where keys of the first entries that have it, where it is lacking
     */
    public record LetterReply(String letter, String code, long times, boolean lacking, List<String> where) {}

    /**
     * The letters of a product in a language.
     *
     * @param font the font they are shown with, null when the product has none
     * @param used in the order of Unicode
     */
    public record LettersReply(@Nullable String font, List<LetterReply> used) {}

    /** Which letters the texts of a product use in a language. */
    @Transactional(readOnly = true)
    public LettersReply letters(String product, LanguageTag language) {
        if (!reading.reads(language)) {
            throw Refusal.forbidden("own-languages-only", "You read texts in your own languages only.");
        }
        ProductReply of = products.find(product);
        int number = languages.numberOrNone(language);
        Optional<Face> face = face(of, language);
        SortedMap<Integer, Long> times = new TreeMap<>();
        Map<Integer, List<String>> where = new TreeMap<>();
        RowCallbackHandler each = row -> {
            String key = row.getString("key");
            for (String words : TextColumns.allForms(row.getString("text"), row.getString("forms"))
                    .values()) {
                words.codePoints().filter(letter -> letter > ' ').forEach(letter -> times.merge(letter, 1L, Long::sum));
                face.ifPresent(shown -> shown.lacking(words).forEach(letter -> note(where, letter, key)));
            }
        };
        for (String sql : List.of(TEXTS, SOURCES)) {
            jdbc.sql(sql).param("product", of.id()).param("language", number).query(each);
        }
        List<LetterReply> used = new ArrayList<>();
        times.forEach((letter, n) -> used.add(new LetterReply(
                Character.toString(letter),
                String.format("U+%04X", letter),
                n,
                where.containsKey(letter),
                where.getOrDefault(letter, List.of()))));
        return new LettersReply(face.map(Face::name).orElse(null), used);
    }

    private static void note(Map<Integer, List<String>> where, int letter, String key) {
        List<String> keys = where.computeIfAbsent(letter, one -> new ArrayList<>());
        if (keys.size() < MOST_PLACES && !keys.contains(key)) {
            keys.add(key);
        }
    }

    private Optional<Face> face(ProductReply product, LanguageTag language) {
        List<FontReply> fonts = all(product.slug());
        return fonts.stream()
                .filter(font -> language.value().equals(font.language()))
                .findFirst()
                .or(() -> fonts.stream().filter(font -> font.language() == null).findFirst())
                .map(font -> {
                    long file = jdbc.sql("select file_id from product_font where id = :font")
                            .param("font", font.id())
                            .query(Long.class)
                            .single();
                    try {
                        return Face.of(font.name(), FontFile.read(files.load(file)), (float) font.size());
                    } catch (NoFont damaged) {
                        throw new IllegalStateException("a font that was read once cannot be read", damaged);
                    }
                });
    }

    /** The letters as a text file, one after the other in the order of Unicode: what tools that build small fonts ask for. */
    @Transactional(readOnly = true)
    public String list(String product, LanguageTag language) {
        StringBuilder list = new StringBuilder();
        letters(product, language).used().forEach(letter -> list.append(letter.letter()));
        return list.append('\n').toString();
    }
}
