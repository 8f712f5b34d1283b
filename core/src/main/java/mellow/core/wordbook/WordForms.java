package mellow.core.wordbook;

import java.text.Normalizer;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Knows the forms of words in a language by light rules of its own: endings that come and go, sounds that change with them, words that are written together. Two
 * words are forms of one when something that is left of both without an ending is the same. That is no grammar: rare forms are missed, and words that differ in
 * nothing but an ending are taken for one. What the rules do not reach is written into the wordbook as a further form. Immutable.
 */
public final class WordForms {

    /** What is left of a word has at least so many letters. */
    private static final int LEAST = 3;
    /** Words of a compound have at least so many. */
    private static final int PART = 3;
    /** A term shorter than that is not looked for in compounds: "Tor" is no part of "Doktor". */
    private static final int LEAST_IN_COMPOUND = 4;

    private static final Pattern WORD = Pattern.compile("[\\p{L}\\p{M}\\p{N}]+");
    private static final Pattern MARKS = Pattern.compile("\\p{Mn}+");
    private static final Pattern DOUBLED = Pattern.compile("([bcdfghjklmnpqrstvwxz])\\1");

    /** What is known of a language beside its endings. */
    private enum Trait {
        /** Words are written together. */
        COMPOUNDS,
        /** Terms are written down without an ending, so theirs is a part of them. */
        BASE_FORMS,
        /** A letter with a mark is another letter, but for those that a form brings. */
        MARKS,
        /** Nouns have a capital letter wherever they stand. */
        CAPITAL_NOUNS,
        /** Endings that begin with a consonant follow a vowel. */
        AFTER_VOWELS
    }

    private final String[] beginnings;
    private final String[] endings;
    private final Set<Trait> traits;
    private final UnaryOperator<String> rest;

    private WordForms(String beginnings, String endings, UnaryOperator<String> rest, Trait... traits) {
        this.beginnings = beginnings.isEmpty() ? new String[0] : beginnings.split(" ");
        this.endings = endings.isEmpty() ? new String[0] : endings.split(" ");
        this.traits = Set.of(traits);
        this.rest = rest;
    }

    /** Of languages that are not known: the beginning of a word is the word. */
    private static final WordForms OTHER = new WordForms("", "", UnaryOperator.identity());

    private static final Map<String, WordForms> BY_LANGUAGE = Map.ofEntries(
            Map.entry("en", new WordForms("", "s es ies 's s' ed d ing ing>e", WordForms::english)),
            Map.entry(
                    "de",
                    new WordForms(
                            "",
                            "e n en s es er ern em nen se sen",
                            UnaryOperator.identity(),
                            Trait.COMPOUNDS,
                            Trait.BASE_FORMS,
                            Trait.MARKS,
                            Trait.CAPITAL_NOUNS)),
            Map.entry("nl", new WordForms("", "s en n e eren", WordForms::single, Trait.COMPOUNDS, Trait.BASE_FORMS)),
            Map.entry("sv", scandinavian()),
            Map.entry("da", scandinavian()),
            Map.entry("nb", scandinavian()),
            Map.entry(
                    "fi",
                    new WordForms(
                            "",
                            "n t et a ta tta ssa sta lla lta lle na ksi an en in on un yn han hin hen ja ia ita jen ien iden itten oihin iin issa ista illa ilta ille ina iksi "
                                    + "ni si nsa mme nne nsa ssani ssasi llani kin kaan ko i seen den",
                            WordForms::finnish,
                            Trait.COMPOUNDS,
                            Trait.BASE_FORMS,
                            Trait.MARKS)),
            Map.entry(
                    "et",
                    new WordForms(
                            "",
                            "a e i u t d s sse st le l lt ks ni na ta ga de te sid id et ed il el al ilt elt alt ile ele ale ist est ast is es as iks eks aks isse esse asse dele tele "
                                    + "del tel delt telt des tes dest test ides idest idel idele iga ega aga dega tega",
                            WordForms::finnic,
                            Trait.COMPOUNDS,
                            Trait.BASE_FORMS,
                            Trait.MARKS,
                            Trait.AFTER_VOWELS)),
            Map.entry(
                    "pl",
                    new WordForms(
                            "",
                            "a ą ę e y i u o ie om ow owi em iem ami iami ach iach ia ią ię iom im mi ego emu ej ych ym ymi ich imi owy owa owe owej owego owemu owym owych owymi",
                            WordForms::polish)),
            Map.entry("pt", new WordForms("", "s es", WordForms::portuguese)),
            Map.entry("es", new WordForms("", "s es", WordForms::spanish)),
            Map.entry("fr", new WordForms("l' d' qu' s' n' j'", "s x e es", UnaryOperator.identity())),
            Map.entry("it", new WordForms("l' d' dell' all' nell' sull' un'", "o a i e", WordForms::italian)),
            Map.entry(
                    "ar",
                    new WordForms(
                            "ال لل وال بال كال فال ولل و ف ب ك ل",
                            "ات ون ين ان تان تين ها هم نا كم ية ه ي",
                            WordForms::arabic)));

