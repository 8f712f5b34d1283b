package mellow.core.check;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/**
 * What can be wrong with a text, as people switch it on and off. The places of kinds are bits in what is stored of texts: a new kind is a line at the end.
 */
public enum Kind {
    /** Placeholders missing, too many, changed or malformed. */
    PLACEHOLDER(Weight.STOP, new PlaceholderCheck()),
    /** Tags missing, too many, unclosed, crossed or changed. */
    MARKUP(Weight.STOP, new MarkupCheck()),
    /** An ICU message that is broken or lacks arguments or branches. */
    MESSAGE(Weight.STOP, new MessageCheck()),
    /** Plural forms or states missing or too many. */
    FORMS(Weight.STOP, new FormsCheck()),
    /** Longer than there is place: characters, lines, pixels. */
    LENGTH(Weight.STOP, new LengthCheck()),
    /** Letters that the product's font or character set lacks. */
    LETTERS(Weight.STOP, new LettersCheck()),
    /** Control characters, damaged encoding, unbalanced directions. */
    CHARACTERS(Weight.STOP, new CharactersCheck()),
    /** An entry without a source text. */
    HOLE(Weight.STOP, new HoleCheck()),
    /** Links and addresses changed. */
    LINK(Weight.MIND, new LinkCheck()),
    /** Numbers changed. */
    NUMBER(Weight.MIND, new NumberCheck()),
    /** Spaces at the ends, doubled spaces, another number of lines. */
    SPACE(Weight.MIND, new SpaceCheck()),
    /** Another mark at the end. */
    ENDING(Weight.MIND, new EndingCheck()),
    /** The same as the source. */
    SAME(Weight.MIND, new SameCheck()),
    /** A word twice in a row. */
    DOUBLED(Weight.MIND, new DoubledCheck()),
    /** Letters of another script, letters that only look right, quotation marks of another language. */
    SCRIPT(Weight.MIND, new ScriptCheck()),
    /** The wordbook not followed. */
    TERM(Weight.MIND, new TermCheck()),
    /** The same source said differently in one table. */
    OTHERWISE(Weight.MIND, new OtherwiseCheck()),
    /** A key outside the table's rule. */
    KEY(Weight.MIND, new KeyCheck()),
    /** Begins with a small letter where the source has a capital, or the other way round. */
    CAPITAL(Weight.MIND, new CapitalCheck()),
    /** A picture or sound of another kind, size or length than that of the source. */
    ASSET(Weight.MIND, new AssetCheck());

    private final Weight usual;
    private final Check check;

    Kind(Weight usual, Check check) {
        this.usual = usual;
        this.check = check;
    }

    /** How much it counts where nobody said otherwise. */
    public Weight usual() {
        return usual;
    }

    Check check() {
        return check;
    }

    /** Its place in stored masks. */
    public long bit() {
        return 1L << ordinal();
    }

    /** Its name in addresses, requests and files. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** The kind of that name. */
    public static Optional<Kind> of(String word) {
        return Arrays.stream(values()).filter(kind -> kind.word().equals(word)).findFirst();
    }
}
