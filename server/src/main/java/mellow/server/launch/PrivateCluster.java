package mellow.server.launch;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.SecureRandom;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Base64;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/**
 * A PostgreSQL cluster of our own under the data folder: loopback only, a free port that it keeps, a random password with SCRAM. Run as the
 * postgres user when started as root, because PostgreSQL refuses to run as root.
 */
public final class PrivateCluster {

    private static final Path INSTALLED = Path.of("/usr/lib/postgresql");
    private static final Path SYSTEM_PLACE = Path.of("/var/lib/mellow-ledger");
    private static final String USER = "mellow";
    private static final String DATABASE = "mellow";
    private static final int PORT_LINE = 3;
    private static final String SETTINGS =
            """

            # Mellow Ledger
            listen_addresses = '127.0.0.1'
            unix_socket_directories = ''
            max_connections = 80
            shared_buffers = 256MB
            work_mem = 32MB
            maintenance_work_mem = 128MB
            max_wal_size = 2GB
            wal_buffers = 64MB
            random_page_cost = 1.1
            jit = off
            """;
    private static final String UNSYNCED = " -c fsync=off -c full_page_writes=off -c synchronous_commit=off";

    private final Path bin;
    private final Path place;
    private final boolean asRoot;
    private final boolean throwaway;

    /** How to reach a database. */
    public record Access(String url, String user, String password) {

        /** The properties that the server reads them from. */
        public Map<String, Object> properties() {
            return properties("spring.datasource");
        }

        /** The same of its replica. */
        public Map<String, Object> replicaProperties() {
            return properties("mellow.bundles.replica");
        }

        private Map<String, Object> properties(String of) {
            return Map.of(of + ".url", url, of + ".username", user, of + ".password", password);
        }
    }

    /**
     * The cluster of a data folder; nothing is made yet.
     *
     * @throws LaunchException when PostgreSQL is not installed
     */
    public PrivateCluster(Path data) {
        this(data, false);
    }

    /** The cluster of a data folder that nobody needs after a crash: it never waits for the disk. For tests only. */
    public static PrivateCluster throwaway(Path data) {
        return new PrivateCluster(data, true);
    }

    private PrivateCluster(Path data, boolean throwaway) {
        this.throwaway = throwaway;
        this.bin = findBinaries();
        this.asRoot = "root".equals(System.getProperty("user.name"));
        this.place = placeFor(data.toAbsolutePath().normalize());
    }

    private static Path findBinaries() {
        if (!Files.isDirectory(INSTALLED)) {
            throw new LaunchException("PostgreSQL is not installed; type: apt-get install postgresql");
        }
        try (Stream<Path> versions = Files.list(INSTALLED)) {
            return versions.filter(version -> Files.isExecutable(version.resolve("bin/initdb")))
                    .max(Comparator.comparingInt(version ->
                            Integer.parseInt(version.getFileName().toString().replaceAll("\\D", ""))))
                    .map(newest -> newest.resolve("bin"))
                    .orElseThrow(() -> new LaunchException(
                            "The PostgreSQL server is not installed; type: apt-get install postgresql"));
        } catch (IOException unreadable) {
            throw new UncheckedIOException(unreadable);
        }
    }

    /** As root the postgres user must be able to reach the cluster; below a closed home folder it cannot, and the system's place is used. */
    private Path placeFor(Path data) {
        try {
            Files.createDirectories(data);
        } catch (IOException cannot) {
            throw new LaunchException("The data folder " + data + " cannot be made: " + cannot.getMessage());
        }
        if (!asRoot || run(List.of("runuser", "-u", "postgres", "--", "test", "-x", data.toString()), true) == 0) {
            return data.resolve("cluster");
        }
        String name = Integer.toHexString(data.toString().hashCode());
        return SYSTEM_PLACE.resolve(name).resolve("cluster");
    }

    /** Where the cluster's files are. */
    public Path place() {
        return place;
    }

    /** Where a program is of the PostgreSQL that runs it. */
    public Path program(String name) {
        return bin.resolve(name);
    }

