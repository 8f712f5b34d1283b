package mellow.core.scan;

import java.util.List;
import mellow.core.scan.HardText.Kind;

/**
 * How a product writes a key where a text was: {@code t("{key}")} for a string, <code>{t("{key}")}</code> for text between tags.
 *
 * @param files the files it holds for: {@code *.ts}
 * @param kind where the text stands
 * @param code what takes its place, with its quotes: {@code {key}} is the key, {@code {name}} the key as a name with underscores, {@code {text}} what was there
 * @param needs the line a file needs for it, such as an import, empty for none; {@code {root}} is the way from the file to the root of the tree
 */
public record Rewrite(String files, Kind kind, String code, String needs) {

    private static final String ROOT = "{root}";

    /** Whether it holds for a text in a file. */
    public boolean holds(String path, Kind of) {
        return kind == of && new PathPattern(files).matches(path);
    }

    /** What takes the place of what was there. */
    public String with(String key, String was) {
        return code.replace("{key}", key)
                .replace("{name}", KeyNames.folded(key))
                .replace("{text}", was);
    }

    /** The line that a file needs, with the way from it to what stands behind the root. */
    public String neededBy(String path) {
        int root = needs.indexOf(ROOT);
        if (root < 0) {
            return needs;
        }
        String before = needs.substring(0, root);
        List<String> there = List.of(needs.substring(root + ROOT.length()).split("/", -1));
        List<String> here = List.of(path.split("/", -1));
        int same = 0;
        while (same < Math.min(there.size(), here.size()) - 1 && there.get(same).equals(here.get(same))) {
            same++;
        }
        int up = here.size() - 1 - same;
        return before + (up == 0 ? "./" : "../".repeat(up)) + String.join("/", there.subList(same, there.size()));
    }
}
