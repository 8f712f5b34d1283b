package mellow.server.rehearsal;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import mellow.core.format.Limits;
import mellow.core.format.Problems;
import mellow.core.scene.Scene;
import mellow.core.scene.ScenePlace;
import mellow.core.scene.ScenePlace.Align;
import mellow.core.scene.SceneReader;
import mellow.server.common.Refusal;
import mellow.server.people.PeopleService;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.ProductReply;
import mellow.server.product.ProductService.TableOf;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** Keeps the scenes of products. A drawing that replaces another leaves it in the record. */
@Service
public class SceneService {

    /** A drawing of a screen with a picture in it. */
    static final int LARGEST_BYTES = 4 * 1024 * 1024;

    /** An archive of them. */
    static final int LARGEST_ARCHIVE_BYTES = 40 * 1024 * 1024;

    private static final Limits LIMITS = new Limits(LARGEST_BYTES, 1, LARGEST_BYTES, 1);
    private static final int MOST_SCENES = 200;
    private static final int LONGEST_NAME = 200;

    private static final JsonMapper JSON = JsonMapper.shared();
    private static final TypeReference<TreeMap<String, String>> SAMPLE = new TypeReference<>() {};

    private static final String ADD_PLACES =
            """
            insert into scene_place (scene_id, number, key, entry_id, asset, x, y, width, height, lines, size, align, keeps_direction, latin_digits, form, sample, list, stays)
            select :scene, p.number, p.key, (
                select e.id from entry e where e.table_id = any(:tables) and e.key = p.key and e.removed_at is null
                order by array_position(:tables::bigint[], e.table_id), e.position, e.id limit 1),
              p.asset, p.x, p.y, p.width, p.height, p.lines, p.size, p.align, p."keepsDirection", p."latinDigits", p.form, p."with", p.list, p.stays
            from jsonb_to_recordset(:places::jsonb) p(number int, key text, asset boolean, x float8, y float8, width float8, height float8, lines int,
              size float8, align text, "keepsDirection" boolean, "latinDigits" boolean, form text, "with" jsonb, list text, stays float8)
            """;

    private final ProductService products;
    private final TableService tables;
    private final PeopleService people;
    private final JdbcClient jdbc;
    private final Clock clock;

