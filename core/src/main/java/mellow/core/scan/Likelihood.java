package mellow.core.scan;

import com.google.re2j.Pattern;
import java.util.Arrays;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * How likely people see a string of code: weighs what it looks like and where it stands. The weights were set on the four source trees of the demo and say so in the
 * documentation; what is surely none (an address, a path, a key, a query, what goes to a log) is left out whatever it weighs.
 */
final class Likelihood {

    /** What reaches this is told. */
    static final int TOLD = 60;

    private static final int SURE = 99;
    private static final int IN_CODE = 45;
    private static final int IN_MARKUP = 80;

    /** No text that people read at once is longer, and no rule of style or pattern of a date that long. */
    private static final int LONGEST = 2_000;

    private static final int SHORT = 400;
    private static final int SHORT_DATE = 40;
    private static final int LONGEST_PLACEHOLDER = 40;

    private static final Set<String> SHOWS = words(
            "settext settitle setlabel setmessage setcaption settooltip settooltiptext sethint setplaceholder setheadertext setcontenttext"
                    + " setpositivebutton setnegativebutton setneutralbutton showmessage showdialog showtoast toast maketext snackbar alert confirm prompt notify"
                    + " announce say speak tell head drawtext filltext text label title message caption tooltip button heading paragraph option"
                    + " addlabel addbutton addtab additem menuitem showerror showwarning showinfo setsubtitle setdescription setcontentdescription"
                    + " setstatus banner popup dialog badge narrate bubble");
    private static final Set<String> HIDES = words(
            "log trace debug info warn warning error fatal verbose wtf v d i w e println printf print fprintf eprintln dbg"
                    + " getelementbyid queryselector queryselectorall getelementsbyclassname addeventlistener removeeventlistener createelement setattribute getattribute"
                    + " require import loadlibrary getproperty setproperty getenv forname classforname getresource getresourceasstream"
                    + " preparestatement preparequery executequery executeupdate execute query rawquery sql createquery nativequery"
                    + " compile matches replaceall replacefirst split join startswith endswith indexof contains equals equalsignorecase compareto"
                    + " fetch open openfile readfile writefile get post put delete header addheader setheader path resolve"
                    + " emit on off once dispatch subscribe publish channel gettopic sendevent track logevent putextra getextra getstringextra getintextra getsystemservice"
                    + " datetimeformatter ofpattern simpledateformat strftime strptime format_date parse valueof"
                    + " assert assertequals asserttrue assertthat expect describe it test fail checkargument checkstate requirenonnull"
                    + " symbol getcolor color font setfont loadfont loadsprite loadimage loadsound playsound image sprite sound texture scene loadscene"
                    + " getitem setitem removeitem hasattr getattr setattr suppresswarnings named qualifier value requestmapping getmapping column table intent action");
    private static final Set<String> SHOWN_NAMES = words(
            "title label text message caption tooltip hint placeholder heading description prompt subtitle summary greeting"
                    + " buttontext labeltext errortext helptext content say line speech headline footer notice question answer okay alt arialabel"
                    + " contentdescription help legend body warning");
    private static final Set<String> HIDDEN_NAMES = words(
            "id key name class classname url uri href src path file filename folder dir type kind pattern format sql query css style event mode selector tag icon color"
                    + " colour cookie env version token locale lang language charset encoding mimetype contenttype method role variant size align font image sprite sound"
                    + " route endpoint host scheme namespace package channel topic action intent category testid datatestid ref slot regex state status theme code account permission");
    private static final Set<String> SHOWN_ATTRIBUTES = words(
            "title alt placeholder label arialabel androidtext androidhint androidcontentdescription androidtitle androidsummary apptitle tooltip caption heading hint summary"
                    + " helpertext ariaroledescription ariadescription ariavaluetext text header emptytext message androidtooltiptext");
    private static final Set<String> TAGS_WITHOUT_TEXT =
            words("script style code pre kbd samp path svg defs lineargradient template");

