package mellow.core.format;

import java.util.Map;
import java.util.Optional;
import mellow.core.text.Keepable;

/** Looks whether everything in a file can be part of the record: escapes can spell what files cannot hold. */
public final class KeepableEntries {

    private KeepableEntries() {}

    /**
     * Reads through all entries.
     *
     * @param name the file's name, for the sentence
     * @param longest characters of the longest text
     * @throws UnreadableFileException with the line of the first entry that cannot be kept, and why
     */
    public static void require(String name, FileReading file, int longest) {
        for (int i = 0; i < file.size(); i++) {
            FileEntry entry = file.entry(i);
            refuse(name, entry, "the key", false, Keepable.against(entry.key(), longest));
            refuse(name, entry, "the context", true, Keepable.against(entry.context(), longest));
            refuse(name, entry, "the note", true, Keepable.against(entry.note(), longest));
            refuse(name, entry, "the reference", true, Keepable.against(entry.reference(), longest));
            refuse(name, entry, "the section", true, Keepable.against(entry.section(), longest));
            for (FileText text : entry.texts()) {
                for (Map.Entry<String, String> form : text.forms().entrySet()) {
                    refuse(name, entry, "a text", true, Keepable.against(form.getValue(), longest));
                }
            }
        }
    }

    private static String shown(FileEntry entry) {
        return "“" + Keepable.shown(entry.key(), 60) + "”";
    }

    private static void refuse(String name, FileEntry entry, String what, boolean named, Optional<String> against) {
        if (against.isPresent()) {
            Problems problems = new Problems(name);
            throw problems.refuse(
                    entry.line() > 0 ? Position.ofLine(entry.line()) : Position.WHOLE_FILE,
                    what + (named ? " of " + shown(entry) : "") + " " + against.get(),
                    "another text there");
        }
    }
}
