package mellow.server.common;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.util.Arrays;
import java.util.Base64;
import javax.crypto.Cipher;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/**
 * Seals secrets of others that the database keeps, by AES-256 in GCM (NIST SP 800-38D), with a key that the database does not have: a copy of the database tells
 * none of them. All servers of a database need the same key.
 */
@Component
public class SecretBox {

    private static final int KEY_BYTES = 32;
    private static final int NONCE_BYTES = 12;
    private static final int TAG_BITS = 128;
    private static final SecureRandom RANDOM = new SecureRandom();

    private final byte[] key;

    /** @param key 32 bytes in Base64; empty for none, and then nothing can be sealed */
    public SecretBox(@Value("${mellow.secret-key:}") String key) {
        this.key = Base64.getDecoder().decode(key.strip());
        if (this.key.length != 0 && this.key.length != KEY_BYTES) {
            throw new IllegalArgumentException("the key for secrets has " + this.key.length + " bytes and not "
                    + KEY_BYTES + "; expected 32 in Base64");
        }
    }

    /**
     * Seals a secret.
     *
     * @throws Refusal 422 when this server has no key
     */
    public byte[] seal(String secret) {
        if (key.length == 0) {
            throw Refusal.unacceptable(
                    "no-secret-key", "This server has no key to keep secrets with; whoever starts it gives it one.");
        }
        byte[] nonce = new byte[NONCE_BYTES];
        RANDOM.nextBytes(nonce);
        try {
            byte[] sealed = cipher(Cipher.ENCRYPT_MODE, nonce).doFinal(secret.getBytes(StandardCharsets.UTF_8));
            return ByteBuffer.allocate(nonce.length + sealed.length)
                    .put(nonce)
                    .put(sealed)
                    .array();
        } catch (GeneralSecurityException missing) {
            throw new IllegalStateException("every Java has AES in GCM", missing);
        }
    }

    /**
     * Opens what was sealed.
     *
     * @throws Refusal 422 when it was sealed with another key, or is damaged
     */
    public String open(byte[] sealed) {
        byte[] nonce = Arrays.copyOf(sealed, NONCE_BYTES);
        try {
            return new String(
                    cipher(Cipher.DECRYPT_MODE, nonce).doFinal(sealed, NONCE_BYTES, sealed.length - NONCE_BYTES),
                    StandardCharsets.UTF_8);
        } catch (GeneralSecurityException | IllegalArgumentException other) {
            throw Refusal.unacceptable(
                    "other-secret-key", "The secret was kept with another key than this server has; enter it again.");
        }
    }

    private Cipher cipher(int mode, byte[] nonce) throws GeneralSecurityException {
        Cipher cipher = Cipher.getInstance("AES/GCM/NoPadding");
        cipher.init(mode, new SecretKeySpec(key, "AES"), new GCMParameterSpec(TAG_BITS, nonce));
        return cipher;
    }
}
