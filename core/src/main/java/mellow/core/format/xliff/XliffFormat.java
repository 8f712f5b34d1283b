package mellow.core.format.xliff;

import java.io.IOException;
import java.io.OutputStream;
import java.util.EnumSet;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import mellow.core.format.Aspect;
import mellow.core.format.EntryList;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.Problems;
import mellow.core.format.ReadOptions;
import mellow.core.format.Traits;
import mellow.core.format.Traits.Languages;
import mellow.core.format.xml.XmlRoot;
import mellow.core.format.xml.XmlText;

/** XLIFF of one version; reading takes either, because the file says which it is. */
public final class XliffFormat implements FileFormat {

    private static final Pattern VERSION_2 = Pattern.compile("(?s).*\\sversion\\s*=\\s*[\"']2\\..*");

    /** XLIFF 1.2. */
    public static final XliffFormat FIRST = new XliffFormat(
            false, Traits.of("xliff-1.2", "xlf", "application/xliff+xml").alias("xliff", "xliff1.2"));

    /** XLIFF 2.0 and 2.1. */
    public static final XliffFormat SECOND = new XliffFormat(
            true, Traits.of("xliff-2", "xliff", "application/xliff+xml").alias("xliff2", "xliff-2.0", "xliff-2.1"));

    private final boolean second;
    private final Traits traits;

    private XliffFormat(boolean second, Traits traits) {
        this.second = second;
        this.traits = traits.in(Languages.PAIR).spellingItself();
    }

    @Override
    public Traits traits() {
        return traits;
    }

    @Override
    public Set<Aspect> keeps() {
        return EnumSet.allOf(Aspect.class);
    }

    @Override
    public int likelihood(Sample sample) {
        Optional<XmlRoot> root = XmlRoot.of(sample.text());
        if (root.isPresent()) {
            boolean xliff = root.get().name().equals("xliff");
            return !xliff ? 0 : second == VERSION_2.matcher(root.get().tag()).matches() ? 100 : 55;
        }
        return sample.named(".xlf", ".xliff") ? 50 : 0;
    }

    @Override
    public FileReading read(String file, byte[] bytes, ReadOptions options) {
        Problems problems = new Problems(file);
        return new XliffReader(XmlText.decode(bytes, options.charset(), options.limits(), problems), options).read();
    }

    @Override
    public void write(EntryList entries, OutputStream out) throws IOException {
        new XliffWriter(entries, second).writeTo(out);
    }
}
