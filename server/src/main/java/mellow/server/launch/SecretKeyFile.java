package mellow.server.launch;

import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.SecureRandom;
import java.util.Base64;
import org.jspecify.annotations.Nullable;

/** The key that seals secrets of others in the database. It lies beside the database, not in it, so that a copy of the database tells none of them. */
final class SecretKeyFile {

    /** Names the key where several servers share a database. */
    static final String VARIABLE = "MELLOW_SECRET_KEY";

    private static final int BYTES = 32;

    private SecretKeyFile() {}

    /** The key in Base64: the one given, else that of the data folder, which is made when there is none. */
    static String key(@Nullable String given, Path data) {
        if (given != null && !given.isBlank()) {
            return given.strip();
        }
        Path file = data.resolve("secret-key");
        try {
            if (!Files.exists(file)) {
                make(file);
            }
            return Files.readString(file).strip();
        } catch (IOException unreadable) {
            throw new LaunchException("The key " + file + " cannot be read or made: " + unreadable.getMessage() + ".");
        }
    }

    private static void make(Path file) throws IOException {
        byte[] key = new byte[BYTES];
        new SecureRandom().nextBytes(key);
        Files.createDirectories(file.toAbsolutePath().getParent());
        Path fresh = file.resolveSibling("secret-key.new");
        Files.deleteIfExists(fresh);
        Files.createFile(fresh, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
        Files.writeString(fresh, Base64.getEncoder().encodeToString(key));
        try {
            Files.move(fresh, file);
        } catch (FileAlreadyExistsException another) {
            Files.delete(fresh);
        }
    }
}
