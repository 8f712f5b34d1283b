package mellow.server.web;

import jakarta.servlet.ReadListener;
import jakarta.servlet.ServletInputStream;
import java.io.IOException;
import java.net.SocketTimeoutException;
import java.util.function.LongSupplier;
import mellow.server.common.Refusal;
import mellow.server.web.BodyFilter.Bounds;

/** A body within its bounds: reading it on refuses one that is larger, takes longer or is slower. */
final class BoundedStream extends ServletInputStream {
    private final ServletInputStream in;
    private final Bounds bounds;
    private final LongSupplier nanos;
    private final long begun;
    private long read;

    /** {@code nanos}: a clock in nanoseconds. */
    BoundedStream(ServletInputStream in, Bounds bounds, LongSupplier nanos) {
        this.in = in;
        this.bounds = bounds;
        this.nanos = nanos;
        this.begun = nanos.getAsLong();
    }

    @Override
    public int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public int read(byte[] to, int from, int most) throws IOException {
        try {
            return counted(in.read(to, from, most));
        } catch (IOException failed) {
            if (failed.getCause() instanceof SocketTimeoutException || failed instanceof SocketTimeoutException) {
                throw Refusal.tooSlow();
            }
            throw failed;
        }
    }

    private int counted(int bytes) {
        if (bytes < 0) {
            return bytes;
        }
        read += bytes;
        if (read > bounds.bytes()) {
            throw Refusal.tooLarge("body-too-large", BodyFilter.tooLarge(bounds));
        }
        double seconds = (nanos.getAsLong() - begun) / 1e9;
        boolean slow = seconds > bounds.graceSeconds() && read < (seconds - bounds.graceSeconds()) * bounds.rate();
        if (slow || seconds > bounds.seconds()) {
            throw Refusal.tooSlow();
        }
        return bytes;
    }

    @Override
    public int available() throws IOException {
        return in.available();
    }

    @Override
    public boolean isFinished() {
        return in.isFinished();
    }

    @Override
    public boolean isReady() {
        return in.isReady();
    }

    @Override
    public void setReadListener(ReadListener listener) {
        in.setReadListener(listener);
    }

    @Override
    public void close() throws IOException {
        in.close();
    }
}
