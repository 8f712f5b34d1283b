package mellow.bench;

import static mellow.bench.Figures.best;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.PrintStream;
import java.lang.management.ManagementFactory;
import java.lang.management.MemoryPoolMXBean;
import java.lang.management.MemoryType;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamReader;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FilePatch;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;
import mellow.core.format.Limits;
import mellow.core.format.ReadOptions;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.registry.Formats;
import mellow.core.language.LanguageTag;

/**
 * {@code ./mellow bench formats}: reading and writing in place of 100,000 entries in every format, in 512 MB, ten and a hundred times as
 * many in three.
 * {@code ./mellow bench fuzz [SECONDS]}: broken files for every reader.
 */
public final class FormatsBench {

    private static final LanguageTag ENGLISH = new LanguageTag("en");
    private static final LanguageTag GERMAN = new LanguageTag("de");
    private static final List<String> MANY =
            List.of("csv", "xlsx", "ods", "tmx", "tbx", "ledger-json", "po", "mo", "xliff-1.2", "xliff-2");
    private static final List<String> XML = List.of("xliff-1.2", "xliff-2", "android", "tmx", "tbx");
    private static final List<String> FRESH_ONLY = List.of("mo", "tmx", "tbx", "ledger-json");
    private static final List<String> GROWING = List.of("po", "xliff-1.2", "csv");
    /** A million units of XLIFF are more than the product takes in. */
    private static final Limits ROOMY = new Limits(1L << 30, 2_000_000, 1_000_000, 400);

    private static final int ENTRIES = 100_000;
    private static final int FEW = 3;
    private static final int FUZZED = 200;

    private final PrintStream out =
            new PrintStream(new FileOutputStream(FileDescriptor.out), true, StandardCharsets.UTF_8);
    private final Figures figures = new Figures(out);

    private FormatsBench() {}

    public static void main(String[] arguments) throws Exception {
        FormatsBench bench = new FormatsBench();
        if (arguments.length > 0 && arguments[0].equals("fuzz")) {
            int seconds = arguments.length > 1 ? Integer.parseInt(arguments[1]) : 60;
            for (FileFormat format : Formats.all()) {
                bench.fuzz(format, seconds);
            }
            return;
        }
        bench.figures.line("work", "entries", "took", "against", "took", "ratio");
        if (arguments.length == 0 || !arguments[0].equals("growth")) {
            for (FileFormat format : Formats.all()) {
                bench.round(format, ENTRIES);
            }
            return;
        }
        for (String name : GROWING) {
            for (int entries : new int[] {10_000, 1_000_000}) {
                bench.round(Formats.named(name).orElseThrow(), entries);
            }
        }
    }

    private static EntryList entries(String format, int count) {
        List<FileEntry> entries = new ArrayList<>(count);
        boolean many = MANY.contains(format);
        Random random = new Random(7);
        for (int i = 0; i < count; i++) {
            FileText english =
                    FileText.plain("Ramp " + i + " is lowered to “deck " + random.nextInt(9) + "” with %d cars");
            FileText german =
                    FileText.plain("Rampe " + i + " ist zu „Deck " + random.nextInt(9) + "“ gesenkt, %d Wagen");
            entries.add(FileEntry.of("deck.ramp." + i / 100 + ".text_" + i)
                    .note(many && i % 10 == 0 ? "Shown beside the lamp " + i : "")
                    .texts(many ? List.of(english, german) : List.of(german))
                    .build());
        }
        return EntryList.of(
                many ? Optional.of(ENGLISH) : Optional.empty(),
                many ? List.of(ENGLISH, GERMAN) : List.of(GERMAN),
                entries);
    }

