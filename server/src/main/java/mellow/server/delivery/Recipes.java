package mellow.server.delivery;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mellow.server.common.Refusal;
import mellow.server.people.PeopleService;
import mellow.server.product.ProductService;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** The recipes of products. Coordinators change them. */
@Service
class Recipes {

    private static final JsonMapper JSON = JsonMapper.shared();
    private static final int LONGEST_NAME = 100;
    private static final int MOST = 50;

    private final ProductService products;
    private final PeopleService people;
    private final JdbcClient jdbc;

    Recipes(ProductService products, PeopleService people, JdbcClient jdbc) {
        this.products = products;
        this.people = people;
        this.jdbc = jdbc;
    }

    /** The recipes of a product in order. */
    @Transactional(readOnly = true)
    public List<Recipe> of(long product) {
        return jdbc.sql("select * from recipe where product_id = :product and removed_at is null order by position, id")
                .param("product", product)
                .query((row, n) -> new Recipe(
                        row.getLong("id"),
                        row.getString("name"),
                        JSON.readValue(row.getString("settings"), Recipe.RecipeSettings.class),
                        row.getBoolean("active"),
                        row.getInt("version")))
                .list();
    }

    /** How many recipes of each product are switched on, by the product's number. */
    @Transactional(readOnly = true)
    public Map<Long, Integer> active() {
        Map<Long, Integer> active = new HashMap<>();
        jdbc.sql("select product_id, count(*)::int n from recipe where active and removed_at is null group by 1")
                .query(row -> {
                    active.put(row.getLong("product_id"), row.getInt("n"));
                });
        return active;
    }

    /** Makes a recipe; its number. */
    @Transactional
    public long add(long person, String slug, String name, Recipe.RecipeSettings settings) {
        long product = may(person, slug);
        requireSound(name, settings);
        List<Recipe> all = of(product);
        if (all.size() >= MOST) {
            throw Refusal.unacceptable(
                    "too-many-recipes", "A product has at most {most} recipes.", Map.of("most", MOST));
        }
        requireFree(all, 0, name);
        return jdbc.sql(
                        """
                        insert into recipe (product_id, position, name, settings)
                        values (:product, coalesce((select max(position) from recipe where product_id = :product), 0) + 1, :name, cast(:settings as jsonb))
                        returning id
                        """)
                .param("product", product)
                .param("name", name.strip())
                .param("settings", JSON.writeValueAsString(settings))
                .query(Long.class)
                .single();
    }

    /** Changes a recipe. */
    @Transactional
    public void edit(long person, String slug, Recipe wanted) {
        long product = may(person, slug);
        requireSound(wanted.name(), wanted.settings());
        requireFree(of(product), wanted.id(), wanted.name());
        int changed = jdbc.sql(
                        """
                        update recipe set name = :name, settings = cast(:settings as jsonb), active = :active, version = version + 1
                        where id = :id and product_id = :product and version = :version and removed_at is null
                        """)
                .param("name", wanted.name().strip())
                .param("settings", JSON.writeValueAsString(wanted.settings()))
                .param("active", wanted.active())
                .param("id", wanted.id())
                .param("product", product)
                .param("version", wanted.version())
                .update();
        if (changed == 0) {
            throw movedOn();
        }
    }

    /** Takes a recipe away; deliveries that were made by it stay. */
    @Transactional
    public void remove(long person, String slug, long id, int version) {
        long product = may(person, slug);
        int changed = jdbc.sql(
                        """
                        update recipe set removed_at = now(), version = version + 1
                        where id = :id and product_id = :product and version = :version and removed_at is null
                        """)
                .param("id", id)
                .param("product", product)
                .param("version", version)
                .update();
        if (changed == 0) {
            throw movedOn();
        }
    }

    private long may(long person, String slug) {
        people.rights(person).requireCoordinator("change what products get");
        return products.find(slug).id();
    }

    private static void requireSound(String name, Recipe.RecipeSettings settings) {
        if (name.isBlank() || name.strip().length() > LONGEST_NAME) {
            throw Refusal.unacceptable(
                    "bad-name",
                    "A recipe needs a name of 1 to {most} characters.",
                    Map.of("field", "name", "most", LONGEST_NAME));
        }
        settings.requireSound();
    }

    private static void requireFree(List<Recipe> all, long but, String name) {
        if (all.stream().anyMatch(one -> one.id() != but && one.name().equalsIgnoreCase(name.strip()))) {
            throw Refusal.conflict(
                    "name-taken",
                    "There is a recipe called “{name}” already.",
                    Map.of("field", "name", "name", name.strip()));
        }
    }

    private static Refusal movedOn() {
        return Refusal.conflict(
                "recipe-moved-on", "Someone changed or removed this recipe meanwhile; look at it again.", Map.of());
    }
}
