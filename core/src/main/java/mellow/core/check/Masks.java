package mellow.core.check;

import java.util.Collection;

/**
 * What is found in a text, as stored beside it.
 *
 * @param stops bits of the kinds that stop it
 * @param minds bits of the kinds to mind
 */
public record Masks(long stops, long minds) {

    /** A sound text. */
    public static final Masks NONE = new Masks(0, 0);

    /** The kinds among {@code findings}. */
    public static Masks of(Collection<Finding> findings) {
        long stops = 0;
        long minds = 0;
        for (Finding finding : findings) {
            if (finding.blocks()) {
                stops |= finding.kind().bit();
            } else {
                minds |= finding.kind().bit();
            }
        }
        return stops == 0 && minds == 0 ? NONE : new Masks(stops, minds);
    }

    /** Whether there is nothing. */
    public boolean none() {
        return stops == 0 && minds == 0;
    }
}
