package mellow.server.delivery;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import mellow.server.common.Refusal;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.ProductReply;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.springframework.stereotype.Component;

/** Finds products as they are delivered. */
@Component
class ProductLoader {

    private final ProductService products;
    private final TableService tables;

    ProductLoader(ProductService products, TableService tables) {
        this.products = products;
        this.tables = tables;
    }

    /** A product that has something to deliver: a table and a language. */
    Product product(String slug) {
        ProductReply of = products.find(slug);
        return product(of, tables::find)
                .orElseThrow(() -> Refusal.unacceptable(
                        "nothing-to-deliver",
                        of.tables().isEmpty()
                                ? "{product} has no table yet, so there is nothing to deliver."
                                : "{product} has no language yet, so there is nothing to deliver.",
                        Map.of("product", of.name())));
    }

    /** The same of what is known already; empty when it has no table or no language. */
    Optional<Product> product(ProductReply of) {
        return product(of, tables::find);
    }

    /** All products, those that have nothing to deliver included, with their tables in two statements. */
    Map<ProductReply, Optional<Product>> all() {
        Map<String, TableInfo> known = tables.all().stream()
                .map(TableService.Listed::table)
                .collect(Collectors.toMap(TableInfo::slug, table -> table));
        return products.all().stream()
                .collect(Collectors.toMap(
                        of -> of,
                        of -> product(of, slug -> Objects.requireNonNull(known.get(slug))),
                        (one, other) -> one,
                        LinkedHashMap::new));
    }

    private Optional<Product> product(ProductReply of, Function<String, TableInfo> table) {
        if (of.tables().isEmpty() || of.languages().isEmpty()) {
            return Optional.empty();
        }
        List<TableInfo> used =
                of.tables().stream().map(one -> table.apply(one.slug())).toList();
        return Optional.of(
                new Product(of, used, ProductService.languages(of, used.get(0).source())));
    }
}
