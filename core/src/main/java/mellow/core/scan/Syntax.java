package mellow.core.scan;

import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * How a kind of source file spells comments and strings, as far as a search for keys and texts needs it: enough to tell them apart, not to compile.
 *
 * @param family what its files are made of
 * @param lineComments what begins a comment that ends with its line
 * @param blockComment whether a comment may stand between slash-star and star-slash
 * @param single what single quotes hold
 * @param backtick what backticks hold
 * @param triple whether three quotes hold a text of several lines
 * @param holes how a string that is put together names its holes
 * @param elements whether markup may stand where a value may
 * @param patterns whether a regular expression may stand between slashes
 */
record Syntax(
        Family family,
        List<String> lineComments,
        boolean blockComment,
        Quoted single,
        Quoted backtick,
        boolean triple,
        Holes holes,
        boolean elements,
        boolean patterns) {

    /** What a file is made of. */
    enum Family {
        /** Words, strings and comments. */
        CODE,
        /** Tags, attributes and text. */
        MARKUP,
        /** Values that a program reads: keys may be in it, texts that people see are kept in it on purpose. */
        DATA
    }

    /** What stands between a kind of quotes. */
    enum Quoted {
        NOTHING,
        LETTER,
        STRING,
        /** A string as it is, without escapes. */
        RAW,
        /** A string with holes. */
        TEMPLATE
    }

    /** How a hole in a string begins. */
    enum Holes {
        NONE(""),
        /** <code>${expression}</code>, in every string. */
        DOLLAR_BRACE("${"),
        /** <code>#{expression}</code>. */
        HASH_BRACE("#{"),
        /** <code>\(expression)</code>. */
        BACKSLASH_PAREN("\\("),
        /** <code>{expression}</code>, in strings that a letter or dollar announces. */
        BRACE("{");

        private final String opening;

        Holes(String opening) {
            this.opening = opening;
        }

        String opening() {
            return opening;
        }
    }

    private static final List<String> SLASHES = List.of("//");
    private static final List<String> HASH = List.of("#");

    private static final Syntax C = code(SLASHES, true, Quoted.LETTER, Quoted.NOTHING, false, Holes.NONE);
    private static final Syntax JAVA = code(SLASHES, true, Quoted.LETTER, Quoted.NOTHING, true, Holes.NONE);
    private static final Syntax KOTLIN = code(SLASHES, true, Quoted.LETTER, Quoted.NOTHING, true, Holes.DOLLAR_BRACE);
    private static final Syntax CSHARP = code(SLASHES, true, Quoted.LETTER, Quoted.NOTHING, true, Holes.BRACE);
    private static final Syntax GO = code(SLASHES, true, Quoted.LETTER, Quoted.RAW, false, Holes.NONE);
    private static final Syntax SWIFT =
            code(SLASHES, true, Quoted.NOTHING, Quoted.NOTHING, true, Holes.BACKSLASH_PAREN);
    private static final Syntax DART = code(SLASHES, true, Quoted.STRING, Quoted.NOTHING, true, Holes.DOLLAR_BRACE);
    private static final Syntax PHP =
            code(List.of("//", "#"), true, Quoted.RAW, Quoted.NOTHING, false, Holes.DOLLAR_BRACE);
    private static final Syntax PYTHON = code(HASH, false, Quoted.STRING, Quoted.NOTHING, true, Holes.BRACE);
    private static final Syntax RUBY = code(HASH, false, Quoted.STRING, Quoted.NOTHING, false, Holes.HASH_BRACE);
    private static final Syntax SHELL = code(HASH, false, Quoted.RAW, Quoted.NOTHING, false, Holes.DOLLAR_BRACE);
    private static final Syntax LUA = code(List.of("--"), false, Quoted.STRING, Quoted.NOTHING, false, Holes.NONE);
    private static final Syntax SCRIPT =
            new Syntax(Family.CODE, SLASHES, true, Quoted.STRING, Quoted.TEMPLATE, false, Holes.NONE, false, true);
    private static final Syntax ELEMENTS =
            new Syntax(Family.CODE, SLASHES, true, Quoted.STRING, Quoted.TEMPLATE, false, Holes.NONE, true, true);
    /** Scripts of panels and whatever else is text: strings in double quotes, which are all that most of them have in common. */
    private static final Syntax PANEL = code(SLASHES, false, Quoted.NOTHING, Quoted.NOTHING, false, Holes.NONE);

    private static final Syntax MARKUP =
            new Syntax(Family.MARKUP, List.of(), false, Quoted.STRING, Quoted.NOTHING, false, Holes.NONE, false, false);
    private static final Syntax DATA =
            new Syntax(Family.DATA, List.of(), false, Quoted.NOTHING, Quoted.NOTHING, false, Holes.NONE, false, false);

    private static final Map<String, Syntax> BY_ENDING = new HashMap<>();

    static {
        add(JAVA, "java scala");
        add(KOTLIN, "kt kts");
        add(C, "c h cc cpp cxx hh hpp hxx m mm ino rs");
        add(CSHARP, "cs");
        add(GO, "go");
        add(SWIFT, "swift");
        add(DART, "dart groovy gradle");
        add(PHP, "php");
        add(PYTHON, "py pyw");
        add(RUBY, "rb");
        add(SHELL, "sh bash zsh pl pm");
        add(LUA, "lua");
        add(SCRIPT, "js mjs cjs ts mts cts");
        add(ELEMENTS, "jsx tsx");
        add(MARKUP, "html htm xhtml xml vue svelte svg jsp fxml xaml ui ftl");
        add(
                DATA,
                "json json5 yml yaml properties po pot xlf xliff csv tsv md txt rst adoc strings stringsdict arb resx ini cfg conf toml css scss sass less lock tmx tbx sql map patch diff gitignore editorconfig");
    }

    private static void add(Syntax syntax, String endings) {
        for (String ending : endings.split(" ")) {
            BY_ENDING.put(ending, syntax);
        }
    }

    private static Syntax code(
            List<String> lineComments,
            boolean blockComment,
            Quoted single,
            Quoted backtick,
            boolean triple,
            Holes holes) {
        return new Syntax(Family.CODE, lineComments, blockComment, single, backtick, triple, holes, false, false);
    }

    /** The syntax of a file, by the ending of its name: data without one, a script of a panel where the ending is not known. */
    static Syntax of(String path) {
        String name = path.substring(path.lastIndexOf('/') + 1);
        if (name.lastIndexOf('.') <= 0) {
            return DATA;
        }
        String ending = name.substring(name.lastIndexOf('.') + 1).toLowerCase(Locale.ROOT);
        return BY_ENDING.getOrDefault(ending, PANEL);
    }

    /** What stands in script elements of a page. */
    static Syntax script() {
        return SCRIPT;
    }

    /** How holes begin in a string of these quotes; {@code announced} by a letter or sign before them. */
    Holes holesIn(char quote, boolean announced) {
        if (quote == '`') {
            return backtick == Quoted.TEMPLATE ? Holes.DOLLAR_BRACE : Holes.NONE;
        }
        if (holes == Holes.BRACE) {
            return announced ? Holes.BRACE : Holes.NONE;
        }
        return quote == '"' || this == DART ? holes : Holes.NONE;
    }

    /** What stands between such quotes. */
    Quoted between(char quote) {
        return switch (quote) {
            case '"' -> Quoted.STRING;
            case '\'' -> single;
            case '`' -> backtick;
            default -> Quoted.NOTHING;
        };
    }

    /** Whether strings beside each other are one. */
    boolean joinsNeighbours() {
        return this == C || this == PYTHON;
    }

    /** Whether commands stand before their texts without parentheses. */
    boolean panel() {
        return this == PANEL;
    }

    /** Whether a function may be called without parentheses. */
    boolean callsWithoutParentheses() {
        return this == RUBY || this == LUA || this == SCRIPT || this == ELEMENTS;
    }
}
