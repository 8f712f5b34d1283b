package mellow.core.format.tree;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import mellow.core.format.FileEntry;
import mellow.core.format.UnwritableTextException;
import org.jspecify.annotations.Nullable;

/**
 * Keys with dots as levels, in the order in which each level came first.
 *
 * @param name the last part of its key, empty for the root
 * @param entry what stands here, null for a level
 * @param below what stands below a level, by the next part of the key
 */
public record NestedKeys(String name, @Nullable FileEntry entry, Map<String, NestedKeys> below) {

    /** A tree without entries. */
    public static NestedKeys root() {
        return new NestedKeys("", null, new LinkedHashMap<>());
    }

    /**
     * Puts an entry at its place. A key with an empty part, as "a..b", is one level.
     *
     * @throws UnwritableTextException when there is a text where a level is needed, or the other way round
     */
    public void add(FileEntry entry) {
        String key = entry.key();
        List<String> parts = key.startsWith(".") || key.endsWith(".") || key.contains("..")
                ? List.of(key)
                : new ArrayList<>(List.of(key.split("\\.")));
        NestedKeys level = this;
        for (String part : parts.subList(0, parts.size() - 1)) {
            level = level.below.computeIfAbsent(part, name -> new NestedKeys(name, null, new LinkedHashMap<>()));
            if (level.entry != null) {
                throw refused(key, level.entry.key());
            }
        }
        String last = parts.get(parts.size() - 1);
        NestedKeys other = level.below.putIfAbsent(last, new NestedKeys(last, entry, Map.of()));
        if (other != null) {
            throw refused(key, key);
        }
    }

    private static UnwritableTextException refused(String key, String other) {
        return new UnwritableTextException("The key “" + key + "” cannot be nested, for “" + other
                + "” is both a text and a level with other texts below it; write flat keys, or rename one of them.");
    }
}
