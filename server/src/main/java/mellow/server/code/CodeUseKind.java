package mellow.server.code;

import mellow.core.scan.KeyUse.How;

/** How code uses an entry; the numbers are stored and never change, and the surer is the higher one. */
enum CodeUseKind {
    /** Never seen. */
    UNUSED,
    /** A part of the key is computed, or it is only mentioned. */
    MAYBE,
    /** In code that tests the product. */
    TESTS,
    USED;

    short code() {
        return (short) ordinal();
    }

    static CodeUseKind of(How how, boolean test) {
        if (how != How.WHOLE) {
            return MAYBE;
        }
        return test ? TESTS : USED;
    }
}