    private void round(FileFormat format, int count) throws Exception {
        ByteArrayOutputStream fresh = new ByteArrayOutputStream();
        format.write(entries(format.name(), count), fresh);
        byte[] file = fresh.toByteArray();
        int repeats = count > ENTRIES ? 1 : FEW;
        System.gc();
        for (MemoryPoolMXBean pool : ManagementFactory.getMemoryPoolMXBeans()) {
            pool.resetPeakUsage();
        }
        double bare = best(() -> XML.contains(format.name()) ? stax(file) : scan(file), FEW);
        double read = best(() -> read(format, file).size(), repeats);
        figures.compare(
                format.name() + ": read", count, read, XML.contains(format.name()) ? "StAX pass" : "byte scan", bare);
        if (!FRESH_ONLY.contains(format.name())) {
            FileReading reading = read(format, file);
            int language = reading.languages().size() - 1;
            double written = best(
                    () -> {
                        FilePatch patch = reading.patch();
                        for (int i = 0; i < reading.size(); i += 100) {
                            patch.set(i, language, FileText.plain("geändert " + i));
                        }
                        ByteArrayOutputStream to = new ByteArrayOutputStream(file.length + 1_000);
                        patch.writeTo(to);
                        return to.size();
                    },
                    repeats);
            figures.compare(format.name() + ": write in place, 1 % changed", count, written, "reading it", read);
        }
        out.printf(Locale.ROOT, "  file %.1f MB, peak heap %d MB%n", file.length / 1e6, peakHeap() >> 20);
    }

    private static FileReading read(FileFormat format, byte[] file) {
        return format.read("bench", file, ReadOptions.AUTOMATIC.in(GERMAN).within(ROOMY));
    }

    private static int scan(byte[] file) {
        int found = 0;
        for (byte b : file) {
            if (b == ',' || b == '\n' || b == '"') {
                found++;
            }
        }
        return found;
    }

    private static int stax(byte[] file) throws Exception {
        XMLStreamReader reader = XMLInputFactory.newFactory().createXMLStreamReader(new ByteArrayInputStream(file));
        int events = 0;
        while (reader.hasNext()) {
            reader.next();
            events++;
        }
        return events;
    }

    private static long peakHeap() {
        return ManagementFactory.getMemoryPoolMXBeans().stream()
                .filter(pool -> pool.getType() == MemoryType.HEAP)
                .mapToLong(pool -> pool.getPeakUsage().getUsed())
                .sum();
    }

    /** Files broken at random places: anything but a reading or the one refusal ends the run with the bytes that did it. */
    private void fuzz(FileFormat format, int seconds) throws Exception {
        ByteArrayOutputStream fresh = new ByteArrayOutputStream();
        format.write(entries(format.name(), FUZZED), fresh);
        byte[] whole = fresh.toByteArray();
        Random random = new Random();
        long until = System.nanoTime() + seconds * 1_000_000_000L;
        Map<String, Integer> ends = new TreeMap<>();
        double slowest = 0;
        while (System.nanoTime() < until) {
            byte[] broken = whole.clone();
            for (int i = random.nextInt(8); i >= 0; i--) {
                int at = random.nextInt(broken.length);
                int from = random.nextInt(broken.length);
                int length = Math.min(random.nextInt(64), broken.length - Math.max(at, from));
                if (random.nextBoolean()) {
                    System.arraycopy(broken, from, broken, at, length);
                } else {
                    broken[at] = (byte) random.nextInt(256);
                }
            }
            long start = System.nanoTime();
            try {
                FileReading reading = format.read("fuzz", broken, ReadOptions.AUTOMATIC);
                for (int i = 0; i < reading.size(); i++) {
                    reading.entry(i);
                }
                ends.merge("read", 1, Integer::sum);
            } catch (UnreadableFileException refused) {
                ends.merge("refused", 1, Integer::sum);
            } catch (RuntimeException | StackOverflowError | OutOfMemoryError broke) {
                Path kept = Files.createTempFile("mellow-fuzz-" + format.name() + "-", ".bin");
                Files.write(kept, broken);
                throw new IllegalStateException("The reader of " + format.name() + " broke on " + kept, broke);
            }
            slowest = Math.max(slowest, Figures.seconds(start));
        }
        out.printf(
                Locale.ROOT,
                "%-12s %s, slowest %.0f ms (file of %,d bytes)%n",
                format.name(),
                ends,
                slowest * 1_000,
                whole.length);
    }
}
