package mellow.server.memory;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Sees whether the same source stands where another does: under the same key or context, or between the same texts. */
final class Contexts {

    private static final String PLACES =
            """
            select e.id, e.key, e.context,
                (select p.source from entry p where p.table_id = e.table_id and p.position < e.position and p.removed_at is null order by p.position desc limit 1) before,
                (select p.source from entry p where p.table_id = e.table_id and p.position > e.position and p.removed_at is null order by p.position limit 1) after
            from entry e where e.id = any(:entries)
            """;

    private final JdbcClient jdbc;

    Contexts(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private record Place(String key, String context, @Nullable String before, @Nullable String after) {

        boolean isOf(String otherKey, String otherContext) {
            return key.equals(otherKey) || !context.isEmpty() && context.equals(otherContext);
        }

        boolean isBetweenTheSame(Place other) {
            return (before != null || after != null)
                    && Objects.equals(before, other.before)
                    && Objects.equals(after, other.after);
        }
    }

    /** Marks those of {@code hits} with the same source as {@code entry}, in place, that stand where it does. One statement. */
    void mark(long entry, String source, List<MemoryHit> hits) {
        List<Long> entries = new ArrayList<>();
        hits.stream().filter(hit -> hit.source().equals(source)).forEach(hit -> entries.add(hit.entry()));
        if (entries.isEmpty()) {
            return;
        }
        entries.add(entry);
        Map<Long, Place> places = new HashMap<>();
        jdbc.sql(PLACES).param("entries", entries.toArray(Long[]::new)).query(row -> {
            places.put(
                    row.getLong("id"),
                    new Place(
                            row.getString("key"),
                            row.getString("context"),
                            row.getString("before"),
                            row.getString("after")));
        });
        Place own = places.get(entry);
        if (own == null) {
            return;
        }
        hits.replaceAll(hit -> {
            if (!hit.source().equals(source)) {
                return hit;
            }
            Place place = places.get(hit.entry());
            boolean same = place == null
                    ? own.isOf(hit.key(), hit.key())
                    : own.isOf(place.key, place.context) || own.isBetweenTheSame(place);
            return same ? hit.inSameContext() : hit;
        });
    }
}
