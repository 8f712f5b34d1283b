package mellow.server.finding;

import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.scheduling.annotation.EnableScheduling;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Begins what waits to be looked at again and nobody is doing: of a server that was killed, or an earlier version of the product. */
@Component
@EnableScheduling
@ConditionalOnProperty(name = "mellow.recheck", havingValue = "true", matchIfMissing = true)
class RecheckCatchUp {

    private final RecheckService rechecks;

    RecheckCatchUp(RecheckService rechecks) {
        this.rechecks = rechecks;
    }

    @Scheduled(fixedDelayString = "PT5S", initialDelayString = "PT5S")
    void catchUp() {
        rechecks.begin();
    }
}
