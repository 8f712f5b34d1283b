package mellow.server.rehearsal;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import mellow.core.format.FileText;
import mellow.core.language.Language;
import mellow.core.language.LanguageTag;
import mellow.core.product.ProductLanguages;
import mellow.core.pseudo.Letters;
import mellow.core.pseudo.Pretend;
import mellow.core.scene.ScenePlace;
import mellow.server.common.Refusal;
import mellow.server.delivery.DeliveredTexts;
import mellow.server.delivery.DeliveredTexts.Snapshot;
import mellow.server.language.LanguageService;
import mellow.server.people.Reading;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.LanguageOf;
import mellow.server.product.ProductService.ProductReply;
import mellow.server.rehearsal.SceneService.Kept;
import mellow.server.rehearsal.Staging.Playing;
import mellow.server.table.TableInfo;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Plays a scene of a product for somebody, in languages that they may read. */
@Service
public class Rehearsal {

    static final int MOST_LANGUAGES = 4;

    private final SceneService scenes;
    private final ProductService products;
    private final LanguageService languages;
    private final DeliveredTexts deliveries;
    private final Reading reading;
    private final JdbcClient jdbc;

    Rehearsal(
            SceneService scenes,
            ProductService products,
            LanguageService languages,
            DeliveredTexts deliveries,
            Reading reading,
            JdbcClient jdbc) {
        this.scenes = scenes;
        this.products = products;
        this.languages = languages;
        this.deliveries = deliveries;
        this.reading = reading;
        this.jdbc = jdbc;
    }

    /**
     * How a scene is to be played.
     *
     * @param in tags of the product's languages, its source or pretend ones; none for its start language
     * @param with values instead of the samples, by the names of placeholders
     * @param letters what pretend languages do to letters, null for the usual
     * @param longerBy by how many percent their texts grow, null for the usual
     * @param size of letters in percent of the drawing's
     * @param chosen what stands at places that leave a choice, by their numbers: the key of an entry of a list, or a form
     */
    public record Wanted(
            List<LanguageTag> in,
            Play play,
            Map<String, String> with,
            @Nullable Letters letters,
            @Nullable Integer longerBy,
            int size,
            Map<Integer, String> chosen) {

        public Wanted(List<LanguageTag> in, Play play, Map<String, String> with) {
            this(in, play, with, null, null, Staging.AS_DRAWN, Map.of());
        }
    }

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
     * @param choices the places that leave a choice
     * @param placeholders the values that can be changed, with those that are shown
     * @param delivery the number of the delivery whose texts are shown, null for those of now
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
            List<PlaceChoice> choices,
            @Nullable Integer delivery,
            List<Stage> stages) {}

    /** Plays a scene. */
    @Transactional(readOnly = true)
    public Played play(String slug, long scene, Wanted wanted) {
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
        List<LanguageTag> tags = wanted.in.isEmpty()
                ? List.of(shown.start())
                : wanted.in.stream().distinct().toList();
        if (tags.size() > MOST_LANGUAGES) {
            throw Refusal.unacceptable(
                    "too-many-languages", "At most {most} languages side by side.", Map.of("most", MOST_LANGUAGES));
        }
        tags.forEach(tag -> requireShown(product, shown, source, tag));
        Snapshot snapshot = wanted.play == Play.DELIVERED
                ? deliveries
                        .last(product.id())
                        .orElseThrow(() -> Refusal.unacceptable(
                                "never-delivered",
                                "{product} was never delivered, so no delivery can be shown.",
                                Map.of("product", product.name())))
                : null;
        Playing playing = new Playing(
                wanted.play,
                wanted.with,
                wanted.size,
                pretend(tags, wanted),
                snapshot == null ? Map.of() : delivered(snapshot, shown, tags, tables),
                wanted.chosen,
                false,
                reading::reads);
        Staging staging = new Staging(jdbc, product, shown, tables, playing);
        List<List<PlaceText>> texts = staging.texts(kept, tags);
        List<Stage> stages = new ArrayList<>();
        for (int i = 0; i < tags.size(); i++) {
            stages.add(stage(product, tags.get(i), staging, texts.get(i)));
        }
        return new Played(
                kept.id(),
                kept.name(),
                kept.version(),
                kept.width(),
                kept.height(),
                kept.drawing(),
                kept.places(),
                Staging.values(kept.places(), wanted.with),
                staging.choices(kept),
                snapshot == null ? null : snapshot.number(),
                stages);
    }

    private static Map<LanguageTag, Pretend> pretend(List<LanguageTag> tags, Wanted wanted) {
        Map<LanguageTag, Pretend> made = new HashMap<>();
        for (LanguageTag tag : tags) {
            Pretend.of(tag)
                    .ifPresent(usual -> made.put(
                            tag,
                            usual.with(
                                    Objects.requireNonNullElse(wanted.letters, usual.letters()),
                                    Objects.requireNonNullElse(wanted.longerBy, usual.longerBy()))));
        }
        return made;
    }

    private Map<LanguageTag, Map<Long, FileText>> delivered(
            Snapshot snapshot, ProductLanguages shown, List<LanguageTag> tags, List<TableInfo> tables) {
        Map<LanguageTag, Map<Long, FileText>> delivered = new HashMap<>();
        Set<LanguageTag> reads = new HashSet<>();
        for (TableInfo table : tables) {
            reads.add(table.source());
            reads.addAll(Staging.reads(shown, tags, table.source()));
        }
        for (LanguageTag tag : reads) {
            Map<Long, FileText> texts = new HashMap<>();
            deliveries.texts(snapshot, tag).forEach((entry, text) -> texts.put(entry, FileText.of(text.forms())));
            delivered.put(tag, texts);
        }
        return delivered;
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
        if (!tag.equals(source) && Pretend.of(tag).isEmpty()) {
            reading.require(tag);
        }
    }

    private Stage stage(ProductReply product, LanguageTag tag, Staging staging, List<PlaceText> texts) {
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
                staging.fonts(tag).number().orElse(null),
                Pretend.of(tag).isPresent(),
                texts);
    }
}