    private static final Pattern ADDRESS = Pattern.compile(
            "(?i)[\\w.+-]+/[\\w.+-]+;\\s*\\w+=\\S+|(?:[a-z][a-z0-9+.-]{1,15}://|mailto:|tel:|data:|www\\.)\\S*|\\S+@\\S+\\.\\S+|#[0-9a-fA-F]{3,8}");
    private static final Pattern PATH =
            Pattern.compile("[\\w.~@%*$+-]*(?:[/\\\\][\\w.~@%*$+{}:-]*)+|[\\w-]+\\.(?:[a-z]{1,5}[0-9]?)");
    private static final Pattern NAME = Pattern.compile("[\\w$]+(?:[._:\\-][\\w$]+)+|[a-z]+(?:[A-Z][a-z0-9]*)+");
    private static final Pattern DATE =
            Pattern.compile("(?:[yMdHhmsSEaZzXx]{1,5}(?:'[^']{0,5}')?[\\s.,:/\\-T]{0,3}){2,}");
    private static final Pattern QUERY = Pattern.compile(
            "(?is)\\s*(?:select\\b.*\\bfrom\\b|insert\\s+into\\b|update\\b.*\\bset\\b|delete\\s+from\\b|create\\s+(?:table|index|unique|view)\\b|alter\\s+table\\b|drop\\s+table\\b|pragma\\b).*");
    private static final String DATE_LETTERS = "yMdHhmsSEaZzXxT";
    private static final Pattern STYLE = Pattern.compile(
            "(?s)[^{}]*\\{[^{}]*:[^{}]*;?[^{}]*\\}.*|[\\w-]+\\s*:\\s*[\\w#%.() -]+;.*|[.#][\\w-]+(?:[\\s>.#][.#\\w>-]*)*|[\\d.]+(?:px|em|rem|vh|vw|dp|sp|%)(?:\\s.*)?");
    private static final Pattern TAGS_ONLY = Pattern.compile("(?s)\\s*(?:<[^>]*>\\s*)+");
    private static final Pattern PLACEHOLDERS = Pattern.compile("\\{[^{}]{0,40}\\}|%[-+0-9.$#]{0,12}[a-zA-Z]|\\$\\w+");

    private static final Pattern FONTS =
            Pattern.compile("\\b(?:sans-serif|monospace)\\b|\\[[\\w-]+[~|^$*]?=|\\b(?:self|none)';");
    private static final Set<String> QUERY_WORDS = words(
            "select from where join insert into values update delete create table drop alter order group by having returning conflict distinct null exists limit union references constraint primary int bigint varchar jsonb coalesce");

    private Likelihood() {}

    private static Set<String> words(String list) {
        return Arrays.stream(list.split(" ")).map(Likelihood::bare).collect(Collectors.toUnmodifiableSet());
    }

    /**
     * Where a string of code stands.
     *
     * @param callee the function it is given to, without its owner, empty for none
     * @param owner what the function belongs to, empty for nothing
     * @param name what it is given to: a variable, a property, an attribute; empty for nothing
     * @param hidden whether its place alone says that nobody sees it: thrown, compared, an annotation's
     * @param returned whether a function gives it back
     */
    record Where(String callee, String owner, String name, boolean hidden, boolean returned) {}

    /** Of a string in code, in percent; 0 when it surely is none. */
    static int inCode(String text, Where where) {
        if (where.hidden || nothingToSay(text) || technical(withoutHoles(text))) {
            return 0;
        }
        int weight = IN_CODE + looks(text);
        String callee = bare(where.callee);
        String name = bare(where.name);
        if (HIDES.contains(callee) && !(callee.length() > 1 && SHOWS.contains(callee))) {
            return 0;
        }
        if (hidesByOwner(where.owner, callee)) {
            return 0;
        }
        if (SHOWS.contains(callee)) {
            weight += 30;
        }
        if (HIDDEN_NAMES.contains(name)) {
            weight -= 40;
        } else if (SHOWN_NAMES.contains(name)) {
            weight += 30;
        }
        if (where.returned) {
            weight += 5;
        }
        return Math.max(0, Math.min(SURE, weight));
    }

    /** Of text between tags. */
    static int inMarkup(String text, String tag) {
        if (nothingToSay(text) || TAGS_WITHOUT_TEXT.contains(bare(tag)) || ADDRESS.matches(text)) {
            return 0;
        }
        return Math.min(SURE, IN_MARKUP + Math.max(-15, looks(text)));
    }

    /** Of an attribute of markup. */
    static int ofAttribute(String text, String name) {
        String bare = bare(name);
        if (nothingToSay(text) || !SHOWN_ATTRIBUTES.contains(bare) || text.startsWith("@") || ADDRESS.matches(text)) {
            return 0;
        }
        if (NAME.matches(text) || text.startsWith("{") && text.endsWith("}")) {
            return 0;
        }
        return Math.min(SURE, IN_MARKUP + Math.max(-15, looks(text)));
    }

