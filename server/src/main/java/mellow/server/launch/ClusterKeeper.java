package mellow.server.launch;

import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Starts the private cluster again when it ended by itself or was killed, where it was; the server and its pages go on by themselves. */
final class ClusterKeeper {

    private static final Logger LOG = LoggerFactory.getLogger(ClusterKeeper.class);
    private static final long LOOKS_EVERY_MILLIS = 3_000;

    private ClusterKeeper() {}

    /** Looks after {@code cluster} until the server ends. */
    static void watch(PrivateCluster cluster) {
        Thread thread = new Thread(() -> look(cluster), "cluster-keeper");
        thread.setDaemon(true);
        thread.start();
        // Not while everything is being stopped.
        Runtime.getRuntime().addShutdownHook(new Thread(thread::interrupt));
    }

    private static void look(PrivateCluster cluster) {
        while (!Thread.currentThread().isInterrupted()) {
            try {
                Thread.sleep(LOOKS_EVERY_MILLIS);
                if (cluster.revive()) {
                    LOG.warn("The database had ended and was started again");
                }
            } catch (InterruptedException ending) {
                return;
            } catch (LaunchException stillAway) {
                LOG.warn("The database has ended and cannot be started: {}", stillAway.getMessage());
            }
        }
    }
}
