package mellow.core.format;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.core.language.LanguageNames;
import mellow.core.language.LanguageTag;

/**
 * One way to see a language in a path: {@code res/values-pt-rBR/strings.xml} is {@code res/values-{}/strings.xml} in pt-BR.
 *
 * @param pattern the path with {@value #PLACE} where the language stands, which may be several times
 * @param tag the language
 * @param spelled how the path spells it
 * @param sure whether the name says so by itself; else only files beside it that differ in that part make it a language
 */
public record LanguagePart(String pattern, LanguageTag tag, String spelled, boolean sure) {

    /** Stands for the language in a pattern. */
    public static final String PLACE = "{}";

    /**
     * Android's folders: {@code values-fi}, {@code values-pt-rBR}, {@code drawable-b+sr+Latn}, each perhaps with more qualifiers, of which the network comes first.
     */
    private static final Pattern RESOURCES = Pattern.compile(
            "(?:values|drawable|mipmap|raw)-(?:mcc[0-9]+-(?:mnc[0-9]+-)?)?(b\\+[A-Za-z0-9+]+|[a-z]{2,3}(?:-r[A-Z]{2})?)(?:-[a-z0-9-]+)?");

    private static final Pattern TAG =
            Pattern.compile("[A-Za-z]{2,3}([-_][A-Za-z]{4})?([-_]([A-Za-z]{2}|[0-9]{3}))?(@[A-Za-z]{3,15})?");

    /** Endings and folders of two or three letters that are no language here. */
    private static final Set<String> NO_LANGUAGE = Set.of(
            "app", "src", "res", "raw", "web", "lib", "new", "old", "xml", "all", "key", "txt", "doc", "ios", "www",
            "gui", "api", "dev", "tmp", "car", "bin", "run", "min", "map", "day", "fix", "tab", "her", "his");

    /** Scripts that languages are told apart by: "is_open" is no Icelandic in a script called Open. */
    private static final Set<String> SCRIPTS = Set.of(
            "latn", "cyrl", "arab", "deva", "hans", "hant", "hebr", "grek", "beng", "guru", "mong", "tfng", "jpan",
            "kore", "thai", "armn", "geor", "ethi", "taml", "telu", "knda", "mlym", "gujr", "orya", "sinh", "mymr",
            "khmr", "laoo", "tibt", "cher", "adlm", "olck", "nkoo", "vaii", "rohg");

    /** So many places of a path are looked at. */
    private static final int MOST = 16;

    private record Span(int start, int end, LanguageTag tag, boolean sure, int rank) {}

    /**
     * Every language that a path may tell, the likeliest first: the file's own name before its folders, a longer part before a shorter one, the same
     * language in several places before one of them.
     */
    public static List<LanguagePart> of(String path) {
        String all = path.replace('\\', '/');
        List<Span> spans = new ArrayList<>();
        int name = all.lastIndexOf('/') + 1;
        inName(all, name, spans);
        int rank = 100;
        for (int end = name - 1; end > 0; ) {
            int start = all.lastIndexOf('/', end - 1) + 1;
            inFolder(all, start, end, rank, spans);
            end = start - 1;
            rank += 100;
        }
        spans.sort(Comparator.comparingInt(Span::rank));
        // A path of nothing but languages is made to be slow; no honest one has as many.
        List<Span> likely = spans.subList(0, Math.min(MOST, spans.size()));
        Set<String> seen = new TreeSet<>();
        List<LanguagePart> parts = new ArrayList<>();
        for (Span span : likely) {
            List<Span> same = alike(likely, span);
            if (same.size() > 1) {
                add(all, same, seen, parts);
            }
            add(all, List.of(span), seen, parts);
        }
        return parts;
    }

    /** The likeliest language, when the path is sure of one. */
    public static Optional<LanguagePart> sureOf(String path) {
        return of(path).stream().filter(LanguagePart::sure).findFirst();
    }

    /** Places of the same language that do not overlap, the given one among them. */
    private static List<Span> alike(List<Span> spans, Span span) {
        List<Span> same = new ArrayList<>(List.of(span));
        for (Span other : spans) {
            boolean apart = same.stream().allMatch(one -> other.end <= one.start || one.end <= other.start);
            if (apart && other.tag.equals(span.tag)) {
                same.add(other);
            }
        }
        return same;
    }

    private static void add(String path, List<Span> spans, Set<String> seen, List<LanguagePart> parts) {
        StringBuilder pattern = new StringBuilder(path);
        spans.stream()
                .sorted(Comparator.comparingInt(Span::start).reversed())
                .forEach(span -> pattern.replace(span.start, span.end, PLACE));
        if (seen.add(pattern.toString())) {
            Span first = spans.get(0);
            parts.add(new LanguagePart(
                    pattern.toString(),
                    first.tag,
                    path.substring(first.start, first.end),
                    spans.stream().anyMatch(Span::sure)));
        }
    }

