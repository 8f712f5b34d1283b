package mellow.core.cell;

/**
 * Who causes an event, with the rights they hold in the cell's language.
 *
 * @param person the person's number
 * @param contributes may offer
 * @param reviews may settle; implies {@code contributes}
 * @param settlesOwn the language lets reviewers settle their own texts (no four eyes)
 * @param program a machine: whatever it brings is pencilled
 */
public record Actor(long person, boolean contributes, boolean reviews, boolean settlesOwn, boolean program) {

    public Actor {
        if (reviews && !contributes) {
            throw new IllegalArgumentException("a reviewer may always contribute");
        }
    }
}
