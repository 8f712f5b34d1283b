package mellow.server.support;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import mellow.server.launch.PrivateCluster;
import mellow.server.launch.PrivateCluster.Access;

/** A PostgreSQL that follows that of the tests by streaming replication, made by pg_basebackup; it can be stopped and started. */
public final class FollowingCluster {

    private static final Pattern PLACE = Pattern.compile("//([^:/]+):(\\d+)/");

    private final PrivateCluster cluster;
    private final Path data;

    /** Makes and starts one. */
    public FollowingCluster(Access followed) {
        try {
            data = Files.createTempDirectory("mellow-replica-");
            data.toFile().setExecutable(true, false);
            data.toFile().setReadable(true, false);
            data.toFile().setWritable(true, false);
            cluster = PrivateCluster.throwaway(data);
            Files.writeString(data.resolve("cluster-password"), followed.password());
            Matcher place = PLACE.matcher(followed.url());
            if (!place.find()) {
                throw new IllegalArgumentException(followed.url());
            }
            copy("postgresql://" + followed.user() + ":" + followed.password() + "@" + place.group(1) + ":"
                    + place.group(2) + "/postgres");
            Runtime.getRuntime().addShutdownHook(new Thread(this::remove));
        } catch (IOException cannot) {
            throw new UncheckedIOException(cannot);
        }
    }

    private void copy(String from) throws IOException {
        List<String> command = new ArrayList<>();
        if ("root".equals(System.getProperty("user.name"))) {
            command.addAll(List.of("runuser", "-u", "postgres", "--"));
        }
        command.addAll(List.of(
                cluster.program("pg_basebackup").toString(),
                "--pgdata=" + cluster.place(),
                "--dbname=" + from,
                "--write-recovery-conf",
                "--checkpoint=fast",
                "--no-sync"));
        Path output = Files.createTempFile(data, "copy", ".out");
        try {
            int exit = new ProcessBuilder(command)
                    .directory(Path.of("/").toFile())
                    .redirectErrorStream(true)
                    .redirectOutput(output.toFile())
                    .start()
                    .waitFor();
            if (exit != 0) {
                throw new IllegalStateException(Files.readString(output));
            }
        } catch (InterruptedException interrupted) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException(interrupted);
        }
    }

    /** Starts it, at the same place each time. */
    public Access start() {
        return cluster.start();
    }

    public void stop() {
        cluster.stop();
    }

    private void remove() {
        cluster.stop();
        try (Stream<Path> all = Files.walk(data)) {
            all.sorted(Comparator.reverseOrder()).forEach(path -> path.toFile().delete());
        } catch (IOException cannot) {
            throw new UncheckedIOException(cannot);
        }
    }
}
