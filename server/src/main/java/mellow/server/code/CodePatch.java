package mellow.server.code;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import mellow.core.scan.FileFindings.Imports;
import mellow.core.scan.HardText.Spot;
import mellow.core.scan.Rewrite;
import mellow.core.scan.UnifiedPatch;
import mellow.core.scan.UnifiedPatch.Needed;
import mellow.core.scan.UnifiedPatch.Piece;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.ProductReply;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The patch that puts keys where texts were that have become entries. It is for the programmer: nothing here changes code. */
@Service
class CodePatch {

    private static final String TAKEN =
            """
            select x.path, x.line, x.text, x.kind, x.lines, x.from_at, x.to_at, x.at_end, e.key from scan_text x
            join text_decision d on d.product_id = :product and d.path = x.path and d.text_hash = sha256(convert_to(x.text, 'UTF8')) and d.decision = 'taken'
            join entry e on e.id = d.entry_id and e.removed_at is null
            where x.scan_id = :scan order by x.position
            """;

    private final ProductService products;
    private final CodeSettingsService settings;
    private final CodeLists lists;
    private final JdbcClient jdbc;

    CodePatch(ProductService products, CodeSettingsService settings, CodeLists lists, JdbcClient jdbc) {
        this.products = products;
        this.settings = settings;
        this.lists = lists;
        this.jdbc = jdbc;
    }

    private record Taken(String path, int line, String text, String kind, @Nullable Spot spot, String key) {}

    /** The patch, with what has to be done by hand in front of it, where {@code patch} reads over it. */
    @Transactional(readOnly = true)
    public String of(String slug) {
        ProductReply product = products.find(slug);
        long scan = lists.last(product);
        List<Rewrite> rewrites = settings.of(product).asRewrites();
        Map<String, Imports> files = new TreeMap<>();
        jdbc.sql("select path, import_after, import_line, imports from scan_file where scan_id = :scan")
                .param("scan", scan)
                .query((row, n) ->
                        files.put(row.getString(1), new Imports(row.getInt(2), row.getString(3), row.getString(4))))
                .list();
        List<Piece> pieces = new ArrayList<>();
        Map<String, Needed> needed = new TreeMap<>();
        StringBuilder byHand = new StringBuilder();
        for (Taken one : taken(product.id(), scan)) {
            Spot spot = one.spot;
            Optional<Rewrite> rewrite = rewrites.stream()
                    .filter(rule -> rule.holds(one.path, CodeSettings.kind(one.kind)))
                    .findFirst();
            if (spot == null || rewrite.isEmpty()) {
                byHand.append("# by hand: ")
                        .append(one.path)
                        .append(':')
                        .append(one.line)
                        .append(' ')
                        .append(one.key)
                        .append('\n');
                continue;
            }
            String was = spot.lines().substring(spot.from(), spot.to());
            pieces.add(new Piece(one.path, one.line, spot, rewrite.get().with(one.key, was)));
            String line = rewrite.get().neededBy(one.path);
            Imports imports = files.get(one.path);
            if (!line.isEmpty() && imports != null && !imports.bring(line)) {
                needed.put(one.path, new Needed(one.path, imports, line));
            }
        }
        return byHand + UnifiedPatch.of(pieces, List.copyOf(needed.values()));
    }

    private List<Taken> taken(long product, long scan) {
        return jdbc.sql(TAKEN)
                .param("product", product)
                .param("scan", scan)
                .query((row, n) -> {
                    String lines = row.getString("lines");
                    return new Taken(
                            row.getString("path"),
                            row.getInt("line"),
                            row.getString("text"),
                            row.getString("kind"),
                            lines == null
                                    ? null
                                    : new Spot(
                                            lines,
                                            row.getInt("from_at"),
                                            row.getInt("to_at"),
                                            row.getBoolean("at_end")),
                            row.getString("key"));
                })
                .list();
    }
}
