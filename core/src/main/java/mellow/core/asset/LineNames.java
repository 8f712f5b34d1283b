package mellow.core.asset;

import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** Finds by their keys which line of a script each recording speaks: the same key, or one that begins with what recordings are called. Takes time linear in the keys. */
public final class LineNames {

    /** One word such as "hello" ends too many keys; a number tells a line. */
    private static final int FEW_WORDS = 2;

    private LineNames() {}

    /**
     * The line of each recording that has exactly one, by the recording's key, in the order of the recordings.
     *
     * @param recordings keys of recordings
     * @param lines keys of entries with texts
     */
    public static Map<String, String> pairs(Collection<String> recordings, Collection<String> lines) {
        Map<List<String>, String> known = new HashMap<>();
        Map<List<String>, Boolean> twice = new HashMap<>();
        for (String line : lines) {
            List<String> words = words(line);
            if (known.putIfAbsent(words, line) != null) {
                twice.put(words, true);
            }
        }
        Map<String, String> pairs = new LinkedHashMap<>();
        for (String recording : recordings) {
            List<String> words = words(recording);
            for (int from = 0; from < words.size(); from++) {
                List<String> end = words.subList(from, words.size());
                boolean tells = from == 0
                        || end.size() >= FEW_WORDS
                        || Character.isDigit(end.get(0).charAt(0));
                if (tells && known.containsKey(end)) {
                    if (!twice.containsKey(end)) {
                        pairs.put(recording, known.get(end));
                    }
                    break;
                }
            }
        }
        return pairs;
    }

    private static List<String> words(String key) {
        return Arrays.stream(key.toLowerCase(Locale.ROOT).split("[^\\p{L}\\p{N}]+"))
                .filter(word -> !word.isEmpty())
                .toList();
    }
}
