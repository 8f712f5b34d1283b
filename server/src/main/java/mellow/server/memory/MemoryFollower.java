package mellow.server.memory;

import mellow.server.common.Background;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.dao.DataAccessException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;

/** Builds the memory once the server is there, and has it follow what changes. */
@Component
@ConditionalOnProperty(name = "mellow.index-later", havingValue = "true", matchIfMissing = true)
class MemoryFollower {

    private static final Logger LOG = LoggerFactory.getLogger(MemoryFollower.class);

    private final MemoryKeeper memory;
    private final Background background = new Background();

    MemoryFollower(MemoryKeeper memory) {
        this.memory = memory;
    }

    @Scheduled(fixedDelayString = "PT0.25S", initialDelayString = "PT1S")
    void follow() {
        try {
            background.work(memory::bringUpToDate);
        } catch (DataAccessException | TransactionException notNow) {
            LOG.warn("The memory could not be read, trying again: {}", notNow.getMessage());
        }
    }

    @EventListener(ContextClosedEvent.class)
    void end() {
        background.end();
    }
}
