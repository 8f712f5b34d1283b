package mellow.core.format.toy;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import mellow.core.format.Aspect;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;
import mellow.core.format.FreshOnly;
import mellow.core.format.Problems;
import mellow.core.format.ReadOptions;
import mellow.core.format.Traits;
import mellow.core.format.UnwritableTextException;
import mellow.core.format.source.SourceText;
import mellow.core.language.LanguageTag;

/** A format as a newcomer would add it: a line per text, {@code key -> text}, and nothing else. */
final class ToyFormat implements FileFormat {

    private static final String ARROW = " -> ";

    @Override
    public Traits traits() {
        return Traits.of("toy", "toy", "text/plain").alias("arrows").onlyFresh();
    }

    @Override
    public int likelihood(Sample sample) {
        return sample.named(".toy") ? 95 : sample.text().contains(ARROW) ? 60 : 0;
    }

    @Override
    public Set<Aspect> keeps() {
        return Set.of();
    }

    @Override
    public FileReading read(String file, byte[] bytes, ReadOptions options) {
        SourceText source = SourceText.decode(bytes, StandardCharsets.UTF_8, new Problems(file));
        LanguageTag language = options.languageOf(file, Optional.empty());
        List<FileEntry> entries = new ArrayList<>();
        int start = 0;
        for (String line : source.text().split("\n")) {
            int arrow = line.indexOf(ARROW);
            if (arrow < 0) {
                throw source.refuse(start, "“" + line + "”", "a key, an arrow and a text");
            }
            FileText text = FileText.plain(line.substring(arrow + ARROW.length()));
            entries.add(
                    FileEntry.of(line.substring(0, arrow)).texts(List.of(text)).build());
            start += line.length() + 1;
        }
        EntryList list = EntryList.of(Optional.empty(), List.of(language), entries);
        return new FreshOnly(list, source.problems().kept(), "UTF-8", Set.of(), "A toy");
    }

    @Override
    public void write(EntryList entries, OutputStream out) throws IOException {
        for (int i = 0; i < entries.size(); i++) {
            FileEntry entry = entries.entry(i);
            if (entry.text(0).contains("\n")) {
                throw new UnwritableTextException(entry.key() + ": a toy has no line breaks.");
            }
            out.write((entry.key() + ARROW + entry.text(0) + "\n").getBytes(StandardCharsets.UTF_8));
        }
    }
}
