package mellow.core.format.properties;

import java.nio.charset.StandardCharsets;
import java.util.List;
import mellow.core.format.FileEntry;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;
import mellow.core.format.properties.PropertiesReading.Item;
import mellow.core.format.source.OrderedPatch;
import mellow.core.format.source.SourceText;

/** Writes a file of properties in place. What its character set cannot spell is escaped, so every text fits. */
final class PropertiesPatch extends OrderedPatch {

    private final PropertiesReading file;
    private final SourceText source;
    private boolean ascii;

    PropertiesPatch(PropertiesReading file) {
        super(file.source().splice());
        this.file = file;
        this.source = file.source();
        this.ascii = source.charset().equals(StandardCharsets.ISO_8859_1) || escapes(source.text());
    }

    private static boolean escapes(String text) {
        return text.contains("\\u") && plain(text);
    }

    private static boolean plain(String text) {
        return text.chars().allMatch(c -> c < 0x80);
    }

    @Override
    public void like(List<FileReading> siblings) {
        if (!ascii && plain(source.text())) {
            ascii = siblings.stream()
                    .filter(PropertiesReading.class::isInstance)
                    .map(other -> ((PropertiesReading) other).source())
                    .anyMatch(other -> escapes(other.text()) || other.charset().equals(StandardCharsets.ISO_8859_1));
        }
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
    protected void takeOut(int entry) {
        Item item = file.item(entry);
        splice.remove(item.start(), after(item));
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
    protected void putIn(int after, FileEntry added) {
        int place = after >= 0 ? after(file.item(after)) : source.text().length();
        boolean open = place > 0
                && place == source.text().length()
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
    protected int size() {
        return file.size();
    }
}
