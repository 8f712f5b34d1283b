package mellow.core.format.properties;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import mellow.core.format.FileEntry;
import mellow.core.format.FilePatch;
import mellow.core.format.FileText;
import mellow.core.format.properties.PropertiesReading.Item;
import mellow.core.format.source.SourceText;
import mellow.core.format.source.Splice;

/** Writes a file of properties in place. What its character set cannot spell is escaped, so every text fits. */
final class PropertiesPatch implements FilePatch {

    private final PropertiesReading file;
    private final SourceText source;
    private final Splice splice;
    private final boolean ascii;

    PropertiesPatch(PropertiesReading file) {
        this.file = file;
        this.source = file.source();
        this.splice = source.splice();
        boolean plain = source.text().chars().allMatch(c -> c < 0x80);
        this.ascii = source.charset().equals(StandardCharsets.ISO_8859_1)
                || (plain && source.text().contains("\\u"));
    }

    @Override
    public void set(int entry, int language, FileText text) {
        Item item = file.item(entry);
        if (!text.main().equals(item.entry().text(0))) {
            splice.replace(
                    item.valueStart(),
                    item.valueEnd(),
                    (item.separated() ? "" : "=") + PropertiesStrings.value(text.main(), ascii),
                    item.entry().key());
        }
    }

    @Override
    public void remove(int entry) {
        Item item = file.item(entry);
        splice.replace(item.start(), after(item), "", item.entry().key());
    }

    /** After the item's line and its end. */
    private int after(Item item) {
        int end = item.valueEnd();
        String text = source.text();
        if (end < text.length() && text.charAt(end) == '\r') {
            end++;
        }
        return end < text.length() && text.charAt(end) == '\n' ? end + 1 : end;
    }

    @Override
    public void insert(int after, FileEntry added) {
        int place = after(file.item(after >= 0 ? after : file.size() - 1));
        boolean open = place == source.text().length()
                && !source.text().endsWith("\n")
                && !source.text().endsWith("\r");
        String line = PropertiesStrings.line(added, added.text(0), source.lineEnd(), ascii);
        splice.replace(
                place,
                place,
                open
                        ? source.lineEnd()
                                + line.substring(
                                        0, line.length() - source.lineEnd().length())
                        : line,
                added.key());
    }

    @Override
    public void writeTo(OutputStream out) throws IOException {
        splice.writeTo(out);
    }
}
