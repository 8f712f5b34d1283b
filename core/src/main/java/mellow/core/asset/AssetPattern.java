package mellow.core.asset;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import mellow.core.format.LanguagePart;
import mellow.core.language.LanguageNames;
import mellow.core.language.LanguageTag;

/**
 * How paths of pictures and sounds are made of the name of their entry and a language, such as <code>voices/{key}-{language}.{ext}</code>. Places are
 * <code>{key}</code>, once, which may go over folders; <code>{folder}</code>, at most once, a part of the path that goes before it; <code>{language}</code>, as often as
 * paths say it; and <code>{ext}</code>. Everything else stands for itself. Takes time linear in the path.
 */
public final class AssetPattern {

    private static final String KEY = "{key}";
    private static final String FOLDER = "{folder}";
    private static final String LANGUAGE = "{language}";
    private static final String EXT = "{ext}";
    private static final int LONGEST = 300;

    private static final Pattern PLACE = Pattern.compile("\\{[^{}]*\\}");
    private static final Map<String, String> MATCHES =
            Map.of(KEY, "(?P<key>.+?)", FOLDER, "(?P<folder>.+?)", EXT, "[A-Za-z0-9]{1,10}");
    /** As much as a language may be spelled with; whether it is one is asked afterwards. */
    private static final String SPELLED = "[\\pL\\pN]{2,20}(?:[-_@+][\\pL\\pN]{2,10}){0,3}";

    private final String text;
    private final Pattern found;
    private final Pattern guessed;
    private final Pattern bare;
    private final Pattern base;

    private AssetPattern(String text) {
        this.text = text;
        this.found = compiled(text, Pattern.quote(LanguagePart.PLACE), 0);
        this.guessed = compiled(text, SPELLED, 1);
        this.bare = compiled(bare(text), "", 0);
        this.base = compiled(text, "Base", 0);
    }

    /**
     * Understands a pattern.
     *
     * @throws IllegalArgumentException with a sentence that says what is wrong with it
     */
    public static AssetPattern of(String text) {
        List<String> places = new ArrayList<>();
        Matcher place = PLACE.matcher(text);
        while (place.find()) {
            places.add(place.group());
        }
        if (text.length() > LONGEST) {
            throw new IllegalArgumentException("A pattern has at most " + LONGEST + " characters.");
        }
        Set<String> known = Set.of(KEY, FOLDER, LANGUAGE, EXT);
        for (String one : places) {
            if (!known.contains(one)) {
                throw new IllegalArgumentException("“" + one
                        + "” stands for nothing; a pattern has {key}, {language}, {ext} and perhaps {folder}.");
            }
        }
        if (places.stream().filter(KEY::equals).count() != 1
                || places.stream().filter(FOLDER::equals).count() > 1
                || !places.contains(LANGUAGE)) {
            throw new IllegalArgumentException(
                    "A pattern has {key} once and {language}, such as {key}_{language}.{ext}, and at most one {folder}.");
        }
        return new AssetPattern(text);
    }

    private static Pattern compiled(String text, String language, int groups) {
        StringBuilder expression = new StringBuilder();
        Matcher place = PLACE.matcher(text);
        int at = 0;
        int named = groups;
        while (place.find()) {
            expression.append(Pattern.quote(text.substring(at, place.start())));
            if (!place.group().equals(LANGUAGE)) {
                expression.append(MATCHES.get(place.group()));
            } else if (named > 0) {
                expression.append("(?P<language>").append(language).append(')');
                named = 0;
            } else {
                expression.append(groups > 0 ? "(?:" + language + ")" : language);
            }
            at = place.end();
        }
        expression.append(Pattern.quote(text.substring(at)));
        return Pattern.compile(expression.toString(), Pattern.DOTALL);
    }

    /** The pattern of a file without a language: as when the part that names it had never been. */
    private static String bare(String text) {
        String name = LANGUAGE.replace("{", "\\{").replace("}", "\\}");
        String shorter = text.replaceAll("(^|/)" + name + "/", "$1")
                .replaceAll(" ?[(\\[]" + name + "[)\\]]", "")
                .replaceAll("[-_.+ ]+" + name, "")
                .replaceAll(name + "[-_.+ ]+", "");
        return shorter.replace(LANGUAGE, "");
    }

    /**
     * What a path says.
     *
     * @param key the entry's key
     * @param language the language
     */
    public record Named(String key, LanguageTag language) {}

    /** What a path says with a language in it; empty when it is not made so. */
    public Optional<Named> named(String path) {
        ScaleMark scale = ScaleMark.ofPath(path);
        return named(scale, LanguagePart.of(scale.without()));
    }

    /** The same of a path without whose mark the parts are known. */
    Optional<Named> named(ScaleMark path, List<LanguagePart> parts) {
        for (LanguagePart part : parts) {
            Matcher match = found.matcher(part.pattern());
            if (match.matches() && !key(match).contains(LanguagePart.PLACE)) {
                return Optional.of(new Named(key(match) + path.mark(), part.tag()));
            }
        }
        Matcher match = guessed.matcher(path.without());
        if (!match.matches()) {
            return Optional.empty();
        }
        String spelled = match.group("language");
        return LanguageTag.parse(spelled)
                .or(() -> LanguageNames.recognise(spelled.replace('_', ' ')))
                .or(() -> LanguageNames.ofCode(spelled))
                .filter(LanguageTag::plain)
                .map(tag -> new Named(key(match) + path.mark(), tag));
    }

    /** The key of a file that is made so but for its language, or has {@code Base} in its place. */
    public Optional<String> without(String path) {
        ScaleMark scale = ScaleMark.ofPath(path);
        for (Pattern pattern : List.of(bare, base)) {
            Matcher match = pattern.matcher(scale.without());
            if (match.matches()) {
                return Optional.of(key(match) + scale.mark());
            }
        }
        return Optional.empty();
    }

    private String key(Matcher match) {
        String key = match.group("key");
        return text.contains(FOLDER) ? match.group("folder") + "/" + key : key;
    }

    /** As it is written. */
    @Override
    public String toString() {
        return text;
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof AssetPattern pattern && pattern.text.equals(text);
    }

    @Override
    public int hashCode() {
        return text.hashCode();
    }
}