    private static WordForms scandinavian() {
        return new WordForms(
                "",
                "s en et n t er ar or r a na erna arna orna ens ets ene e",
                WordForms::single,
                Trait.COMPOUNDS,
                Trait.BASE_FORMS,
                Trait.MARKS);
    }

    /** The forms of a language; those of a word as it is written where nothing is known of it. */
    public static WordForms in(Locale language) {
        return BY_LANGUAGE.getOrDefault(language.getLanguage(), OTHER);
    }

    /**
     * A word, and what it may be without its endings.
     *
     * @param capital whether it begins with a capital letter
     * @param marked in small letters, as it is written
     * @param plain the same without marks
     * @param base what stands for it as it is
     * @param stems what it may be a form of
     */
    public record Word(boolean capital, String marked, String plain, String base, Set<String> stems) {}

    /**
     * What every text that has a form of {@code term} has in it, in small letters, so that others need not be looked at: at most three letters of its first word,
     * before the first that an ending or a mark may change; empty where nothing is sure.
     */
    public String beginning(String term, Locale language) {
        String small = term.strip().toLowerCase(language);
        if (small.isEmpty() || Unspaced.is(small.codePointAt(0))) {
            return small.substring(
                    0, small.offsetByCodePoints(0, Math.min(LEAST, small.codePointCount(0, small.length()))));
        }
        List<Word> words = words(term, language);
        String first = words.isEmpty() ? "" : words.get(0).marked;
        String changing = language.getLanguage().equals("en") ? "y" : "aeiouy";
        int end = 0;
        while (end < Math.min(LEAST, first.length())
                && first.charAt(end) < 0x80
                && changing.indexOf(first.charAt(end)) < 0) {
            end++;
        }
        return first.substring(0, end);
    }

    /** The words of a text, in their order. */
    public List<Word> words(String text, Locale language) {
        List<Word> words = new ArrayList<>();
        Matcher match = WORD.matcher(text);
        while (match.find()) {
            words.add(word(
                    Character.isUpperCase(text.codePointAt(match.start())),
                    match.group().toLowerCase(language)));
        }
        return words;
    }

    private Word word(boolean capital, String marked) {
        String plain = plain(marked);
        Set<String> stems = new LinkedHashSet<>();
        add(stems, plain);
        for (String beginning : beginnings) {
            if (plain.startsWith(beginning) && plain.length() - beginning.length() >= 2) {
                add(stems, plain.substring(beginning.length()));
            }
        }
        return new Word(capital, marked, plain, rest.apply(plain), stems);
    }

    private void add(Set<String> stems, String word) {
        stems.add(rest.apply(word));
        for (String ending : endings) {
            int becomes = ending.indexOf('>');
            String gone = becomes < 0 ? ending : ending.substring(0, becomes);
            int left = word.length() - gone.length();
            if (left >= LEAST && word.endsWith(gone) && follows(word, left)) {
                String stem = word.substring(0, left) + (becomes < 0 ? "" : ending.substring(becomes + 1));
                stems.add(rest.apply(stem));
            }
        }
    }

    /** Whether an ending may begin there. */
    private boolean follows(String word, int at) {
        return !traits.contains(Trait.AFTER_VOWELS) || vowel(word.charAt(at)) || vowel(word.charAt(at - 1));
    }

