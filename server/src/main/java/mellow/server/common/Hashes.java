package mellow.server.common;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;

/** Hashes of secrets: the database keeps only these, so that reading it gives no way in. */
public final class Hashes {

    private Hashes() {}

    /** SHA-256 (FIPS 180-4 §6.2) of {@code bytes}: 32 bytes. For long random secrets; passwords are hashed otherwise. */
    public static byte[] sha256(byte[] bytes) {
        try {
            return MessageDigest.getInstance("SHA-256").digest(bytes);
        } catch (NoSuchAlgorithmException everyJavaHasIt) {
            throw new IllegalStateException(everyJavaHasIt);
        }
    }

    /** The same of a secret's spelling in UTF-8. */
    public static byte[] sha256(String secret) {
        return sha256(secret.getBytes(StandardCharsets.UTF_8));
    }
}
