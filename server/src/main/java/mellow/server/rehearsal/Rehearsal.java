package mellow.server.rehearsal;

import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;
import mellow.core.fit.Face;
import mellow.core.format.FileText;
import mellow.core.language.Language;
import mellow.core.language.LanguageTag;
import mellow.core.placeholder.Placeholders;
import mellow.core.product.ProductLanguages;
import mellow.core.product.TextResolver;
import mellow.core.pseudo.Pretend;
import mellow.core.scene.Filling;
import mellow.core.scene.ScenePlace;
import mellow.server.check.Grounds;
import mellow.server.check.SceneFonts;
import mellow.server.common.Coded;
import mellow.server.common.Refusal;
import mellow.server.common.TextColumns;
import mellow.server.language.LanguageService;
import mellow.server.people.Reading;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.LanguageOf;
import mellow.server.product.ProductService.ProductReply;
import mellow.server.rehearsal.SceneService.Kept;
import mellow.server.table.TableInfo;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Plays a scene of a product: which text stands at each of its places in a language, in which lines, and what is wrong there. */
@Service
public class Rehearsal {

    static final int MOST_LANGUAGES = 4;

    private static final String ENTRIES =
            """
            select e.id, e.table_id, e.key, e.source, e.source_forms, e.translatable from entry e
            where e.table_id = any(:tables) and e.removed_at is null and (e.id = any(:entries) or e.key = any(:keys))
            order by array_position(:tables::bigint[], e.table_id), e.position, e.id
            """;
    private static final String TEXTS = Coded.sql(
            """
            select c.entry_id, l.tag, c.text, c.forms, c.standing = {standing.settled} settled, c.state = {state.stale} stale, c.version
            from cell c join language l on l.id = c.language_id
            where c.entry_id = any(:entries) and l.tag = any(:languages) and c.text is not null
            """);

    private final SceneService scenes;
    private final ProductService products;
    private final LanguageService languages;
    private final Reading reading;
    private final JdbcClient jdbc;

    Rehearsal(
            SceneService scenes, ProductService products, LanguageService languages, Reading reading, JdbcClient jdbc) {
        this.scenes = scenes;
        this.products = products;
        this.languages = languages;
        this.reading = reading;
        this.jdbc = jdbc;
    }

    /** What is played with. */
    public enum Play {
        /** What is written, settled or not. */
        WRITTEN,
        /** What is settled, as it would be delivered. */
        SETTLED,
        /** Keys instead of texts. */
        KEYS
    }

    /**
     * Something about a text where it stands.
     *
     * @param code stable, such as {@code does-not-fit}
     */
    public record SceneFinding(String code, Map<String, Object> values) {}

    /**
     * What stands at a place.
     *
     * @param entry null where the product has no such entry
     * @param lines as they are drawn, with values in their placeholders
     * @param from the language of the text, null for a key
     * @param version of its cell, 0 where there is none
     */
    public record PlaceText(
            int place,
            @Nullable Long entry,
            @Nullable String table,
            String key,
            List<String> lines,
            @Nullable String from,
            boolean borrowed,
            int version,
            List<SceneFinding> findings) {}

    /**
     * A scene in a language.
     *
     * @param selector the number by which the product knows the language
     * @param font the font of the product that it is measured and shown with, null where there is none and nothing is measured
     * @param pretend whether it is made from the source
     */
    public record Stage(
            String language,
            String name,
            boolean rightToLeft,
            @Nullable Integer selector,
            @Nullable Long font,
            boolean pretend,
            List<PlaceText> texts) {}

    /**
     * A scene as it is played.
     *
     * @param placeholders the values that can be changed, with those that are shown
     */
    public record Played(
            long id,
            String name,
            int version,
            double width,
            double height,
            String drawing,
            List<ScenePlace> places,
            Map<String, String> placeholders,
            List<Stage> stages) {}

    private record Entry(long id, long table, String key, FileText source, boolean translatable) {}

    private record Written(FileText text, boolean settled, boolean stale, int version) {}

