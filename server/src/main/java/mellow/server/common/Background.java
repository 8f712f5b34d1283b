package mellow.server.common;

import java.util.concurrent.locks.Lock;
import java.util.concurrent.locks.ReentrantLock;

/** Work that goes on in the background, one piece after the other. When the server ends, the piece under way is finished first, or the database would be gone in its middle. */
public final class Background {

    private final Lock working = new ReentrantLock();
    private volatile boolean ending;

    /** Does a piece of work, unless the server is ending. */
    public void work(Runnable piece) {
        working.lock();
        try {
            if (!ending) {
                piece.run();
            }
        } finally {
            working.unlock();
        }
    }

    /** Whether a long piece of work is to stop where it can. */
    public boolean ending() {
        return ending;
    }

    /** Waits for the piece under way; nothing is begun any more. */
    public void end() {
        ending = true;
        working.lock();
        working.unlock();
    }
}
