package mellow.server.rehearsal;

import mellow.server.common.Background;
import mellow.server.live.LiveChange;
import mellow.server.live.LiveService;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.dao.DataAccessException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;

/** Has the scenes looked at again soon after something changed, so that the ledger and the board know what is found in them without asking. */
@Component
@ConditionalOnProperty(name = "mellow.index-later", havingValue = "true", matchIfMissing = true)
class SceneFollower implements LiveService.Ear {

    private static final Logger LOG = LoggerFactory.getLogger(SceneFollower.class);

    private final SceneLook look;
    private final Background background = new Background();
    /** Whatever happened while no server ran is found at the beginning. */
    private volatile boolean changed = true;

    SceneFollower(SceneLook look, LiveService live) {
        this.look = look;
        live.attend(this);
    }

    @Override
    public void changed(LiveChange change) {
        changed = true;
    }

    @Override
    public void missed() {
        changed = true;
    }

    @Scheduled(fixedDelayString = "PT1S", initialDelayString = "PT3S")
    void follow() {
        try {
            background.work(this::look);
        } catch (DataAccessException | TransactionException notNow) {
            LOG.warn("The scenes could not be looked at, trying again: {}", notNow.getMessage());
        }
    }

    private void look() {
        boolean old = changed;
        try {
            if (old) {
                changed = false;
                look.bringAllUpToDate();
                old = false;
            }
        } finally {
            // Whatever stopped it, a product that was removed meanwhile among it: the next look finds the rest.
            changed |= old;
        }
    }

    @EventListener(ContextClosedEvent.class)
    void end() {
        background.end();
    }
}
