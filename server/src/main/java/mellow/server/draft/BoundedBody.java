package mellow.server.draft;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.http.HttpResponse.BodySubscriber;
import java.nio.ByteBuffer;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionStage;
import java.util.concurrent.Flow;
import org.jspecify.annotations.Nullable;

/** Takes an answer up to a size; of a longer one the rest is not read, and it fails. */
final class BoundedBody implements BodySubscriber<byte[]> {

    private final int most;
    private final ByteArrayOutputStream taken = new ByteArrayOutputStream();
    private final CompletableFuture<byte[]> body = new CompletableFuture<>();
    private Flow.@Nullable Subscription subscription;

    /** @param most bytes */
    BoundedBody(int most) {
        this.most = most;
    }

    @Override
    public CompletionStage<byte[]> getBody() {
        return body;
    }

    @Override
    public void onSubscribe(Flow.Subscription to) {
        subscription = to;
        to.request(Long.MAX_VALUE);
    }

    @Override
    public void onNext(List<ByteBuffer> parts) {
        for (ByteBuffer part : parts) {
            if (taken.size() + part.remaining() > most) {
                if (subscription != null) {
                    subscription.cancel();
                }
                body.completeExceptionally(new IOException("more than " + most + " bytes"));
                return;
            }
            byte[] bytes = new byte[part.remaining()];
            part.get(bytes);
            taken.writeBytes(bytes);
        }
    }

    @Override
    public void onError(Throwable failed) {
        body.completeExceptionally(failed);
    }

    @Override
    public void onComplete() {
        body.complete(taken.toByteArray());
    }
}
