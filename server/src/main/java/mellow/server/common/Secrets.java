package mellow.server.common;

import java.security.SecureRandom;
import java.util.Base64;

/** Long random secrets, that nobody guesses and everybody can copy. */
public final class Secrets {

    private static final SecureRandom RANDOM = new SecureRandom();

    private Secrets() {}

    /** A new one of so many random bytes, spelled in letters, digits, - and _ (RFC 4648 §5, without padding). */
    public static String made(int bytes) {
        byte[] secret = new byte[bytes];
        RANDOM.nextBytes(secret);
        return Base64.getUrlEncoder().withoutPadding().encodeToString(secret);
    }
}
