package mellow.core.scan;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Set;
import mellow.core.scan.FileFindings.Imports;
import mellow.core.scan.FileFindings.Skipped;
import mellow.core.scan.Habit.Own;
import mellow.core.scan.KeyUse.How;
import mellow.core.scan.Tokens.Kind;
import org.jspecify.annotations.Nullable;

/**
 * Looks through source files, one after the other: the keys they use, by a product's habits, and texts that have none. Keeps nothing of a file but places and what
 * stands on their lines. For any number of threads; takes time in proportion to a file's length.
 */
public final class CodeScanner {

    /** Files beyond are made by programs. */
    public static final int LARGEST = 4 * 1024 * 1024;

    private static final int MOST_IN_FILE = 100_000;
    /** So much of a file tells whether it is text. */
    private static final int LOOKED_AT = 8_192;
    /** No person writes such lines; what is in them was made by a program from texts that are elsewhere. */
    private static final int LONGEST_LINES = 1_000;

    private static final Set<String> TEST_FOLDERS = Set.of(
            "test", "tests", "__tests__", "spec", "specs", "testing", "androidtest", "testdata", "fixtures", "e2e");
    private static final List<String> TEST_ENDINGS = List.of(
            ".test", "_test", "-test", ".tests", "_tests", ".spec", "_spec", "-spec", "Test", "Tests", "Spec", "IT");

    private final List<Habit> habits;
    private final List<Compiled> own;
    private final KnownKeys known;

    private record Compiled(PathPattern files, Pattern pattern) {}

    /**
     * A scanner.
     *
     * @param habits how the product's code names keys
     * @param known the keys of the product's tables, so that mentions of them are told
     * @throws Habit.BadHabitException for a pattern that is none
     */
    public CodeScanner(List<Habit> habits, KnownKeys known) {
        this.habits = List.copyOf(habits);
        this.known = known;
        this.own = habits.stream()
                .filter(Own.class::isInstance)
                .map(Own.class::cast)
                .map(one -> new Compiled(new PathPattern(one.files()), one.compiled()))
                .toList();
    }

    /**
     * Looks through a file.
     *
     * @param path its path below the tree, with slashes
     */
    public FileFindings scan(String path, byte[] content) {
        if (content.length > LARGEST) {
            return skipped(path, Skipped.LARGE);
        }
        for (int at = 0; at < Math.min(content.length, LOOKED_AT); at++) {
            if (content[at] == 0) {
                return skipped(path, Skipped.BINARY);
            }
        }
        String decoded = decoded(content);
        boolean patchable = decoded != null;
        String text = decoded != null ? decoded : new String(content, StandardCharsets.ISO_8859_1);
        Source source = new Source(path, text);
        boolean test = test(path);
        List<KeyUse> uses = new ArrayList<>();
        List<HardText> texts = new ArrayList<>();
        BitSet taken = new BitSet(source.tokens().size());
        new KeyFinder(source, uses, taken).find(habits);
        for (Compiled one : own) {
            if (one.files.matches(path)) {
                own(source, one.pattern, uses, taken);
            }
        }
        mentions(source, uses, taken);
        if (!test && !keepsTexts(source) && !madeByProgram(source)) {
            new HardFinder(source, taken, texts).find();
        }
        uses.sort(Comparator.<KeyUse>comparingInt(use -> use.place().line())
                .thenComparingInt(use -> use.place().column()));
        if (!patchable) {
            texts.replaceAll(one -> new HardText(
                    one.text(), one.kind(), one.likelihood(), one.composed(), one.place(), HardText.Spot.NONE));
        }
        return new FileFindings(
                path,
                source.lines(),
                null,
                test,
                uses.size() > MOST_IN_FILE ? uses.subList(0, MOST_IN_FILE) : uses,
                texts.size() > MOST_IN_FILE ? texts.subList(0, MOST_IN_FILE) : texts,
                texts.isEmpty() ? Imports.NONE : ImportPlace.of(source));
    }

