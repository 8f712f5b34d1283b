package mellow.core.format;

import java.util.List;

/**
 * What is known of a format without looking into a file.
 *
 * @param name its name in options and in what {@code inspect} prints, such as "po"
 * @param aliases other names it is known by
 * @param endings endings of new files, without a dot; the first is the usual one
 * @param otherEndings endings by which files of it are known but not written
 * @param mediaType what HTTP calls it
 * @param languages how many languages a file holds texts in
 * @param inPlace whether a file can be written in place, with all of it but the changed texts the same bytes
 * @param spellsItself whether a file says its own character set, or there is only one
 */
public record Traits(
        String name,
        List<String> aliases,
        List<String> endings,
        List<String> otherEndings,
        String mediaType,
        Languages languages,
        boolean inPlace,
        boolean spellsItself) {

    public Traits {
        aliases = List.copyOf(aliases);
        endings = List.copyOf(endings);
        otherEndings = List.copyOf(otherEndings);
        if (endings.isEmpty()) {
            throw new IllegalArgumentException(name + " has no ending");
        }
    }

    /** How many languages a file holds texts in. */
    public enum Languages {
        /** One. */
        ONE,
        /** That of the sources, and one translation of each. */
        PAIR,
        /** Any number. */
        MANY
    }

    /** A text format of files in one language each, read in any character set and written in place. */
    public static Traits of(String name, String ending, String mediaType) {
        return new Traits(name, List.of(), List.of(ending), List.of(), mediaType, Languages.ONE, true, false);
    }

    /** The same also named like that. */
    public Traits alias(String... also) {
        return new Traits(name, List.of(also), endings, otherEndings, mediaType, languages, inPlace, spellsItself);
    }

    /** The usual ending of a new file, without a dot. */
    public String ending() {
        return endings.get(0);
    }

    /** The same whose new files may also end like that. */
    public Traits alsoEnding(String also) {
        return new Traits(
                name, aliases, List.of(ending(), also), otherEndings, mediaType, languages, inPlace, spellsItself);
    }

    /** The same of files that end like that elsewhere. */
    public Traits knownBy(String... also) {
        return new Traits(name, aliases, endings, List.of(also), mediaType, languages, inPlace, spellsItself);
    }

    /** The same with texts in so many languages. */
    public Traits in(Languages many) {
        return new Traits(name, aliases, endings, otherEndings, mediaType, many, inPlace, spellsItself);
    }

    /** The same that cannot be written in place. */
    public Traits onlyFresh() {
        return new Traits(name, aliases, endings, otherEndings, mediaType, languages, false, spellsItself);
    }

    /** The same that says its own character set. */
    public Traits spellingItself() {
        return new Traits(name, aliases, endings, otherEndings, mediaType, languages, inPlace, true);
    }
}
