package mellow.server.find;

import mellow.server.common.Background;
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
    private final Background background = new Background();

    SearchCatchUp(SearchIndex index) {
        this.index = index;
    }

    @Scheduled(fixedDelayString = "PT3S", initialDelayString = "PT3S")
    void catchUp() {
        background.work(() -> {
            while (!background.ending() && index.step() > 0) {
                // The next step is a transaction of its own, so that nobody waits for a row for long.
            }
        });
    }

    @EventListener(ContextClosedEvent.class)
    void end() {
        background.end();
    }
}
