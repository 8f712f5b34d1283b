package mellow.core.check;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/** Links and e-mail addresses that are not the source's. A language's own page is fine: its tag in host, path or query makes no difference. */
final class LinkCheck implements Check {

    private static final int SHORTEST = 5;

    private record Link(String spelled, String compared, int start, int end) {}

    @Override
    public void lookAt(Form form, Found found) {
        if (!form.comparable() || !(form.anywhere(Traits.LINK) || form.source().contains("www."))) {
            return;
        }
        List<Link> asked = in(form.source(), form);
        List<Link> given = in(form.text(), form);
        Map<String, Link> missing = new LinkedHashMap<>();
        asked.forEach(link -> missing.putIfAbsent(link.compared, link));
        Set<String> known = Set.copyOf(missing.keySet());
        given.forEach(link -> missing.remove(link.compared));
        for (Link link : missing.values()) {
            found.add(
                    "link-missing",
                    form.name(),
                    "The link {link} is missing or changed.",
                    Map.of("link", link.spelled));
        }
        for (Link link : given) {
            if (!known.contains(link.compared)) {
                found.add(
                        "link-extra",
                        form.name(),
                        "{link} is not in the source.",
                        Map.of("link", link.spelled),
                        link.start,
                        link.end);
            }
        }
    }

    private static List<Link> in(String text, Form form) {
        List<Link> links = new ArrayList<>();
        int at = 0;
        while (at < text.length()) {
            if (!Character.isLetterOrDigit(text.charAt(at)) || (at > 0 && part(text.charAt(at - 1)))) {
                at++;
                continue;
            }
            int end = at;
            while (end < text.length() && part(text.charAt(end))) {
                end++;
            }
            while (end > at && ".,;:!?)('\"".indexOf(text.charAt(end - 1)) >= 0) {
                end--;
            }
            String spelled = text.substring(at, end);
            if (link(spelled)) {
                links.add(new Link(spelled, compared(spelled, form), at, end));
            }
            at = Math.max(end, at + 1);
        }
        return links;
    }

    private static boolean link(String word) {
        if (word.length() < SHORTEST) {
            return false;
        }
        int mail = word.indexOf('@');
        String lower = word.toLowerCase(Locale.ROOT);
        return lower.startsWith("http://")
                || lower.startsWith("https://")
                || lower.startsWith("ftp://")
                || lower.startsWith("mailto:")
                || lower.startsWith("www.")
                || (mail > 0 && word.indexOf('.', mail) > mail + 1);
    }

    /** Characters of RFC 3986 §2 as they stand in texts; braces, since a link may hold a placeholder. */
    private static boolean part(char c) {
        return (c < 128 && Character.isLetterOrDigit(c)) || "-._~:/?#@!$&'*+,;=%{}".indexOf(c) >= 0;
    }

    /** Without the tag of either language, a closing slash, and the case of the host. */
    private static String compared(String link, Form form) {
        String lower = link.toLowerCase(Locale.ROOT);
        for (String language :
                List.of(form.ground().facts().language(), form.ground().source().language())) {
            lower = lower.replaceAll("(?<=[/.=?&_-])" + language + "(?:[-_][a-z]{2})?(?=[/.&#_-]|$)", "")
                    .replaceAll("(?<=//)" + language + "\\.", "");
        }
        lower = lower.replaceAll("(?<=//)\\.|(?<!:)/(?=/)", "").replaceAll("^http:", "https:");
        return lower.endsWith("/") ? lower.substring(0, lower.length() - 1) : lower;
    }
}
