package mellow.server.export;

import java.time.LocalDateTime;
import java.util.Arrays;
import java.util.stream.Collectors;
import java.util.zip.ZipEntry;

/** Names of files in an archive that goes out: none leads out of the folder that it is unpacked in, on any system. */
final class ZipNames {

    private ZipNames() {}

    /** A part for the file at {@code path}. */
    static ZipEntry entry(String path) {
        ZipEntry entry = new ZipEntry(safe(path));
        // A fixed time: the same content packs to the same bytes.
        entry.setTimeLocal(LocalDateTime.of(1980, 2, 1, 0, 0));
        return entry;
    }

    /** The path without what would lead out: parent folders, roots, drives. */
    static String safe(String path) {
        return Arrays.stream(path.replace('\\', '/').split("/"))
                .filter(part -> !part.isEmpty() && !part.equals("."))
                .map(part -> part.matches("\\.\\.+") ? "-" : part.replace(':', '-'))
                .collect(Collectors.joining("/"));
    }
}
