package mellow.server.delivery;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodySubscriber;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionStage;
import java.util.concurrent.Flow;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * Tells programs what was delivered: a POST of JSON, signed, tried again with growing pauses until it is heard with a status of 2xx. A word may be told twice,
 * when a server is killed between hearing the answer and noting it; its number tells both to be the same.
 */
@Component
class WebhookSender {

    /** Number of the word, the same at every attempt. */
    static final String NUMBER = "Mellow-Word";
    /** When it is told, in seconds since 1970. */
    static final String TIME = "Mellow-Time";
    /** HMAC-SHA-256 (RFC 2104) over the time, a full stop and the body, by the secret, in hexadecimal digits. */
    static final String SIGNATURE = "Mellow-Signature";

    /** How long after each attempt the next one follows; after the last of them nobody is told any more. */
    private static final List<Duration> PAUSES = List.of(
            Duration.ofSeconds(10),
            Duration.ofMinutes(1),
            Duration.ofMinutes(5),
            Duration.ofMinutes(30),
            Duration.ofHours(2),
            Duration.ofHours(6),
            Duration.ofHours(24));

    private static final Duration PATIENCE = Duration.ofSeconds(10);
    private static final int OK = 200;
    private static final int OTHER = 300;

    /** Takes one, and notes at once when it is tried again if nothing comes of it, so that neither a second server nor a power cut matters. */
    private static final String TAKE =
            """
            update webhook_call c set attempts = c.attempts + 1, last_at = :now, said = '', next_at = case
                when c.attempts < :most then :now + (:pauses::bigint[])[c.attempts + 1] * interval '1 second' end
            from webhook h where h.id = c.webhook_id and c.id = (select id from webhook_call where next_at <= :now order by next_at, id limit 1 for update skip locked)
            returning c.id, c.body, h.address, h.secret, h.removed_at is null alive
            """;

    private final JdbcClient jdbc;
    private final Webhooks webhooks;
    private final Clock clock;
    private final HttpClient client = HttpClient.newBuilder()
            .connectTimeout(PATIENCE)
            .followRedirects(HttpClient.Redirect.NEVER)
            .version(HttpClient.Version.HTTP_1_1)
            .build();

    WebhookSender(JdbcClient jdbc, Webhooks webhooks, Clock clock) {
        this.jdbc = jdbc;
        this.webhooks = webhooks;
        this.clock = clock;
    }

    private record Call(long id, String body, URI address, String secret, boolean alive) {}

    /** Tells everything whose time has come, one word after the other. */
    void tellDue() {
        Optional<Call> next = take();
        while (next.isPresent()) {
            tell(next.get());
            next = take();
        }
    }

    private Optional<Call> take() {
        return jdbc.sql(TAKE)
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .param("most", PAUSES.size())
                .param("pauses", PAUSES.stream().map(Duration::toSeconds).toArray(Long[]::new))
                .query((row, n) -> new Call(
                        row.getLong(1),
                        row.getString(2),
                        URI.create(row.getString(3)),
                        row.getString(4),
                        row.getBoolean(5)))
                .optional();
    }

    private void tell(Call call) {
        if (!call.alive) {
            return;
        }
        if (!webhooks.allows(call.address)) {
            note(call, false, "This installation does not let " + call.address.getAuthority() + " be told any more.");
            return;
        }
        Instant now = clock.instant();
        String time = Long.toString(now.getEpochSecond());
        HttpRequest request = HttpRequest.newBuilder(call.address)
                .timeout(PATIENCE)
                .header("Content-Type", "application/json")
                .header("User-Agent", "Mellow-Ledger")
                .header(NUMBER, Long.toString(call.id))
                .header(TIME, time)
                .header(SIGNATURE, signature(call.secret, time, call.body))
                .POST(HttpRequest.BodyPublishers.ofString(call.body))
                .build();
        try {
            int status = client.send(request, answer -> new Unread()).statusCode();
            boolean heard = status >= OK && status < OTHER;
            note(call, heard, heard ? "Heard." : "It answered with the status " + status + ".");
        } catch (IOException unheard) {
            note(call, false, "It could not be reached or did not answer within " + PATIENCE.toSeconds() + " seconds.");
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        }
    }

    private void note(Call call, boolean heard, String said) {
        jdbc.sql(
                        """
                        update webhook_call set said = :said, heard_at = case when :heard then :now else heard_at end,
                            next_at = case when :heard then null else next_at end where id = :id
                        """)
                .param("said", said)
                .param("heard", heard)
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .param("id", call.id)
                .update();
    }

    static String signature(String secret, String time, String body) {
        try {
            Mac mac = Mac.getInstance("HmacSHA256");
            mac.init(new SecretKeySpec(secret.getBytes(StandardCharsets.UTF_8), "HmacSHA256"));
            return HexFormat.of().formatHex(mac.doFinal((time + "." + body).getBytes(StandardCharsets.UTF_8)));
        } catch (GeneralSecurityException missing) {
            throw new IllegalStateException("every Java has HMAC-SHA-256", missing);
        }
    }

    /** Nothing of the answer but its status matters, however long it is. */
    private static final class Unread implements BodySubscriber<Void> {

        @Override
        public CompletionStage<Void> getBody() {
            return CompletableFuture.completedFuture(null);
        }

        @Override
        public void onSubscribe(Flow.Subscription subscription) {
            subscription.cancel();
        }

        @Override
        public void onNext(List<ByteBuffer> part) {
            // Nothing was asked for.
        }

        @Override
        public void onError(Throwable failed) {
            // The status is known.
        }

        @Override
        public void onComplete() {
            // The status is known.
        }
    }
}
