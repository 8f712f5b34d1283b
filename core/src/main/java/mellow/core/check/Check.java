package mellow.core.check;

/** One kind of thing that can be wrong with a text. Has no state; {@link Checks} asks each about every text. */
interface Check {

    /** Looks at all forms together, and adds what it finds. */
    default void lookAt(Inspected text, Found found) {}

    /** Looks at one form beside its source. */
    default void lookAt(Form form, Found found) {}

    /** Looks at a source by itself: its text is what is looked at. */
    default void lookAtSource(Form source, Found found) {}
}
