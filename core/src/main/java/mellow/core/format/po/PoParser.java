package mellow.core.format.po;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import mellow.core.format.Limits;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.po.PoMessage.Span;
import mellow.core.format.po.PoMessage.Value;
import mellow.core.format.source.SourceText;

/** Reads the messages of a catalogue one after the other, as "The Format of PO Files" in the gettext manual has them. One use. */
final class PoParser {

    private final SourceText source;
    private final String text;
    private final Limits limits;
    private final Consumer<PoMessage> listener;
    private int at;
    private Draft draft = new Draft();
    private int count;

    /** The message being read. */
    private static final class Draft {
        int start = -1;
        int keyword = -1;
        int end;
        Value context = PoMessage.ABSENT;
        Value id = PoMessage.ABSENT;
        Value plural = PoMessage.ABSENT;
        final List<Value> texts = new ArrayList<>();
        final List<String> translator = new ArrayList<>();
        final List<String> extracted = new ArrayList<>();
        final List<String> references = new ArrayList<>();
        final List<String> flags = new ArrayList<>();
        final List<Span> flagLines = new ArrayList<>();
        boolean renewed;
        String previousWord = "";
        final StringBuilder previous = new StringBuilder();
    }

    private PoParser(SourceText source, Limits limits, Consumer<PoMessage> listener) {
        this.source = source;
        this.text = source.text();
        this.limits = limits;
        this.listener = listener;
    }

    /**
     * Reads a catalogue; obsolete messages are passed over.
     *
     * @throws UnreadableFileException where the file is no catalogue
     */
    static void parse(SourceText source, Limits limits, Consumer<PoMessage> listener) {
        new PoParser(source, limits, listener).run();
    }

    private void run() {
        while (true) {
            skipSpace();
            if (at >= text.length()) {
                finish();
                return;
            }
            if (text.charAt(at) == '#') {
                comment();
            } else {
                keyword();
            }
        }
    }

    private void comment() {
        if (complete()) {
            finish();
        }
        int start = at;
        int end = lineEnd(at);
        at = end;
        char kind = start + 1 < end ? text.charAt(start + 1) : ' ';
        if (kind == '~') {
            // What was collected belongs to the obsolete message and stays with it.
            if (!draft.id.present()) {
                draft = new Draft();
            }
            return;
        }
        if (draft.id.present() || draft.context.present()) {
            throw source.refuse(
                    start,
                    "a comment inside a message",
                    "the rest of the message, which begins in line " + source.line(draft.keyword));
        }
        begin(start);
        switch (kind) {
            case '.' -> draft.extracted.add(text.substring(start + 2, end).strip());
            case ':' -> references(text.substring(start + 2, end));
            case ',', '=' -> {
                draft.flagLines.add(new Span(start, end));
                for (String flag : text.substring(start + 2, end).split(",")) {
                    if (!flag.isBlank()) {
                        draft.flags.add(flag.strip());
                    }
                }
            }
            case '|' -> previous(text.substring(start + 2, end).strip());
            default -> {
                String note = text.substring(start + 1, end).strip();
                if (!note.isEmpty()) {
                    draft.translator.add(note);
                }
            }
        }
    }

    /** Previous strings are spelled as the others, each line behind a mark; only the msgid tells something. */
    private void previous(String line) {
        int quote = line.indexOf('"');
        String word = quote < 0 ? line : line.substring(0, quote).strip();
        draft.previousWord = word.isEmpty() ? draft.previousWord : word;
        if (!draft.previousWord.equals("msgid")) {
            return;
        }
        draft.renewed = true;
        int close = line.lastIndexOf('"');
        if (quote >= 0 && close > quote) {
            try {
                PoStrings.unescape(line, quote + 1, close, draft.previous);
            } catch (IllegalArgumentException unknown) {
                // A hint about the past that cannot be read is no hint, and stays in the file.
                draft.previous.setLength(0);
                draft.previousWord = "unreadable";
            }
        }
    }

    /** Names with spaces stand between U+2068 and U+2069 (gettext 0.22). */
    private void references(String line) {
        StringBuilder reference = new StringBuilder();
        boolean isolated = false;
        for (int i = 0; i <= line.length(); i++) {
            char c = i < line.length() ? line.charAt(i) : ' ';
            if (c == '\u2068' || c == '\u2069') {
                isolated = c == '\u2068';
            } else if (c <= ' ' && (!isolated || i == line.length())) {
                if (!reference.isEmpty()) {
                    draft.references.add(reference.toString());
                }
                reference.setLength(0);
            } else {
                reference.append(c);
            }
        }
    }

