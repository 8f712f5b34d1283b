package mellow.server.launch;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;

/** Packs a folder for its journey; hidden files and folders stay. */
final class FolderArchive {

    private FolderArchive() {}

    /**
     * Packs all files below {@code folder} into {@code archive}, named as they are from here.
     *
     * @param only patterns of paths below the folder, of which one has to match; none for all
     * @throws LaunchException when there is nothing to pack
     */
    static void pack(Path folder, List<String> only, Path archive) throws IOException {
        List<Path> files;
        try (Stream<Path> all = Files.walk(folder)) {
            files = all.filter(Files::isRegularFile)
                    .filter(file -> !hidden(folder.relativize(file)) && matches(folder.relativize(file), only))
                    .sorted()
                    .toList();
        }
        if (files.isEmpty()) {
            throw new LaunchException(
                    only.isEmpty()
                            ? "The folder is empty."
                            : "No file in the folder matches " + String.join(", ", only) + ".");
        }
        try (OutputStream out = Files.newOutputStream(archive);
                ZipOutputStream zip = new ZipOutputStream(out)) {
            for (Path file : files) {
                // Where one stands is not where the next stands: from the folder's own name on, the path stays the
                // same.
                Path name = folder.toAbsolutePath().normalize().getFileName().resolve(folder.relativize(file));
                zip.putNextEntry(new ZipEntry(name.toString().replace('\\', '/')));
                Files.copy(file, zip);
                zip.closeEntry();
            }
        }
    }

    private static boolean hidden(Path path) {
        for (Path part : path) {
            if (part.toString().startsWith(".")) {
                return true;
            }
        }
        return false;
    }

    /** Whether a path matches one of the patterns; none matches all. A pattern without a folder is meant for every folder. */
    static boolean matches(Path path, List<String> only) {
        return only.isEmpty()
                || only.stream()
                        .flatMap(pattern -> pattern.contains("/") || pattern.startsWith("**")
                                ? Stream.of(pattern)
                                : Stream.of(pattern, "**/" + pattern))
                        .anyMatch(pattern -> FileSystems.getDefault()
                                .getPathMatcher("glob:" + pattern)
                                .matches(path));
    }
}
