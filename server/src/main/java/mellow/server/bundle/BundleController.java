package mellow.server.bundle;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.Enumeration;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import mellow.core.delivery.UndeliverableException;
import mellow.core.language.LanguageTag;
import mellow.core.product.LanguageResolver;
import mellow.server.bundle.Bodies.Body;
import mellow.server.bundle.Bodies.Form;
import mellow.server.bundle.Bodies.Now;
import mellow.server.bundle.BundleAccess.Access;
import mellow.server.bundle.BundleAccess.Granted;
import mellow.server.bundle.BundleAccess.Limit;
import mellow.server.bundle.BundleUse.Asker;
import mellow.server.bundle.BundleUse.Wish;
import mellow.server.common.ProblemWriter;
import mellow.server.common.Refusal;
import mellow.server.delivery.DeliveredTexts.Snapshot;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** The texts of running products: whole languages, or what changed of them, as JSON that caches may keep (RFC 9110, RFC 9111). */
@RestController
@RequestMapping("/api/bundles")
class BundleController {

    private static final String BEARER = "Bearer ";
    /** Fresh for a minute, and then still told while it is asked anew (RFC 5861 §3). */
    private static final String KEPT = "max-age=60, stale-while-revalidate=600";

    private final BundleAccess access;
    private final Bodies bodies;
    private final LiveBundles live;
    private final BundleUse use;
    private final ProblemWriter problems;

    BundleController(BundleAccess access, Bodies bodies, LiveBundles live, BundleUse use, ProblemWriter problems) {
        this.access = access;
        this.bodies = bodies;
        this.live = live;
        this.use = use;
        this.problems = problems;
    }

    /** Which languages a product has, of its last delivery. */
    @GetMapping("/{product}")
    void list(@PathVariable String product, HttpServletRequest request, HttpServletResponse response)
            throws IOException {
        Wish wish = new Wish("list", "");
        answer(product, request, response, wish, granted -> new Told(wish, bodies.list(granted, product)), KEPT);
    }

    /**
     * The texts of a language.
     *
     * @param asked a number, a tag, a list of tags, a host, or * for a list with weights in {@code languages} or else in Accept-Language
     * @param form flat, or nested for levels at the dots of keys
     * @param whole whether what is missing is borrowed
     * @param number of a delivery, the last one when absent
     * @param since the number of the delivery that is there already: only what changed is told
     * @param live whether texts are told as they are now; for tokens that are good for it
     * @param offered whether, of live texts, those are told too that are only offered
     * @param languages a list of tags with weights (RFC 9110 §12.5.4)
     * @param path of a page on the host, for which the prefixes of languages count
     */
    @GetMapping("/{product}/{asked}")
    void bundle(
            @PathVariable String product,
            @PathVariable String asked,
            @RequestParam(defaultValue = "flat") String form,
            @RequestParam(defaultValue = "true") boolean whole,
            @RequestParam(required = false) @Nullable Integer number,
            @RequestParam(required = false) @Nullable Integer since,
            @RequestParam(defaultValue = "false") boolean live,
            @RequestParam(defaultValue = "false") boolean offered,
            @RequestParam(required = false) @Nullable String languages,
            @RequestParam(defaultValue = "/") String path,
            HttpServletRequest request,
            HttpServletResponse response)
            throws IOException {
        String what = live ? "live" : since == null ? "texts" : "changes";
        answer(
                product,
                request,
                response,
                new Wish(what, ""),
                granted -> {
                    Form as = form(form, whole);
                    LanguageTag language = language(granted, product, asked, languages, path, request, response);
                    return new Told(
                            new Wish(what, language.value()),
                            body(granted, new Now(product, language, as, offered), live, number, since));
                },
                live ? "no-cache" : KEPT);
    }

    private Body body(Granted granted, Now now, boolean live, @Nullable Integer number, @Nullable Integer since) {
        if (live) {
            requireLive(granted);
            if (number != null || since != null) {
                throw Refusal.unacceptable(
                        "live-has-no-number", "Live texts are of no delivery; leave number and since out.");
            }
            return bodies.live(granted, now);
        }
        if (now.offers()) {
            throw Refusal.unacceptable(
                    "offered-are-live", "What is only offered is delivered to nobody; ask for it with live=true.");
        }
        Snapshot of = number == null ? bodies.last(granted) : bodies.numbered(granted, number);
        return since == null
                ? bodies.bundle(granted, now.slug(), of, now.language(), now.form())
                : bodies.change(granted, now.slug(), bodies.numbered(granted, since), of, now.language(), now.form());
    }

    private static void requireLive(Granted granted) {
        if (!granted.live()) {
            throw Refusal.forbidden(
                    "not-live", "Texts that were not delivered yet need a token that is good for them.");
        }
    }

