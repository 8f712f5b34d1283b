package mellow.core.scan;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.BiConsumer;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;

/**
 * A source tree in a ZIP archive, read file by file, so that a large one needs no more memory than its archive. The folder that everything lies in is left out of the
 * paths, as {@code patch -p1} is run inside of it.
 */
public final class ZippedTree {

    private static final int MOST_FILES = 300_000;
    private static final long MOST_BYTES = 4L << 30;
    private static final String CUT_OFF = "The archive is damaged or cut off; expected a whole ZIP file.";
    /** The longest comment behind the mark of its end, and the mark (APPNOTE §4.3.16). */
    private static final int LONGEST_END = 65_535 + 22;

    private static final int LARGEST_RULES = 1 << 20;

    private final byte[] archive;
    private final String top;
    private final Map<String, Boolean> folders = new HashMap<>();
    private final IgnoreRules rules;
    private final int files;

    /** An archive that cannot be read as a tree, with a sentence that says why. */
    public static final class BadTreeException extends RuntimeException {
        BadTreeException(String sentence) {
            super(sentence);
        }
    }

    /** What is done with a part of the archive. */
    @FunctionalInterface
    private interface Part {
        void take(String path, InputStream content) throws IOException;
    }

    /**
     * Opens an archive.
     *
     * @throws BadTreeException when it is damaged, empty, too large unpacked, or names files outside of itself
     */
    public ZippedTree(byte[] archive) {
        this.archive = archive;
        Map<String, String> ignoring = new TreeMap<>();
        String[] common = {null};
        int[] count = {0};
        parts((path, content) -> {
            count[0]++;
            int slash = path.indexOf('/');
            String first = slash < 0 ? "" : path.substring(0, slash + 1);
            if (!path.startsWith("__MACOSX/")) {
                common[0] = common[0] == null || common[0].equals(first) ? first : "";
            }
            if (IgnoreRules.FILES.contains(path.substring(path.lastIndexOf('/') + 1))) {
                ignoring.put(path, new String(content.readNBytes(LARGEST_RULES), StandardCharsets.UTF_8));
            }
        });
        if (count[0] > 0 && !ends(archive)) {
            throw new BadTreeException(CUT_OFF);
        }
        if (count[0] == 0) {
            throw new BadTreeException("There is no file in the archive.");
        }
        this.files = count[0];
        this.top = common[0] == null ? "" : common[0];
        IgnoreRules all = IgnoreRules.none();
        for (Map.Entry<String, String> one : ignoring.entrySet()) {
            String path = below(one.getKey());
            int slash = path.lastIndexOf('/');
            all = all.with(slash < 0 ? "" : path.substring(0, slash), one.getValue());
        }
        this.rules = all;
    }

    /** Whether an archive has its end: files that are missing behind a cut would be taken for gone. */
    private static boolean ends(byte[] archive) {
        for (int at = archive.length - 4; at >= Math.max(0, archive.length - LONGEST_END); at--) {
            if (archive[at] == 'P' && archive[at + 1] == 'K' && archive[at + 2] == 5 && archive[at + 3] == 6) {
                return true;
            }
        }
        return false;
    }

    /** How many files it holds, with those that are left out. */
    public int files() {
        return files;
    }

    /**
     * Goes through the files that are not left out.
     *
     * @param take what is done with a path and a content; of files larger than are looked at as much as shows it
     * @return how many were left out
     */
    public int each(BiConsumer<String, byte[]> take) {
        int[] left = {0};
        parts((path, content) -> {
            String below = below(path);
            if (ignored(below)) {
                left[0]++;
            } else {
                take.accept(below, content.readNBytes(CodeScanner.LARGEST + 1));
            }
        });
        return left[0];
    }

    private String below(String path) {
        return path.startsWith(top) ? path.substring(top.length()) : path;
    }

    private boolean ignored(String path) {
        for (int slash = path.indexOf('/'); slash >= 0; slash = path.indexOf('/', slash + 1)) {
            String folder = path.substring(0, slash);
            if (folders.computeIfAbsent(folder, one -> rules.ignores(one, true))) {
                return true;
            }
        }
        return rules.ignores(path, false);
    }

    private void parts(Part part) {
        long[] left = {Math.min(MOST_BYTES, (1L << 20) + 200L * archive.length)};
        int count = 0;
        try (ZipInputStream zip = new ZipInputStream(new ByteArrayInputStream(archive))) {
            for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
                String path = entry.getName();
                if (entry.isDirectory()) {
                    continue;
                }
                if (path.startsWith("/") || path.contains("\\") || ("/" + path + "/").contains("/../")) {
                    throw new BadTreeException(
                            "The archive names a file outside of itself, “" + Texts.kept(path) + "”.");
                }
                if (++count > MOST_FILES) {
                    throw new BadTreeException(
                            "The archive has more than " + MOST_FILES + " files; leave out what was made by programs.");
                }
                Counted counted = new Counted(zip, left);
                part.take(path, counted);
                counted.skipRest();
            }
        } catch (IOException | IllegalArgumentException broken) {
            throw new BadTreeException(CUT_OFF);
        }
    }

    /** Counts what is unpacked, so that a small archive does not become everything there is. */
    private static final class Counted extends InputStream {
        private final InputStream in;
        private final long[] left;

        Counted(InputStream in, long[] left) {
            this.in = in;
            this.left = left;
        }

        @Override
        public int read() throws IOException {
            byte[] one = new byte[1];
            return read(one, 0, 1) < 0 ? -1 : one[0] & 0xff;
        }

        @Override
        public int read(byte[] into, int at, int length) throws IOException {
            int read = in.read(into, at, length);
            left[0] -= Math.max(0, read);
            if (left[0] < 0) {
                throw new BadTreeException(
                        "The archive unpacks to more than an ordinary one; leave out what was made by programs.");
            }
            return read;
        }

        void skipRest() throws IOException {
            byte[] rest = new byte[1 << 16];
            while (read(rest, 0, rest.length) >= 0) {
                // Only counted.
            }
        }
    }
}
