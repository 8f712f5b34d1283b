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
import java.util.function.Predicate;
import java.util.stream.Stream;
import mellow.core.fit.Face;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import mellow.core.placeholder.Placeholders;
import mellow.core.product.ProductLanguages;
import mellow.core.product.TextResolver;
import mellow.core.pseudo.Pretend;
import mellow.core.scene.Filling;
import mellow.core.scene.ReadingTime;
import mellow.core.scene.ScenePlace;
import mellow.core.text.Shape;
import mellow.core.text.Text;
import mellow.server.check.Grounds;
import mellow.server.check.SceneFonts;
import mellow.server.common.Coded;
import mellow.server.common.TextColumns;
import mellow.server.product.ProductService.ProductReply;
import mellow.server.product.StepReply;
import mellow.server.rehearsal.SceneService.Kept;
import mellow.server.table.TableInfo;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * Sets the scenes of a product in languages: which text stands at each place, in which lines, and what is wrong there. Reads what scenes share once, so it is
 * for one piece of work; needs a transaction around it. Asks for no rights but what it is told of them.
 */
final class Staging {

    private static final String ENTRIES =
            """
            select v.number, v.listed, e.id, e.table_id, e.key, e.source, e.source_forms, e.translatable
            from scene_shows v join entry e on e.id = v.entry_id where v.scene_id = :scene order by v.number, v.listed, v.turn
            """;
    private static final String TEXTS = Coded.sql(
            """
            select c.entry_id, l.tag, c.text, c.forms, c.standing = {standing.settled} settled, c.state = {state.stale} stale, c.version
            from cell c join language l on l.id = c.language_id
            where c.entry_id = any(:entries) and l.tag = any(:languages) and c.text is not null
            """);

    /** The size of letters as the drawing has it, in percent. */
    static final int AS_DRAWN = 100;

    /** The newest offer that waits in each cell. */
    private static final String OFFERS = Coded.sql(
            """
            select distinct on (o.entry_id, o.language_id) o.entry_id, l.tag, o.text, o.forms, coalesce(c.version, 0) as version
            from offer o join language l on l.id = o.language_id left join cell c on c.entry_id = o.entry_id and c.language_id = o.language_id
            where o.entry_id = any(:entries) and l.tag = any(:languages) and o.answer = {answer.open} order by o.entry_id, o.language_id, o.id desc
            """);

    private final JdbcClient jdbc;
    private final ProductReply product;
    private final ProductLanguages languages;
    private final Map<Long, TableInfo> tables = new HashMap<>();
    private final Playing playing;
    private final Grounds grounds;
    /** What the places of scenes show, by the numbers of scenes. */
    private final Map<Long, Map<Integer, Shown>> read = new HashMap<>();

    private final Map<LanguageTag, SceneFonts> fonts = new HashMap<>();
    private final Map<LanguageTag, Map<LanguageTag, TextResolver>> resolvers = new HashMap<>();

    /**
     * What is played, and for whom.
     *
     * @param with values instead of the samples, by the names of placeholders
     * @param size of letters in percent of the drawing's
     * @param pretend pretend languages that are made otherwise than usual
     * @param delivered the texts of a delivery by language and entry, for {@link Play#DELIVERED}
     * @param chosen what stands at some places instead of what was drawn there, by their numbers: the key of another entry of a list, or another form
     * @param everything whether all entries of a list stand at its place, one after the other, instead of one
     * @param reads whether a language may be read by whoever asks
     */
    record Playing(
            Play play,
            Map<String, String> with,
            int size,
            Map<LanguageTag, Pretend> pretend,
            Map<LanguageTag, Map<Long, FileText>> delivered,
            Map<Integer, String> chosen,
            boolean everything,
            Predicate<LanguageTag> reads) {

        /** Everything that is written, with the samples of the scenes, for nobody in particular. */
        static Playing written() {
            return new Playing(Play.WRITTEN, Map.of(), AS_DRAWN, Map.of(), Map.of(), Map.of(), true, tag -> true);
        }
    }

    private record Entry(long id, long table, String key, FileText source, boolean translatable) {}

    /** What can stand at a place: the entry that it was drawn for, then those of its list. */
    private record Shown(List<Entry> drawn, List<Entry> listed) {

        Shown() {
            this(new ArrayList<>(), new ArrayList<>());
        }
    }

