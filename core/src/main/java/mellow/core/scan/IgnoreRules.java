package mellow.core.scan;

import com.google.re2j.PatternSyntaxException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * Which files of a tree are not looked at, as its ignore files say it: patterns by line, {@code #} for notes, {@code !} for exceptions, a slash at the end for folders
 * only, a slash before or within for a place below the file. A later line counts more than an earlier one, a deeper file more than one above. What was never written
 * by the product's people is left out in any case.
 */
public final class IgnoreRules {

    /** The names of files that hold such rules. */
    public static final Set<String> FILES = Set.of(".gitignore", ".ledgerignore");

    private static final Set<String> NEVER = Set.of(".git", ".hg", ".svn", "node_modules", "__MACOSX");
    private static final int MOST_RULES = 5_000;

    private final List<Rule> rules;

    private record Rule(String below, PathPattern pattern, boolean folders, boolean except) {}

    private IgnoreRules(List<Rule> rules) {
        this.rules = rules;
    }

    /** Rules that leave out nothing but what is never looked at. */
    public static IgnoreRules none() {
        return new IgnoreRules(List.of());
    }

    /**
     * The rules with those of another file.
     *
     * @param folder the path of the folder that the file is in, empty for the tree's own
     */
    public IgnoreRules with(String folder, String content) {
        List<Rule> all = new ArrayList<>(rules);
        for (String line : content.split("\r?\n")) {
            if (all.size() < MOST_RULES) {
                add(all, folder, line);
            }
        }
        return new IgnoreRules(List.copyOf(all));
    }

    private static void add(List<Rule> rules, String folder, String line) {
        String said = line.endsWith("\\ ") ? line : line.stripTrailing();
        if (said.isEmpty() || said.startsWith("#")) {
            return;
        }
        boolean except = said.startsWith("!");
        said = except ? said.substring(1) : said.startsWith("\\#") || said.startsWith("\\!") ? said.substring(1) : said;
        boolean folders = said.endsWith("/");
        said = folders ? said.substring(0, said.length() - 1) : said;
        if (said.isEmpty()) {
            return;
        }
        try {
            rules.add(new Rule(folder.isEmpty() ? "" : folder + "/", new PathPattern(said), folders, except));
        } catch (PatternSyntaxException none) {
            // A line that is no pattern names no file.
            return;
        }
    }

    /**
     * Whether a file or folder is left out. What lies in a folder that is left out is left out with it; the caller does not go there.
     *
     * @param path its path below the tree, with slashes
     */
    public boolean ignores(String path, boolean folder) {
        String name = path.substring(path.lastIndexOf('/') + 1);
        if (folder && NEVER.contains(name)) {
            return true;
        }
        for (int i = rules.size() - 1; i >= 0; i--) {
            Rule rule = rules.get(i);
            if ((folder || !rule.folders)
                    && path.startsWith(rule.below)
                    && rule.pattern.matches(path.substring(rule.below.length()))) {
                return !rule.except;
            }
        }
        return false;
    }
}
