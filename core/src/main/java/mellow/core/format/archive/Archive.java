package mellow.core.format.archive;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.time.LocalDateTime;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.zip.CRC32;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;
import mellow.core.format.Limits;
import mellow.core.format.Position;
import mellow.core.format.Problems;
import mellow.core.format.UnreadableFileException;

/** The parts of a ZIP archive in memory, in order, within limits. */
public final class Archive {

    /** Honest files pack at most about 1:50; a part of fewer bytes than the slack may do better. */
    private static final int HIGHEST_RATIO = 200;

    private static final int SLACK = 1 << 20;
    private static final int MOST_PARTS = 10_000;

    private final Map<String, byte[]> parts;
    private static final Pattern BESIDE = Pattern.compile(
            "(?i)(^|/)(__MACOSX/|\\.git/|\\.svn/|\\.hg/|\\._|\\.DS_Store$|Thumbs\\.db$|desktop\\.ini$)");

    private final byte[] original;

    private Archive(Map<String, byte[]> parts, byte[] original) {
        this.parts = parts;
        this.original = original;
    }

    /** Whether a path is what version control and file managers keep beside a product's own files. */
    public static boolean beside(String path) {
        return BESIDE.matcher(path).find();
    }

    /** The archive as it was read, byte for byte. */
    public byte[] original() {
        return original;
    }

    /** The same parts, to be changed. */
    public Archive copy() {
        return new Archive(new LinkedHashMap<>(parts), original);
    }

    /** An archive of nothing. */
    public static Archive empty() {
        return new Archive(new LinkedHashMap<>(), new byte[0]);
    }

    /**
     * Unpacks an archive.
     *
     * @throws UnreadableFileException when it is cut off, unpacks to more than the limit or more than {@value #HIGHEST_RATIO} times its size, or
     *     names a part outside itself
     */
    public static Archive read(byte[] bytes, Limits limits, Problems problems) {
        Map<String, byte[]> parts = new LinkedHashMap<>();
        long most = Math.min(limits.bytes(), SLACK + (long) HIGHEST_RATIO * bytes.length);
        long total = 0;
        try (ZipInputStream zip = new ZipInputStream(new ByteArrayInputStream(bytes))) {
            for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
                String name = entry.getName();
                if (name.startsWith("/") || name.contains("..") || name.contains("\\") || name.contains(":")) {
                    throw problems.refuse(
                            Position.WHOLE_FILE,
                            "the archive has a part named “" + name + "”",
                            "names inside the archive");
                }
                ByteArrayOutputStream part = new ByteArrayOutputStream();
                byte[] buffer = new byte[1 << 16];
                for (int read = zip.read(buffer); read >= 0; read = zip.read(buffer)) {
                    total += read;
                    if (total > most) {
                        throw problems.refuse(
                                Position.WHOLE_FILE,
                                "the archive unpacks to more than " + most / (1024 * 1024) + " MB",
                                "an ordinary one; this is too large or made to do harm");
                    }
                    part.write(buffer, 0, read);
                }
                parts.put(name, part.toByteArray());
                if (parts.size() > MOST_PARTS) {
                    throw problems.refuse(
                            Position.WHOLE_FILE,
                            "more than " + MOST_PARTS + " parts in the archive",
                            "an ordinary one");
                }
            }
        } catch (IOException | IllegalArgumentException broken) {
            throw problems.refuse(
                    Position.WHOLE_FILE,
                    "the archive is damaged or cut off (" + broken.getMessage() + ")",
                    "a whole one");
        }
        if (parts.isEmpty()) {
            throw problems.refuse(Position.WHOLE_FILE, "there is nothing in the archive", "files");
        }
        return new Archive(parts, bytes);
    }

    /** The names of the parts, in order. */
    public List<String> names() {
        return List.copyOf(parts.keySet());
    }

    /** A part, if there is one of that name. */
    public Optional<byte[]> part(String name) {
        return Optional.ofNullable(parts.get(name));
    }

    /** Puts a part in or in place of another. */
    public void put(String name, byte[] content) {
        parts.put(name, content);
    }

    /**
     * Packs all parts in their order.
     *
     * @param stored a part that is stored as it is, as ODS wants its "mimetype"; empty for none
     */
    public void writeTo(OutputStream out, String stored) throws IOException {
        ZipOutputStream zip = new ZipOutputStream(out);
        for (Map.Entry<String, byte[]> part : parts.entrySet()) {
            ZipEntry entry = new ZipEntry(part.getKey());
            // A fixed time: the same content packs to the same bytes.
            entry.setTimeLocal(LocalDateTime.of(1980, 2, 1, 0, 0));
            if (part.getKey().equals(stored)) {
                CRC32 check = new CRC32();
                check.update(part.getValue());
                entry.setMethod(ZipEntry.STORED);
                entry.setSize(part.getValue().length);
                entry.setCrc(check.getValue());
            }
            zip.putNextEntry(entry);
            zip.write(part.getValue());
            zip.closeEntry();
        }
        zip.finish();
        zip.flush();
    }
}
