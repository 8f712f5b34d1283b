package mellow.server.draft;

import java.net.ConnectException;
import java.net.http.HttpClient;
import java.net.http.HttpConnectTimeoutException;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/**
 * Asks a service for drafts by the protocol in docs/drafting.md. Asked again is only what it surely did not do: it could not be reached, or said that it is busy.
 */
@Component
class DraftClient {

    private static final JsonMapper JSON = JsonMapper.shared();
    private static final Duration CONNECT = Duration.ofSeconds(5);
    private static final int MOST_ATTEMPTS = 4;
    private static final int LONGEST_PAUSE_SECONDS = 30;
    /** A hundred texts of 40,000 characters; more is no answer to what was asked. */
    private static final int MOST_BYTES = 16_000_000;

    private static final int OK = 200;
    private static final int REFUSED = 400;
    private static final int FAILED = 500;
    private static final int TOO_MANY = 429;
    private static final int BUSY = 503;

    private final Duration pause;
    private final HttpClient client = HttpClient.newBuilder()
            .connectTimeout(CONNECT)
            .followRedirects(HttpClient.Redirect.NEVER)
            .version(HttpClient.Version.HTTP_1_1)
            .build();

    /** @param pause before it is tried again, doubled each time, where the service does not say how long */
    DraftClient(@Value("${mellow.drafting.pause:PT1S}") Duration pause) {
        this.pause = pause;
    }

    /**
     * A text as it is sent.
     *
     * @param id by which the answer names it
     * @param text with marks in the place of placeholders
     * @param marks they, in order
     * @param context the entry's, empty for none
     * @param note for whoever translates, empty for none
     * @param maxLength in characters, 0 for any
     * @param terms of the wordbook that stand in it
     */
    record Sent(
            String id,
            String text,
            List<String> marks,
            String context,
            String note,
            int maxLength,
            List<SentTerm> terms) {}

    /** @param avoid what not to say for it */
    record SentTerm(String term, String text, List<String> avoid) {}

    /**
     * What is asked.
     *
     * @param from tag of the texts' language
     * @param to tag of the language that they are wanted in
     */
    record Question(String from, String to, List<Sent> texts) {}

    /**
     * What came of it.
     *
     * @param drafts by the ids of the texts; empty when it failed
     * @param failure a sentence, empty when it did not fail
     * @param unsent whether the service surely did nothing
     */
    record Answered(Map<String, DraftAnswer.One> drafts, String failure, boolean unsent) {

        static Answered failed(String sentence, boolean unsent) {
            return new Answered(Map.of(), sentence, unsent);
        }
    }

    /** Asks, and waits for the answer as long as the service's settings let it take. */
    Answered ask(DraftServices.Asked service, String secret, Question question) throws InterruptedException {
        byte[] body = JSON.writeValueAsBytes(question);
        Duration wait = pause;
        for (int attempt = 1; ; attempt++) {
            Attempt tried = once(service, secret, body);
            if (tried.again == null || attempt == MOST_ATTEMPTS) {
                return tried.answered;
            }
            Duration longest = Duration.ofSeconds(LONGEST_PAUSE_SECONDS);
            Duration next = tried.again.isZero() ? wait : tried.again;
            Thread.sleep((next.compareTo(longest) > 0 ? longest : next).toMillis());
            wait = wait.multipliedBy(2);
        }
    }

    /** @param again after how long it is worth trying again, zero for the usual pause, null for never */
    private record Attempt(Answered answered, @Nullable Duration again) {}

    private Attempt once(DraftServices.Asked service, String secret, byte[] body) throws InterruptedException {
        int seconds = service.reply().settings().seconds();
        HttpRequest.Builder request = HttpRequest.newBuilder(service.address())
                .header("Content-Type", "application/json")
                .header("User-Agent", "Mellow-Ledger")
                .POST(HttpRequest.BodyPublishers.ofByteArray(body));
        if (!secret.isEmpty()) {
            request.header("Authorization", "Bearer " + secret);
        }
        CompletableFuture<HttpResponse<byte[]>> asked =
                client.sendAsync(request.build(), head -> new BoundedBody(MOST_BYTES));
        try {
            // Of the whole answer: one that drips is late, too.
            return answered(asked.get(seconds, TimeUnit.SECONDS));
        } catch (TimeoutException late) {
            return new Attempt(Answered.failed("It did not answer within " + seconds + " seconds.", false), null);
        } catch (ExecutionException failed) {
            Throwable why = failed.getCause();
            if (why instanceof ConnectException || why instanceof HttpConnectTimeoutException) {
                return new Attempt(Answered.failed("It could not be reached.", true), Duration.ZERO);
            }
            return new Attempt(Answered.failed("It broke its answer off, or answered too much.", false), null);
        } finally {
            asked.cancel(true);
        }
    }

    private static Attempt answered(HttpResponse<byte[]> response) {
        int status = response.statusCode();
        if (status == TOO_MANY || status == BUSY) {
            return new Attempt(Answered.failed("It is too busy.", true), retryAfter(response));
        }
        if (status != OK) {
            boolean refused = status >= REFUSED && status < FAILED;
            return new Attempt(Answered.failed("It answered with the status " + status + ".", refused), null);
        }
        try {
            return new Attempt(new Answered(DraftAnswer.read(response.body()), "", false), null);
        } catch (JacksonException | IllegalArgumentException none) {
            return new Attempt(Answered.failed("Its answer is not what the protocol says.", false), null);
        }
    }

    /** RFC 9110 §10.2.3, in seconds; a date is taken for none. */
    private static Duration retryAfter(HttpResponse<byte[]> response) {
        return response.headers()
                .firstValue("Retry-After")
                .map(String::strip)
                .filter(value -> value.matches("\\d{1,4}"))
                .map(value -> Duration.ofSeconds(Long.parseLong(value)))
                .orElse(Duration.ZERO);
    }
}