    private static boolean vowel(char letter) {
        return "aeiouy".indexOf(letter) >= 0;
    }

    /** Without marks, which come and go with endings, and in one spelling of letters that have several. */
    static String plain(String word) {
        boolean simple = true;
        for (int i = 0; i < word.length() && simple; i++) {
            simple = word.charAt(i) < 0x80;
        }
        if (simple) {
            return word;
        }
        return MARKS.matcher(Normalizer.normalize(word, Normalizer.Form.NFD))
                .replaceAll("")
                .replace('ł', 'l')
                .replace('ø', 'o')
                .replace("ß", "ss")
                .replace("ـ", "");
    }

    /** Whether {@code said} is a form of {@code term}, or written together with it. */
    public boolean says(Word said, Word term) {
        return isForm(said, term) || traits.contains(Trait.COMPOUNDS) && isCompound(said, term);
    }

    /** Whether both are forms of one word. */
    boolean isForm(Word said, Word term) {
        if (said.marked.equals(term.marked)) {
            return true;
        }
        if (this == OTHER) {
            return said.plain.startsWith(beginning(term.plain));
        }
        if (traits.contains(Trait.CAPITAL_NOUNS) && term.capital && !said.capital
                || traits.contains(Trait.MARKS) && !keepsMarks(said, term)) {
            return false;
        }
        return traits.contains(Trait.BASE_FORMS)
                ? said.stems.contains(term.base)
                : term.stems.stream().anyMatch(said.stems::contains);
    }

    /** What a term is found by: one of them is among the {@link #saidKeys} of each of its forms. */
    Set<String> termKeys(Word term) {
        if (this == OTHER) {
            return saidKeys(term);
        }
        return traits.contains(Trait.BASE_FORMS) ? Set.of(term.base) : term.stems;
    }

    /** What a word of a text is looked up by. */
    Set<String> saidKeys(Word said) {
        return this == OTHER ? Set.of(said.plain.substring(0, Math.min(LEAST, said.plain.length()))) : said.stems;
    }

    private static String beginning(String word) {
        return word.length() <= LEAST_IN_COMPOUND
                ? word.substring(0, Math.min(LEAST, word.length()))
                : word.substring(0, Math.max(LEAST, (word.length() * 3 + 4) / 5));
    }

    /** "Häfen" is a form of "Hafen", but "fahren" none of "Fähre". */
    private static boolean keepsMarks(Word said, Word term) {
        if (term.marked.equals(term.plain) || said.marked.length() != said.plain.length()) {
            return true;
        }
        int same = 0;
        int most = Math.min(said.marked.length(), term.marked.length());
        while (same < most && said.marked.charAt(same) == term.marked.charAt(same)) {
            same++;
        }
        // Where both part in the mark of one letter, they are two words.
        return same >= most || said.plain.charAt(same) != term.plain.charAt(same);
    }

    private boolean isCompound(Word said, Word term) {
        if (term.plain.length() < LEAST_IN_COMPOUND || said.plain.length() < term.plain.length() + PART) {
            return false;
        }
        boolean small = traits.contains(Trait.CAPITAL_NOUNS) && term.capital && !said.capital;
        if (small) {
            return false;
        }
        if (said.marked.startsWith(term.marked)) {
            return true;
        }
        // Marks are kept where both spellings have as many letters.
        String spelled = said.marked.length() == said.plain.length() ? said.marked : said.plain;
        if (traits.contains(Trait.AFTER_VOWELS) && isFirst(spelled, term)) {
            return true;
        }
        // The last part has the endings.
        for (int at = PART; at <= said.plain.length() - LEAST; at++) {
            if (said.plain.length() - at <= term.plain.length() + PART
                    && said.plain.charAt(at) == term.plain.charAt(0)
                    && isForm(word(true, spelled.substring(at)), term)) {
                return true;
            }
        }
        return false;
    }

