package mellow.core.format.tree;

import java.util.List;

/** A value with its place; offsets are in UTF-16 units of the file's text, {@code end} is after the last. */
public sealed interface Node {

    /** Where it begins. */
    int start();

    /** Where it ends. */
    int end();

    /**
     * Keys with values.
     *
     * @param members in file order
     */
    record Mapping(int start, int end, List<Member> members) implements Node {}

    /**
     * A key with its value.
     *
     * @param key the key as text
     * @param start where the key begins
     * @param comment what stands above it in comments, empty for none
     * @param value its value
     */
    record Member(String key, int start, String comment, Node value) {}

    /** Values in an order. */
    record Sequence(int start, int end, List<Node> items) implements Node {}

    /**
     * One value.
     *
     * @param text what it says, empty for null
     * @param kind what it is
     */
    record Scalar(int start, int end, String text, Kind kind) implements Node {}

    /** What a single value is. */
    enum Kind {
        /** Words. */
        TEXT,
        /** Nothing yet: a text can take its place. */
        NULL,
        /** A number, a truth value, a reference: left alone. */
        OTHER
    }
}
