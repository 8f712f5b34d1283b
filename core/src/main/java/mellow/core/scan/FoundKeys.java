package mellow.core.scan;

import java.util.BitSet;
import java.util.List;
import mellow.core.scan.KeyUse.How;
import mellow.core.scan.KeyUse.Values;
import mellow.core.scan.Tokens.Kind;
import org.jspecify.annotations.Nullable;

/** The keys that were found in a file so far, and which of its tokens belong to them, so that they are not taken for texts. Knows what the code says to translators. */
final class FoundKeys {

    /** Nobody types a longer key; what is longer is a text. */
    static final int LONGEST_KEY = 300;

    /** So far back a note to translators may stand. */
    private static final int FAR = 400;

    private static final List<String> FOR_TRANSLATORS = List.of("for translators", "translators");

    private final Source source;
    private final Tokens tokens;
    private final List<KeyUse> uses;
    private final BitSet taken;

    FoundKeys(Source source, List<KeyUse> uses, BitSet taken) {
        this.source = source;
        this.tokens = source.tokens();
        this.uses = uses;
        this.taken = taken;
    }

    /** The tokens from one to before another belong to a key. */
    void take(int from, int to) {
        taken.set(from, to);
    }

    void take(int at) {
        taken.set(at);
    }

    /** What a comment says, without its signs. */
    String inside(int at) {
        String said = tokens.spelled(at);
        for (String sign : List.of("<!--", "/**", "/*", "//", "--", "#")) {
            if (said.startsWith(sign)) {
                said = said.substring(sign.length());
                break;
            }
        }
        for (String sign : List.of("-->", "*/")) {
            if (said.endsWith(sign)) {
                said = said.substring(0, said.length() - sign.length());
                break;
            }
        }
        return said.strip();
    }

    /** What a comment on the line or the line before says to translators. */
    String note(int at) {
        int line = source.line(tokens.start(at));
        for (int back = at - 1; back >= 0 && back > at - FAR; back--) {
            int theirs = source.line(Math.max(tokens.start(back), tokens.end(back) - 1));
            if (theirs < line - 1) {
                return "";
            }
            if (tokens.is(back, Kind.COMMENT)) {
                String said = inside(back);
                for (String begins : FOR_TRANSLATORS) {
                    if (said.length() > begins.length() && said.regionMatches(true, 0, begins, 0, begins.length())) {
                        return said.substring(begins.length())
                                .replaceFirst("^[:\\s]+", "")
                                .strip();
                    }
                }
            }
        }
        return "";
    }

    void add(
            String key,
            boolean folded,
            @Nullable String context,
            @Nullable String said,
            String note,
            @Nullable Values given,
            int token) {
        How how = key.indexOf(Value.ANYTHING) < 0 ? How.WHOLE : How.PART;
        add(key.replace(Value.ANYTHING, Value.TOLD), folded, context, said, note, given, tokens.start(token), how);
    }

    void add(
            String key,
            boolean folded,
            @Nullable String context,
            @Nullable String said,
            String note,
            @Nullable Values given,
            int offset,
            How how) {
        if (!key.isBlank() && key.length() <= LONGEST_KEY && Texts.sound(key)) {
            uses.add(new KeyUse(
                    key,
                    how,
                    folded,
                    context == null ? null : Texts.kept(context),
                    said == null ? null : Texts.kept(said),
                    Texts.kept(note),
                    given,
                    source.place(offset)));
        }
    }
}
