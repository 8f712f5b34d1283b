package mellow.server.check;

import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import mellow.core.fit.Face;
import mellow.core.fit.FontFile;
import org.springframework.jdbc.core.simple.JdbcClient;

/** The font that a product shows a language with, at the sizes that its scenes ask for. */
public final class SceneFonts {

    private static final String FONT =
            """
            select f.id, f.file_id, f.name, p.name product from product_font f join product p on p.id = f.product_id
            where f.product_id = :product and (f.language_id is null or f.language_id = (select id from language where tag = :tag))
            order by f.language_id nulls last limit 1
            """;

    private final Optional<Named> font;
    private final Map<Double, Face> faces = new HashMap<>();

    private record Named(long id, FontFile file, String name) {}

    /** Reads it from {@code jdbc}. */
    public SceneFonts(JdbcClient jdbc, long product, String tag) {
        this.font = jdbc.sql(FONT)
                .param("product", product)
                .param("tag", tag)
                .query((row, n) -> new Named(
                        row.getLong("id"),
                        Fonts.file(jdbc, row.getLong("file_id")),
                        row.getString("product") + "’s font " + row.getString("name")))
                .optional();
    }

    /** Its number among the fonts of the product. */
    public Optional<Long> number() {
        return font.map(Named::id);
    }

    /**
     * The font at a size.
     *
     * @param size in pixels per em
     * @return empty where the product has none
     */
    public Optional<Face> of(double size) {
        return font.map(
                one -> faces.computeIfAbsent(size, wanted -> Face.of(one.name(), one.file(), wanted.floatValue())));
    }
}
