package mellow.core.set;

import java.util.List;
import java.util.Optional;
import mellow.core.language.LanguageTag;
import org.jspecify.annotations.Nullable;

/**
 * Files that are one table in several languages.
 *
 * @param pattern their paths with {@code {}} where the language stands; the path itself of a file that stands alone
 * @param name a name for the table
 * @param members the files, that of the source first
 * @param source what they are translated from, and what tells
 * @param table the number of the table that they were taken into before; null for none
 */
public record FileSet(String pattern, String name, List<Member> members, Source source, @Nullable Long table) {

    public FileSet {
        members = List.copyOf(members);
    }

    /** The same for a table of that number, which is written in that language. */
    public FileSet into(long number, LanguageTag language) {
        Optional<String> leads = source.language().equals(language)
                ? source.path()
                : members.stream()
                        .filter(member -> member.language().equals(Optional.of(language)))
                        .map(Member::path)
                        .findFirst();
        return new FileSet(pattern, name, members, new Source(language, leads, Evidence.TABLE), number);
    }

    /**
     * A file of a set.
     *
     * @param path its path
     * @param language the language of its texts; absent when it names several itself, or nothing tells
     * @param spelled how its path spells the language, empty when it does not
     */
    public record Member(String path, Optional<LanguageTag> language, String spelled) {}

    /**
     * What a set is translated from.
     *
     * @param language the source language
     * @param path the file that holds the sources; absent when every file brings its own, or the table has them
     * @param evidence what tells
     */
    public record Source(LanguageTag language, Optional<String> path, Evidence evidence) {}

    /** What tells the source language of a set, the surest first. */
    public enum Evidence {
        /** The table that the files belong to says so. */
        TABLE,
        /** A template lies beside the others. */
        TEMPLATE,
        /** A file without a language in its name lies beside the others. */
        BASE,
        /** The files say which language they were translated from. */
        TRANSLATED_FROM,
        /** What is untranslated in the others is in this language. */
        UNTRANSLATED,
        /** There is one in English. */
        ENGLISH,
        /** It has more texts than any other. */
        FULLEST,
        /** It is the only one. */
        ALONE
    }
}
