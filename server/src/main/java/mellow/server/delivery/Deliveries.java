package mellow.server.delivery;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Delivering for other parts of the server. */
@Service
public class Deliveries {

    private static final JsonMapper JSON = JsonMapper.shared();

    private final DeliveryService deliveries;
    private final Recipes recipes;
    private final Plans plans;
    private final ProductLoader products;

    Deliveries(DeliveryService deliveries, Recipes recipes, Plans plans, ProductLoader products) {
        this.products = products;
        this.deliveries = deliveries;
        this.recipes = recipes;
        this.plans = plans;
    }

    /** Makes a recipe of a product, as the programs' interface writes its settings. */
    @Transactional
    public void addRecipe(long person, String product, String name, JsonNode settings) {
        recipes.add(person, product, name, JSON.treeToValue(settings, Recipe.RecipeSettings.class));
    }

    /** Has a product go out every so many hours. */
    @Transactional
    public void every(long person, String product, @Nullable Integer hours, String zone) {
        Plans.DeliveryPlan plan = plans.of(products.product(product).id());
        plans.change(
                person,
                product,
                new Plans.DeliveryPlan(
                        plan.gates(), plan.outbox(), hours, List.of(), zone, null, null, "", plan.version()));
    }

    /** Delivers a product at once. */
    @Transactional
    public void deliver(long person, String product) {
        deliveries.deliverNow(person, product);
    }
}
