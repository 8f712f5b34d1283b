package mellow.server.web;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.ServletInputStream;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletRequestWrapper;
import jakarta.servlet.http.HttpServletResponse;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.regex.Pattern;
import mellow.server.common.DatabaseAway;
import mellow.server.common.ProblemWriter;
import mellow.server.common.Refusal;
import mellow.server.common.RequestPath;
import mellow.server.people.SignedIn;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Bounds what a request can take before anybody looks at it: how large a body may be, how long it may take, how slow it may be, and how many bodies one
 * address may send to the doors at once. Runs before sessions and rights, so that nothing that is held dear (a connection, a session) waits for a slow sender.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE + 10)
class BodyFilter extends OncePerRequestFilter {

    private static final Logger LOG = LoggerFactory.getLogger(BodyFilter.class);
    private static final int KILOBYTE = 1024;
    private static final int PIECE = 64 * KILOBYTE;

    /**
     * What a body may be.
     *
     * @param bytes its size; files are bounded where they are taken
     * @param seconds how long it may take in all
     * @param graceSeconds how long it may be slower than {@code rate}
     * @param rate bytes in a second
     */
    record Bounds(long bytes, int seconds, int graceSeconds, int rate) {}

    /** A name and a password. */
    static final Bounds DOORS = new Bounds(16 * KILOBYTE, 10, 5, KILOBYTE);

    /** Thousands of cells with their texts. */
    static final Bounds WORDS = new Bounds(8L * KILOBYTE * KILOBYTE, 60, 10, 4 * KILOBYTE);

    /** Files over a slow line: 200 MB at 256 kB/s take a quarter of an hour. */
    static final Bounds FILES = new Bounds(Long.MAX_VALUE, 30 * 60, 20, 4 * KILOBYTE);

    /** Bodies to the doors that may be under way from one address, and from everywhere: some of the threads always stay for those who are in. */
    private static final int PER_ADDRESS = 40;

    private static final int IN_ALL = 80;

    private static final Pattern FORMS =
            Pattern.compile("\\s*(application/x-www-form-urlencoded|multipart/)", Pattern.CASE_INSENSITIVE);

    private final ProblemWriter problems;
    private final AtomicInteger inAll = new AtomicInteger();
    private final Map<String, Integer> byAddress = new ConcurrentHashMap<>();

    BodyFilter(ProblemWriter problems) {
        this.problems = problems;
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws IOException, ServletException {
        try {
            within(request, response, chain);
        } catch (RuntimeException | ServletException failed) {
            // Sessions are looked up before any controller is reached.
            if (!DatabaseAway.is(failed) || response.isCommitted()) {
                throw failed;
            }
            response.reset();
            problems.write(response, HttpStatus.SERVICE_UNAVAILABLE, DatabaseAway.CODE, DatabaseAway.SENTENCE);
        }
    }

    private void within(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws IOException, ServletException {
        String type = request.getContentType();
        if (type != null && FORMS.matcher(type).lookingAt()) {
            // Nothing takes forms, and whoever asks for a parameter would read one to its end, however slowly it comes.
            problems.write(
                    response,
                    HttpStatus.UNSUPPORTED_MEDIA_TYPE,
                    "no-forms",
                    "Forms are not taken; expected JSON, or the bytes of a file.");
            request.setAttribute(LetGo.ASKED, true);
            return;
        }
        String unsound = Parameters.unsound(request);
        if (unsound != null) {
            problems.write(response, HttpStatus.BAD_REQUEST, "bad-request", unsound);
            request.setAttribute(LetGo.ASKED, true);
            return;
        }
        Bounds bounds = bounds(request);
        if (request.getContentLengthLong() > bounds.bytes) {
            problems.write(response, HttpStatus.CONTENT_TOO_LARGE, "body-too-large", tooLarge(bounds));
            request.setAttribute(LetGo.ASKED, true);
            return;
        }
        if (!hasBody(request)) {
            chain.doFilter(request, response);
            return;
        }
        Bounded bounded = new Bounded(request, bounds);
        if (bounds != DOORS) {
            chain.doFilter(bounded, response);
            rest(bounded);
            return;
        }
        String address = request.getRemoteAddr();
        int here = byAddress.merge(address, 1, Integer::sum);
        try {
            if (inAll.incrementAndGet() > IN_ALL || here > PER_ADDRESS) {
                problems.write(
                        response,
                        HttpStatus.SERVICE_UNAVAILABLE,
                        "too-many-at-once",
                        "Too many are signing in at once; try again in a moment.");
                request.setAttribute(LetGo.ASKED, true);
                return;
            }
            chain.doFilter(bounded, response);
            rest(bounded);
        } finally {
            inAll.decrementAndGet();
            byAddress.computeIfPresent(address, (who, n) -> n == 1 ? null : n - 1);
        }
    }

    /**
     * What nobody read of a body. The rest of somebody's file is read on, within its bounds, so that they see the reply and not a broken line. For strangers no
     * thread waits: what is not there already closes the line, which the server would otherwise wait for with a thread.
     */
    private static void rest(Bounded request) throws IOException {
        BoundedStream in = request.opened();
        byte[] piece = new byte[PIECE];
        boolean known = request.getAttribute(SignedIn.KNOWN) != null;
        try {
            while (!in.isFinished() && (known || in.available() > 0) && in.read(piece) >= 0) {
                // Thrown away.
            }
        } catch (Refusal | IOException givenUp) {
            LOG.debug("The rest of a body was given up: {}", givenUp.getMessage());
            request.setAttribute(LetGo.ASKED, true);
        }
        if (!in.isFinished()) {
            request.setAttribute(LetGo.ASKED, true);
        }
    }

    private static boolean hasBody(HttpServletRequest request) {
        return request.getContentLengthLong() > 0 || request.getHeader("Transfer-Encoding") != null;
    }

    private static Bounds bounds(HttpServletRequest request) {
        String path = RequestPath.of(request);
        if (path.equals("/api/session") || path.startsWith("/api/invitations/")) {
            return DOORS;
        }
        String type = request.getContentType();
        boolean json = type == null || type.startsWith("application/json");
        return json ? WORDS : FILES;
    }

    static String tooLarge(Bounds bounds) {
        return "What was sent is larger than " + bounds.bytes / KILOBYTE + " kB, which is the most here.";
    }

    private static final class Bounded extends HttpServletRequestWrapper {
        private final Bounds bounds;
        private @Nullable BoundedStream opened;

        Bounded(HttpServletRequest request, Bounds bounds) {
            super(request);
            this.bounds = bounds;
        }

        @Override
        public ServletInputStream getInputStream() throws IOException {
            return opened();
        }

        BoundedStream opened() throws IOException {
            BoundedStream known = opened;
            if (known == null) {
                known = new BoundedStream(super.getInputStream(), bounds, System::nanoTime);
                opened = known;
            }
            return known;
        }

        @Override
        public BufferedReader getReader() throws IOException {
            return new BufferedReader(new InputStreamReader(getInputStream(), StandardCharsets.UTF_8));
        }
    }
}