    private static Form form(String form, boolean whole) {
        if (!form.equals("flat") && !form.equals("nested")) {
            throw Refusal.unacceptable("unknown-form", "A bundle is flat or nested.");
        }
        return new Form(form.equals("nested"), whole);
    }

    private LanguageTag language(
            Granted granted,
            String product,
            String asked,
            @Nullable String languages,
            String path,
            HttpServletRequest request,
            HttpServletResponse response) {
        LanguageResolver resolver = bodies.resolver(granted, product);
        return (asked.equals("*")
                        ? resolver.list(languages == null ? accepted(request, response) : languages)
                        : resolver.asked(asked, path))
                .language();
    }

    /**
     * Live texts, and what changes in them while it changes: server-sent events (the HTML standard, "Server-sent events"). The first one, "bundle", has all texts; each "change"
     * has those that say something else now, and the names of those that are gone.
     *
     * @param asked as for texts
     * @param form flat, or nested for levels at the dots of keys
     * @param whole whether what is missing is borrowed
     * @param offered whether those are told too that are only offered
     * @param languages a list of tags with weights (RFC 9110 §12.5.4)
     * @param path of a page on the host, for which the prefixes of languages count
     */
    @GetMapping("/{product}/{asked}/events")
    @Nullable
    SseEmitter events(
            @PathVariable String product,
            @PathVariable String asked,
            @RequestParam(defaultValue = "flat") String form,
            @RequestParam(defaultValue = "true") boolean whole,
            @RequestParam(defaultValue = "false") boolean offered,
            @RequestParam(required = false) @Nullable String languages,
            @RequestParam(defaultValue = "/") String path,
            HttpServletRequest request,
            HttpServletResponse response)
            throws IOException {
        Wish wish = new Wish("events", "");
        Granted granted = granted(product, request, response, wish).orElse(null);
        if (granted == null) {
            return null;
        }
        response.setHeader(HttpHeaders.CACHE_CONTROL, "no-store");
        Asker asker = new Asker(granted.product().id(), granted.token());
        return counted(asker, wish, () -> {
            Form as = form(form, whole);
            requireLive(granted);
            LanguageTag language = language(granted, product, asked, languages, path, request, response);
            SseEmitter stream = live.listen(granted, new Now(product, language, as, offered));
            use.answered(asker, new Wish("events", language.value()), 0);
            return stream;
        });
    }

    private static String accepted(HttpServletRequest request, HttpServletResponse response) {
        response.addHeader(HttpHeaders.VARY, HttpHeaders.ACCEPT_LANGUAGE);
        return String.join(",", all(request, HttpHeaders.ACCEPT_LANGUAGE));
    }

    /** What is asked for, and the answer. */
    private record Told(Wish wish, Body body) {}

    private void answer(
            String product,
            HttpServletRequest request,
            HttpServletResponse response,
            Wish wish,
            Function<Granted, Told> making,
            String keep)
            throws IOException {
        Granted granted = granted(product, request, response, wish).orElse(null);
        if (granted == null) {
            return;
        }
        Asker asker = new Asker(granted.product().id(), granted.token());
        Told made = counted(asker, wish, () -> making.apply(granted));
        write(made, asker, (granted.open() ? "public, " : "private, ") + keep, request, response);
    }

    /** What is made, or its refusal, which is counted. */
    private <T> T counted(Asker asker, Wish wish, Supplier<T> making) {
        try {
            return making.get();
        } catch (UndeliverableException stopped) {
            use.refused(asker, wish);
            throw Bodies.refused(stopped);
        } catch (Refusal refused) {
            use.refused(asker, wish);
            throw refused;
        }
    }

    /** Who may be answered; empty where the refusal is written already. */
    private Optional<Granted> granted(
            String product, HttpServletRequest request, HttpServletResponse response, Wish wish) throws IOException {
        Access found = access.look(product, secret(request), request.getRemoteAddr());
        Origins.tell(found, request, response);
        response.addHeader(HttpHeaders.VARY, HttpHeaders.AUTHORIZATION);
        response.addHeader(HttpHeaders.VARY, HttpHeaders.ACCEPT_ENCODING);
        Optional<Granted> granted = found.granted();
        if (granted.isEmpty()) {
            found.product().ifPresent(number -> use.refused(new Asker(number, BundleUse.STRANGER), wish));
            refuse(access.refused(request.getRemoteAddr()), response);
            return granted;
        }
        Limit limit = access.asked(granted.get().who());
        tell(limit, response);
        if (limit.left() < 0) {
            use.refused(new Asker(granted.get().product().id(), granted.get().token()), wish);
            tooMany(limit, response);
            return Optional.empty();
        }
        return granted;
    }

    private static @Nullable String secret(HttpServletRequest request) {
        String header = request.getHeader(HttpHeaders.AUTHORIZATION);
        if (header == null) {
            return null;
        }
        return header.regionMatches(true, 0, BEARER, 0, BEARER.length())
                ? header.substring(BEARER.length()).strip()
                : header;
    }

