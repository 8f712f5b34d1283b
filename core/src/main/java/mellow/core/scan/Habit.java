package mellow.core.scan;

import com.google.re2j.Pattern;
import com.google.re2j.PatternSyntaxException;
import java.util.List;

/** How code names a key. A product has several: one for its program, one for its pages. */
public sealed interface Habit {

    /**
     * A function that is given the key: {@code t("menu.title")}. Places of arguments count from 0; -1 says that there is none.
     *
     * @param functions names: {@code t} alone, {@code Texts.get} of an owner, {@code *.say} of anything
     * @param key where the key is
     * @param text where the text is that is shown when there is none
     * @param context where the context is
     * @param values where what is put into the text begins
     */
    record Call(List<String> functions, int key, int text, int context, int values) implements Habit {

        /** A copy of what is given. */
        public Call {
            functions = List.copyOf(functions);
        }
    }

    /**
     * Names of resources: {@code R.string.menu_title} in code and {@code @string/menu_title} in markup. A name has underscores where the key may have dots and
     * hyphens.
     *
     * @param owner what they belong to in code, {@code R}
     * @param kinds kinds that are texts, {@code string} and {@code plurals}
     */
    record Resource(String owner, List<String> kinds) implements Habit {

        /** A copy of what is given. */
        public Resource {
            kinds = List.copyOf(kinds);
        }
    }

    /**
     * An attribute of markup that holds the key; what the element says is the text.
     *
     * @param names names, or {@code Tag.name} for one kind of element
     */
    record Attribute(List<String> names) implements Habit {

        /** A copy of what is given. */
        public Attribute {
            names = List.copyOf(names);
        }
    }

    /** A key between marks in any string or text: {@code #menu.title#}. */
    record Mark(String open, String close) implements Habit {}

    /**
     * A comment that names the key of the text behind it: {@code <!-- text: menu.title | Over the list of meals -->Meals}.
     *
     * @param word what such comments begin with, {@code text:}
     */
    record Comment(String word) implements Habit {}

    /**
     * A pattern of one's own.
     *
     * @param name what it is called
     * @param files which files it is looked for in: {@code **}{@code /*.json}
     * @param pattern an expression in the syntax of RE2 with a group named {@code key}, and perhaps {@code text}, {@code context} and {@code note}
     */
    record Own(String name, String files, String pattern) implements Habit {

        /** Longer than anything a person can read. */
        public static final int LONGEST = 1_000;

        /**
         * The pattern, compiled.
         *
         * @throws BadHabitException when it is none or has no group for the key
         */
        Pattern compiled() {
            if (pattern.length() > LONGEST) {
                throw new BadHabitException("The pattern of “" + name + "” has more than " + LONGEST + " characters.");
            }
            try {
                Pattern compiled = Pattern.compile(pattern, Pattern.MULTILINE);
                if (!compiled.namedGroups().containsKey("key")) {
                    throw new BadHabitException(
                            "The pattern of “" + name + "” has no group for the key; write it as (?P<key>…).");
                }
                return compiled;
            } catch (PatternSyntaxException broken) {
                throw new BadHabitException("The pattern of “" + name + "” is none: " + broken.getMessage() + ".");
            }
        }
    }

    /** A habit that cannot be looked for, with a sentence that says why. */
    final class BadHabitException extends RuntimeException {
        BadHabitException(String sentence) {
            super(sentence);
        }
    }
}