    /**
     * Plays a scene.
     *
     * @param in tags of the product's languages, its source or pretend ones; none for its start language
     * @param with values instead of the samples, by the names of placeholders
     */
    @Transactional(readOnly = true)
    public Played play(String slug, long scene, List<LanguageTag> in, Play play, Map<String, String> with) {
        ProductReply product = products.find(slug);
        Kept kept = scenes.find(product, scene);
        List<TableInfo> tables = scenes.tables(product);
        if (tables.isEmpty() || product.languages().isEmpty()) {
            throw Refusal.unacceptable(
                    "nothing-to-play",
                    "{product} has no table or no language yet, so there is nothing to show.",
                    Map.of("product", product.name()));
        }
        LanguageTag source = tables.get(0).source();
        ProductLanguages shown = ProductService.languages(product, source);
        List<LanguageTag> tags =
                in.isEmpty() ? List.of(shown.start()) : in.stream().distinct().toList();
        if (tags.size() > MOST_LANGUAGES) {
            throw Refusal.unacceptable(
                    "too-many-languages", "At most {most} languages side by side.", Map.of("most", MOST_LANGUAGES));
        }
        Map<Integer, Entry> entries = entries(kept, tables);
        Map<String, String> values = new LinkedHashMap<>();
        kept.places().forEach(place -> place.with().forEach(values::putIfAbsent));
        values.replaceAll((name, value) -> with.getOrDefault(name, value));
        Set<String> reads = new HashSet<>();
        for (LanguageTag tag : tags) {
            requireShown(product, shown, source, tag);
            new TextResolver(shown, tag, source).reads().forEach(one -> reads.add(one.value()));
        }
        Map<Long, Map<LanguageTag, Written>> written =
                written(entries.values().stream().map(Entry::id).toList(), reads, play);
        Grounds grounds = new Grounds(jdbc);
        Map<Long, TableInfo> byId = new HashMap<>();
        tables.forEach(table -> byId.put(table.id(), table));
        List<Stage> stages = new ArrayList<>();
        for (LanguageTag tag : tags) {
            SceneFonts fonts = new SceneFonts(jdbc, product.id(), tag.value());
            Map<LanguageTag, TextResolver> resolvers = new HashMap<>();
            List<PlaceText> texts = new ArrayList<>();
            for (ScenePlace place : kept.places()) {
                Entry entry = entries.get(place.number());
                if (entry == null) {
                    texts.add(new PlaceText(
                            place.number(),
                            null,
                            null,
                            place.key(),
                            place.asset() ? List.of() : List.of(place.key()),
                            null,
                            false,
                            0,
                            List.of(new SceneFinding("no-entry", Map.of("key", place.key())))));
                    continue;
                }
                TableInfo table = Objects.requireNonNull(byId.get(entry.table()));
                texts.add(
                        play == Play.KEYS
                                ? key(place, entry, table)
                                : text(
                                        place,
                                        entry,
                                        table,
                                        resolvers.computeIfAbsent(
                                                table.source(), of -> new TextResolver(shown, tag, of)),
                                        tag,
                                        written.getOrDefault(entry.id(), Map.of()),
                                        values,
                                        grounds.settings(entry.table()).placeholders(),
                                        fonts));
            }
            stages.add(stage(product, tag, fonts, texts));
        }
        return new Played(
                kept.id(),
                kept.name(),
                kept.version(),
                kept.width(),
                kept.height(),
                kept.drawing(),
                kept.places(),
                values,
                stages);
    }

    private void requireShown(ProductReply product, ProductLanguages shown, LanguageTag source, LanguageTag tag) {
        if (shown.language(tag).isEmpty()
                && !tag.equals(source)
                && Pretend.of(tag).isEmpty()) {
            throw Refusal.unacceptable(
                    "not-in-product",
                    "{product} is not shown in {language}.",
                    Map.of("product", product.name(), "language", tag.value()));
        }
        if (!tag.equals(source) && Pretend.of(tag).isEmpty() && !reading.reads(tag)) {
            throw Refusal.forbidden(
                    "own-languages-only", "{language} is none of your languages.", Map.of("language", tag.value()));
        }
    }

    private Stage stage(ProductReply product, LanguageTag tag, SceneFonts fonts, List<PlaceText> texts) {
        Integer selector = product.languages().stream()
                .filter(one -> one.language().tag().equals(tag.value()))
                .map(LanguageOf::selector)
                .filter(Objects::nonNull)
                .findFirst()
                .orElse(null);
        Language name = languages.describe(tag);
        return new Stage(
                tag.value(),
                name.englishName(),
                name.rightToLeft(),
                selector,
                fonts.number().orElse(null),
                Pretend.of(tag).isPresent(),
                texts);
    }

    private static PlaceText key(ScenePlace place, Entry entry, TableInfo table) {
        return new PlaceText(
                place.number(),
                entry.id(),
                table.slug(),
                entry.key(),
                place.asset() ? List.of() : List.of(entry.key()),
                null,
                false,
                0,
                List.of());
    }

