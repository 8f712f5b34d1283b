package mellow.server.drafter;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;

/** Some words and phrases, put one by one into another language: no translation, but something to correct. Immutable. */
final class WordList {

    /** Words of the longest phrase. */
    private static final int LONGEST = 2;

    private final Map<String, Map<String, String>> byLanguage = new HashMap<>();

    WordList() {
        try (InputStream in = Objects.requireNonNull(WordList.class.getResourceAsStream("/drafter/words.csv"))) {
            List<String> lines = new String(in.readAllBytes(), StandardCharsets.UTF_8)
                    .lines()
                    .toList();
            String[] languages = lines.get(0).split(",");
            for (String line : lines.subList(1, lines.size())) {
                String[] words = line.split(",", -1);
                for (int i = 1; i < words.length; i++) {
                    byLanguage
                            .computeIfAbsent(languages[i], language -> new HashMap<>())
                            .put(words[0], words[i]);
                }
            }
        } catch (IOException broken) {
            throw new UncheckedIOException(broken);
        }
    }

    /**
     * A text in another language, word by word; what is not known stays as it is, as do marks and signs.
     *
     * @return empty where none of its words is known for that language
     */
    Optional<String> draft(String text, String language) {
        Map<String, String> words =
                byLanguage.getOrDefault(language, byLanguage.getOrDefault(language.split("-")[0], Map.of()));
        List<String> pieces = pieces(text);
        StringBuilder draft = new StringBuilder();
        boolean any = false;
        for (int at = 0; at < pieces.size(); ) {
            int taken = 0;
            for (int length = LONGEST; length >= 1 && taken == 0; length--) {
                // Pieces are words and what is between them, by turns.
                int end = at + 2 * length - 1;
                if (end <= pieces.size()) {
                    String phrase = String.join("", pieces.subList(at, end));
                    String known = words.get(phrase.toLowerCase(Locale.ROOT));
                    if (known != null) {
                        append(draft, known, Character.isUpperCase(phrase.codePointAt(0)));
                        any = true;
                        taken = end - at;
                    }
                }
            }
            if (taken == 0) {
                draft.append(pieces.get(at));
                taken = 1;
            }
            at += taken;
        }
        return any ? Optional.of(draft.toString().replaceAll(" {2,}", " ").strip()) : Optional.empty();
    }

    private static void append(StringBuilder draft, String word, boolean capital) {
        if (capital && !word.isEmpty()) {
            int first = word.offsetByCodePoints(0, 1);
            draft.append(word.substring(0, first).toUpperCase(Locale.ROOT)).append(word.substring(first));
        } else {
            draft.append(word);
        }
    }

    /** Words and what is between them. */
    private static List<String> pieces(String text) {
        List<String> pieces = new ArrayList<>();
        int start = 0;
        for (int i = 1; i <= text.length(); i++) {
            if (i == text.length() || Character.isLetter(text.charAt(i)) != Character.isLetter(text.charAt(i - 1))) {
                pieces.add(text.substring(start, i));
                start = i;
            }
        }
        return pieces;
    }
}
