package mellow.server.intake;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiFunction;
import java.util.function.UnaryOperator;

/** Makes the files of a set for tests: the same keys in every language, the texts "<language> text 1" and so on. */
final class SetFilesOf {

    private SetFilesOf() {}

    /** {@code locales/<tag>.yml} with the language at the root. */
    static Map<String, String> yaml(List<String> tags, int keys) {
        return of(tags, tag -> "locales/" + tag + ".yml", (tag, lines) -> tag + ":\n  deck:\n" + lines, keys, "    ");
    }

    private static Map<String, String> of(
            List<String> tags,
            UnaryOperator<String> path,
            BiFunction<String, String, String> whole,
            int keys,
            String indent) {
        Map<String, String> files = new LinkedHashMap<>();
        for (String tag : tags) {
            StringBuilder lines = new StringBuilder();
            for (int i = 1; i <= keys; i++) {
                lines.append(indent)
                        .append("k")
                        .append(i)
                        .append(": ")
                        .append(tag)
                        .append(" text ")
                        .append(i)
                        .append("\n");
            }
            files.put(path.apply(tag), whole.apply(tag, lines.toString()));
        }
        return files;
    }
}
