package mellow.core.scan;

import mellow.core.scan.Tokens.Kind;

/**
 * Cuts pages and other markup into tags, attributes, text and comments. What stands in script elements, in holes of the text and in attributes that a framework
 * computes is cut as code.
 */
final class MarkupLexer {

    private final String text;
    private final String hole;
    private final String holeEnd;
    private final boolean page;
    private final Tokens out;
    private int at;

    private MarkupLexer(String text, String path, Tokens out) {
        this.text = text;
        this.out = out;
        this.page = !path.endsWith(".xml") && !path.endsWith(".svg");
        this.hole = path.endsWith(".svelte") ? "{" : page ? "{{" : "";
        this.holeEnd = "}".repeat(hole.length());
    }

    /** Adds the tokens of a file. */
    static void read(String text, String path, Tokens out) {
        new MarkupLexer(text, path, out).run();
    }

    private void run() {
        while (at < text.length()) {
            int tag = text.indexOf('<', at);
            int stop = tag < 0 ? text.length() : tag;
            between(at, stop);
            at = stop;
            if (at < text.length()) {
                markup();
            }
        }
    }

    /** Text between tags, with holes. */
    private void between(int from, int to) {
        int start = from;
        while (start < to) {
            int opens = hole.isEmpty() ? -1 : indexOf(hole, start, to);
            int closes = opens < 0 ? -1 : indexOf(holeEnd, opens + hole.length(), to);
            if (closes < 0) {
                CodeLexer.text(text, start, to, out);
                return;
            }
            CodeLexer.text(text, start, opens, out);
            out.add(Kind.SIGN, opens, opens + 1);
            CodeLexer.read(text, opens + hole.length(), closes, Syntax.script(), out);
            start = closes + holeEnd.length();
            out.add(Kind.SIGN, start - 1, start);
        }
    }

    /** Looks no further than {@code to}, so that a page of many short texts is read once. */
    private int indexOf(String what, int from, int to) {
        for (int i = from; i + what.length() <= to; i++) {
            if (text.charAt(i) == what.charAt(0) && text.startsWith(what, i)) {
                return i;
            }
        }
        return -1;
    }

    private void markup() {
        if (text.startsWith("<!--", at)) {
            skip(Kind.COMMENT, "-->");
        } else if (text.startsWith("<![CDATA[", at)) {
            int start = at + "<![CDATA[".length();
            int close = text.indexOf("]]>", start);
            int stop = close < 0 ? text.length() : close;
            CodeLexer.text(text, start, stop, out);
            at = close < 0 ? stop : stop + 3;
        } else if (text.startsWith("<?", at)) {
            skip(Kind.COMMENT, "?>");
        } else if (text.startsWith("<%", at)) {
            skip(Kind.COMMENT, "%>");
        } else if (text.startsWith("</", at) || text.startsWith("<!", at)) {
            skip(Kind.TAG_END, ">");
        } else if (at + 1 < text.length() && Character.isLetter(text.charAt(at + 1))) {
            tag();
        } else {
            at++;
        }
    }

    private void skip(Kind kind, String closing) {
        int close = text.indexOf(closing, at);
        int stop = close < 0 ? text.length() : close + closing.length();
        out.add(kind, at, stop);
        at = stop;
    }

    private void tag() {
        int start = at++;
        while (at < text.length() && !endsName(text.charAt(at))) {
            at++;
        }
        String name = text.substring(start + 1, at);
        out.add(Kind.TAG, start, at);
        boolean empty = attributes();
        if (page && !empty && (name.equalsIgnoreCase("script") || name.equalsIgnoreCase("style"))) {
            int close = indexOfClosing(name);
            if (name.equalsIgnoreCase("script")) {
                CodeLexer.read(text, at, close, Syntax.script(), out);
            }
            at = close;
        }
    }

    private int indexOfClosing(String name) {
        for (int i = text.indexOf("</", at); i >= 0; i = text.indexOf("</", i + 2)) {
            if (text.regionMatches(true, i + 2, name, 0, name.length())) {
                return i;
            }
        }
        return text.length();
    }

    private static boolean endsName(char c) {
        return Character.isWhitespace(c) || c == '>' || c == '/' || c == '=';
    }

    /** Reads up to the end of a tag; whether the element is empty. */
    private boolean attributes() {
        while (at < text.length()) {
            char c = text.charAt(at);
            if (c == '>') {
                out.add(Kind.TAG_END, at, ++at);
                return false;
            }
            if (c == '/' && at + 1 < text.length() && text.charAt(at + 1) == '>') {
                out.add(Kind.TAG_END, at, at + 2);
                at += 2;
                return true;
            }
            if (Character.isWhitespace(c) || c == '/' || c == '=') {
                at++;
            } else {
                attribute();
            }
        }
        return true;
    }

    private void attribute() {
        int start = at++;
        while (at < text.length() && !endsName(text.charAt(at))) {
            at++;
        }
        out.add(Kind.ATTRIBUTE, start, at);
        int value = at;
        while (value < text.length() && Character.isWhitespace(text.charAt(value))) {
            value++;
        }
        if (value >= text.length() || text.charAt(value) != '=') {
            return;
        }
        value++;
        while (value < text.length() && Character.isWhitespace(text.charAt(value))) {
            value++;
        }
        at = value;
        if (at >= text.length()) {
            return;
        }
        char quote = text.charAt(at);
        if (quote == '"' || quote == '\'') {
            int close = text.indexOf(quote, at + 1);
            if (close < 0) {
                at = text.length();
                return;
            }
            int stop = close + 1;
            if (computed(text.charAt(start), start)) {
                out.add(Kind.SIGN, at, at + 1);
                CodeLexer.read(text, at + 1, close, Syntax.script(), out);
            } else {
                out.add(Kind.STRING, at, stop);
            }
            at = stop;
        } else {
            while (at < text.length() && !Character.isWhitespace(text.charAt(at)) && text.charAt(at) != '>') {
                at++;
            }
            out.add(Kind.STRING, value, at);
        }
    }

    /** Whether a framework reads the value of an attribute as code: {@code :title}, {@code @click}, {@code v-if}, {@code onclick}. */
    private boolean computed(char first, int start) {
        return page
                && (first == ':'
                        || first == '@'
                        || text.startsWith("v-", start)
                        || text.startsWith("on", start) && Character.isLetter(text.charAt(start + 2)));
    }
}
