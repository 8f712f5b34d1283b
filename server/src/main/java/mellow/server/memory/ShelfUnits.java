package mellow.server.memory;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Collection;
import java.util.List;
import mellow.core.memory.Similarity;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Reads units of shelves as what was found for a source. */
@Component
class ShelfUnits {

    private static final String UNITS =
            """
            select u.id, u.context, u.source, u.text, s.name, s.deduction, s.rank from shelf_unit u join shelf s on s.id = u.shelf_id and s.removed_at is null
            where not u.removed and u.language_id = :language
            """;
    private static final int MOST = 400;

    private final JdbcClient jdbc;

    ShelfUnits(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * A unit of a shelf.
     *
     * @param deduction of its shelf, in percent
     * @param rank of its shelf
     */
    record ShelfHit(long unit, String context, String shelf, int deduction, int rank, String source, String text) {

        MemoryHit hit(Similarity wanted) {
            return new MemoryHit(
                    Math.max(0, wanted.percent(source) - deduction),
                    0,
                    unit,
                    context,
                    shelf,
                    false,
                    source,
                    text,
                    null,
                    List.of());
        }
    }

    /** Those of some numbers, in the order of their shelves. */
    List<ShelfHit> units(Collection<Long> units, int language) {
        return units.isEmpty()
                ? List.of()
                : jdbc.sql(UNITS + " and u.id = any(:units) order by s.rank, u.id")
                        .param("language", language)
                        .param("units", units.toArray(Long[]::new))
                        .query((row, n) -> hit(row))
                        .list();
    }

    /** Those with the same or a similar source, as the database knows them; for as long as the index is not ready. */
    List<ShelfHit> alike(String source, int sourceLanguage, int language) {
        if (source.length() > Similarity.LONGEST) {
            return List.of();
        }
        return jdbc.sql(UNITS
                        + " and u.source_language_id = :from and coalesce(u.source_folded, u.source) % :source order by s.rank, u.id limit "
                        + MOST)
                .param("language", language)
                .param("from", sourceLanguage)
                .param("source", source)
                .query((row, n) -> hit(row))
                .list();
    }

    private static ShelfHit hit(ResultSet row) throws SQLException {
        return new ShelfHit(
                row.getLong("id"),
                row.getString("context"),
                row.getString("name"),
                row.getInt("deduction"),
                row.getInt("rank"),
                row.getString("source"),
                row.getString("text"));
    }
}
