package mellow.core.check;

import java.util.List;

/** One thing that can be wrong with a text. Has no state; {@link Checks} asks each about every text. */
interface Check {

    /** Whether what it finds stands against settling a text. */
    default boolean blocks() {
        return false;
    }

    /** Looks at all forms together, and adds what it finds. */
    default void lookAt(Inspected text, List<Finding> found) {}

    /** Looks at one form. */
    default void lookAt(Inspected.Form form, List<Finding> found) {}
}
