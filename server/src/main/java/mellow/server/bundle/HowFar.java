package mellow.server.bundle;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import mellow.core.bundle.Badge;
import mellow.core.product.LanguageResolver;
import mellow.server.delivery.DeliveredTexts;
import mellow.server.delivery.DeliveredTexts.Far;
import mellow.server.delivery.DeliveredTexts.Spoken;
import mellow.server.language.LanguageService;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.ProductReply;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** How far the languages of a product are, for the pages of others; of products that are shown to anybody. */
@Component
class HowFar {

    /** Counted anew after that, however many pages show it. */
    private static final Duration KEPT = Duration.ofSeconds(30);

    private static final String SHOWN =
            "select 1 from product p join bundle_setting s on s.product_id = p.id where p.slug = :slug and p.removed_at is null and s.shown";

    private final DeliveredTexts delivered;
    private final ProductService products;
    private final LanguageService languages;
    private final JdbcClient jdbc;
    private final Cache<String, Told> kept =
            Caffeine.newBuilder().maximumSize(1_000).expireAfterWrite(KEPT).build();

    HowFar(DeliveredTexts delivered, ProductService products, LanguageService languages, JdbcClient jdbc) {
        this.delivered = delivered;
        this.products = products;
        this.languages = languages;
        this.jdbc = jdbc;
    }

    /** A language, and whole percent of its texts that are settled. */
    record Line(String tag, String name, boolean rightToLeft, int percent) {}

    /** A product's languages in their order. */
    private record Told(String product, Spoken spoken, List<Line> lines) {}

    private Optional<Told> told(String slug) {
        // Asked each time: what is shown no more is not shown from here.
        boolean shown = jdbc.sql(SHOWN)
                .param("slug", slug)
                .query(Integer.class)
                .optional()
                .isPresent();
        return shown ? Optional.of(kept.get(slug, this::count)) : Optional.empty();
    }

    private Told count(String slug) {
        ProductReply product = products.find(slug);
        List<Line> lines =
                delivered.far(slug).stream().map(far -> line(product, far)).toList();
        return new Told(product.name(), delivered.languages(slug), lines);
    }

    private Line line(ProductReply product, Far far) {
        String tag = far.language().tag().value();
        String name = product.languages().stream()
                .filter(of -> of.language().tag().equals(tag))
                .findFirst()
                .orElseThrow()
                .shownAs();
        return new Line(
                tag,
                name,
                languages.describe(far.language().tag()).rightToLeft(),
                Badge.percent(far.settled(), far.entries()));
    }

    /** One language as a picture; the one that is meant by {@code asked}, a number or a tag. Empty for a product that is not shown. */
    Optional<String> badge(String slug, String asked, Badge.Theme theme) {
        return told(slug).flatMap(told -> {
            String tag = new LanguageResolver(told.spoken.languages())
                    .asked(asked, "/")
                    .language()
                    .value();
            return told.lines.stream()
                    .filter(one -> one.tag.equals(tag))
                    .findFirst()
                    .or(() -> told.lines.stream().findFirst())
                    .map(line -> Badge.svg(line.name, line.percent, theme));
        });
    }

    /** All languages as a page of their own, to be shown in a frame. */
    Optional<String> table(String slug, Badge.Theme theme) {
        return told(slug).map(told -> {
            StringBuilder page = new StringBuilder();
            page.append("<!doctype html><html lang=\"en\"><meta charset=\"utf-8\"><title>")
                    .append(Badge.escaped(told.product))
                    .append(
                            ": its languages</title><meta name=\"viewport\" content=\"width=device-width\"><style>:root{")
                    .append(theme.css())
                    .append(STYLE)
                    .append("</style><table><caption>")
                    .append(Badge.escaped(told.product))
                    .append(
                            "</caption><thead><tr><th scope=\"col\">Language<th scope=\"col\" colspan=\"2\">Texts settled</thead><tbody>");
            for (Line line : told.lines) {
                page.append("<tr><th scope=\"row\" lang=\"")
                        .append(Badge.escaped(line.tag))
                        .append("\"><bdi dir=\"")
                        .append(line.rightToLeft ? "rtl" : "ltr")
                        .append("\">")
                        .append(Badge.escaped(line.name))
                        .append("</bdi><td class=\"share\">")
                        .append(line.percent)
                        .append("\u00a0%<td class=\"bar\" aria-hidden=\"true\"><i style=\"width:")
                        .append(line.percent)
                        .append("%\"></i>");
            }
            return page.append("</table></html>\n").toString();
        });
    }

    private static final String STYLE =
            "}body{margin:0;background:var(--paper);color:var(--ink);font:14px/1.5 system-ui,sans-serif}table{border-collapse:collapse;width:100%}caption,th{text-align:start}"
                    + "caption{font-weight:600;padding:6px 8px}th,td{padding:4px 8px;border-block-start:1px solid var(--ruled)}th{font-weight:400}thead th+th{text-align:end}.share{text-align:end;"
                    + "font-variant-numeric:tabular-nums;white-space:nowrap}.bar{width:40%}.bar{background:linear-gradient(var(--ruled),var(--ruled)) center/calc(100% - 16px) 4px no-repeat}"
                    + ".bar i{display:block;height:4px;background:var(--filled)}@media (forced-colors:active){.bar i{background:CanvasText}}";
}