    /** Makes the cluster if there is none and starts it if it does not run. */
    public Access start() {
        Path password = place.resolveSibling("cluster-password");
        if (!Files.exists(place)) {
            create(password);
        } else if (!Files.exists(password)) {
            throw new LaunchException(
                    "The data folder " + place.getParent()
                            + " has a cluster but no password file; put cluster-password back from a backup, or use another folder with --data.");
        } else if (asRoot
                ? run(
                                List.of(
                                        "runuser",
                                        "-u",
                                        "postgres",
                                        "--",
                                        "test",
                                        "-f",
                                        place.resolve("PG_VERSION").toString()),
                                true)
                        != 0
                : !Files.exists(place.resolve("PG_VERSION"))) {
            throw new LaunchException(
                    "The data folder " + place.getParent()
                            + " is broken: its cluster has no PG_VERSION; put it back from a backup, or use another folder with --data.");
        }
        if (!running()) {
            launch();
        }
        return access(password);
    }

    private void create(Path password) {
        try {
            Files.createDirectories(place.getParent());
            Files.createDirectory(
                    place, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rwx------")));
            byte[] random = new byte[24];
            new SecureRandom().nextBytes(random);
            Files.createFile(
                    password, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
            Files.writeString(password, Base64.getUrlEncoder().withoutPadding().encodeToString(random) + "\n");
        } catch (IOException cannot) {
            throw new LaunchException(
                    "The data folder " + place.getParent() + " cannot be written: " + cannot.getMessage());
        }
        if (asRoot) {
            require(
                    List.of("chown", "postgres", place.toString(), password.toString()),
                    "hand the data folder to the postgres user");
        }
        require(
                asPostgres(
                        "initdb",
                        "-D",
                        place.toString(),
                        "-U",
                        USER,
                        "-A",
                        "scram-sha-256",
                        "--pwfile=" + password,
                        "-E",
                        "UTF8",
                        "--locale=C.UTF-8",
                        throwaway ? "--no-sync" : "--no-instructions"),
                "make the database cluster");
        try {
            Path settings = place.resolve("postgresql.conf");
            Files.writeString(settings, Files.readString(settings) + SETTINGS);
        } catch (IOException cannot) {
            throw new UncheckedIOException(cannot);
        }
    }

    private void launch() {
        Path log = place.resolve("server.log");
        int port = port();
        List<String> command = asPostgres(
                "pg_ctl",
                "-D",
                place.toString(),
                "-l",
                log.toString(),
                "-w",
                "-t",
                "60",
                "-o",
                "-p " + port + (throwaway ? UNSYNCED : ""),
                "start");
        if (run(command, true) != 0) {
            throw new LaunchException(
                    "PostgreSQL could not start with the data folder " + place.getParent() + ": " + lastLine(log));
        }
    }

    private static String lastLine(Path log) {
        try {
            List<String> lines = Files.readAllLines(log);
            return lines.isEmpty() ? "its log is empty." : lines.get(lines.size() - 1);
        } catch (IOException none) {
            return "it wrote no log (" + none.getMessage() + ").";
        }
    }

    boolean running() {
        return run(asPostgres("pg_ctl", "-D", place.toString(), "status"), true) == 0;
    }

    private Access access(Path password) {
        try {
            String secret = Files.readString(password).strip();
            String port = Files.readAllLines(place.resolve("postmaster.pid"))
                    .get(PORT_LINE)
                    .strip();
            String server = "jdbc:postgresql://127.0.0.1:" + port + "/";
            createDatabase(server + "postgres", secret);
            return new Access(server + DATABASE, USER, secret);
        } catch (IOException unreadable) {
            throw new LaunchException(
                    "The data folder " + place.getParent() + " cannot be read: " + unreadable.getMessage());
        } catch (SQLException refused) {
            throw new LaunchException(
                    "The database under " + place.getParent() + " refused the connection: " + refused.getMessage());
        }
    }

    private static void createDatabase(String url, String password) throws SQLException {
        try (Connection connection = DriverManager.getConnection(url, USER, password);
                Statement statement = connection.createStatement()) {
            try (ResultSet found =
                    statement.executeQuery("select 1 from pg_database where datname = '" + DATABASE + "'")) {
                if (found.next()) {
                    return;
                }
            }
            statement.execute("create database " + DATABASE);
        }
    }

    /** Stops the cluster if it runs; open transactions are rolled back. */
    public void stop() {
        if (Files.exists(place) && running()) {
            require(
                    asPostgres("pg_ctl", "-D", place.toString(), "-m", "fast", "-w", "stop"),
                    "stop the database cluster");
        }
    }

    private List<String> asPostgres(String program, String... arguments) {
        List<String> command = new ArrayList<>();
        if (asRoot) {
            command.addAll(List.of("runuser", "-u", "postgres", "--"));
        }
        command.add(program(program).toString());
        command.addAll(List.of(arguments));
        return command;
    }

    /** The port of the last time, so that a server which runs finds its database again; another one only when something else has it. */
    private int port() {
        Path kept = place.resolveSibling("cluster-port");
        try {
            if (Files.exists(kept)) {
                int port = Integer.parseInt(Files.readString(kept).strip());
                if (free(port)) {
                    return port;
                }
            }
            int port = freePort();
            Files.writeString(kept, port + "\n");
            return port;
        } catch (IOException | NumberFormatException unreadable) {
            throw new LaunchException("The file " + kept + " cannot be read or written: " + unreadable.getMessage());
        }
    }

    private static boolean free(int port) {
        try (ServerSocket socket = new ServerSocket()) {
            // As PostgreSQL does: connections that just ended do not keep the port.
            socket.setReuseAddress(true);
            socket.bind(new InetSocketAddress(InetAddress.getLoopbackAddress(), port));
            return true;
        } catch (IOException taken) {
            return false;
        }
    }

    /** Starts the cluster again if it ended; a server that runs meanwhile reaches it where it was. Whether it had ended. */
    boolean revive() {
        if (processLives() || running()) {
            return false;
        }
        launch();
        return true;
    }

    /** Asked often, so without a program that looks. */
    private boolean processLives() {
        try {
            long process = Long.parseLong(
                    Files.readAllLines(place.resolve("postmaster.pid")).get(0).strip());
            return ProcessHandle.of(process).filter(ProcessHandle::isAlive).isPresent();
        } catch (IOException | RuntimeException noneOrHalfWritten) {
            return false;
        }
    }

    private static int freePort() {
        try (ServerSocket socket = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            return socket.getLocalPort();
        } catch (IOException none) {
            throw new LaunchException("There is no free port on 127.0.0.1: " + none.getMessage());
        }
    }

    private static void require(List<String> command, String purpose) {
        if (run(command, false) != 0) {
            throw new LaunchException(
                    "It was not possible to " + purpose + "; the command was: " + String.join(" ", command));
        }
    }

    /** Runs a command and waits; its output goes to a file, never a pipe that the started server would keep open. */
    private static int run(List<String> command, boolean quietly) {
        try {
            Path output = Files.createTempFile("mellow-", ".out");
            Process process = new ProcessBuilder(command)
                    .directory(Path.of("/").toFile())
                    .redirectErrorStream(true)
                    .redirectOutput(output.toFile())
                    .start();
            int exit = process.waitFor();
            if (exit != 0 && !quietly) {
                throw new LaunchException(command.get(command.size() > 4 ? 4 : 0) + " failed: "
                        + Files.readString(output, StandardCharsets.UTF_8).strip());
            }
            Files.delete(output);
            return exit;
        } catch (IOException cannotRun) {
            throw new LaunchException("The program " + command.get(0) + " cannot be run: " + cannotRun.getMessage());
        } catch (InterruptedException interrupted) {
            Thread.currentThread().interrupt();
            throw new LaunchException("Interrupted.");
        }
    }
}
