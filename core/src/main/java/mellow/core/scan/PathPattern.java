package mellow.core.scan;

import com.google.re2j.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Which paths are meant: {@code *} stands for anything within a name, {@code **} for any folders, {@code ?} for one character, {@code [a-c]} for one of some,
 * {@code [!a-c]} for one of all others; a backslash takes its meaning from the next sign. Without a slash a name anywhere is meant, with one a path below the root.
 */
public final class PathPattern {

    /** A name without signs, and the end of one behind a single star, are most of all patterns and need no expression. */
    private final @Nullable String name;

    private final @Nullable String ending;
    private final @Nullable Pattern pattern;

    /**
     * A pattern as a person types it.
     *
     * @throws com.google.re2j.PatternSyntaxException when a choice in brackets is none
     */
    public PathPattern(String glob) {
        boolean placed = glob.indexOf('/') >= 0;
        boolean star = !placed && glob.startsWith("*");
        boolean plain = !placed && plain(star ? glob.substring(1) : glob);
        this.name = plain && !star ? glob : null;
        this.ending = plain && star ? glob.substring(1) : null;
        this.pattern = plain
                ? null
                : Pattern.compile(
                        (placed ? "" : "(?:.*/)?") + expression(glob.startsWith("/") ? glob.substring(1) : glob));
    }

    /** Whether a path, with slashes, is meant. */
    public boolean matches(String path) {
        if (pattern != null) {
            return pattern.matches(path);
        }
        String last = path.substring(path.lastIndexOf('/') + 1);
        return name != null ? last.equals(name) : ending != null && last.endsWith(ending);
    }

    private static boolean plain(String glob) {
        return glob.chars().noneMatch(c -> "*?[\\".indexOf(c) >= 0);
    }

    private static String expression(String glob) {
        StringBuilder expression = new StringBuilder();
        int at = 0;
        while (at < glob.length()) {
            char c = glob.charAt(at);
            int close = c == '[' ? glob.indexOf(']', at + 2) : -1;
            if (glob.startsWith("**/", at)) {
                expression.append("(?:.*/)?");
                at += 3;
            } else if (glob.startsWith("/**", at) && at + 3 == glob.length()) {
                expression.append("/.+");
                at += 3;
            } else if (c == '*') {
                expression.append("[^/]*");
                at += glob.startsWith("**", at) ? 2 : 1;
            } else if (c == '?') {
                expression.append("[^/]");
                at++;
            } else if (close > 0) {
                String inside =
                        glob.substring(at + 1, close).replace("\\", "\\\\").replace("[", "\\[");
                expression
                        .append('[')
                        .append(inside.startsWith("!") ? "^" + inside.substring(1) : inside)
                        .append(']');
                at = close + 1;
            } else {
                char literal = c == '\\' && at + 1 < glob.length() ? glob.charAt(at + 1) : c;
                expression.append(Pattern.quote(String.valueOf(literal)));
                at += c == '\\' ? 2 : 1;
            }
        }
        return expression.toString();
    }
}
