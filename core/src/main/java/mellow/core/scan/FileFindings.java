package mellow.core.scan;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What was found in a file.
 *
 * @param path its path below the tree, with slashes
 * @param lines how many lines it has
 * @param skipped why it was not looked through, null when it was
 * @param test whether it tests the product
 * @param uses the keys it uses, in their order
 * @param texts the texts in it that people would see and that have no key, in their order
 * @param imports the line behind which an import goes, 0 for before the first, and that line
 */
public record FileFindings(
        String path,
        int lines,
        @Nullable Skipped skipped,
        boolean test,
        List<KeyUse> uses,
        List<HardText> texts,
        Imports imports) {

    /** Copies of what is given. */
    public FileFindings {
        uses = List.copyOf(uses);
        texts = List.copyOf(texts);
    }

    /** Why a file was not looked through. */
    public enum Skipped {
        /** It has bytes that no text has. */
        BINARY,
        /** It is larger than any that a person writes. */
        LARGE
    }

    /**
     * Where an import goes.
     *
     * @param after the line behind which it goes, 0 for before the first
     * @param line what that line says; the first line when it goes before it
     * @param existing the lines of the file that import something, joined by {@code \n}
     */
    public record Imports(int after, String line, String existing) {

        static final Imports NONE = new Imports(0, "", "");

        private static final Pattern WORD = Pattern.compile("\\w+");
        private static final Pattern QUOTED = Pattern.compile("\"[^\"]*\"|'[^']*'");
        private static final Set<String> GRAMMAR =
                Set.of("import", "from", "static", "const", "let", "var", "require", "type", "as", "using", "package");

        /** Whether the file imports by one of its lines what a line would import, wherever from. */
        public boolean bring(String needed) {
            Set<String> wanted = names(needed);
            return existing.lines().anyMatch(line -> names(line).containsAll(wanted));
        }

        private static Set<String> names(String line) {
            Set<String> names = new HashSet<>();
            Matcher matcher = WORD.matcher(QUOTED.matcher(line).replaceAll(" "));
            while (matcher.find()) {
                if (!GRAMMAR.contains(matcher.group())) {
                    names.add(matcher.group());
                }
            }
            return names;
        }
    }
}
