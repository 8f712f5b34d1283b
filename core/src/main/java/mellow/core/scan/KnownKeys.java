package mellow.core.scan;

import java.util.Collection;
import java.util.NavigableSet;
import java.util.TreeSet;

/** The keys of a product's tables, so that code that mentions one, or builds one from parts, is told. */
public final class KnownKeys {

    /** No key is known. */
    public static final KnownKeys NONE = new KnownKeys(new TreeSet<>());

    /** A shorter beginning is one by accident. */
    private static final int SHORTEST = 3;

    private final NavigableSet<String> keys;

    private KnownKeys(NavigableSet<String> keys) {
        this.keys = keys;
    }

    /** These keys. */
    public static KnownKeys of(Collection<String> keys) {
        return new KnownKeys(new TreeSet<>(keys));
    }

    /** Whether a string is a key. */
    boolean has(String said) {
        return keys.contains(said);
    }

    /** Whether a string ends where a part of a key does, and some key goes on from there: {@code harbour.} of {@code harbour.ostrel}. */
    boolean begins(String said) {
        if (said.length() < SHORTEST || ".-_/:".indexOf(said.charAt(said.length() - 1)) < 0) {
            return false;
        }
        String next = keys.higher(said);
        return next != null && next.startsWith(said);
    }
}
