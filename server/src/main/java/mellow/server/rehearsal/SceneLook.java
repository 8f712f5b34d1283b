package mellow.server.rehearsal;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import mellow.core.language.LanguageTag;
import mellow.core.product.ProductLanguages;
import mellow.server.delivery.BeforeJudging;
import mellow.server.language.LanguageService;
import mellow.server.people.Reading;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.ProductReply;
import mellow.server.rehearsal.Staging.Playing;
import mellow.server.table.TableInfo;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * Keeps what is wrong in each scene and language of a product. A scene is looked at again when the versions of what it shows are no longer those that it was
 * looked at by: judged by what there is now, so no way of changing something can be forgotten, and two servers or a power cut leave nothing old.
 */
@Service
public class SceneLook implements BeforeJudging {

    /** Grows with every change of what is found in a scene that did not change itself. */
    private static final int WAY_OF_LOOKING = 2;

    private static final String STANDS =
            """
            select s.id, s.looked, md5(concat_ws('|', :way, s.version, p.version, :shared,
              (select string_agg(concat_ws(':', v.number, v.entry_id, v.entry_version), ',' order by v.number, v.listed, v.turn) from scene_shows v where v.scene_id = s.id),
              (select string_agg(concat_ws(':', c.entry_id, c.language_id, c.version, c.state), ',' order by c.entry_id, c.language_id)
               from cell c where c.entry_id in (select v.entry_id from scene_shows v where v.scene_id = s.id)))) stands
            from scene s join product p on p.id = s.product_id
            where s.product_id = :product and s.removed_at is null order by s.id
            """;
    /** What all scenes of a product are shown with. */
    private static final String SHARED =
            """
            select concat_ws('|',
              (select string_agg(concat_ws(':', f.id, f.file_id, f.language_id), ',' order by f.id) from product_font f where f.product_id = :product),
              (select string_agg(concat_ws(':', coalesce(c.table_id, -c.product_id), c.version), ',' order by coalesce(c.table_id, -c.product_id))
               from check_setting c where c.product_id = :product or c.table_id in (select table_id from product_table where product_id = :product)))
            """;

    private static final String ADD =
            """
            insert into scene_finding (scene_id, language_id, place, number, entry_id, code, wrong, details)
            select :scene, l.id, f.place, f.number, f.entry, f.code, f.wrong, f.details
            from jsonb_to_recordset(:findings::jsonb) f(language text, place int, number int, entry bigint, code text, wrong boolean, details jsonb)
            join language l on l.tag = f.language
            """;

    private static final String COUNTS =
            """
            select p.scene_id scene, p.tag as language, count(*) filter (where p.wrong)::int wrong, count(*) filter (where not p.wrong)::int mind
            from (select f.scene_id, l.tag, f.place, f.entry_id, bool_or(f.wrong) wrong from scene_finding f
                join scene s on s.id = f.scene_id and s.removed_at is null join language l on l.id = f.language_id
                where s.product_id = :product and l.tag = any(:languages) group by 1, 2, 3, 4) p
            group by 1, 2 order by 1, 2
            """;
    private static final String FOUND =
            """
            select s.id, s.name, l.tag, f.place, coalesce(e.key, p.key) key, f.code, f.wrong, f.details
            from scene_finding f join scene s on s.id = f.scene_id and s.removed_at is null join language l on l.id = f.language_id
            join scene_place p on p.scene_id = s.id and p.number = f.place left join entry e on e.id = f.entry_id
            left join product_language o on o.product_id = s.product_id and o.language_id = f.language_id
            where s.product_id = :product and (:scene = 0 or s.id = :scene) and l.tag = any(:languages)
            order by lower(s.name), s.id, o.position, l.tag, f.wrong desc, f.place, f.number limit :most
            """;

    /** More is no list that anybody works through; the ledger shows them all. */
    private static final int MOST_TOLD = 2_000;

    private static final JsonMapper JSON = JsonMapper.shared();
    private static final TypeReference<Map<String, Object>> DETAILS = new TypeReference<>() {};

    private final ProductService products;
    private final SceneService scenes;
    private final LanguageService languages;
    private final Reading reading;
    private final JdbcClient jdbc;

    SceneLook(
            ProductService products, SceneService scenes, LanguageService languages, Reading reading, JdbcClient jdbc) {
        this.products = products;
        this.scenes = scenes;
        this.languages = languages;
        this.reading = reading;
        this.jdbc = jdbc;
    }

    /** How many texts at places of a scene are to be mended in a language, and how many to be minded and not mended. */
    public record SceneCounts(long scene, String language, int wrong, int mind) {}

    /**
     * What was found in scenes.
     *
     * @param more whether there is more than is told
     */
    public record SceneFindings(List<SceneCounts> counts, List<FoundInScene> found, boolean more) {}

