package mellow.core.scan;

import com.google.re2j.Pattern;

/** Which paths are meant: {@code *} stands for anything within a name, {@code **} for any folders, {@code ?} for one character; without a slash a name anywhere. */
public final class PathPattern {

    private final Pattern pattern;

    /** A pattern as a person types it. */
    public PathPattern(String glob) {
        this.pattern = Pattern.compile(expression(glob.contains("/") ? glob : "**/" + glob));
    }

    /** Whether a path, with slashes, is meant. */
    public boolean matches(String path) {
        return pattern.matches(path);
    }

    private static String expression(String glob) {
        StringBuilder expression = new StringBuilder();
        int at = glob.startsWith("/") ? 1 : 0;
        while (at < glob.length()) {
            char c = glob.charAt(at);
            if (glob.startsWith("**/", at)) {
                expression.append("(?:.*/)?");
                at += 3;
            } else if (glob.startsWith("**", at)) {
                expression.append(".*");
                at += 2;
            } else if (c == '*') {
                expression.append("[^/]*");
                at++;
            } else if (c == '?') {
                expression.append("[^/]");
                at++;
            } else {
                expression.append(Pattern.quote(String.valueOf(c)));
                at++;
            }
        }
        return expression.toString();
    }
}
