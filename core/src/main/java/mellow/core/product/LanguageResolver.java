package mellow.core.product;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import mellow.core.language.LanguageTag;

/**
 * Says which language of a product is meant: by a number in a register, a tag, a list with weights (RFC 9110 §12.5.4) or an address. The answer is always a
 * language of the product.
 */
public final class LanguageResolver {

    private static final Pattern NUMBER = Pattern.compile("[0-9]{1,9}");
    private static final Pattern WEIGHT = Pattern.compile("(?:0(?:\\.[0-9]{0,3})?|1(?:\\.0{0,3})?)");
    /** Longer lists are cut: no reader has as many languages, and the rest would cost time for nothing. */
    private static final int LONGEST_LIST = 4_000;

    private final ProductLanguages languages;
    private final List<Known> known;

    private record Known(ProductLanguage language, String canonical, List<String> lineage) {}

    /** Answers for these languages. */
    public LanguageResolver(ProductLanguages languages) {
        this.languages = languages;
        this.known = languages.all().stream()
                .map(one -> {
                    String canonical = Lineage.canonical(one.tag().value())
                            .orElse(one.tag().value());
                    List<String> lineage = new ArrayList<>();
                    lineage.add(canonical);
                    lineage.addAll(Lineage.parents(canonical));
                    return new Known(one, canonical, lineage);
                })
                .toList();
    }

    /**
     * An answer.
     *
     * @param steps how it was found, from what was asked to the language
     */
    public record Answer(LanguageTag language, List<Step> steps) {

        public Answer {
            steps = List.copyOf(steps);
        }
    }

    /**
     * What somebody means who says one of: a number, a list of tags, a host, a tag.
     *
     * @param path of a page on the host
     */
    public Answer asked(String asked, String path) {
        if (NUMBER.matcher(asked).matches()) {
            return number(asked);
        }
        if (asked.contains(",")) {
            return list(asked);
        }
        return asked.contains(".") || asked.contains(":") ? address(asked, path) : tag(asked);
    }

    /** What a number in a register means: plain decimal digits, leading zeros allowed. */
    public Answer number(String asked) {
        List<Step> steps = asked(asked);
        if (!NUMBER.matcher(asked).matches()) {
            steps.add(new Step("no-number", "no plain number", Map.of()));
            return start(steps);
        }
        int number = Integer.parseInt(asked);
        Optional<LanguageTag> listed = languages.all().stream()
                .filter(one -> one.selector() != null && one.selector() == number)
                .map(ProductLanguage::tag)
                .findFirst();
        if (listed.isEmpty()) {
            steps.add(new Step("not-listed", "not listed", Map.of()));
            return start(steps);
        }
        return answer(listed.get(), steps);
    }

    /** What a tag means. */
    public Answer tag(String asked) {
        List<Step> steps = asked(asked);
        Optional<LanguageTag> found = lookedUp(asked, steps, true);
        return found.map(tag -> answer(tag, steps)).orElseGet(() -> start(steps));
    }

    /** What a list with weights means: the languages that a reader knows, the best first. Hidden languages are none of them. */
    public Answer list(String asked) {
        record Range(String tag, double weight) {}
        List<Step> steps = asked(asked.length() > 80 ? asked.substring(0, 80) + "…" : asked);
        List<Range> ranges = new ArrayList<>();
        for (String item :
                asked.substring(0, Math.min(asked.length(), LONGEST_LIST)).split(",")) {
            String[] parts = item.strip().split("\\s*;\\s*", 2);
            double weight = parts.length == 1 ? 1 : weight(parts[1]);
            if (weight > 0 && !parts[0].isEmpty()) {
                ranges.add(new Range(parts[0], weight));
            }
        }
        ranges.sort(Comparator.comparingDouble(Range::weight).reversed());
        for (Range range : ranges) {
            if (range.tag.equals("*")) {
                steps.add(new Step("any", "any language", Map.of()));
                return start(steps);
            }
            List<Step> tried = new ArrayList<>();
            tried.add(new Step("range", "{tag}", Map.of("tag", range.tag)));
            Optional<LanguageTag> found = lookedUp(range.tag, tried, false);
            steps.addAll(tried);
            if (found.isPresent()) {
                return answer(found.get(), steps);
            }
        }
        return start(steps);
    }

    private static double weight(String parameter) {
        String[] pair = parameter.strip().split("\\s*=\\s*", 2);
        return pair.length == 2
                        && pair[0].equalsIgnoreCase("q")
                        && WEIGHT.matcher(pair[1]).matches()
                ? Double.parseDouble(pair[1])
                : 0;
    }