    /** What the text itself speaks for or against. */
    private static int looks(String text) {
        int weight = 0;
        int words = 0;
        boolean before = false;
        boolean foreign = false;
        int letters = 0;
        for (int at = 0; at < text.length(); at++) {
            char c = text.charAt(at);
            boolean letter = Character.isLetter(c);
            if (letter && !before) {
                words++;
            }
            letters += letter ? 1 : 0;
            foreign |= letter && c > 0x17f;
            before = letter || c == '\'' || c == '’' || c == '-';
        }
        String stripped = text.strip();
        char first = stripped.charAt(0);
        char last = stripped.charAt(stripped.length() - 1);
        boolean spaced = stripped.indexOf(' ') > 0;
        if (words >= 4 && spaced) {
            weight += 30;
        } else if (words >= 2 && spaced) {
            weight += 20;
        } else if (words == 1 && Character.isLowerCase(first)) {
            weight -= 30;
        } else if (letters <= 2) {
            weight -= 15;
        }
        if (Character.isUpperCase(first) && stripped.length() > 1 && Character.isLowerCase(stripped.charAt(1))) {
            weight += 8;
        }
        if (".!?…".indexOf(last) >= 0 && words >= 2) {
            weight += 8;
        }
        if (stripped.indexOf('_') > 0 && !PLACEHOLDERS.matcher(stripped).find()) {
            weight -= 25;
        }
        if (words >= 2 && stripped.equals(stripped.toUpperCase(Locale.ROOT)) && !foreign) {
            weight -= 20;
        }
        if (foreign) {
            weight += 20;
        }
        if (words >= 2 && spaced && Character.isLowerCase(first) && last != '.' && last != '!' && last != '?') {
            weight -= 12;
        }
        return weight;
    }

    /** Without letters of a word there is nothing to translate; those of placeholders do not count. */
    private static boolean nothingToSay(String text) {
        int run = 0;
        int at = 0;
        while (at < text.length()) {
            char c = text.charAt(at);
            int behind = c == '{' || c == '%' || c == '$' ? behindPlaceholder(text, at) : at;
            if (behind > at) {
                run = 0;
                at = behind;
                continue;
            }
            run = Character.isLetter(c) ? run + 1 : 0;
            if (run >= 2 || run == 1 && c > 0x2e7f) {
                return false;
            }
            at++;
        }
        return true;
    }

    /** Where a placeholder ends that begins at a sign; the same place when none does. */
    private static int behindPlaceholder(String text, int at) {
        char sign = text.charAt(at);
        int end = at + 1;
        if (sign == '{') {
            while (end < text.length() && end - at <= LONGEST_PLACEHOLDER && "{}".indexOf(text.charAt(end)) < 0) {
                end++;
            }
            return end < text.length() && text.charAt(end) == '}' ? end + 1 : at;
        }
        while (sign == '%' && end < text.length() && "-+0123456789.$#".indexOf(text.charAt(end)) >= 0) {
            end++;
        }
        int letters = end;
        while (end < text.length()
                && text.charAt(end) < 0x80
                && Character.isLetterOrDigit(text.charAt(end))
                && (sign == '$' || end == letters)) {
            end++;
        }
        return end > letters ? end : at;
    }

    /** A text whose holes are a letter, so that what is computed reads like a word where it comes to names and paths. */
    private static String withoutHoles(String text) {
        if (text.indexOf('{') < 0) {
            return text;
        }
        StringBuilder plain = new StringBuilder(text.length());
        int at = 0;
        while (at < text.length()) {
            int behind = text.charAt(at) == '{' && at + 1 < text.length() && Character.isDigit(text.charAt(at + 1))
                    ? behindPlaceholder(text, at)
                    : at;
            plain.append(behind > at ? 'x' : text.charAt(at));
            at = Math.max(behind, at + 1);
        }
        return plain.toString();
    }