    SceneService(ProductService products, TableService tables, PeopleService people, JdbcClient jdbc, Clock clock) {
        this.products = products;
        this.tables = tables;
        this.people = people;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /**
     * A scene in a list.
     *
     * @param places how many places it has
     * @param unknown how many of them show no entry of the product
     * @param picture whether places are marked on a picture
     */
    public record SceneReply(long id, String name, int version, int places, int unknown, boolean picture) {}

    /**
     * What came of a file.
     *
     * @param leftOut sentences about what was left out of drawings
     */
    public record ScenesAdded(List<SceneReply> scenes, List<String> leftOut) {}

    /** The scenes of a product by name. */
    @Transactional(readOnly = true)
    public List<SceneReply> all(String product) {
        return jdbc.sql(
                        """
                        select s.id, s.name, s.version, count(v.number)::int places, count(v.number) filter (where v.entry_id is null)::int unknown, d.picture
                        from scene s join scene_drawing d on d.scene_id = s.id and d.version = s.version
                          left join scene_shows v on v.scene_id = s.id and not v.listed
                        where s.product_id = :product and s.removed_at is null group by s.id, d.picture order by lower(s.name), s.id
                        """)
                .param("product", products.find(product).id())
                .query(SceneReply.class)
                .list();
    }

    /** Refuses whoever may not change scenes, before anything is sent. */
    void requireMay(long person) {
        people.rights(person).requireCoordinator("change the scenes of products");
    }

    /** Refuses by size alone. */
    static void requireSize(long bytes) {
        if (bytes > LARGEST_ARCHIVE_BYTES) {
            throw Refusal.tooLarge(
                    "scenes-too-large", "Scenes may have at most 40 MB together; make their pictures smaller.");
        }
    }

    /**
     * Adds scenes, or replaces the drawings of some: all that are in a file, or none.
     *
     * @param file a drawing (SVG), a picture (PNG, JPEG, WebP), or a ZIP archive of them, whose scenes are called as its files are
     * @param replaces the version that is replaced by a single one, null for a new scene
     * @param anyway whether scenes that are there already get the new drawings, whatever their version
     */
    @Transactional
    public ScenesAdded add(
            long person, String product, String name, byte[] file, @Nullable Integer replaces, boolean anyway) {
        requireMay(person);
        ProductReply of = products.find(product);
        List<SceneFile> files = SceneFile.in(name, file);
        Map<String, Integer> versions = new HashMap<>();
        if (replaces != null) {
            files.forEach(one -> versions.put(one.lower(), replaces));
        } else {
            List<SceneReply> known = all(product).stream()
                    .filter(one ->
                            files.stream().anyMatch(drawn -> drawn.lower().equals(lower(one.name()))))
                    .toList();
            if (!known.isEmpty() && !anyway) {
                throw exists(of, known.stream().map(SceneReply::name).toList());
            }
            known.forEach(one -> versions.put(lower(one.name()), one.version()));
        }
        Set<Long> added = new HashSet<>();
        List<String> leftOut = new ArrayList<>();
        for (SceneFile one : files) {
            Problems problems = new Problems(one.name());
            Scene scene = SceneReader.read(one.drawing(), LIMITS, problems);
            added.add(keep(person, of, one, scene, versions.get(one.lower())));
            problems.kept().forEach(problem -> leftOut.add(problem.sentence()));
        }
        return new ScenesAdded(
                all(product).stream().filter(one -> added.contains(one.id())).toList(), leftOut);
    }

    static String lower(String name) {
        return name.toLowerCase(Locale.ROOT);
    }

    private long keep(long person, ProductReply of, SceneFile file, Scene scene, @Nullable Integer replaces) {
        long id = replaces == null ? begin(of, file.name()) : next(of, file.name(), replaces);
        jdbc.sql(
                        """
                        insert into scene_drawing (scene_id, version, width, height, drawing, picture, person_id, added_at)
                        values (:scene, :version, :width, :height, :drawing, :picture, :person, :at)
                        """)
                .param("scene", id)
                .param("version", replaces == null ? 1 : replaces + 1)
                .param("width", scene.width())
                .param("height", scene.height())
                .param("drawing", scene.drawing())
                .param("picture", scene.picture())
                .param("person", person)
                .param("at", clock.instant().atOffset(ZoneOffset.UTC))
                .update();
        jdbc.sql("delete from scene_place where scene_id = :scene")
                .param("scene", id)
                .update();
        jdbc.sql(ADD_PLACES)
                .param("scene", id)
                .param("tables", tables(of).stream().map(TableInfo::id).toArray(Long[]::new))
                .param("places", JSON.writeValueAsString(scene.places()))
                .update();
        return id;
    }

    private static Refusal exists(ProductReply product, List<String> names) {
        return Refusal.conflict(
                "scene-exists",
                "{product} has {scenes} already; give this another name, or replace the drawing that is there. Earlier drawings are kept.",
                Map.of(
                        "product",
                        product.name(),
                        "scenes",
                        names.stream().limit(5).map(name -> "“" + name + "”").collect(Collectors.joining(", "))
                                + (names.size() > 5 ? "…" : "")));
    }

    private long begin(ProductReply product, String name) {
        int many = jdbc.sql("select count(*)::int from scene where product_id = :product and removed_at is null")
                .param("product", product.id())
                .query(Integer.class)
                .single();
        if (many >= MOST_SCENES) {
            throw Refusal.unacceptable(
                    "too-many-scenes", "A product has at most {most} scenes.", Map.of("most", MOST_SCENES));
        }
        try {
            return jdbc.sql("insert into scene (product_id, name, version) values (:product, :name, 1) returning id")
                    .param("product", product.id())
                    .param("name", name)
                    .query(Long.class)
                    .single();
        } catch (DuplicateKeyException twice) {
            throw exists(product, List.of(name));
        }
    }

    private long next(ProductReply product, String name, int replaces) {
        return jdbc.sql(
                        """
                        update scene set version = version + 1 where product_id = :product and lower(name) = lower(:name) and removed_at is null and version = :version
                        returning id
                        """)
                .param("product", product.id())
                .param("name", name)
                .param("version", replaces)
                .query(Long.class)
                .optional()
                .orElseThrow(SceneService::movedOn);
    }

    private static Refusal movedOn() {
        return Refusal.conflict(
                "scene-moved-on",
                "Someone changed this scene meanwhile; look at it again, then repeat your change.",
                Map.of());
    }

    /** Takes a scene out; its drawings stay in the record. */
    @Transactional
    public void remove(long person, String product, long id, int version) {
        requireMay(person);
        int removed = jdbc.sql(
                        """
                        update scene set removed_at = :at, version = version + 1
                        where id = :id and product_id = :product and version = :version and removed_at is null
                        """)
                .param("at", clock.instant().atOffset(ZoneOffset.UTC))
                .param("id", id)
                .param("product", products.find(product).id())
                .param("version", version)
                .update();
        if (removed == 0) {
            throw movedOn();
        }
    }

    /**
     * A scene as it is kept.
     *
     * @param drawing what {@link Scene#drawing} was
     */
    record Kept(
            long id, String name, int version, double width, double height, String drawing, List<ScenePlace> places) {}

    /** A scene of a product. */
    @Transactional(readOnly = true)
    Kept find(ProductReply product, long id) {
        List<ScenePlace> places = jdbc.sql("select * from scene_place where scene_id = :scene order by number")
                .param("scene", id)
                .query((row, n) -> place(row))
                .list();
        Optional<Kept> kept = jdbc.sql(
                        """
                        select s.name, s.version, d.width, d.height, d.drawing from scene s join scene_drawing d on d.scene_id = s.id and d.version = s.version
                        where s.id = :id and s.product_id = :product and s.removed_at is null
                        """)
                .param("id", id)
                .param("product", product.id())
                .query((row, n) -> new Kept(
                        id,
                        row.getString("name"),
                        row.getInt("version"),
                        row.getDouble("width"),
                        row.getDouble("height"),
                        row.getString("drawing"),
                        places))
                .optional();
        return kept.orElseThrow(
                () -> Refusal.notFound("no-such-scene", "There is no such scene; it may have been taken out."));
    }

    private static ScenePlace place(ResultSet row) throws SQLException {
        return new ScenePlace(
                row.getInt("number"),
                row.getString("key"),
                row.getBoolean("asset"),
                row.getDouble("x"),
                row.getDouble("y"),
                row.getDouble("width"),
                row.getDouble("height"),
                row.getInt("lines"),
                row.getDouble("size"),
                Align.valueOf(row.getString("align")),
                row.getBoolean("keeps_direction"),
                row.getBoolean("latin_digits"),
                row.getString("form"),
                JSON.readValue(row.getString("sample"), SAMPLE),
                row.getString("list"),
                row.getDouble("stays"));
    }

    /** The tables of a product in order. */
    List<TableInfo> tables(ProductReply product) {
        return product.tables().stream().map(TableOf::slug).map(tables::find).toList();
    }

    /**
     * A scene that shows an entry.
     *
     * @param listed its key where it is one of a list and must be chosen to be seen, else null
     */
    public record ShownOn(
            String product, String productName, long scene, String name, int place, @Nullable String listed) {}

    /** Where an entry is shown. */
    @Transactional(readOnly = true)
    public List<ShownOn> showing(long entry) {
        return jdbc.sql(
                        """
                        select * from (
                            select distinct on (s.id) p.slug product, p.name product_name, s.id scene, s.name, v.number place,
                              case when v.listed then v.key end listed
                            from scene_shows v join scene s on s.id = v.scene_id join product p on p.id = s.product_id and p.removed_at is null
                            where v.entry_id = :entry and v.scene_id in (select l.scene_id from scene_place l, entry e
                                where e.id = :entry and (l.entry_id = :entry or l.key = e.key or l.list <> '' and starts_with(e.key, l.list)))
                            order by s.id, v.listed, v.number) shown
                        order by product_name, lower(name)
                        """)
                .param("entry", entry)
                .query(ShownOn.class)
                .list();
    }
}
