package mellow.server.upkeep;

import java.time.Clock;
import java.util.Comparator;
import java.util.List;
import mellow.server.common.Perishable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.context.annotation.Configuration;
import org.springframework.scheduling.annotation.EnableScheduling;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;

/** Clears everything that has had its time. Several servers may do so at once: what one has forgotten the other does not find. */
@Service
public class Upkeep {

    private static final Logger LOG = LoggerFactory.getLogger(Upkeep.class);

    private final List<Perishable> perishables;
    private final Clock clock;

    Upkeep(List<Perishable> perishables, Clock clock) {
        this.perishables = perishables.stream()
                .sorted(Comparator.comparing(Perishable::namedByOthers))
                .toList();
        this.clock = clock;
    }

    /** Clears it now; what cannot be cleared stays for the next time, and the log says why. */
    public void clear() {
        for (Perishable one : perishables) {
            try {
                int amount = one.forget(clock.instant());
                if (amount > 0) {
                    LOG.info("Cleared {} of {}", amount, one.what());
                }
            } catch (RuntimeException failed) {
                LOG.warn("{} could not be cleared", one.what(), failed);
            }
        }
    }

    /** Every night, and soon after a start, for servers that are off at night. */
    @Configuration
    @EnableScheduling
    @ConditionalOnProperty(name = "mellow.upkeep", havingValue = "true", matchIfMissing = true)
    static class Nightly {

        private final Upkeep upkeep;

        Nightly(Upkeep upkeep) {
            this.upkeep = upkeep;
        }

        @Scheduled(cron = "0 30 3 * * *", zone = "UTC")
        void atNight() {
            upkeep.clear();
        }

        @Scheduled(initialDelayString = "PT10M", fixedDelayString = "P7D")
        void afterStart() {
            upkeep.clear();
        }
    }
}
