package mellow.core.check;

import java.lang.Character.UnicodeScript;
import java.util.BitSet;
import java.util.Map;
import java.util.Set;

/**
 * Letters of another script inside a word that only look right, words of a script that the language does not use, quotation marks of another language.
 * Latin names stand in texts of every script; single letters of mathematics and units stand in all of them.
 */
final class ScriptCheck implements Check {

    private static final String CYRILLIC = "АВЕКМНОРСТХаеорсухіјѕЅІЈ";
    private static final String LATIN_LIKE_CYRILLIC = "ABEKMHOPCTXaeopcyxijsSIJ";
    private static final String GREEK = "ΑΒΕΖΗΙΚΜΝΟΡΤΥΧο";
    private static final String LATIN_LIKE_GREEK = "ABEZHIKMNOPTYXo";

    /** Pairs of quotation marks that are at home in languages which are strict about them. */
    private static final Map<String, Set<String>> QUOTES = Map.ofEntries(
            Map.entry("de", Set.of("„“", "»«", "«»")),
            Map.entry("cs", Set.of("„“", "»«")),
            Map.entry("sk", Set.of("„“", "»«")),
            Map.entry("sl", Set.of("„“", "»«")),
            Map.entry("pl", Set.of("„”", "«»", "»«")),
            Map.entry("hu", Set.of("„”", "»«")),
            Map.entry("ro", Set.of("„”", "«»")),
            Map.entry("et", Set.of("„”", "„“", "«»")),
            Map.entry("lt", Set.of("„“", "«»")),
            Map.entry("lv", Set.of("„”", "“”", "«»", "„“")),
            Map.entry("fi", Set.of("””", "»»")),
            Map.entry("sv", Set.of("””", "»»", "»«")),
            Map.entry("ru", Set.of("«»", "„“")),
            Map.entry("uk", Set.of("«»", "„“", "“”")),
            Map.entry("bg", Set.of("„“", "«»")),
            Map.entry("fr", Set.of("«»", "“”")));

    private static final String DOUBLE_QUOTES = "„“”«»‟";

    @Override
    public void lookAt(Form form, Found found) {
        if (form.source().isEmpty() || form.source().equals(form.text()) || form.pattern()) {
            return;
        }
        boolean mixed = Traits.in(form.traits(), Traits.OTHER_LETTER)
                && Traits.in(form.traits(), Traits.LATIN)
                && lookalikes(form, found);
        if (!mixed) {
            foreign(form, found);
        }
        if (Traits.in(form.traits(), Traits.QUOTE)) {
            quotes(form, found);
        }
    }

    /** A word of Cyrillic or Greek with Latin letters in it that look the same, or the other way round. */
    private static boolean lookalikes(Form form, Found found) {
        String text = form.text();
        BitSet closed = Closed.in(text, form.traits(), form);
        int at = 0;
        while (at < text.length()) {
            if (!Character.isLetter(text.charAt(at)) || closed.get(at)) {
                at++;
                continue;
            }
            int start = at;
            int latin = 0;
            int cyrillic = 0;
            int greek = 0;
            while (at < text.length() && Character.isLetter(text.charAt(at))) {
                UnicodeScript script = UnicodeScript.of(text.charAt(at));
                latin += script == UnicodeScript.LATIN ? 1 : 0;
                cyrillic += script == UnicodeScript.CYRILLIC ? 1 : 0;
                greek += script == UnicodeScript.GREEK ? 1 : 0;
                at++;
            }
            if (latin > 0
                    && cyrillic + greek > 0
                    && at - start > 1
                    && !form.source().contains(text.substring(start, at))) {
                return mixed(form, start, at, latin, cyrillic, greek, found);
            }
        }
        return false;
    }

    private static boolean mixed(Form form, int start, int end, int latin, int cyrillic, int greek, Found found) {
        String word = form.text().substring(start, end);
        String likeLatin = cyrillic > 0 ? LATIN_LIKE_CYRILLIC : LATIN_LIKE_GREEK;
        String other = cyrillic > 0 ? CYRILLIC : GREEK;
        boolean toOther = latin < cyrillic + greek;
        String from = toOther ? likeLatin : other;
        String to = toOther ? other : likeLatin;
        StringBuilder right = new StringBuilder();
        boolean sure = true;
        for (int i = 0; i < word.length(); i++) {
            char c = word.charAt(i);
            boolean odd = (UnicodeScript.of(c) == UnicodeScript.LATIN) == toOther;
            int place = odd ? from.indexOf(c) : -1;
            sure &= !odd || place >= 0;
            right.append(place >= 0 ? to.charAt(place) : c);
        }
        if (!sure) {
            // A unit or a name that is glued together: "μm", "αTest".
            return false;
        }
        found.add(
                "letter-lookalike",
                form.name(),
                "“{word}” mixes letters of two scripts that look alike; searches and speech would not find it.",
                Map.of("word", word),
                start,
                end,
                Mend.replacing("Make it one script", form.text(), start, end, right.toString()));
        return true;
    }

