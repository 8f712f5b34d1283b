package mellow.core.scan;

import mellow.core.scan.KeyUse.Place;

/**
 * A text in code that people would see and that has no key.
 *
 * @param text what it says; a hole of a composed one is {@code {0}}, {@code {1}}…
 * @param kind where it stands
 * @param likelihood how likely people see it, in percent
 * @param composed whether it is put together from pieces or a constant of a class, so that a programmer has to take it out
 * @param place where it is
 * @param spot what a patch has to replace
 */
public record HardText(String text, Kind kind, int likelihood, boolean composed, Place place, Spot spot) {

    /** Where a text stands, which tells how its key is written there. */
    public enum Kind {
        LITERAL,
        ATTRIBUTE,
        TEXT
    }

    /**
     * What a patch replaces: the lines as they are, and where in them the text is with its quotes.
     *
     * @param lines the lines from the place's line on, joined by {@code \n}, without what ends the last; empty when they are too long for a patch
     * @param from where the text begins in them, in UTF-16 units from 0
     * @param to where it ends
     * @param last whether the last of them ends the file without an end of line
     */
    public record Spot(String lines, int from, int to, boolean last) {

        static final Spot NONE = new Spot("", 0, 0, false);

        /** Whether a patch can be made. */
        public boolean known() {
            return to > from;
        }
    }
}