    /**
     * What is wrong at a place in a language.
     *
     * @param key the key that is shown there
     */
    public record FoundInScene(long scene, String name, String language, int place, String key, SceneFinding finding) {}

    private record Stand(long id, String looked, String stands) {}

    private record Kept(
            String language,
            int place,
            int number,
            @Nullable Long entry,
            String code,
            boolean wrong,
            Map<String, Object> details) {}

    /** Looks at those scenes of a product again that show something else than when they were looked at last. */
    @Override
    @Transactional(propagation = Propagation.REQUIRES_NEW)
    public void bringUpToDate(String slug) {
        ProductReply product = products.find(slug);
        List<Long> old = old(product);
        if (old.isEmpty()) {
            return;
        }
        // One at a time; whoever waited finds that there is nothing left to do.
        jdbc.sql("select id from scene where product_id = :product and removed_at is null order by id for update")
                .param("product", product.id())
                .query(Long.class)
                .list();
        List<TableInfo> tables = scenes.tables(product);
        ProductLanguages shown = tables.isEmpty() || product.languages().isEmpty()
                ? null
                : ProductService.languages(product, tables.get(0).source());
        Staging staging = shown == null ? null : new Staging(jdbc, product, shown, tables, Playing.written());
        for (Stand one : stands(product)) {
            if (!one.looked.equals(one.stands)) {
                jdbc.sql("delete from scene_finding where scene_id = :scene")
                        .param("scene", one.id)
                        .update();
                if (staging != null) {
                    List<LanguageTag> tags = Objects.requireNonNull(shown).all().stream()
                            .map(language -> language.tag())
                            .toList();
                    keep(one.id, tags, staging.texts(scenes.find(product, one.id), tags));
                }
                jdbc.sql("update scene set looked = :stands where id = :scene")
                        .param("stands", one.stands)
                        .param("scene", one.id)
                        .update();
            }
        }
    }

    private List<Long> old(ProductReply product) {
        return stands(product).stream()
                .filter(one -> !one.looked.equals(one.stands))
                .map(Stand::id)
                .toList();
    }

    private List<Stand> stands(ProductReply product) {
        String shared = jdbc.sql(SHARED)
                .param("product", product.id())
                .query(String.class)
                .single();
        return jdbc.sql(STANDS)
                .param("way", WAY_OF_LOOKING)
                .param("shared", shared)
                .param("product", product.id())
                .query(Stand.class)
                .list();
    }

    private void keep(long scene, List<LanguageTag> tags, List<List<PlaceText>> texts) {
        List<Kept> kept = new ArrayList<>();
        for (int i = 0; i < tags.size(); i++) {
            Map<Integer, Integer> numbers = new HashMap<>();
            for (PlaceText text : texts.get(i)) {
                for (SceneFinding finding : text.findings()) {
                    kept.add(new Kept(
                            tags.get(i).value(),
                            text.place(),
                            numbers.merge(text.place(), 1, Integer::sum),
                            text.entry(),
                            finding.code(),
                            finding.wrong(),
                            finding.values()));
                }
            }
        }
        if (!kept.isEmpty()) {
            jdbc.sql(ADD)
                    .param("scene", scene)
                    .param("findings", JSON.writeValueAsString(kept))
                    .update();
        }
    }

    /**
     * What was found in the scenes of a product when they were looked at last, in the languages that whoever asks may read.
     *
     * @param scene only in this one, 0 for all; counts are always of all
     */
    @Transactional(readOnly = true)
    public SceneFindings found(String slug, long scene) {
        long product = products.find(slug).id();
        String[] readable = languages.all().stream()
                .filter(reading::reads)
                .map(LanguageTag::value)
                .toArray(String[]::new);
        List<SceneCounts> counts = jdbc.sql(COUNTS)
                .param("product", product)
                .param("languages", readable)
                .query(SceneCounts.class)
                .list();
        List<FoundInScene> found = jdbc.sql(FOUND)
                .param("product", product)
                .param("scene", scene)
                .param("languages", readable)
                .param("most", MOST_TOLD + 1)
                .query((row, n) -> new FoundInScene(
                        row.getLong("id"),
                        row.getString("name"),
                        row.getString("tag"),
                        row.getInt("place"),
                        row.getString("key"),
                        new SceneFinding(
                                row.getString("code"),
                                row.getBoolean("wrong"),
                                JSON.readValue(row.getString("details"), DETAILS))))
                .list();
        return new SceneFindings(counts, found.subList(0, Math.min(found.size(), MOST_TOLD)), found.size() > MOST_TOLD);
    }

    /** Brings all products up to date that have scenes. */
    void bringAllUpToDate() {
        List<String> slugs = jdbc.sql(
                        """
                        select p.slug from product p where p.removed_at is null
                          and exists (select 1 from scene s where s.product_id = p.id and s.removed_at is null) order by p.id
                        """)
                .query(String.class)
                .list();
        slugs.forEach(this::bringUpToDate);
    }
}
