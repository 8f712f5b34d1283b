package mellow.core.format;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;

/** What every format does with keys that stand in a file twice: the last counts, and the file's problems say so. */
public final class Repeats {

    private Repeats() {}

    /**
     * Leaves out all but the last of the items that are the same entry.
     *
     * @param items in file order
     * @param entry the entry of an item
     */
    public static <T> List<T> lastOf(List<T> items, Function<T, FileEntry> entry, Problems problems) {
        Map<EntryId, Integer> last = new HashMap<>(2 * items.size());
        boolean repeated = false;
        for (int i = 0; i < items.size(); i++) {
            FileEntry now = entry.apply(items.get(i));
            Integer earlier = last.put(now.id(), i);
            if (earlier != null) {
                repeated = true;
                problems.warn(
                        new Position(Math.max(1, now.line()), 1, 0),
                        "the key “" + now.key() + "” stands in line "
                                + entry.apply(items.get(earlier)).line() + " already",
                        "this one, the last, counts");
            }
        }
        if (!repeated) {
            return items;
        }
        List<T> kept = new ArrayList<>(last.size());
        for (int i = 0; i < items.size(); i++) {
            if (Objects.equals(last.get(entry.apply(items.get(i)).id()), i)) {
                kept.add(items.get(i));
            }
        }
        return kept;
    }
}
