package mellow.server.architecture;

import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Draws packages as boxes in rows, each above all that it uses, with a line to what it uses directly. A line that other lines say already is left out:
 * what uses the cells uses the tables, too.
 */
final class Picture {

    private static final int BOX = 104;
    private static final int HEIGHT = 26;
    private static final int GAP = 14;
    private static final int ROW = 74;
    private static final int MARGIN = 24;
    private static final int WIDEST = 9;

    private final StringBuilder svg = new StringBuilder();
    private int width;
    private int top = MARGIN;

    private Picture() {}

    /** An SVG of modules, one below the other; each by its packages with those they use. */
    static String draw(SortedMap<String, Map<String, Set<String>>> modules) {
        Picture picture = new Picture();
        List<String> names = new ArrayList<>(modules.keySet());
        Collections.reverse(names);
        for (String name : names) {
            picture.module(name, modules.get(name));
        }
        return "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 " + (picture.width + MARGIN) + " " + picture.top
                + "\" font-family=\"sans-serif\" font-size=\"12\">\n<rect width=\"100%\" height=\"100%\" fill=\"#fff\"/>\n"
                + picture.svg + "</svg>\n";
    }

    private void module(String name, Map<String, Set<String>> used) {
        svg.append(text(MARGIN, top, "start", "mellow." + name));
        top += 16;
        Map<String, Integer> levels = new TreeMap<>();
        used.keySet().forEach(one -> level(one, used, levels));
        SortedMap<Integer, List<String>> rows = new TreeMap<>(Comparator.reverseOrder());
        levels.forEach((one, level) ->
                rows.computeIfAbsent(level, any -> new ArrayList<>()).add(one));
        Map<String, int[]> places = new HashMap<>();
        for (List<String> row : rows.values()) {
            for (int from = 0; from < row.size(); from += WIDEST) {
                List<String> some = row.subList(from, Math.min(row.size(), from + WIDEST));
                for (int i = 0; i < some.size(); i++) {
                    places.put(some.get(i), new int[] {MARGIN + i * (BOX + GAP), top});
                    width = Math.max(width, MARGIN + (i + 1) * (BOX + GAP));
                }
                top += ROW;
            }
        }
        used.forEach((from, others) -> direct(others, used).forEach(to -> line(places.get(from), places.get(to))));
        places.entrySet().stream().sorted(Map.Entry.comparingByKey()).forEach(one -> box(one.getKey(), one.getValue()));
        top += GAP;
    }

    private static int level(String name, Map<String, Set<String>> used, Map<String, Integer> levels) {
        Integer known = levels.get(name);
        if (known != null) {
            return known;
        }
        int level = 0;
        for (String other : used.getOrDefault(name, Set.of())) {
            level = Math.max(level, 1 + level(other, used, levels));
        }
        levels.put(name, level);
        return level;
    }

    /** Those that no other of them uses in turn. */
    private static Set<String> direct(Set<String> others, Map<String, Set<String>> used) {
        Set<String> direct = new TreeSet<>(others);
        others.forEach(other -> direct.removeAll(below(other, used, new TreeSet<>())));
        return direct;
    }

    private static Set<String> below(String name, Map<String, Set<String>> used, Set<String> found) {
        for (String other : used.getOrDefault(name, Set.of())) {
            if (found.add(other)) {
                below(other, used, found);
            }
        }
        return found;
    }

    private void line(int[] from, int[] to) {
        svg.append("<line x1=\"%d\" y1=\"%d\" x2=\"%d\" y2=\"%d\" stroke=\"#8aa\"/>\n"
                .formatted(from[0] + BOX / 2, from[1] + HEIGHT, to[0] + BOX / 2, to[1]));
    }

    private void box(String name, int[] at) {
        svg.append("<rect x=\"%d\" y=\"%d\" width=\"%d\" height=\"%d\" rx=\"4\" fill=\"#e8f0ee\" stroke=\"#577\"/>\n"
                .formatted(at[0], at[1], BOX, HEIGHT));
        svg.append(text(at[0] + BOX / 2, at[1] + 17, "middle", name));
    }

    private static String text(int x, int y, String anchor, String words) {
        return "<text x=\"%d\" y=\"%d\" text-anchor=\"%s\" fill=\"#233\">%s</text>\n".formatted(x, y, anchor, words);
    }
}