    /** A word of a script that neither the language nor the source uses. */
    private static void foreign(Form form, Found found) {
        Facts facts = form.ground().facts();
        if (!Traits.in(form.traits(), Traits.OTHER_LETTER) && facts.script().equals("Latn")) {
            return;
        }
        String text = form.text();
        int own = 0;
        int latinWords = 0;
        int at = 0;
        while (at < text.length()) {
            if (!Character.isLetter(text.charAt(at))) {
                at++;
                continue;
            }
            int start = at;
            // Scripts that are written without spaces stand right beside Latin names.
            UnicodeScript script = UnicodeScript.of(text.charAt(start));
            while (at < text.length() && goesOn(text.charAt(at), script)) {
                at++;
            }
            if (at == start) {
                at++;
                continue;
            }
            if (script == UnicodeScript.LATIN) {
                latinWords += at - start > 2 && Character.isLowerCase(text.charAt(start)) ? 1 : 0;
            } else if (uses(facts, script)) {
                own++;
            } else if (at - start > 1
                    && script != UnicodeScript.COMMON
                    && script != UnicodeScript.INHERITED
                    && !form.source().contains(text.substring(start, at))) {
                found.add(
                        "script-foreign",
                        form.name(),
                        "“{word}” is not in a script of this language.",
                        Map.of("word", text.substring(start, at)),
                        start,
                        at);
                return;
            }
        }
        if (own == 0
                && latinWords >= 2
                && !facts.script().equals("Latn")
                && !form.source().equals(text)
                && !markup(text)) {
            found.add("script-foreign", form.name(), "Nothing of this text is in the script of the language.");
        }
    }

    private static boolean goesOn(char c, UnicodeScript script) {
        UnicodeScript its = UnicodeScript.of(c);
        return (Character.isLetter(c) || Character.getType(c) == Character.NON_SPACING_MARK)
                && (its == script || its == UnicodeScript.COMMON || its == UnicodeScript.INHERITED);
    }

    private static boolean markup(String text) {
        return text.indexOf('<') >= 0 || text.indexOf('{') >= 0 || text.indexOf('%') >= 0 || text.indexOf('/') >= 0;
    }

    private static boolean uses(Facts facts, UnicodeScript script) {
        return switch (facts.script()) {
            case "Latn" -> script == UnicodeScript.LATIN;
            case "Cyrl" -> script == UnicodeScript.CYRILLIC;
            case "Grek" -> script == UnicodeScript.GREEK;
            case "Arab" -> script == UnicodeScript.ARABIC;
            case "Hebr" -> script == UnicodeScript.HEBREW;
            case "Jpan" ->
                script == UnicodeScript.HAN || script == UnicodeScript.HIRAGANA || script == UnicodeScript.KATAKANA;
            case "Kore" -> script == UnicodeScript.HANGUL || script == UnicodeScript.HAN;
            case "Hans", "Hant" -> script == UnicodeScript.HAN || script == UnicodeScript.BOPOMOFO;
            default -> true;
        };
    }

    private static void quotes(Form form, Found found) {
        Set<String> pairs = QUOTES.get(form.ground().facts().language());
        if (pairs == null) {
            return;
        }
        String text = form.text();
        if (own(text, pairs)) {
            return;
        }
        int opening = -1;
        for (int at = 0; at < text.length(); at++) {
            char c = text.charAt(at);
            if (DOUBLE_QUOTES.indexOf(c) < 0) {
                continue;
            }
            if (opening < 0) {
                opening = at;
                continue;
            }
            String pair = "" + text.charAt(opening) + c;
            // What closes one quotation and what opens the next is no pair.
            boolean between = pairs.contains("" + c + text.charAt(opening));
            if (!pairs.contains(pair) && !between) {
                String usual = usual(form.ground().facts().language());
                found.add(
                        "quotes-foreign",
                        form.name(),
                        "The quotation marks {given} are another language's; this one writes {usual}.",
                        Map.of(
                                "given",
                                text.charAt(opening) + "…" + c,
                                "usual",
                                usual.charAt(0) + "…" + usual.charAt(1)),
                        opening,
                        at + 1,
                        new Mend(
                                "Make them " + usual.charAt(0) + "…" + usual.charAt(1),
                                text.substring(0, opening)
                                        + usual.charAt(0)
                                        + text.substring(opening + 1, at)
                                        + usual.charAt(1)
                                        + text.substring(at + 1)));
                return;
            }
            opening = -1;
        }
    }

    /** Whether the text has the language's own as well: quotations in quotations. */
    private static boolean own(String text, Set<String> pairs) {
        return pairs.stream().anyMatch(pair -> {
            int first = text.indexOf(pair.charAt(0));
            return first >= 0
                    && text.indexOf(pair.charAt(1), first + 1) > 0
                    && pair.charAt(0) != pair.charAt(1)
                    && text.chars().filter(c -> DOUBLE_QUOTES.indexOf(c) >= 0).count() > 2;
        });
    }

    private static String usual(String language) {
        return switch (language) {
            case "pl", "hu", "ro", "et", "lv" -> "„”";
            case "fi", "sv" -> "””";
            case "ru", "uk", "fr" -> "«»";
            default -> "„“";
        };
    }
}