    /** Most strings are decided by their first look; the patterns see few. */
    private static boolean technical(String text) {
        String said = text.strip();
        if (said.length() > LONGEST || mostlySigns(said)) {
            return true;
        }
        char first = said.charAt(0);
        boolean spaced = said.chars().anyMatch(Character::isWhitespace);
        if (!spaced && (plainName(said) || maybeName(said) && (PATH.matches(said) || NAME.matches(said)))) {
            return true;
        }
        if (first == '<' && TAGS_ONLY.matches(said) || said.indexOf(':') > 0 && said.contains(":\"")) {
            return true;
        }
        if (query(said) || maybeFont(said) && FONTS.matcher(said).find()) {
            return true;
        }
        boolean maybeAddress = said.indexOf(':') >= 0
                || said.indexOf('@') > 0
                || said.indexOf('/') > 0 && said.indexOf(';') > 0
                || first == '#'
                || first == 'w';
        boolean maybeStyle = Character.isDigit(first)
                || first == '.'
                || first == '#'
                || said.indexOf(';') > 0
                || said.indexOf('{') >= 0;
        return maybeAddress && ADDRESS.matches(said)
                || spaced && "siudcap".indexOf(Character.toLowerCase(first)) >= 0 && QUERY.matches(said)
                || maybeStyle && said.length() < SHORT && STYLE.matches(said)
                || said.length() < SHORT_DATE && maybeDate(said) && DATE.matches(said);
    }

    // What follows spares most strings the patterns, which take a hundred times as long as a look at the characters.

    private static boolean maybeName(String said) {
        for (int at = 0; at < said.length(); at++) {
            if ("./\\_:-$~".indexOf(said.charAt(at)) >= 0) {
                return true;
            }
        }
        return false;
    }

    private static boolean maybeFont(String said) {
        return said.contains("sans-serif")
                || said.contains("monospace")
                || said.indexOf('[') >= 0
                || said.indexOf('\'') > 0;
    }

    private static boolean maybeDate(String said) {
        for (int at = 0; at < said.length(); at++) {
            char c = said.charAt(at);
            if (Character.isLetter(c) && DATE_LETTERS.indexOf(c) < 0) {
                return said.indexOf('\'') >= 0;
            }
        }
        return true;
    }

    /** A query or a part of one, by its words. */
    private static boolean query(String said) {
        if (said.indexOf(' ') < 0 && said.indexOf('\n') < 0) {
            return false;
        }
        int words = 0;
        int at = 0;
        while (at < said.length()) {
            int start = at;
            while (at < said.length() && Character.isLetter(said.charAt(at))) {
                at++;
            }
            if (at > start
                    && at - start < 12
                    && QUERY_WORDS.contains(said.substring(start, at).toLowerCase(Locale.ROOT))) {
                words++;
            }
            at = at == start ? at + 1 : at;
        }
        boolean signs =
                said.indexOf('=') >= 0 || said.indexOf('_') >= 0 || said.indexOf('*') >= 0 || said.indexOf('(') >= 0;
        return signs && words >= 2 || words >= 4;
    }

    /** {@code save}, {@code SAVE}: one word that is no sentence, but may be a label; {@code saveAll}, {@code save_all}, {@code a1} are names. */
    private static boolean plainName(String said) {
        boolean upper = false;
        for (int at = 0; at < said.length(); at++) {
            char c = said.charAt(at);
            if (c == '_' || c == '$' || c < 0x80 && Character.isDigit(c)) {
                return said.chars().allMatch(Character::isJavaIdentifierPart);
            }
            upper |= at > 0 && Character.isUpperCase(c) && Character.isLowerCase(said.charAt(at - 1));
        }
        return upper && said.chars().allMatch(Character::isLetter);
    }

    /** Expressions, formats, drawings in letters: less than half of it letters and spaces. */
    private static boolean mostlySigns(String text) {
        int plain = 0;
        for (int at = 0; at < text.length(); at++) {
            char c = text.charAt(at);
            plain += Character.isLetter(c) || c == ' ' ? 1 : 0;
        }
        return plain * 2 < text.length()
                || text.contains("\\d")
                || text.contains("\\w")
                || text.contains("(?:")
                || text.contains(".*");
    }

    private static boolean hidesByOwner(String owner, String callee) {
        String bare = bare(owner);
        return bare.equals("console")
                || bare.equals("log")
                || bare.equals("logger")
                || bare.equals("logging")
                || bare.equals("timber")
                || bare.equals("assertions")
                || bare.equals("system") && !SHOWS.contains(callee);
    }

    /** A name without its case, hyphens, colons and underscores, so that habits of spelling do not count. */
    static String bare(String name) {
        StringBuilder bare = new StringBuilder(name.length());
        for (int at = 0; at < name.length(); at++) {
            char c = name.charAt(at);
            if (Character.isLetterOrDigit(c)) {
                bare.append(c);
            }
        }
        return bare.toString().toLowerCase(Locale.ROOT);
    }
}
