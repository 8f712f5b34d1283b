package mellow.core.scan;

import java.text.Normalizer;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/** What keys are called: as names of resources, and as proposals for texts that have none. */
public final class KeyNames {

    private static final int MOST_WORDS = 5;
    private static final int LONGEST_WORDS = 40;

    private KeyNames() {}

    /** A key as a name of a resource: dots, hyphens and slashes become underscores. */
    public static String folded(String key) {
        StringBuilder folded = new StringBuilder(key.length());
        for (int at = 0; at < key.length(); at++) {
            char c = key.charAt(at);
            folded.append(c == '.' || c == '-' || c == '/' || c == ':' ? '_' : c);
        }
        return folded.toString();
    }

    /**
     * A key for a text: what its file is called and its first words.
     *
     * @param path the file it is in
     * @param taken names, folded, that are in use
     */
    public static String propose(String path, String text, Set<String> taken) {
        String file = path.substring(path.lastIndexOf('/') + 1);
        int dot = file.indexOf('.');
        String stem = dot > 0 ? file.substring(0, dot) : file;
        if (stem.equalsIgnoreCase("index") || stem.equalsIgnoreCase("main")) {
            String folder = path.contains("/") ? path.substring(0, path.lastIndexOf('/')) : "";
            stem = folder.isEmpty() ? stem : folder.substring(folder.lastIndexOf('/') + 1);
        }
        String place = String.join("-", words(stem.replaceAll("(?<=[a-z0-9])(?=[A-Z])", " ")));
        String said = String.join("-", words(text.replaceAll("\\{[^{}]{0,40}\\}|%[-+0-9.$#]{0,12}[a-zA-Z]", " ")));
        String key = (place.isEmpty() ? "text" : place) + "." + (said.isEmpty() ? "text" : said);
        String free = key;
        for (int number = 2; taken.contains(folded(free)); number++) {
            free = key + "-" + number;
        }
        return free;
    }

    /** The first words, in small letters without accents, so that any program may have them in a name. */
    private static List<String> words(String text) {
        String plain = Normalizer.normalize(text.substring(0, Math.min(text.length(), 400)), Normalizer.Form.NFD)
                .replaceAll("\\p{M}|['’]", "")
                .toLowerCase(Locale.ROOT);
        List<String> words = new ArrayList<>();
        int length = 0;
        for (String word : plain.split("[^a-z0-9]+")) {
            if (!word.isEmpty() && words.size() < MOST_WORDS && length + word.length() <= LONGEST_WORDS) {
                words.add(word);
                length += word.length() + 1;
            }
        }
        return words;
    }
}
