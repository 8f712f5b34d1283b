package mellow.server.launch;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/** Remembers in the data folder which process serves it, and where. */
final class PidFile {

    private final Path path;

    PidFile(Path data) {
        this.path = data.toAbsolutePath().resolve("mellow.pid");
    }

    void write(String address) {
        try {
            Files.createDirectories(path.getParent());
            Files.write(path, List.of(Long.toString(ProcessHandle.current().pid()), address));
        } catch (IOException cannot) {
            throw new LaunchException(
                    "The data folder " + path.getParent() + " cannot be written: " + cannot.getMessage());
        }
    }

    /** The process that serves the data folder, if it is alive and one of ours. */
    Optional<ProcessHandle> running() {
        return lines().flatMap(
                        lines -> ProcessHandle.of(Long.parseLong(lines.get(0).strip())))
                .filter(ProcessHandle::isAlive)
                .filter(process -> process.info().command().orElse("").endsWith("java"));
    }

    Optional<String> address() {
        return lines().map(lines -> lines.get(1));
    }

    private Optional<List<String>> lines() {
        try {
            return Files.exists(path)
                    ? Optional.of(Files.readAllLines(path)).filter(lines -> lines.size() == 2)
                    : Optional.empty();
        } catch (IOException unreadable) {
            throw new UncheckedIOException(unreadable);
        }
    }

    void delete() {
        try {
            Files.deleteIfExists(path);
        } catch (IOException cannot) {
            throw new UncheckedIOException(cannot);
        }
    }
}
