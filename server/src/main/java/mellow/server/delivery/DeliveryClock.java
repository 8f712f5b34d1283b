package mellow.server.delivery;

import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.scheduling.annotation.EnableScheduling;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Begins the deliveries whose time has come, and lays those into the outbox that do not lie there yet. */
@Component
@EnableScheduling
@ConditionalOnProperty(name = "mellow.deliveries", havingValue = "true", matchIfMissing = true)
class DeliveryClock {

    private final DeliveryService deliveries;
    private final Outbox outbox;

    DeliveryClock(DeliveryService deliveries, Outbox outbox) {
        this.deliveries = deliveries;
        this.outbox = outbox;
    }

    @Scheduled(fixedDelayString = "PT15S", initialDelayString = "PT10S")
    void begin() {
        deliveries.beginDue();
    }

    @Scheduled(fixedDelayString = "PT3S", initialDelayString = "PT5S")
    void lay() {
        outbox.catchUp();
    }
}
