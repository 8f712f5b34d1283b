package mellow.server.asset;

import java.util.List;
import java.util.Objects;
import mellow.server.check.MaskKeeper;
import mellow.server.file.AssetFiles;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.support.TransactionTemplate;

/** Finds out, once and beside everything else, what pictures and sounds are that were stored before anybody looked. */
@Component
class AssetCatchUp {

    private static final Logger LOG = LoggerFactory.getLogger(AssetCatchUp.class);
    private static final int AT_ONCE = 20;
    private static final int ENTRIES_AT_ONCE = 500;

    private final AssetFiles assets;
    private final MaskKeeper masks;
    private final JdbcClient jdbc;
    private final TransactionTemplate transaction;

    AssetCatchUp(AssetFiles assets, MaskKeeper masks, JdbcClient jdbc, TransactionTemplate transaction) {
        this.assets = assets;
        this.masks = masks;
        this.jdbc = jdbc;
        this.transaction = transaction;
    }

    @EventListener(ApplicationReadyEvent.class)
    void begin() {
        Thread thread = new Thread(this::catchUp, "asset-catch-up");
        thread.setDaemon(true);
        thread.start();
    }

    /** Looks through all that nobody looked through; what the checks find in them follows. */
    void catchUp() {
        try {
            boolean some = false;
            while (assets.lookLater(AT_ONCE) > 0) {
                some = true;
            }
            if (some) {
                checkAnew();
            }
        } catch (DataAccessException | TransactionException unreachable) {
            LOG.warn("Pictures and sounds were not looked through; the next start goes on with them", unreachable);
        }
    }

    private void checkAnew() {
        long last = 0;
        while (true) {
            long from = last;
            List<Long> some = Objects.requireNonNull(transaction.execute(status -> {
                List<Long> next = jdbc.sql(
                                "select id from entry where shape = 'asset' and removed_at is null and id > :from order by id limit :most for no key update")
                        .param("from", from)
                        .param("most", ENTRIES_AT_ONCE)
                        .query(Long.class)
                        .list();
                masks.ofEntries(next);
                return next;
            }));
            if (some.isEmpty()) {
                return;
            }
            last = some.get(some.size() - 1);
        }
    }
}