    private static FileFindings skipped(String path, Skipped why) {
        return new FileFindings(path, 0, why, false, List.of(), List.of(), Imports.NONE);
    }

    /** The text of a file in UTF-8; null when it is in another encoding, which no patch is made for. */
    private static @Nullable String decoded(byte[] content) {
        try {
            return StandardCharsets.UTF_8
                    .newDecoder()
                    .decode(ByteBuffer.wrap(content))
                    .toString();
        } catch (CharacterCodingException another) {
            return null;
        }
    }

    /** Whether a path is one of code that tests the product, which nobody sees. */
    static boolean test(String path) {
        String[] parts = path.split("/");
        for (int i = 0; i < parts.length - 1; i++) {
            if (TEST_FOLDERS.contains(parts[i].toLowerCase(Locale.ROOT))) {
                return true;
            }
        }
        String name = parts[parts.length - 1];
        int dot = name.lastIndexOf('.');
        String stem = dot < 0 ? name : name.substring(0, dot);
        return TEST_ENDINGS.stream().anyMatch(stem::endsWith) || name.startsWith("test_") && name.endsWith(".py");
    }

    /** Whether a file of markup is there to keep texts: a resource file. Of data nothing is cut that could be one. */
    private static boolean keepsTexts(Source source) {
        Tokens tokens = source.tokens();
        for (int at = 0; at < tokens.size(); at++) {
            if (tokens.is(at, Kind.TAG)) {
                return source.path().endsWith(".xml") && tokens.spelled(at).equals("<resources");
            }
        }
        return false;
    }

    private static boolean madeByProgram(Source source) {
        return source.lines() > 0 && source.text().length() / source.lines() > LONGEST_LINES;
    }

    private static void own(Source source, Pattern pattern, List<KeyUse> uses, BitSet taken) {
        Matcher matcher = pattern.matcher(source.text());
        Set<String> groups = pattern.namedGroups().keySet();
        int found = 0;
        int token = 0;
        Tokens tokens = source.tokens();
        while (found < MOST_IN_FILE && matcher.find()) {
            String key = matcher.group("key");
            if (key != null && !key.isBlank() && Texts.sound(key)) {
                uses.add(new KeyUse(
                        key.strip(),
                        How.WHOLE,
                        false,
                        group(matcher, groups, "context"),
                        group(matcher, groups, "text"),
                        Objects.requireNonNullElse(group(matcher, groups, "note"), ""),
                        null,
                        source.place(matcher.start("key"))));
                found++;
            }
            while (token < tokens.size() && tokens.start(token) < matcher.end()) {
                if (tokens.end(token) > matcher.start()) {
                    taken.set(token);
                }
                token++;
            }
        }
    }

    private static @Nullable String group(Matcher matcher, Set<String> groups, String name) {
        String said = groups.contains(name) ? matcher.group(name) : null;
        return said == null ? null : Texts.kept(said);
    }

    /** Strings that read like a key of the product, or like the beginning of one that the code goes on with, where no habit expects one. */
    private void mentions(Source source, List<KeyUse> uses, BitSet taken) {
        Tokens tokens = source.tokens();
        Set<String> told = new HashSet<>();
        for (int at = 0; at < tokens.size(); at++) {
            boolean whole = tokens.is(at, Kind.STRING);
            if (taken.get(at) || !whole && !tokens.is(at, Kind.OPENING)) {
                continue;
            }
            String said = Literal.value(tokens, at, source.text());
            boolean goesOn = !whole || tokens.is(tokens.after(at), "+") || tokens.is(tokens.after(at), "..");
            if (whole && known.has(said) && told.add(said)) {
                mention(said, How.MENTION, tokens.start(at), source, uses);
            } else if (goesOn && known.begins(said) && told.add(said)) {
                mention(said + Value.TOLD, How.PART, tokens.start(at), source, uses);
            }
        }
    }

    private static void mention(String key, How how, int offset, Source source, List<KeyUse> uses) {
        uses.add(new KeyUse(key, how, false, null, null, "", null, source.place(offset)));
    }
}