    /** Whether the first part of a compound is the term with an ending of its own: "pils|i|pump". */
    private boolean isFirst(String said, Word term) {
        int longest = Math.min(said.length() - LEAST_IN_COMPOUND, term.plain.length() + 2);
        for (int at = Math.max(LEAST, term.plain.length() - 1); at <= longest; at++) {
            if (vowel(said.charAt(at - 1)) && isForm(word(true, said.substring(0, at)), term)) {
                return true;
            }
        }
        return false;
    }

    private static String english(String left) {
        // "stopp|ing", "clos|ing", "ferr|ies".
        if (left.endsWith("i")) {
            return left.substring(0, left.length() - 1) + "y";
        }
        int last = left.length() - 1;
        if (last >= LEAST && left.charAt(last) == left.charAt(last - 1) && "bdgmnprt".indexOf(left.charAt(last)) >= 0) {
            return left.substring(0, last);
        }
        return left;
    }

    private static String single(String left) {
        return DOUBLED.matcher(left).replaceAll("$1");
    }

    /** "avain, avaim|en", beside what Finnish and Estonian have in common. */
    private static String finnish(String left) {
        return finnic(left.endsWith("m") ? left.substring(0, left.length() - 1) + "n" : left);
    }

    /** Consonants change with the endings: "hytti, hytin", "ranta, rannan", "kansi, kannen"; "ramp, rambi". Vowels at the end belong to them. */
    private static String finnic(String left) {
        String plain = left.replace('d', 't').replace('b', 'p').replace('g', 'k');
        plain = DOUBLED.matcher(plain).replaceAll("$1");
        int end = plain.length();
        while (end > LEAST && vowel(plain.charAt(end - 1))) {
            end--;
        }
        plain = plain.substring(0, end);
        if (plain.length() > LEAST && (plain.endsWith("ns") || plain.endsWith("nt"))) {
            plain = plain.substring(0, plain.length() - 1);
        }
        return plain;
    }

    /** Consonants soften: "pokład, pokładzie", "port, porcie"; an e falls out: "statek, statku". */
    private static String polish(String left) {
        String soft = left;
        if (soft.endsWith("dzi")) {
            soft = soft.substring(0, soft.length() - 2);
        } else if (soft.endsWith("dz")) {
            soft = soft.substring(0, soft.length() - 1);
        } else if (soft.endsWith("ci")) {
            soft = soft.substring(0, soft.length() - 2) + "t";
        } else if (soft.endsWith("rz") && soft.length() > LEAST) {
            soft = soft.substring(0, soft.length() - 1);
        } else if (soft.endsWith("i") && soft.length() > LEAST) {
            soft = soft.substring(0, soft.length() - 1);
        }
        if (soft.length() > LEAST && soft.endsWith("ek")) {
            soft = soft.substring(0, soft.length() - 2) + "k";
        }
        return soft.endsWith("c") && soft.length() > LEAST ? soft.substring(0, soft.length() - 1) + "t" : soft;
    }

    private static String portuguese(String left) {
        // "estações" is "estacoes" here; "viagens", "papéis".
        if (left.endsWith("oes") || left.endsWith("aes")) {
            return left.substring(0, left.length() - 3) + "ao";
        }
        if (left.endsWith("oe") || left.endsWith("ae")) {
            return left.substring(0, left.length() - 2) + "ao";
        }
        if (left.endsWith("n")) {
            return left.substring(0, left.length() - 1) + "m";
        }
        if (left.endsWith("ei") || left.endsWith("ai") || left.endsWith("oi")) {
            return left.substring(0, left.length() - 1) + "l";
        }
        return left.endsWith("da") && left.length() > 4 ? left.substring(0, left.length() - 1) + "o" : left;
    }

    private static String spanish(String left) {
        return left.endsWith("c") ? left.substring(0, left.length() - 1) + "z" : left;
    }

    private static String italian(String left) {
        return left.endsWith("h") ? left.substring(0, left.length() - 1) : left;
    }

    private static String arabic(String left) {
        String one = left.replace('أ', 'ا')
                .replace('إ', 'ا')
                .replace('آ', 'ا')
                .replace('ى', 'ي')
                .replace('ئ', 'ي')
                .replace('ؤ', 'و');
        return one.endsWith("ة") || one.endsWith("ت") && one.length() > LEAST
                ? one.substring(0, one.length() - 1)
                : one;
    }
}
