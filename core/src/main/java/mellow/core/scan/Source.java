package mellow.core.scan;

import java.util.Arrays;
import mellow.core.scan.KeyUse.Place;

/** A source file while it is looked through: its text, its tokens, and where its lines begin. */
final class Source {

    /** What fits in a list of places. */
    private static final int LONGEST_AROUND = 160;

    private final String path;
    private final String text;
    private final Syntax syntax;
    private final Tokens tokens;
    private final int[] lines;

    Source(String path, String text) {
        this.path = path;
        this.text = text;
        this.syntax = Syntax.of(path);
        this.tokens = new Tokens(text);
        switch (syntax.family()) {
            case CODE -> CodeLexer.read(text, 0, text.length(), syntax, tokens);
            case MARKUP -> MarkupLexer.read(text, path, tokens);
            case DATA -> {
                // Only marks and patterns are looked for in it.
            }
        }
        this.lines = starts(text);
    }

    private static int[] starts(String text) {
        int[] starts = new int[16];
        int count = 1;
        for (int at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) {
            if (count == starts.length) {
                starts = Arrays.copyOf(starts, count * 2);
            }
            starts[count++] = at + 1;
        }
        return Arrays.copyOf(starts, count);
    }

    String path() {
        return path;
    }

    String text() {
        return text;
    }

    Syntax syntax() {
        return syntax;
    }

    Tokens tokens() {
        return tokens;
    }

    /** How many lines the file has. */
    int lines() {
        return text.isEmpty() ? 0 : text.endsWith("\n") ? lines.length - 1 : lines.length;
    }

    /** The line of an offset, from 1. */
    int line(int offset) {
        int found = Arrays.binarySearch(lines, offset);
        return found >= 0 ? found + 1 : -found - 1;
    }

    /** Where a line begins, the first is 1. */
    int lineStart(int line) {
        return lines[line - 1];
    }

    /** Where a line ends, before what ends it. */
    int lineEnd(int line) {
        return line < lines.length ? lines[line] - 1 : text.length();
    }

    /** The place of an offset, for people. */
    Place place(int offset) {
        int line = line(offset);
        int start = lineStart(line);
        int end = lineEnd(line);
        while (start < end && Character.isWhitespace(text.charAt(start))) {
            start++;
        }
        while (end > start && Character.isWhitespace(text.charAt(end - 1))) {
            end--;
        }
        int column = offset - lineStart(line) + 1;
        if (end - start > LONGEST_AROUND) {
            // Of a long line what stands around the place.
            start = Math.max(start, offset - LONGEST_AROUND / 4);
            end = Math.min(end, start + LONGEST_AROUND);
            start = start > 0 && Character.isLowSurrogate(text.charAt(start)) ? start + 1 : start;
            end = end > start && Character.isHighSurrogate(text.charAt(end - 1)) ? end - 1 : end;
        }
        return new Place(line, column, text.substring(start, end));
    }
}
