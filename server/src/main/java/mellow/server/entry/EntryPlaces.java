package mellow.server.entry;

import jakarta.persistence.EntityManager;
import java.util.Map;
import java.util.Optional;
import mellow.server.common.Refusal;
import mellow.server.record.RecordRows;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Finds room between entries; where there is none left, the table is numbered anew. */
@Component
class EntryPlaces {

    private final EntryRepository entries;
    private final EntityManager entities;
    private final RecordRows rows;

    EntryPlaces(EntryRepository entries, EntityManager entities, RecordRows rows) {
        this.entries = entries;
        this.entities = entities;
        this.rows = rows;
    }

    /** Places after the entry {@code after}, or at the end. Entities that were read before may be detached afterwards. */
    Positions between(long table, @Nullable Long after) {
        double from = from(table, after);
        Optional<Double> to = entries.nextPosition(table, from);
        if (to.isPresent() && to.get() - from < Positions.NARROWEST) {
            entities.flush();
            rows.renumber(table);
            entities.clear();
            from = from(table, after);
            to = entries.nextPosition(table, from);
        }
        return new Positions(from, to.orElse(null));
    }

    private double from(long table, @Nullable Long after) {
        if (after == null) {
            return entries.lastPosition(table).orElse(0.0);
        }
        return entries.findById(after)
                .filter(entry -> entry.tableId() == table && !entry.removed())
                .map(Entry::position)
                .orElseThrow(() -> Refusal.unacceptable(
                        "no-such-neighbour",
                        "The entry that this should follow is not in the table.",
                        Map.of("field", "after")));
    }

    /** Hands out places after one entry and before the next. */
    static final class Positions {
        /** Below this there may be no number between two neighbours. */
        static final double NARROWEST = 1e-6;

        private final double from;
        private final @Nullable Double to;
        private double step;
        private int given;

        Positions(double from, @Nullable Double to) {
            this.from = from;
            this.to = to;
            spread(1);
        }

        void spread(int places) {
            step = to == null ? 1 : (to - from) / (places + 1);
        }

        double next() {
            given++;
            return from + given * step;
        }
    }
}
