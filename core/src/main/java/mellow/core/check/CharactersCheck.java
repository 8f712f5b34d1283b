package mellow.core.check;

import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.HashSet;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Characters that nobody meant: control characters, what damaged encoding leaves, halves of surrogate pairs, unbalanced marks of direction, forbidden ones. */
final class CharactersCheck implements Check {

    private static final Charset WESTERN = Charset.forName("windows-1252");
    private static final String LEADS = "ÃÂâÅÄÐÑ";

    @Override
    public void lookAt(Form form, Found found) {
        forbidden(form, found);
        int odd = Traits.CONTROL | Traits.DAMAGE | Traits.DIRECTION | Traits.SURROGATE;
        if (!Traits.in(form.traits(), odd) || form.text().equals(form.source())) {
            return;
        }
        all(form, form.source(), found);
    }

    @Override
    public void lookAtSource(Form source, Found found) {
        forbidden(source, found);
        all(source, "", found);
    }

    private static void all(Form form, String source, Found found) {
        controls(form, source, found);
        damage(form, source, found);
        directions(form, source, found);
    }

    private static void forbidden(Form form, Found found) {
        String forbidden = form.ground().settings().forbidden();
        for (int i = 0; i < forbidden.length(); ) {
            int character = forbidden.codePointAt(i);
            int at = form.text().indexOf(character);
            if (at >= 0) {
                found.add(
                        "character-forbidden",
                        form.name(),
                        "“{character}” is not allowed here.",
                        Map.of("character", Character.toString(character)),
                        at,
                        at + Character.charCount(character));
            }
            i += Character.charCount(character);
        }
    }

    private static void controls(Form form, String source, Found found) {
        String text = form.text();
        Set<Character> inSource = new HashSet<>();
        for (int at = 0; at < text.length(); at++) {
            char c = text.charAt(at);
            if (!odd(text, at) || inSource.contains(c)) {
                continue;
            }
            if (source.indexOf(c) >= 0) {
                inSource.add(c);
                continue;
            }
            String named = Integer.toHexString(0x10000 | c).substring(1).toUpperCase(Locale.ROOT);
            found.add(
                    Character.isSurrogate(c) ? "surrogate-alone" : "control-character",
                    form.name(),
                    Character.isSurrogate(c)
                            ? "Half a character (U+{unit}); take it out."
                            : "A character that nobody can see (U+{unit}); take it out.",
                    Map.of("unit", named),
                    at,
                    at + 1,
                    new Mend("Take it out", text.substring(0, at) + text.substring(at + 1)));
            return;
        }
    }

    private static boolean odd(String text, int at) {
        char c = text.charAt(at);
        if (Character.isHighSurrogate(c)) {
            return at + 1 >= text.length() || !Character.isLowSurrogate(text.charAt(at + 1));
        }
        if (Character.isLowSurrogate(c)) {
            return at == 0 || !Character.isHighSurrogate(text.charAt(at - 1));
        }
        return (c < ' ' && c != '\t' && c != '\n' && c != '\r')
                || (c >= 0x7F && c < 0xA0)
                || c == '\uFEFF'
                || c >= 0xFFFE
                || (c >= 0xFDD0 && c <= 0xFDEF);
    }

    /** UTF-8 that was read as windows-1252 ("Ã¼"), and characters that were lost for good (U+FFFD). */
    private static void damage(Form form, String source, Found found) {
        String text = form.text();
        int lost = text.indexOf('\uFFFD');
        if (lost >= 0 && source.indexOf('\uFFFD') < 0) {
            found.add(
                    "character-lost",
                    form.name(),
                    "A letter was lost here by a wrong encoding; write it again.",
                    Map.of(),
                    lost,
                    lost + 1);
        }
        Set<String> inSource = new HashSet<>();
        for (int at = 0; at < text.length(); at++) {
            if (LEADS.indexOf(text.charAt(at)) < 0) {
                continue;
            }
            String meant = null;
            int end = at;
            for (int length = 4; length >= 2 && meant == null; length--) {
                if (at + length <= text.length()) {
                    meant = decoded(text.substring(at, at + length));
                    end = at + length;
                }
            }
            if (meant == null || inSource.contains(meant)) {
                continue;
            }
            if (source.contains(text.substring(at, end))) {
                inSource.add(meant);
            } else {
                found.add(
                        "encoding-damaged",
                        form.name(),
                        "“{said}” is what “{meant}” becomes by a wrong encoding.",
                        Map.of("said", text.substring(at, end), "meant", meant),
                        at,
                        end,
                        new Mend("Make it “" + meant + "”", repaired(text)));
                return;
            }
        }
    }

    private static String repaired(String text) {
        StringBuilder repaired = new StringBuilder(text.length());
        int at = 0;
        while (at < text.length()) {
            String meant = null;
            int length = 4;
            for (; LEADS.indexOf(text.charAt(at)) >= 0 && length >= 2; length--) {
                if (at + length <= text.length()) {
                    meant = decoded(text.substring(at, at + length));
                    if (meant != null) {
                        break;
                    }
                }
            }
            if (meant == null) {
                repaired.append(text.charAt(at++));
            } else {
                repaired.append(meant);
                at += length;
            }
        }
        return repaired.toString();
    }

    /** The one character that these were before they were read wrongly; null when they are what they are. */
    private static @Nullable String decoded(String seen) {
        // A capital with a space that does not break after it is an honest end of a word in capitals.
        if (seen.charAt(1) == '\u00A0' && seen.charAt(0) != 'Â') {
            return null;
        }
        try {
            ByteBuffer bytes = WESTERN.newEncoder().encode(CharBuffer.wrap(seen));
            String meant = StandardCharsets.UTF_8.newDecoder().decode(bytes).toString();
            return meant.codePointCount(0, meant.length()) == 1 && meant.codePointAt(0) > 0x7F ? meant : null;
        } catch (CharacterCodingException honest) {
            return null;
        }
    }

    /** Embeddings, overrides and isolates (UAX #9 §2) that are not ended, or ended without a beginning. */
    private static void directions(Form form, String source, Found found) {
        if (!Traits.in(form.traits(), Traits.DIRECTION) || form.text().equals(source)) {
            return;
        }
        int embeddings = 0;
        int isolates = 0;
        boolean stray = false;
        int last = -1;
        String text = form.text();
        for (int at = 0; at < text.length(); at++) {
            char c = text.charAt(at);
            if ((c >= '\u202A' && c <= '\u202E') || (c >= '\u2066' && c <= '\u2069')) {
                last = at;
                if (c == '\u202C') {
                    stray |= --embeddings < 0;
                } else if (c == '\u2069') {
                    stray |= --isolates < 0;
                } else if (c >= '\u2066') {
                    isolates++;
                } else {
                    embeddings++;
                }
            }
        }
        if (stray || embeddings > 0 || isolates > 0) {
            found.add(
                    "direction-unbalanced",
                    form.name(),
                    stray
                            ? "A mark ends a direction that nothing began."
                            : "A mark of direction is not ended, so what follows the text would turn too.",
                    Map.of(),
                    last,
                    last + 1,
                    stray
                            ? null
                            : new Mend(
                                    "End it",
                                    text
                                            + "\u2069".repeat(Math.max(0, isolates))
                                            + "\u202C".repeat(Math.max(0, embeddings))));
        }
    }
}
