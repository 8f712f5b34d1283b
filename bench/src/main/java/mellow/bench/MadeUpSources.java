package mellow.bench;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/**
 * Sources like those of interfaces, from nothing but a seed. 8,000 words of one to four syllables, the word of rank r as often as 1/r (Zipf); texts of one
 * word (18 %), two (20 %), three (15 %), four to seven (27 %), eight to twenty (16 %) or up to sixty (4 %); every fourth has a placeholder or a number. Two of
 * five are an earlier text with something changed: a word, the case of a letter, a number, a word put in or left out.
 */
final class MadeUpSources {

    private static final int WORDS = 8_000;
    private static final String[] BEGINNINGS = {
        "b", "c", "d", "f", "g", "h", "l", "m", "n", "p", "r", "s", "t", "v", "w", "st", "tr", "ch", "pl", "gr", "sh",
        ""
    };
    private static final String[] MIDDLES = {"a", "e", "i", "o", "u", "ea", "ou", "ai", "y"};
    private static final String[] ENDS = {"", "", "", "n", "r", "s", "t", "l", "d", "ck", "ng", "m", "st"};
    private static final String[] MARKS = {"{n}", "%s", "%d", "{name}", "<b>", "{0}"};
    private static final int[][] LENGTHS = {{18, 1, 1}, {20, 2, 2}, {15, 3, 3}, {27, 4, 7}, {16, 8, 20}, {4, 21, 60}};
    private static final int CHANGED_PERCENT = 40;

    private final Random random;
    private final String[] words = new String[WORDS];
    private final double[] upTo = new double[WORDS];
    private final List<String> made = new ArrayList<>();

    MadeUpSources(long seed) {
        random = new Random(seed);
        double sum = 0;
        for (int rank = 0; rank < WORDS; rank++) {
            StringBuilder word = new StringBuilder();
            for (int syllables = 1 + random.nextInt(rank < 100 ? 2 : 4); syllables > 0; syllables--) {
                word.append(any(BEGINNINGS)).append(any(MIDDLES)).append(any(ENDS));
            }
            words[rank] = word.toString();
            sum += 1.0 / (rank + 1);
            upTo[rank] = sum;
        }
    }

    private String any(String[] of) {
        return of[random.nextInt(of.length)];
    }

    private String word() {
        double point = random.nextDouble() * upTo[WORDS - 1];
        int from = 0;
        int to = WORDS - 1;
        while (from < to) {
            int middle = (from + to) >>> 1;
            if (upTo[middle] < point) {
                from = middle + 1;
            } else {
                to = middle;
            }
        }
        return words[from];
    }

    String next() {
        String source = !made.isEmpty() && random.nextInt(100) < CHANGED_PERCENT
                ? changed(made.get(random.nextInt(made.size())))
                : fresh();
        made.add(source);
        return source;
    }

    private String fresh() {
        int point = random.nextInt(100);
        int at = 0;
        while (point >= LENGTHS[at][0]) {
            point -= LENGTHS[at++][0];
        }
        int count = LENGTHS[at][1] + random.nextInt(LENGTHS[at][2] - LENGTHS[at][1] + 1);
        List<String> of = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            of.add(word());
        }
        if (random.nextInt(4) == 0) {
            of.add(random.nextInt(of.size() + 1), random.nextBoolean() ? any(MARKS) : "" + random.nextInt(100));
        }
        String text = String.join(" ", of);
        return Character.toUpperCase(text.charAt(0)) + text.substring(1);
    }

    private String changed(String before) {
        List<String> of = new ArrayList<>(List.of(before.split(" ")));
        int at = random.nextInt(of.size());
        switch (random.nextInt(5)) {
            case 0 -> of.set(at, word());
            case 1 -> of.set(at, of.get(at).toUpperCase(java.util.Locale.ROOT));
            case 2 -> of.add(at, "" + random.nextInt(1000));
            case 3 -> of.add(at, word());
            default -> {
                if (of.size() > 1) {
                    of.remove(at);
                }
            }
        }
        return String.join(" ", of);
    }
}
