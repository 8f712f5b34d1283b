package mellow.server.people;

import io.github.bucket4j.Bucket;
import io.github.bucket4j.BucketConfiguration;
import io.github.bucket4j.distributed.proxy.ProxyManager;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Duration;
import mellow.server.common.Refusal;
import org.springframework.stereotype.Component;

/** Limits failed sign-in attempts per name and per address, counted in the database so that it holds over all servers. */
@Component
class AttemptLimit {

    private static final Duration PERIOD = Duration.ofMinutes(5);
    private static final int PER_NAME = 10;
    private static final int PER_ADDRESS = 60;

    private final ProxyManager<Long> buckets;

    AttemptLimit(ProxyManager<Long> buckets) {
        this.buckets = buckets;
    }

    /** Counts an attempt and refuses it when there were too many. */
    void count(String signIn, String address) {
        boolean allowed = take("name:" + signIn, PER_NAME) & take("address:" + address, PER_ADDRESS);
        if (!allowed) {
            throw Refusal.tooMany(
                    "too-many-attempts", "Too many attempts to sign in; wait five minutes and try again.");
        }
    }

    /** Takes back the attempt that {@link #count} counted: the person was who they said. */
    void forgive(String signIn, String address) {
        bucket("name:" + signIn, PER_NAME).addTokens(1);
        bucket("address:" + address, PER_ADDRESS).addTokens(1);
    }

    private boolean take(String what, int perPeriod) {
        return bucket(what, perPeriod).tryConsume(1);
    }

    private Bucket bucket(String what, int perPeriod) {
        BucketConfiguration limit = BucketConfiguration.builder()
                .addLimit(rate -> rate.capacity(perPeriod).refillGreedy(perPeriod, PERIOD))
                .build();
        return buckets.getProxy(number(what), () -> limit);
    }

    private static long number(String what) {
        try {
            byte[] hash = MessageDigest.getInstance("SHA-256").digest(what.getBytes(StandardCharsets.UTF_8));
            return ByteBuffer.wrap(hash).getLong();
        } catch (NoSuchAlgorithmException everyJavaHasIt) {
            throw new IllegalStateException(everyJavaHasIt);
        }
    }
}