    private PlaceText text(
            ScenePlace place,
            Entry entry,
            TableInfo table,
            TextResolver resolver,
            LanguageTag tag,
            Map<LanguageTag, Written> written,
            Map<String, String> values,
            Placeholders syntax,
            SceneFonts fonts) {
        TextResolver.Answer answer = resolver.of(
                one -> Optional.ofNullable(written.get(one)).map(Written::text).orElse(FileText.NONE),
                entry.source(),
                entry.translatable());
        Written own = written.get(tag);
        int version = own == null ? 0 : own.version();
        List<SceneFinding> findings = new ArrayList<>();
        if (answer.borrowed()) {
            findings.add(new SceneFinding(
                    "borrowed", Map.of("language", answer.from().value())));
        } else if (own != null && own.stale()) {
            findings.add(new SceneFinding("stale", Map.of()));
        }
        boolean hidden =
                !answer.from().equals(table.source()) && !answer.from().equals(tag) && !reading.reads(answer.from());
        SortedMap<String, String> forms =
                hidden ? Collections.emptySortedMap() : answer.text().forms();
        List<String> lines = List.of();
        if (!place.asset() && !forms.isEmpty()) {
            LanguageTag spoken = answer.borrowed() ? answer.from() : tag;
            Filling filling = Filling.of(forms, place.form(), values, spoken, place.latinDigits(), syntax);
            filling.lacking().forEach(name -> findings.add(new SceneFinding("no-value", Map.of("placeholder", name))));
            lines = fit(place, filling.text(), Locale.forLanguageTag(spoken.value()), fonts, findings);
        }
        return new PlaceText(
                place.number(),
                entry.id(),
                table.slug(),
                entry.key(),
                lines,
                answer.from().value(),
                answer.borrowed(),
                version,
                findings);
    }

    /** The lines of a text in its box, which may have more of them than fit. */
    private static List<String> fit(
            ScenePlace place, String text, Locale locale, SceneFonts fonts, List<SceneFinding> findings) {
        Face face = fonts.of(place.size()).orElse(null);
        if (face == null) {
            return text.lines().toList();
        }
        int width = (int) Math.floor(place.width());
        List<String> lines = face.lines(text, place.lines() > 1 ? width : 0, locale);
        if (width > 0) {
            double widest = lines.stream().mapToDouble(face::width).max().orElse(0);
            if (widest > width + 0.01) {
                findings.add(new SceneFinding(
                        "too-wide",
                        Map.of(
                                "by",
                                (int) Math.ceil(widest - width - 0.01),
                                "width",
                                (int) Math.ceil(widest - 0.01),
                                "most",
                                width)));
            }
        }
        if (lines.size() > place.lines()) {
            findings.add(new SceneFinding("too-many-lines", Map.of("lines", lines.size(), "most", place.lines())));
        }
        Set<Integer> lacking = face.lacking(text);
        if (!lacking.isEmpty()) {
            findings.add(new SceneFinding(
                    "letters-missing",
                    Map.of(
                            "font",
                            face.name(),
                            "letters",
                            lacking.stream().limit(20).map(Character::toString).toList())));
        }
        return lines;
    }

    private Map<Integer, Entry> entries(Kept scene, List<TableInfo> tables) {
        Map<Long, Entry> byId = new HashMap<>();
        Map<String, Entry> byKey = new HashMap<>();
        jdbc.sql(ENTRIES)
                .param("tables", tables.stream().map(TableInfo::id).toArray(Long[]::new))
                .param("entries", scene.entries().values().toArray(Long[]::new))
                .param(
                        "keys",
                        scene.places().stream().map(ScenePlace::key).distinct().toArray(String[]::new))
                .query((row, n) -> new Entry(
                        row.getLong("id"),
                        row.getLong("table_id"),
                        row.getString("key"),
                        FileText.of(TextColumns.allForms(row.getString("source"), row.getString("source_forms"))),
                        row.getBoolean("translatable")))
                .list()
                .forEach(entry -> {
                    byId.put(entry.id(), entry);
                    byKey.putIfAbsent(entry.key(), entry);
                });
        Map<Integer, Entry> shown = new HashMap<>();
        for (ScenePlace place : scene.places()) {
            Entry entry = byId.get(scene.entries().getOrDefault(place.number(), 0L));
            if (entry == null) {
                entry = byKey.get(place.key());
            }
            if (entry != null) {
                shown.put(place.number(), entry);
            }
        }
        return shown;
    }

    private Map<Long, Map<LanguageTag, Written>> written(List<Long> entries, Set<String> tags, Play play) {
        Map<Long, Map<LanguageTag, Written>> written = new HashMap<>();
        jdbc.sql(TEXTS)
                .param("entries", entries.toArray(Long[]::new))
                .param("languages", tags.toArray(String[]::new))
                .query(row -> {
                    if (play == Play.WRITTEN || row.getBoolean("settled")) {
                        written.computeIfAbsent(row.getLong("entry_id"), entry -> new HashMap<>())
                                .put(
                                        new LanguageTag(row.getString("tag")),
                                        new Written(
                                                FileText.of(TextColumns.allForms(
                                                        row.getString("text"), row.getString("forms"))),
                                                row.getBoolean("settled"),
                                                row.getBoolean("stale"),
                                                row.getInt("version")));
                    }
                });
        return written;
    }
}
