package mellow.server.code;

import java.util.Map;
import java.util.Optional;
import mellow.server.common.Refusal;
import mellow.server.people.PeopleService;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.ProductReply;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** How the code of each product names keys: what is ready for its kind until a coordinator says otherwise. */
@Service
public class CodeSettingsService {

    private static final JsonMapper JSON = JsonMapper.shared();
    private static final String SAVE =
            """
            insert into scan_setting (product_id, settings, version) values (:product, :settings::jsonb, 1)
            on conflict (product_id) do update set settings = :settings::jsonb, version = scan_setting.version + 1 where scan_setting.version = :version
            """;

    private final ProductService products;
    private final PeopleService people;
    private final JdbcClient jdbc;

    CodeSettingsService(ProductService products, PeopleService people, JdbcClient jdbc) {
        this.products = products;
        this.people = people;
        this.jdbc = jdbc;
    }

    /** Those of a product. */
    @Transactional(readOnly = true)
    public CodeSettings of(String slug) {
        return of(products.find(slug));
    }

    CodeSettings of(ProductReply product) {
        return kept(product.id()).orElseGet(() -> CodeSettings.ready(product.kind()));
    }

    private Optional<CodeSettings> kept(long product) {
        return jdbc.sql("select settings, version from scan_setting where product_id = :product")
                .param("product", product)
                .query((row, n) -> {
                    CodeSettings kept = JSON.readValue(row.getString(1), CodeSettings.class);
                    return new CodeSettings(row.getInt(2), kept.habits(), kept.rewrites());
                })
                .optional();
    }

    /** Changes them; what was found before stays until the code is looked through again. */
    @Transactional
    public CodeSettings change(long person, String slug, CodeSettings wanted) {
        people.rights(person).requireCoordinator("change how code is looked through");
        ProductReply product = products.find(slug);
        wanted.require();
        int saved = jdbc.sql(SAVE)
                .param("product", product.id())
                .param("settings", JSON.writeValueAsString(wanted))
                .param("version", wanted.version())
                .update();
        CodeSettings now = of(product);
        if (saved == 0 || now.version() != wanted.version() + 1) {
            throw Refusal.conflict(
                    "settings-moved-on",
                    "Someone changed these settings meanwhile; look at them again, then repeat your change.",
                    Map.of());
        }
        return now;
    }
}
