package mellow.server.find;

import java.util.concurrent.locks.Lock;
import java.util.concurrent.locks.ReentrantLock;
import mellow.server.record.SearchIndex;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.scheduling.annotation.EnableScheduling;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Brings rows that came in by the thousand into the search indexes, soon after they were committed. */
@Component
@EnableScheduling
@ConditionalOnProperty(name = "mellow.index-later", havingValue = "true", matchIfMissing = true)
class SearchCatchUp {

    private final SearchIndex index;
    private final Lock working = new ReentrantLock();
    private volatile boolean ending;

    SearchCatchUp(SearchIndex index) {
        this.index = index;
    }

    @Scheduled(fixedDelayString = "PT3S", initialDelayString = "PT3S")
    void catchUp() {
        working.lock();
        try {
            while (!ending && index.step() > 0) {
                // The next step is a transaction of its own, so that nobody waits for a row for long.
            }
        } finally {
            working.unlock();
        }
    }

    /** Lets the step under way finish; without it the database would be gone in its middle, and what waits is found again anyway. */
    @EventListener(ContextClosedEvent.class)
    void end() {
        ending = true;
        working.lock();
        working.unlock();
    }
}
