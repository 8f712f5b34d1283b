package mellow.server.delivery;

import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.scheduling.annotation.EnableScheduling;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Begins the deliveries whose time has come, lays those into the outbox that do not lie there yet, and tells programs of them. */
@Component
@EnableScheduling
@ConditionalOnProperty(name = "mellow.deliveries", havingValue = "true", matchIfMissing = true)
class DeliveryClock {

    private final DeliveryService deliveries;
    private final Outbox outbox;
    private final WebhookSender sender;

    DeliveryClock(DeliveryService deliveries, Outbox outbox, WebhookSender sender) {
        this.deliveries = deliveries;
        this.outbox = outbox;
        this.sender = sender;
    }

    @Scheduled(fixedDelayString = "PT15S", initialDelayString = "PT10S")
    void begin() {
        deliveries.beginDue();
    }

    @Scheduled(fixedDelayString = "PT3S", initialDelayString = "PT5S")
    void lay() {
        outbox.catchUp();
    }

    @Scheduled(fixedDelayString = "PT3S", initialDelayString = "PT6S")
    void tell() {
        sender.tellDue();
    }
}