    private void keyword() {
        int start = at;
        while (at < text.length() && (Character.isLetter(text.charAt(at)) || text.charAt(at) == '_')) {
            at++;
        }
        String word = text.substring(start, at);
        switch (word) {
            case "domain" -> {
                if (complete()) {
                    finish();
                }
                value(start, word);
            }
            case "msgctxt" -> {
                startMessage(start);
                if (draft.context.present()) {
                    throw unexpected(start, word, "“msgid”");
                }
                draft.context = value(start, word);
            }
            case "msgid" -> {
                startMessage(start);
                if (draft.id.present()) {
                    throw unexpected(start, word, "“msgstr”");
                }
                draft.id = value(start, word);
            }
            case "msgid_plural" -> {
                if (!draft.id.present() || draft.plural.present() || !draft.texts.isEmpty()) {
                    throw unexpected(start, word, "it right after “msgid”");
                }
                draft.plural = value(start, word);
            }
            case "msgstr" -> translation(start);
            default ->
                throw source.refuse(
                        start,
                        word.isEmpty()
                                ? "“" + Character.toString(text.codePointAt(start)) + "” at the start of a line"
                                : "the word “" + word + "”",
                        "a comment, “msgctxt”, “msgid”, “msgid_plural” or “msgstr”");
        }
        draft.end = Math.min(text.length(), source.lineAfter(Math.max(0, at - 1)));
    }

    private void translation(int start) {
        if (!draft.id.present()) {
            throw unexpected(start, "msgstr", "“msgid” before it");
        }
        boolean indexed = at < text.length() && text.charAt(at) == '[';
        if (indexed != draft.plural.present()) {
            throw source.refuse(
                    start,
                    indexed
                            ? "“msgstr[…]” in a message without “msgid_plural”"
                            : "“msgstr” in a message with “msgid_plural”",
                    indexed ? "“msgstr”" : "“msgstr[0]”");
        }
        if (indexed) {
            int close = text.indexOf(']', at);
            String index = close < 0 || close - at > 4
                    ? ""
                    : text.substring(at + 1, close).strip();
            if (!index.equals(Integer.toString(draft.texts.size()))) {
                throw source.refuse(start, "“msgstr[" + index + "]”", "“msgstr[" + draft.texts.size() + "]”");
            }
            at = close + 1;
        } else if (!draft.texts.isEmpty()) {
            throw unexpected(start, "msgstr", "one “msgstr” in a message");
        }
        draft.texts.add(value(start, "msgstr"));
    }

    private UnreadableFileException unexpected(int start, String word, String expected) {
        return source.refuse(start, "“" + word + "” in this place", expected);
    }

    private void startMessage(int start) {
        if (complete()) {
            finish();
        }
        begin(start);
        if (draft.keyword < 0) {
            draft.keyword = start;
        }
    }

    private void begin(int start) {
        if (draft.start < 0) {
            draft.start = start;
        }
    }

    private boolean complete() {
        return !draft.texts.isEmpty();
    }

    private Value value(int keyword, String word) {
        skipSpace();
        if (at >= text.length() || text.charAt(at) != '"') {
            throw source.refuse(
                    Math.min(at, text.length()),
                    "“" + word + "” without a text in line " + source.line(keyword),
                    "a text in quotes after it");
        }
        int first = at;
        int last = at;
        StringBuilder value = new StringBuilder();
        while (at < text.length() && text.charAt(at) == '"') {
            int close = closingQuote(at);
            try {
                PoStrings.unescape(text, at + 1, close, value);
            } catch (IllegalArgumentException unknown) {
                throw source.refuse(at, "“" + unknown.getMessage() + "”, which is no escape", "“\\\\” for a backslash");
            }
            last = close + 1;
            source.checkLength(first, last, limits);
            at = last;
            skipSpace();
        }
        at = last;
        int end = lineEnd(at);
        if (!text.substring(at, end).isBlank()) {
            throw source.refuse(
                    at,
                    "“" + text.substring(at, Math.min(end, at + 20)).strip() + "” after a text",
                    "the end of the line");
        }
        return new Value(value.toString(), first, last);
    }

    private int closingQuote(int open) {
        for (int i = open + 1; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == '\\') {
                i++;
            } else if (c == '"') {
                return i;
            } else if (c == '\n' || c == '\r') {
                break;
            }
        }
        throw source.refuse(open, "a text without its closing quote", "“\"” before the end of the line");
    }

    private void finish() {
        if (draft.id.present() || draft.context.present()) {
            if (!draft.id.present() || draft.texts.isEmpty()) {
                throw source.refuse(
                        draft.keyword,
                        "a message without “" + (draft.id.present() ? "msgstr" : "msgid") + "”",
                        "“msgid” and “msgstr” in every message");
            }
            boolean header = draft.id.text().isEmpty() && !draft.context.present();
            count += header ? 0 : 1;
            source.checkCount(count, draft.keyword, limits);
            listener.accept(new PoMessage(
                    draft.start,
                    draft.end,
                    draft.keyword,
                    draft.context,
                    draft.id,
                    draft.plural,
                    List.copyOf(draft.texts),
                    List.copyOf(draft.translator),
                    List.copyOf(draft.extracted),
                    List.copyOf(draft.references),
                    List.copyOf(draft.flags),
                    List.copyOf(draft.flagLines),
                    draft.renewed,
                    draft.previous.toString()));
        }
        draft = new Draft();
    }

    private void skipSpace() {
        while (at < text.length() && text.charAt(at) <= ' ') {
            at++;
        }
    }

    private int lineEnd(int from) {
        int i = from;
        while (i < text.length() && text.charAt(i) != '\n' && text.charAt(i) != '\r') {
            i++;
        }
        return i;
    }
}
