package mellow.core.scan;

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

    /** The line that a file needs. */
    public String neededBy(String path) {
        long folders = path.chars().filter(c -> c == '/').count();
        return needs.replace("{root}", folders == 0 ? "./" : "../".repeat((int) folders));
    }
}
