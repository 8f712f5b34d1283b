package mellow.server.common;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import java.util.stream.Stream;

/** Files that nobody needs when the server has ended. They lie in the data folder, where those that a kill left behind are found at the next start. */
public final class TempFiles {

    private static final String PREFIX = "mellow-";

    private static volatile Path folder = Path.of(System.getProperty("java.io.tmpdir"));

    private TempFiles() {}

    /** An empty file. */
    public static Path create(String suffix) throws IOException {
        return Files.createTempFile(folder, PREFIX, suffix);
    }

    /**
     * Has them lie in {@code place}, and removes what lies there: it is of servers that have ended.
     *
     * @return how many there were
     */
    public static int use(Path place) {
        try {
            Files.createDirectories(place);
            // What lies there may be anybody's texts.
            Files.setPosixFilePermissions(place, PosixFilePermissions.fromString("rwx------"));
            List<Path> left;
            try (Stream<Path> all = Files.list(place)) {
                left = all.filter(path -> path.getFileName().toString().startsWith(PREFIX))
                        .toList();
            }
            for (Path one : left) {
                Files.deleteIfExists(one);
            }
            folder = place;
            return left.size();
        } catch (IOException cannot) {
            throw new UncheckedIOException(cannot);
        }
    }
}