    private record Written(FileText text, boolean stale, int version) {}

    Staging(
            JdbcClient jdbc,
            ProductReply product,
            ProductLanguages languages,
            List<TableInfo> tables,
            Playing playing) {
        this.jdbc = jdbc;
        this.product = product;
        this.languages = languages;
        this.playing = playing;
        this.grounds = new Grounds(jdbc);
        tables.forEach(table -> this.tables.put(table.id(), table));
    }

    /** The font that the product shows a language with. */
    SceneFonts fonts(LanguageTag tag) {
        return fonts.computeIfAbsent(tag, of -> new SceneFonts(jdbc, product.id(), of.value()));
    }

    /** The languages that texts are taken from in the scenes of some languages. */
    static Set<LanguageTag> reads(ProductLanguages languages, List<LanguageTag> tags, LanguageTag source) {
        Set<LanguageTag> reads = new HashSet<>();
        tags.forEach(tag -> reads.addAll(new TextResolver(languages, tag, source).reads()));
        return reads;
    }

    private TextResolver resolver(LanguageTag tag, LanguageTag source) {
        return resolvers
                .computeIfAbsent(tag, of -> new HashMap<>())
                .computeIfAbsent(
                        source,
                        of -> new TextResolver(
                                languages,
                                tag,
                                of,
                                Optional.ofNullable(playing.pretend.get(tag)).or(() -> Pretend.of(tag))));
    }

    /** What stands at the places of a scene, by language in the order of {@code tags}. */
    List<List<PlaceText>> texts(Kept scene, List<LanguageTag> tags) {
        Map<Integer, Shown> entries = entries(scene);
        Set<String> reads = new HashSet<>();
        for (LanguageTag tag : tags) {
            resolver(tag, languages.start()).reads().forEach(one -> reads.add(one.value()));
        }
        Map<Long, Map<LanguageTag, Written>> written = written(
                entries.values().stream()
                        .flatMap(shown -> Stream.concat(shown.drawn.stream(), shown.listed.stream()))
                        .map(Entry::id)
                        .distinct()
                        .toList(),
                reads);
        Map<String, String> values = values(scene.places(), playing.with);
        List<List<PlaceText>> all = new ArrayList<>();
        for (LanguageTag tag : tags) {
            List<PlaceText> texts = new ArrayList<>();
            for (ScenePlace place : scene.places()) {
                List<Entry> standing = standing(place, entries.getOrDefault(place.number(), new Shown()));
                if (standing.isEmpty()) {
                    texts.add(nothing(place));
                }
                ScenePlace so = place.list().isEmpty() && !place.form().isEmpty()
                        ? place.in(playing.chosen.getOrDefault(place.number(), place.form()))
                        : place;
                for (Entry entry : standing) {
                    texts.add(
                            playing.play == Play.KEYS
                                    ? key(place, entry)
                                    : text(so, entry, tag, written.getOrDefault(entry.id, Map.of()), values));
                }
            }
            all.add(texts);
        }
        return all;
    }

    private List<Entry> standing(ScenePlace place, Shown shown) {
        String chosen = playing.chosen.get(place.number());
        if (playing.everything) {
            return Stream.concat(shown.drawn.stream(), shown.listed.stream())
                    .distinct()
                    .toList();
        }
        return shown.listed.stream()
                .filter(entry -> entry.key.equals(chosen))
                .findFirst()
                .map(List::of)
                .orElse(shown.drawn);
    }

    /** What can be chosen at the places of a scene. */
    List<PlaceChoice> choices(Kept scene) {
        Map<Integer, Shown> entries = entries(scene);
        List<PlaceChoice> choices = new ArrayList<>();
        for (ScenePlace place : scene.places()) {
            Shown shown = entries.getOrDefault(place.number(), new Shown());
            if (!place.list().isEmpty()) {
                List<String> keys =
                        shown.listed.stream().map(Entry::key).distinct().toList();
                String now = standing(place, shown).stream()
                        .map(Entry::key)
                        .findFirst()
                        .orElse(place.key());
                choices.add(new PlaceChoice(place.number(), place.list(), true, keys, now));
            } else if (!place.form().isEmpty() && !shown.drawn.isEmpty()) {
                Entry entry = shown.drawn.get(0);
                choices.add(new PlaceChoice(
                        place.number(),
                        entry.key,
                        false,
                        List.copyOf(entry.source.forms().keySet()),
                        playing.chosen.getOrDefault(place.number(), place.form())));
            }
        }
        return choices;
    }