    /** The same for a product that there is not, one that is not served, and a token that is none of its own. */
    private void refuse(Limit limit, HttpServletResponse response) throws IOException {
        response.setHeader(HttpHeaders.CACHE_CONTROL, "no-store");
        if (limit.left() < 0) {
            tooMany(limit, response);
            return;
        }
        response.setHeader(HttpHeaders.WWW_AUTHENTICATE, "Bearer");
        problems.write(
                response,
                HttpStatus.UNAUTHORIZED,
                "no-bundle-token",
                "There is no such product, or it needs a token of its own that has neither expired nor been ended.");
    }

    private void tooMany(Limit limit, HttpServletResponse response) throws IOException {
        response.setHeader(HttpHeaders.RETRY_AFTER, Integer.toString(limit.seconds()));
        problems.write(
                response,
                HttpStatus.TOO_MANY_REQUESTS,
                "too-many-requests",
                "Too many requests in this minute; wait " + limit.seconds() + " seconds.");
    }

    private static void tell(Limit limit, HttpServletResponse response) {
        response.setIntHeader("RateLimit-Limit", limit.most());
        response.setIntHeader("RateLimit-Remaining", Math.max(0, limit.left()));
        response.setIntHeader("RateLimit-Reset", limit.seconds());
    }

    private void write(Told told, Asker asker, String keep, HttpServletRequest request, HttpServletResponse response)
            throws IOException {
        Body body = told.body;
        Coding coding = Coding.of(request, body);
        response.setHeader(HttpHeaders.ETAG, coding.tag(body));
        response.setHeader(HttpHeaders.CACHE_CONTROL, keep);
        if (isKnown(request, body)) {
            response.setStatus(HttpStatus.NOT_MODIFIED.value());
            use.unchanged(asker, told.wish);
            return;
        }
        byte[] bytes = Objects.requireNonNull(coding.bytes(body));
        if (coding != Coding.NONE) {
            response.setHeader(HttpHeaders.CONTENT_ENCODING, coding.name);
        }
        response.setContentType(MediaType.APPLICATION_JSON_VALUE);
        response.setContentLength(bytes.length);
        boolean whole = !request.getMethod().equals("HEAD");
        use.answered(asker, told.wish, whole ? bytes.length : 0);
        if (whole) {
            response.getOutputStream().write(bytes);
        }
    }

    /** How an answer is sent (RFC 9110 §12.5.3), the smallest first. */
    private enum Coding {
        BROTLI("br") {
            @Override
            byte @Nullable [] bytes(Body body) {
                return body.brotli();
            }
        },
        GZIP("gzip") {
            @Override
            byte[] bytes(Body body) {
                return body.gzip();
            }
        },
        NONE("") {
            @Override
            byte[] bytes(Body body) {
                return body.plain();
            }
        };

        private final String name;

        Coding(String name) {
            this.name = name;
        }

        abstract byte @Nullable [] bytes(Body body);

        /** The first one that is taken, whatever its weight, unless that is nothing. */
        static Coding of(HttpServletRequest request, Body body) {
            Set<String> taken = new HashSet<>();
            for (String one : all(request, HttpHeaders.ACCEPT_ENCODING)) {
                String[] parts = one.split(";", 2);
                if (parts.length == 1 || !parts[1].strip().matches("(?i)q\\s*=\\s*0(\\.0{0,3})?")) {
                    taken.add(parts[0].strip().toLowerCase(Locale.ROOT));
                }
            }
            return Stream.of(BROTLI, GZIP)
                    .filter(coding -> taken.contains(coding.name) && coding.bytes(body) != null)
                    .findFirst()
                    .orElse(NONE);
        }

        /** A strong mark: other bytes have another one. */
        String tag(Body body) {
            return '"' + body.hash() + (this == NONE ? "" : '-' + name) + '"';
        }
    }

    /** If-None-Match (RFC 9110 §13.1.2), compared weakly; however it was sent, it is one content. */
    private static boolean isKnown(HttpServletRequest request, Body body) {
        Set<String> marks =
                Stream.of(Coding.values()).map(coding -> coding.tag(body)).collect(Collectors.toSet());
        return all(request, HttpHeaders.IF_NONE_MATCH).stream()
                .map(one -> one.strip().replaceFirst("^W/", ""))
                .anyMatch(tag -> tag.equals("*") || marks.contains(tag));
    }

    private static List<String> all(HttpServletRequest request, String name) {
        Enumeration<String> headers = request.getHeaders(name);
        StringBuilder joined = new StringBuilder();
        while (headers.hasMoreElements()) {
            joined.append(joined.isEmpty() ? "" : ",").append(headers.nextElement());
        }
        return List.of(joined.toString().split(","));
    }
}
