package mellow.server.launch;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;

/** Lays what a server sent into a folder; each file appears whole or not at all, and none outside of it. */
final class Unpacking {

    private Unpacking() {}

    static void zip(byte[] archive, Path folder, List<String> only, PrintWriter told) throws IOException {
        try (ZipInputStream zip = new ZipInputStream(new ByteArrayInputStream(archive))) {
            for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
                Path target = folder.resolve(entry.getName()).normalize();
                if (!target.startsWith(folder.normalize())) {
                    throw new LaunchException(
                            "The server sent a file named “" + entry.getName() + "”, outside of the folder.");
                }
                if (FolderArchive.matches(Path.of(entry.getName()), only)) {
                    write(target, zip.readAllBytes(), told);
                }
            }
        }
    }

    static void write(Path target, byte[] content, PrintWriter told) throws IOException {
        Path parent = target.toAbsolutePath().getParent();
        Files.createDirectories(parent);
        Path whole = Files.createTempFile(parent, ".mellow-", ".part");
        try {
            Files.write(whole, content);
            Files.move(whole, target, StandardCopyOption.REPLACE_EXISTING);
        } finally {
            Files.deleteIfExists(whole);
        }
        told.println(target);
    }
}
