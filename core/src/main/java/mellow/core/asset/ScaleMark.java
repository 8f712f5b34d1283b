package mellow.core.asset;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;

/**
 * The mark of a picture for finer screens, {@code @2x} or {@code @1.5x}: it ends its key, and in a path it stands before the ending, whatever comes before it.
 *
 * @param without the key or path without the mark
 * @param mark the mark, empty when there is none
 */
public record ScaleMark(String without, String mark) {

    private static final String MARK = "(?P<mark>@[1-9](?:\\.[1-9])?x)";
    private static final Pattern OF_KEY = Pattern.compile(MARK + "$");
    private static final Pattern OF_PATH = Pattern.compile(MARK + "(?:\\.[A-Za-z0-9]{1,10})?$");

    /** That of a key. */
    public static ScaleMark ofKey(String key) {
        return cut(OF_KEY, key);
    }

    /** That of a path. */
    public static ScaleMark ofPath(String path) {
        return cut(OF_PATH, path);
    }

    private static ScaleMark cut(Pattern where, String text) {
        Matcher found = where.matcher(text);
        if (!found.find() || found.start() == 0) {
            return new ScaleMark(text, "");
        }
        String mark = found.group("mark");
        return new ScaleMark(text.substring(0, found.start()) + text.substring(found.start() + mark.length()), mark);
    }

    /** A path with the mark. */
    public String in(String path) {
        int dot = path.lastIndexOf('.');
        int at = dot > path.lastIndexOf('/') ? dot : path.length();
        return path.substring(0, at) + mark + path.substring(at);
    }
}
