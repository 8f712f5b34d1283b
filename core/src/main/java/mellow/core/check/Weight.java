package mellow.core.check;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/** How much a kind of finding counts. */
public enum Weight {
    /** It is not looked for. */
    OFF,
    /** It may be meant: people are shown it. */
    MIND,
    /** A text with it does not come into force. */
    STOP;

    /** Its name in addresses, requests and files. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** The weight of that name. */
    public static Optional<Weight> of(String word) {
        return Arrays.stream(values())
                .filter(weight -> weight.word().equals(word))
                .findFirst();
    }
}