    /** The values of a scene: its samples, of which some may be replaced. */
    static Map<String, String> values(List<ScenePlace> places, Map<String, String> with) {
        Map<String, String> values = new LinkedHashMap<>();
        places.forEach(place -> place.with().forEach(values::putIfAbsent));
        values.replaceAll((name, value) -> with.getOrDefault(name, value));
        return values;
    }

    private static PlaceText nothing(ScenePlace place) {
        return bare(
                place, null, null, place.key(), List.of(SceneFinding.wrong("no-entry", Map.of("key", place.key()))));
    }

    private PlaceText key(ScenePlace place, Entry entry) {
        return bare(place, entry.id, table(entry).slug(), entry.key, List.of());
    }

    /** A place that shows a key and no text. */
    private static PlaceText bare(
            ScenePlace place, @Nullable Long entry, @Nullable String table, String key, List<SceneFinding> findings) {
        List<String> lines = place.asset() ? List.of() : List.of(key);
        return new PlaceText(
                place.number(), entry, table, key, lines, null, false, 0, null, "", "", List.of(), findings);
    }

    private TableInfo table(Entry entry) {
        return Objects.requireNonNull(tables.get(entry.table));
    }

    private PlaceText text(
            ScenePlace place,
            Entry entry,
            LanguageTag tag,
            Map<LanguageTag, Written> written,
            Map<String, String> values) {
        TableInfo table = table(entry);
        TextResolver.Answer answer = resolver(tag, table.source())
                .of(
                        one -> Optional.ofNullable(written.get(one))
                                .map(Written::text)
                                .orElse(FileText.NONE),
                        source(entry, table),
                        entry.translatable);
        Written own = written.get(tag);
        List<SceneFinding> findings = new ArrayList<>();
        if (answer.borrowed()) {
            findings.add(SceneFinding.mind(
                    "borrowed", Map.of("language", answer.from().value())));
        } else if (own != null && own.stale) {
            findings.add(SceneFinding.mind("stale", Map.of()));
        }
        boolean hidden = !answer.from().equals(table.source())
                && !answer.from().equals(tag)
                && !playing.reads.test(answer.from());
        SortedMap<String, String> forms =
                hidden ? Collections.emptySortedMap() : answer.text().forms();
        AssetShown asset = asset(forms);
        List<String> lines = List.of();
        Filling filling = null;
        if (place.asset() && asset == null && !hidden) {
            findings.add(SceneFinding.wrong("asset-missing", Map.of()));
        } else if (asset == null && !forms.isEmpty()) {
            LanguageTag spoken = answer.borrowed() ? answer.from() : tag;
            Placeholders syntax = grounds.settings(entry.table).placeholders();
            filling = Filling.of(forms, place.form(), values, spoken, place.latinDigits(), syntax);
            filling.lacking()
                    .forEach(name -> findings.add(SceneFinding.wrong("no-value", Map.of("placeholder", name))));
            lines = fit(place, filling.text(), Locale.forLanguageTag(spoken.value()), fonts(tag), findings);
            quick(place, filling.text(), findings);
        }
        return new PlaceText(
                place.number(),
                entry.id,
                table.slug(),
                entry.key,
                lines,
                answer.from().value(),
                answer.borrowed(),
                own == null ? 0 : own.version,
                asset,
                filling == null ? "" : filling.form(),
                filling == null ? "" : filling.by(),
                hidden ? List.of() : StepReply.of(answer.steps()),
                findings);
    }

    private FileText source(Entry entry, TableInfo table) {
        return playing.play == Play.DELIVERED
                ? playing.delivered.getOrDefault(table.source(), Map.of()).getOrDefault(entry.id, FileText.NONE)
                : entry.source;
    }

    private static @Nullable AssetShown asset(SortedMap<String, String> forms) {
        String file = forms.get(Shape.FILE);
        return file == null || !file.matches("[0-9]{1,18}")
                ? null
                : new AssetShown(Long.parseLong(file), forms.getOrDefault(Text.OTHER, ""));
    }

