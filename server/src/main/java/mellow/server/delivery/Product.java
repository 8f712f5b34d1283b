package mellow.server.delivery;

import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import mellow.core.language.LanguageTag;
import mellow.core.product.ProductLanguages;
import mellow.server.product.ProductService.LanguageOf;
import mellow.server.product.ProductService.ProductReply;
import mellow.server.table.TableInfo;

/**
 * A product as it is delivered.
 *
 * @param of what is known of it
 * @param tables its tables in order, at least one
 * @param languages its languages, at least one
 */
record Product(ProductReply of, List<TableInfo> tables, ProductLanguages languages) {

    long id() {
        return of.id();
    }

    LanguageTag source() {
        return tables.get(0).source();
    }

    Map<String, LanguageOf> shown() {
        return of.languages().stream()
                .collect(Collectors.toMap(one -> one.language().tag(), one -> one));
    }
}
