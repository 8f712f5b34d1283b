package mellow.core.scan;

import com.google.re2j.Pattern;
import mellow.core.scan.FileFindings.Imports;

/**
 * Where another import goes in a file: behind the last one, however many lines that has; behind what has to stand first (the line that names an interpreter, a directive)
 * where there is none.
 */
final class ImportPlace {

    /** Imports stand at the beginning. */
    private static final int LINES = 400;

    private static final char MARK_OF_ENCODING = '\uFEFF';
    private static final Pattern IMPORT = Pattern.compile(
            "(?:import\\b|from\\s+\\S+\\s+import\\b|using\\s|package\\s|#include\\b|(?:const|var|let)\\s+.*\\brequire\\().*");
    private static final Pattern DIRECTIVE = Pattern.compile("['\"]use [a-z ]+['\"];?\\s*");

    private ImportPlace() {}

    static Imports of(Source source) {
        int after = 0;
        StringBuilder existing = new StringBuilder();
        int most = Math.min(source.lines(), LINES);
        for (int line = 1; line <= most; line++) {
            String said = said(source, line);
            if (line == 1 && (said.startsWith("#!") || said.startsWith("<?php")) || directive(said)) {
                after = line;
            } else if (maybe(said) && IMPORT.matches(said)) {
                StringBuilder whole = new StringBuilder(said.strip());
                while (line < most && open(whole)) {
                    line++;
                    whole.append(' ').append(said(source, line).strip());
                }
                existing.append(whole).append('\n');
                after = line;
            }
        }
        int shown = Math.max(1, after);
        String last = source.text().substring(source.lineStart(shown), source.lineEnd(shown));
        return Texts.sound(last) ? new Imports(after, last, Texts.kept(existing.toString())) : Imports.NONE;
    }

    /** A line without what ends it and without the mark of an encoding before the first. */
    private static String said(Source source, int line) {
        int start = source.lineStart(line);
        int end = source.lineEnd(line);
        if (line == 1 && start < end && source.text().charAt(start) == MARK_OF_ENCODING) {
            start++;
        }
        if (end > start && source.text().charAt(end - 1) == '\r') {
            end--;
        }
        return source.text().substring(start, end);
    }

    private static boolean directive(String line) {
        return (line.startsWith("'use ") || line.startsWith("\"use ")) && DIRECTIVE.matches(line);
    }

    /** A look at the first letters spares most lines the pattern. */
    private static boolean maybe(String line) {
        return line.startsWith("import")
                || line.startsWith("from")
                || line.startsWith("using")
                || line.startsWith("package")
                || line.startsWith("#include")
                || line.contains("require(");
    }

    private static boolean open(CharSequence line) {
        long opens = line.chars().filter(c -> c == '{' || c == '(').count();
        return opens > line.chars().filter(c -> c == '}' || c == ')').count();
    }

    /** A needed line before the first line of a file; the mark of its encoding stays in front. */
    static String before(String needed, String end, String first) {
        boolean marked = !first.isEmpty() && first.charAt(0) == MARK_OF_ENCODING;
        return marked ? MARK_OF_ENCODING + needed + end + first.substring(1) : needed + end + first;
    }
}