    /** The lines of a text in its box, which may have more of them than fit. */
    private List<String> fit(
            ScenePlace place, String text, Locale locale, SceneFonts fonts, List<SceneFinding> findings) {
        Face face = fonts.of(place.size() * playing.size / AS_DRAWN).orElse(null);
        if (face == null) {
            return text.lines().toList();
        }
        int width = (int) Math.floor(place.width());
        List<String> lines = face.lines(text, place.lines() > 1 ? width : 0, locale);
        if (width > 0) {
            int widest = 0;
            double most = 0;
            for (int i = 0; i < lines.size(); i++) {
                double wide = face.width(lines.get(i));
                if (wide > most) {
                    most = wide;
                    widest = i + 1;
                }
            }
            if (most > width + 0.01) {
                findings.add(SceneFinding.wrong(
                        "too-wide",
                        Map.of(
                                "by",
                                (int) Math.ceil(most - width - 0.01),
                                "width",
                                (int) Math.ceil(most - 0.01),
                                "most",
                                width,
                                "line",
                                widest,
                                "lines",
                                lines.size())));
            }
        }
        if (lines.size() > place.lines()) {
            findings.add(SceneFinding.wrong("too-many-lines", Map.of("lines", lines.size(), "most", place.lines())));
        }
        Set<Integer> lacking = face.lacking(text);
        if (!lacking.isEmpty()) {
            findings.add(SceneFinding.wrong(
                    "letters-missing",
                    Map.of(
                            "font",
                            face.name(),
                            "letters",
                            lacking.stream().limit(20).map(Character::toString).toList())));
        }
        return lines;
    }

    /** What is seen for a while must be read in that while. */
    private static void quick(ScenePlace place, String text, List<SceneFinding> findings) {
        double needed = ReadingTime.seconds(text);
        if (place.stays() > 0 && needed > place.stays()) {
            findings.add(SceneFinding.wrong("too-quick", Map.of("seconds", place.stays(), "needed", needed)));
        }
    }

    private Map<Integer, Shown> entries(Kept scene) {
        Map<Integer, Shown> known = read.get(scene.id());
        if (known != null) {
            return known;
        }
        Map<Integer, Shown> entries = new HashMap<>();
        jdbc.sql(ENTRIES).param("scene", scene.id()).query(row -> {
            Shown shown = entries.computeIfAbsent(row.getInt("number"), place -> new Shown());
            (row.getBoolean("listed") ? shown.listed : shown.drawn)
                    .add(new Entry(
                            row.getLong("id"),
                            row.getLong("table_id"),
                            row.getString("key"),
                            FileText.of(TextColumns.allForms(row.getString("source"), row.getString("source_forms"))),
                            row.getBoolean("translatable")));
        });
        read.put(scene.id(), entries);
        return entries;
    }

    private Map<Long, Map<LanguageTag, Written>> written(List<Long> entries, Set<String> tags) {
        Map<Long, Map<LanguageTag, Written>> written = new HashMap<>();
        if (playing.play == Play.DELIVERED) {
            playing.delivered.forEach((tag, texts) -> entries.stream()
                    .filter(texts::containsKey)
                    .forEach(entry -> written.computeIfAbsent(entry, of -> new HashMap<>())
                            .put(tag, new Written(Objects.requireNonNull(texts.get(entry)), false, 0))));
            return written;
        }
        jdbc.sql(TEXTS)
                .param("entries", entries.toArray(Long[]::new))
                .param("languages", tags.toArray(String[]::new))
                .query(row -> {
                    if (playing.play != Play.SETTLED || row.getBoolean("settled")) {
                        written.computeIfAbsent(row.getLong("entry_id"), entry -> new HashMap<>())
                                .put(
                                        new LanguageTag(row.getString("tag")),
                                        new Written(
                                                FileText.of(TextColumns.allForms(
                                                        row.getString("text"), row.getString("forms"))),
                                                row.getBoolean("stale"),
                                                row.getInt("version")));
                    }
                });
        if (playing.play == Play.OFFERED) {
            jdbc.sql(OFFERS)
                    .param("entries", entries.toArray(Long[]::new))
                    .param("languages", tags.toArray(String[]::new))
                    .query(row -> {
                        written.computeIfAbsent(row.getLong("entry_id"), entry -> new HashMap<>())
                                .put(
                                        new LanguageTag(row.getString("tag")),
                                        new Written(
                                                FileText.of(TextColumns.allForms(
                                                        row.getString("text"), row.getString("forms"))),
                                                false,
                                                row.getInt("version")));
                    });
        }
        return written;
    }
}
