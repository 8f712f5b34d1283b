package mellow.core.scan;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import mellow.core.scan.FileFindings.Imports;
import mellow.core.scan.HardText.Spot;
import org.jspecify.annotations.Nullable;

/**
 * A patch in the unified format (POSIX {@code diff -u}) that puts keys where texts were. It holds the changed lines and no others around them, since no more of the
 * code is kept; {@code patch -p1} finds them by what they say, also when they have moved.
 */
public final class UnifiedPatch {

    /**
     * A text that gives way.
     *
     * @param line the line that {@code spot} begins with
     * @param with what takes its place
     */
    public record Piece(String path, int line, Spot spot, String with) {}

    /**
     * A line that a file needs.
     *
     * @param imports where it goes
     * @param needed the line
     */
    public record Needed(String path, Imports imports, String needed) {}

    /** Lines of a file as they were and as they shall be. */
    private static final class Hunk {
        private final int line;
        private final List<Piece> pieces = new ArrayList<>();
        private String was;
        private boolean last;
        private @Nullable Needed needed;

        private Hunk(Piece first) {
            this.line = first.line;
            this.was = first.spot.lines();
            this.last = first.spot.last();
            pieces.add(first);
        }

        private int lines() {
            return count(was);
        }

        private boolean reaches(int other) {
            return other < line + lines();
        }

        void needs(Needed one) {
            needed = one;
        }

        /** Takes in another piece that begins on one of these lines. */
        private void add(Piece piece) {
            int own = lines() - (piece.line - line);
            if (count(piece.spot.lines()) > own) {
                was = was + piece.spot.lines().substring(offset(piece.spot.lines(), own) - 1);
                last = piece.spot.last();
            }
            pieces.add(piece);
        }

        private String becomes() {
            StringBuilder text = new StringBuilder(was);
            List<Piece> backwards = new ArrayList<>(pieces);
            backwards.sort(Comparator.comparingInt(this::from).reversed());
            int before = Integer.MAX_VALUE;
            for (Piece piece : backwards) {
                int from = from(piece);
                int to = from + piece.spot.to() - piece.spot.from();
                // Two that overlap cannot both give way; the later one does.
                if (to <= before) {
                    text.replace(from, to, piece.with);
                    before = from;
                }
            }
            return needed == null ? text.toString() : withNeeded(text.toString(), needed);
        }

        private static String withNeeded(String text, Needed one) {
            String carriage = text.endsWith("\r") ? "\r" : "";
            return one.imports.after() == 0
                    ? ImportPlace.before(one.needed, carriage + "\n", text)
                    : text + "\n" + one.needed + carriage;
        }

        private int from(Piece piece) {
            return offset(was, piece.line - line) + piece.spot.from();
        }
    }

    private UnifiedPatch() {}

    /** The patch; empty when nothing gives way. Pieces without a known spot are left out. */
    public static String of(List<Piece> pieces, List<Needed> needed) {
        Map<String, List<Piece>> files = new TreeMap<>();
        for (Piece piece : pieces) {
            if (piece.spot.known() && Texts.sound(piece.path) && piece.path.indexOf('\n') < 0) {
                files.computeIfAbsent(piece.path, none -> new ArrayList<>()).add(piece);
            }
        }
        StringBuilder patch = new StringBuilder();
        files.forEach((path, all) -> {
            List<Needed> lines =
                    needed.stream().filter(one -> one.path.equals(path)).toList();
            file(path, all, lines, patch);
        });
        return patch.toString();
    }

    private static void file(String path, List<Piece> pieces, List<Needed> needed, StringBuilder patch) {
        List<Piece> sorted = new ArrayList<>(pieces);
        sorted.sort(Comparator.comparingInt(Piece::line).thenComparingInt(piece -> piece.spot.from()));
        List<Hunk> hunks = new ArrayList<>();
        for (Piece piece : sorted) {
            Hunk last = hunks.isEmpty() ? null : hunks.get(hunks.size() - 1);
            if (last != null && last.reaches(piece.line)) {
                last.add(piece);
            } else {
                hunks.add(new Hunk(piece));
            }
        }
        // A name with a space ends with a tab, as patch reads it.
        String end = path.indexOf(' ') >= 0 ? "\t\n" : "\n";
        patch.append("--- a/")
                .append(path)
                .append(end)
                .append("+++ b/")
                .append(path)
                .append(end);
        int moved = 0;
        List<Needed> alone = new ArrayList<>();
        for (Needed one : needed) {
            hunks.stream()
                    .filter(hunk -> hunk.line <= Math.max(1, one.imports.after())
                            && hunk.reaches(Math.max(1, one.imports.after())))
                    .findFirst()
                    .ifPresentOrElse(hunk -> hunk.needs(one), () -> alone.add(one));
        }
        alone.sort(Comparator.comparingInt(one -> one.imports.after()));
        int next = 0;
        for (Hunk hunk : hunks) {
            while (next < alone.size() && alone.get(next).imports.after() < hunk.line) {
                moved += alone(alone.get(next++), moved, patch);
            }
            moved += hunk(hunk, moved, patch);
        }
        while (next < alone.size()) {
            moved += alone(alone.get(next++), moved, patch);
        }
    }

    /** A line that is added beside one that stays. */
    private static int alone(Needed one, int moved, StringBuilder patch) {
        int line = Math.max(1, one.imports.after());
        patch.append("@@ -").append(line).append(" +").append(line + moved).append(",2 @@\n");
        String carriage = one.imports.line().endsWith("\r") ? "\r" : "";
        // The line beside it goes and comes back: as one that stays on one side only it would say that the file ends
        // there.
        patch.append('-').append(one.imports.line()).append('\n');
        String both = one.imports.after() == 0
                ? ImportPlace.before(one.needed, carriage + "\n", one.imports.line())
                : one.imports.line() + "\n" + one.needed + carriage;
        lines('+', both, false, patch);
        return 1;
    }

    private static int hunk(Hunk hunk, int moved, StringBuilder patch) {
        String becomes = hunk.becomes();
        int before = hunk.lines();
        int after = count(becomes);
        patch.append("@@ -").append(hunk.line).append(',').append(before);
        patch.append(" +").append(hunk.line + moved).append(',').append(after).append(" @@\n");
        lines('-', hunk.was, hunk.last, patch);
        lines('+', becomes, hunk.last, patch);
        return after - before;
    }

    private static void lines(char sign, String lines, boolean last, StringBuilder patch) {
        for (String line : lines.split("\n", -1)) {
            patch.append(sign).append(line).append('\n');
        }
        if (last) {
            patch.append("\\ No newline at end of file\n");
        }
    }

    private static int count(String lines) {
        return (int) lines.chars().filter(c -> c == '\n').count() + 1;
    }

    /** Where a line begins in some lines, the first is 0. */
    private static int offset(String lines, int line) {
        int at = 0;
        for (int i = 0; i < line; i++) {
            at = lines.indexOf('\n', at) + 1;
        }
        return at;
    }
}