    /**
     * What an address means: the prefix of a language, else the start language of the host.
     *
     * @param host with or without a port, in any case
     * @param path beginning with a slash
     */
    public Answer address(String host, String path) {
        List<Step> steps = asked(host + path);
        String named = host.toLowerCase(Locale.ROOT).replaceAll(":[0-9]*$", "").replaceAll("\\.$", "");
        String first = firstPart(path);
        if (!first.isEmpty()) {
            Optional<LanguageTag> byPrefix = languages.all().stream()
                    .filter(one -> !one.prefix().isEmpty() && one.prefix().equalsIgnoreCase(first))
                    .map(ProductLanguage::tag)
                    .findFirst();
            if (byPrefix.isPresent()) {
                steps.add(new Step("prefix", "prefix /{prefix}", Map.of("prefix", first)));
                return answer(byPrefix.get(), steps);
            }
        }
        LanguageTag ofHost = languages.hosts().get(named);
        if (ofHost != null) {
            steps.add(new Step("host", "no prefix of a language → start language of {host}", Map.of("host", named)));
            return answer(ofHost, steps);
        }
        steps.add(new Step("no-host", "no host of the product", Map.of()));
        return start(steps);
    }

    private static String firstPart(String path) {
        if (!path.startsWith("/")) {
            return "";
        }
        int end = path.length();
        for (char ending : new char[] {'/', '?', '#'}) {
            int at = path.indexOf(ending, 1);
            end = at < 0 ? end : Math.min(end, at);
        }
        return decoded(path.substring(1, end));
    }

    /** Percent-decoded once (RFC 3986 §2.1); what is no such escape stays as it is. */
    private static String decoded(String part) {
        if (part.indexOf('%') < 0) {
            return part;
        }
        byte[] bytes = part.getBytes(StandardCharsets.UTF_8);
        ByteArrayOutputStream decoded = new ByteArrayOutputStream();
        for (int i = 0; i < bytes.length; i++) {
            int high = bytes[i] == '%' && i + 2 < bytes.length ? Character.digit(bytes[i + 1], 16) : -1;
            int low = high < 0 ? -1 : Character.digit(bytes[i + 2], 16);
            if (low < 0) {
                decoded.write(bytes[i]);
            } else {
                decoded.write(high << 4 | low);
                i += 2;
            }
        }
        return decoded.toString(StandardCharsets.UTF_8);
    }

    /** By the look-up of RFC 4647 §3.4 along CLDR's parents, then the nearest of the same script. */
    private Optional<LanguageTag> lookedUp(String asked, List<Step> steps, boolean exactHidden) {
        Optional<String> parsed = Lineage.canonical(asked);
        if (parsed.isEmpty()) {
            steps.add(new Step("no-tag", "no language tag", Map.of()));
            return Optional.empty();
        }
        String canonical = parsed.get();
        if (!canonical.equalsIgnoreCase(asked.replace('_', '-'))) {
            steps.add(new Step("means", "means {tag}", Map.of("tag", canonical)));
        }
        Optional<LanguageTag> exact = first(
                        one -> (exactHidden || !one.language.hidden()) && one.canonical.equals(canonical))
                .or(() -> first(
                        one -> (exactHidden || !one.language.hidden()) && Lineage.same(one.canonical, canonical)));
        if (exact.isPresent()) {
            return exact;
        }
        List<String> lineage = new ArrayList<>();
        lineage.add(canonical);
        lineage.addAll(Lineage.parents(canonical));
        for (String parent : lineage.subList(1, lineage.size())) {
            steps.add(new Step("parent", "{tag}", Map.of("tag", parent)));
            Optional<LanguageTag> found = first(one -> !one.language.hidden() && one.canonical.equals(parent));
            if (found.isPresent()) {
                return found;
            }
        }
        return nearest(canonical, lineage, steps);
    }

    private Optional<LanguageTag> nearest(String canonical, List<String> lineage, List<Step> steps) {
        String script = Lineage.script(canonical);
        for (String ancestor : lineage) {
            Optional<LanguageTag> found = first(one -> !one.language.hidden()
                    && one.lineage.contains(ancestor)
                    && Lineage.script(one.canonical).equals(script));
            if (found.isPresent()) {
                steps.add(new Step("nearest", "nearest that also comes from {tag}", Map.of("tag", ancestor)));
                return found;
            }
        }
        return Optional.empty();
    }

    private Optional<LanguageTag> first(Predicate<Known> wanted) {
        return known.stream().filter(wanted).map(one -> one.language.tag()).findFirst();
    }

    private static List<Step> asked(String asked) {
        List<Step> steps = new ArrayList<>();
        steps.add(new Step("asked", "{asked}", Map.of("asked", asked)));
        return steps;
    }

    private Answer start(List<Step> steps) {
        steps.add(new Step("start", "start language", Map.of()));
        return answer(languages.start(), steps);
    }

    private static Answer answer(LanguageTag tag, List<Step> steps) {
        if (!steps.get(steps.size() - 1).said().equals(tag.value())) {
            steps.add(new Step("language", "{language}", Map.of("language", tag.value())));
        }
        return new Answer(tag, steps);
    }
}