    private static void inName(String path, int start, List<Span> spans) {
        int dot = path.lastIndexOf('.');
        int end = dot > start ? dot : path.length();
        if (resources(path, start, end, 0, spans)) {
            return;
        }
        tag(path.substring(start, end)).ifPresent(tag -> spans.add(new Span(start, end, tag, true, 0)));
        for (int i = start + 1; i < end; i++) {
            if (boundary(path.charAt(i - 1))) {
                int from = i;
                // From the longest tag at the end of the name to the shortest: "app_zh-Hant_TW" before "TW".
                tag(path.substring(i, end))
                        .ifPresent(tag -> spans.add(new Span(from, end, tag, true, 1 + from - start)));
            }
            if (boundary(path.charAt(i))) {
                int to = i;
                tag(path.substring(start, i))
                        .ifPresent(tag -> spans.add(new Span(start, to, tag, false, 1000 + end - to)));
            }
        }
        inBrackets(path, start, end, spans);
        // "messages.de.min.json": between two dots.
        for (int i = path.indexOf('.', start); i >= 0 && i < end; i = path.indexOf('.', i + 1)) {
            int from = i + 1;
            int to = path.indexOf('.', from);
            if (to > from && to < end) {
                tag(path.substring(from, to)).ifPresent(tag -> spans.add(new Span(from, to, tag, false, 2000 + from)));
            }
        }
        named(path, start, end, 0, spans);
    }

    /** "Exit sign (de).png", and "Exit sign DE.png", which is less sure; small letters behind a space are words. */
    private static void inBrackets(String path, int start, int end, List<Span> spans) {
        int space = path.lastIndexOf(' ', end - 1);
        if (space < start || space == end - 1) {
            return;
        }
        boolean bracketed = end - space > 3
                && (path.charAt(space + 1) == '(' && path.charAt(end - 1) == ')'
                        || path.charAt(space + 1) == '[' && path.charAt(end - 1) == ']');
        int from = bracketed ? space + 2 : space + 1;
        int to = bracketed ? end - 1 : end;
        if (bracketed || Character.isUpperCase(path.charAt(from))) {
            tag(path.substring(from, to)).ifPresent(tag -> spans.add(new Span(from, to, tag, bracketed, 900)));
        }
    }

    private static void inFolder(String path, int start, int end, int rank, List<Span> spans) {
        if (resources(path, start, end, rank, spans)) {
            return;
        }
        int bare = path.startsWith(".lproj", end - ".lproj".length()) ? end - ".lproj".length() : end;
        if (bare <= start) {
            return;
        }
        tag(path.substring(start, bare)).ifPresent(tag -> spans.add(new Span(start, bare, tag, true, rank)));
        for (int i = start + 1; i < bare; i++) {
            if (boundary(path.charAt(i - 1))) {
                int from = i;
                tag(path.substring(i, bare))
                        .ifPresent(tag -> spans.add(new Span(from, bare, tag, false, rank + 1 + from - start)));
            }
        }
        named(path, start, bare, rank, spans);
    }

    /** A whole part that is a language's name or three-letter code, such as {@code German.json} and {@code deu.json}, or the code behind another part. */
    private static void named(String path, int start, int end, int rank, List<Span> spans) {
        String part = path.substring(start, end);
        if (end - start == 3 || end - start > 3 && boundary(path.charAt(end - 4))) {
            LanguageNames.ofCode(path.substring(end - 3, end))
                    .ifPresent(tag -> spans.add(new Span(end - 3, end, tag, false, rank + 95)));
        }
        if (part.length() > 3 && part.codePoints().allMatch(c -> Character.isLetter(c) || c == ' ' || c == '_')) {
            LanguageNames.recognise(part.replace('_', ' '))
                    .filter(tag -> tag(part).isEmpty())
                    .ifPresent(tag -> spans.add(new Span(start, end, tag, false, rank + 90)));
        }
    }

    private static boolean resources(String path, int start, int end, int rank, List<Span> spans) {
        Matcher values = RESOURCES.matcher(path.substring(start, end));
        if (!values.matches()) {
            return false;
        }
        String part = values.group(1);
        if (!NO_LANGUAGE.contains(part)) {
            LanguageTag.parse(part.startsWith("b+") ? part.substring(2).replace('+', '-') : part.replace("-r", "-"))
                    .ifPresent(tag ->
                            spans.add(new Span(start + values.start(1), start + values.end(1), tag, true, rank)));
        }
        return true;
    }

    private static boolean boundary(char c) {
        return c == '.' || c == '_' || c == '-';
    }

    private static Optional<LanguageTag> tag(String part) {
        Matcher tag = TAG.matcher(part);
        boolean one = tag.matches()
                && !NO_LANGUAGE.contains(part.toLowerCase(Locale.ROOT))
                && (tag.group(1) == null
                        || SCRIPTS.contains(tag.group(1).substring(1).toLowerCase(Locale.ROOT)));
        if (!one) {
            return Optional.empty();
        }
        // A modifier that is no script ("en@quot") makes no other language of it.
        Optional<LanguageTag> whole = LanguageTag.parse(part);
        return whole.isPresent() || part.indexOf('@') < 0
                ? whole
                : LanguageTag.parse(part.substring(0, part.indexOf('@')));
    }
}
