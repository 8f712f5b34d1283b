package mellow.bench;

import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentSkipListMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import mellow.server.audit.Audit;
import mellow.server.launch.PrivateCluster;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.util.FileSystemUtils;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * {@code ./mellow bench faults}: ends a server, or the database, at random moments of taking files in, taking them back, settling thousands and sending out;
 * after each, recounts the record and compares what the runs say with what is there. Then thirty people work at once, and every answer that is neither a
 * result nor a rule's refusal counts.
 */
public final class FaultsBench {

    private static final int KILLS = Integer.getInteger("mellow.bench.kills", 60);
    private static final Duration CROWD = Duration.ofSeconds(Integer.getInteger("mellow.bench.crowd-seconds", 300));
    private static final int PEOPLE = 30;
    private static final int ENTRIES = 6_000;
    private static final int OFFERS = 3_000;
    /** Strength of the hash: signing in is not what is measured. */
    private static final int QUICK = 4;

    private static final JsonMapper JSON = new JsonMapper();

    private final Path data;
    private final PrivateCluster cluster;
    private final JdbcClient jdbc;
    private final PrivateCluster.Access access;
    private final Random random = new Random(Long.getLong("mellow.bench.seed", 14));
    private final PrintStream out;
    private final Map<String, Integer> kills = new TreeMap<>();
    private final List<String> contradictions = new ArrayList<>();
    private final List<Server> servers = new ArrayList<>();

    private FaultsBench(Path data, PrintStream out) {
        this.data = data;
        this.out = out;
        this.cluster = new PrivateCluster(data);
        this.access = cluster.start();
        this.jdbc = JdbcClient.create(new DriverManagerDataSource(access.url(), access.user(), access.password()));
    }

    public static void main(String[] arguments) throws Exception {
        PrintStream out = new PrintStream(new FileOutputStream(FileDescriptor.out), true, StandardCharsets.UTF_8);
        Path data = Files.createTempDirectory("mellow-faults-");
        data.toFile().setExecutable(true, false);
        data.toFile().setReadable(true, false);
        FaultsBench bench = new FaultsBench(data, out);
        try {
            bench.run();
        } finally {
            bench.close();
        }
        System.exit(bench.contradictions.isEmpty() ? 0 : 1);
    }

    private void close() throws IOException {
        servers.forEach(server -> server.process.destroyForcibly());
        cluster.stop();
        FileSystemUtils.deleteRecursively(data);
    }

    private void run() throws Exception {
        servers.add(new Server());
        String hash = new BCryptPasswordEncoder(QUICK).encode(FaultsClient.PASSWORD);
        FaultsClient.until(
                "the first person",
                () -> Optional.of(jdbc.sql(
                                "insert into person (sign_in, name, password_hash, coordinator, created_at) values ('bench', 'Bench', :hash, true, now()) on conflict do nothing")
                        .param("hash", hash)
                        .update()));
        servers.add(new Server());
        for (int kill = 0; kill < KILLS; kill++) {
            round(kill);
        }
        out.println("kills: " + kills);
        contradictions.forEach(one -> out.println("CONTRADICTION: " + one));
        out.println(contradictions.size() + " contradictions after " + KILLS + " kills");
        crowd();
    }

    /** One server of its own process, as people start it. */
    private final class Server {
        private final int port;
        private Process process;
        private FaultsClient client;

        Server() throws Exception {
            try (ServerSocket socket = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
                port = socket.getLocalPort();
            }
            start();
        }

        void start() throws Exception {
            ProcessBuilder builder = new ProcessBuilder(
                    Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                    "-Xmx700m",
                    "-XX:TieredStopAtLevel=1",
                    "-cp",
                    System.getProperty("java.class.path"),
                    "mellow.server.launch.Mellow",
                    "start",
                    "--empty",
                    "--port",
                    Integer.toString(port),
                    "--data",
                    data.resolve("server-" + port).toString());
            builder.environment()
                    .put(
                            "MELLOW_DATABASE_URL",
                            access.url()
                                    .replace(
                                            "jdbc:postgresql://",
                                            "postgresql://" + access.user() + ":" + access.password() + "@"));
            process = builder.redirectErrorStream(true)
                    .redirectOutput(ProcessBuilder.Redirect.appendTo(
                            data.resolve("server-" + port + ".log").toFile()))
                    .start();
            client = new FaultsClient("http://127.0.0.1:" + port);
        }
    }

    private void awake(Server server) throws InterruptedException {
        FaultsClient.until("a server that answers", () -> {
            if (!server.process.isAlive()) {
                // It was just starting when the database was ended, and said so.
                server.start();
            }
            return server.client.signIn("bench") ? Optional.of(true) : Optional.empty();
        });
    }

    private void round(int number) throws Exception {
        Server server = servers.get(number % 2);
        awake(server);
        FaultsClient mara = server.client;
        String table = "Faults" + number;
        long intake = prepared(mara, table);
        int kind = number % 4;
        String what;
        if (kind == 0) {
            what = "apply";
            begin(mara, intake, "apply");
        } else {
            begin(mara, intake, "apply");
            settled(intake);
            if (kind == 1) {
                what = "undo";
                begin(mara, intake, "undo");
            } else if (kind == 2) {
                what = "settle all";
                offers(table);
                mara.json(
                        "POST",
                        "/api/review/answers",
                        "{\"language\":\"de\",\"tables\":[\"faults" + number
                                + "\"],\"person\":0,\"days\":0,\"checks\":\"all\",\"action\":\"SETTLE\",\"upTo\":9223372036854775807}");
            } else {
                what = "export";
                Thread sending = new Thread(() -> {
                    try {
                        mara.json("GET", "/api/tables/faults" + number + "/export/fresh?format=xlsx", "");
                    } catch (IOException | InterruptedException ended) {
                        Thread.currentThread().interrupt();
                    }
                });
                sending.setDaemon(true);
                sending.start();
            }
        }
        Thread.sleep(random.nextInt(kind == 3 ? 600 : 1_800));
        boolean database = number % 5 == 4;
        kills.merge(what + (database ? ", the database" : ", a server"), 1, Integer::sum);
        if (database) {
            killDatabase();
        } else {
            server.process.destroyForcibly().waitFor();
            server.start();
        }
        settled(intake);
        compare(number, table, intake, what);
    }

    private long prepared(FaultsClient mara, String table) throws InterruptedException {
        StringBuilder csv = new StringBuilder("key,en,de\n");
        for (int i = 0; i < ENTRIES; i++) {
            csv.append("unit.")
                    .append(i)
                    .append(",Unit ")
                    .append(i)
                    .append(",Einheit ")
                    .append(i)
                    .append('\n');
        }
        return FaultsClient.until("an intake of " + table, () -> {
            JsonNode made = FaultsClient.read(mara.send(
                    "POST",
                    "/api/intakes?name=" + table + ".csv",
                    csv.toString().getBytes(StandardCharsets.UTF_8),
                    "application/octet-stream"));
            return made.has("id") ? Optional.of(made.path("id").asLong()) : Optional.empty();
        });
    }

    private void begin(FaultsClient mara, long intake, String what) throws InterruptedException {
        FaultsClient.until(what, () -> {
            int status =
                    mara.json("POST", "/api/intakes/" + intake + "/" + what, "").statusCode();
            return status == 202 || status == 409 ? Optional.of(true) : Optional.empty();
        });
    }

    /** Waits until no run waits or goes on. */
    private void settled(long intake) throws InterruptedException {
        FaultsClient.until(
                "the end of all runs of " + intake,
                () -> jdbc.sql("select count(*) from run where status in ('queued', 'going')")
                                        .query(Integer.class)
                                        .single()
                                == 0
                        ? Optional.of(true)
                        : Optional.empty());
    }

    private void offers(String table) {
        jdbc.sql(
                        "insert into person (sign_in, name, password_hash, created_at) values ('offering', 'Offering', '!', now()) on conflict do nothing")
                .update();
        // As if a contributor had offered other texts for half of them.
        jdbc.sql(
                        """
                        with chosen as (
                            select e.id, c.language_id, c.version from entry e join ledger_table t on t.id = e.table_id and t.name = :table
                            join cell c on c.entry_id = e.id join language l on l.id = c.language_id and l.tag = 'de'
                            order by e.position limit :offers),
                        offered as (
                            insert into offer (id, entry_id, language_id, author_id, text, based_on, answer, opened_version, answered_version, offered_time, origin)
                            select nextval('offer_seq'), id, language_id, (select id from person where sign_in = 'offering'), 'Anders ' || id, 1, 0, version + 1, 0, now(), 'typed' from chosen)
                        update cell c set state = 0, open_offers = 1, version = c.version + 1 from chosen s where c.entry_id = s.id and c.language_id = s.language_id
                        """)
                .param("table", table)
                .param("offers", OFFERS)
                .update();
        jdbc.sql(
                        """
                        insert into cell_story (entry_id, language_id, at, person_id, what, origin, after, standing, based_on, offer_id, version)
                        select o.entry_id, o.language_id, now(), o.author_id, 'offered', 'typed', o.text, 2, 1, o.id, o.opened_version
                        from offer o where o.answer = 0 and o.text like 'Anders %' and not exists (select 1 from cell_story s where s.offer_id = o.id)
                        """)
                .update();
        jdbc.sql("delete from coverage where table_id = (select id from ledger_table where name = :table)")
                .param("table", table)
                .update();
        jdbc.sql(
                        """
                        insert into coverage (table_id, language_id, state, entries, words)
                        select e.table_id, c.language_id, c.state, count(*), sum(e.words) from entry e join cell c on c.entry_id = e.id
                        where e.table_id = (select id from ledger_table where name = :table) and e.removed_at is null and e.translatable and c.state <> 5 group by 1, 2, 3
                        """)
                .param("table", table)
                .update();
    }

    private void killDatabase() throws Exception {
        long postmaster = Long.parseLong(Files.readAllLines(cluster.place().resolve("postmaster.pid"))
                .get(0)
                .strip());
        ProcessHandle.of(postmaster).ifPresent(ProcessHandle::destroyForcibly);
        Thread.sleep(500);
        PrivateCluster.Access again = FaultsClient.until("the database", () -> Optional.of(cluster.start()));
        check("the database is where it was", again.url().equals(access.url()));
    }

    /** What the runs say against what is there. */
    private void compare(int number, String table, long intake, String what) {
        String as = "round " + number + ", " + what + ": ";
        int there = count("select count(*) from entry e join ledger_table t on t.id = e.table_id where t.name = '"
                + table + "' and e.removed_at is null");
        String status = jdbc.sql("select status from intake where id = :id")
                .param("id", intake)
                .query(String.class)
                .single();
        String applied = run("intake", intake);
        String undone = run("undo", intake);
        check(
                as + "the intake is " + status + " and its run " + applied,
                status.equals("open") != applied.equals("done"));
        check(
                as + "taken back is " + undone + " and the intake " + status,
                status.equals("undone") == undone.equals("done"));
        check(as + there + " entries and the intake " + status, there == (status.equals("applied") ? ENTRIES : 0));
        if (what.equals("settle all")) {
            int settled = count(
                    "select count(*) from offer where answer = 1 and text like 'Anders %' and entry_id in (select e.id from entry e join ledger_table t on t.id = e.table_id where t.name = '"
                            + table + "')");
            boolean done = count(
                            "select count(*) from run where kind = 'answering' and status = 'done' and id = (select max(id) from run where kind = 'answering')")
                    == 1;
            check(as + settled + " settled, and the run done: " + done, settled == (done ? OFFERS : 0));
        }
        List<Audit.Finding> findings = new Audit(jdbc).run();
        findings.stream()
                .filter(finding -> finding.differences() > 0)
                .forEach(finding -> contradictions.add(as + "the audit finds: " + finding.check()));
        out.println(as + "intake " + status + ", runs " + applied + " and " + undone + ", " + there + " entries, "
                + contradictions.size()
                + " contradictions so far");
    }

    private void check(String what, boolean holds) {
        if (!holds) {
            contradictions.add(what);
        }
    }

    private int count(String sql) {
        return jdbc.sql(sql).query(Integer.class).single();
    }

    private String run(String kind, long subject) {
        return jdbc.sql("select status from run where kind = :kind and subject = :subject order by id desc limit 1")
                .param("kind", kind)
                .param("subject", subject)
                .query(String.class)
                .optional()
                .orElse("none");
    }

    /** Thirty people who look, write, answer, take back and search. */
    private void crowd() throws Exception {
        FaultsClient mara = servers.get(0).client;
        awake(servers.get(0));
        awake(servers.get(1));
        long intake = prepared(mara, "Crowd");
        begin(mara, intake, "apply");
        settled(intake);
        List<Long> entries = jdbc.sql(
                        "select e.id from entry e join ledger_table t on t.id = e.table_id where t.name = 'Crowd' order by e.position limit 400")
                .query(Long.class)
                .list();
        String hash = new BCryptPasswordEncoder(QUICK).encode(FaultsClient.PASSWORD);
        Map<String, Integer> answers = new ConcurrentSkipListMap<>();
        ExecutorService people = Executors.newFixedThreadPool(PEOPLE);
        long end = System.nanoTime() + CROWD.toNanos();
        for (int i = 0; i < PEOPLE; i++) {
            String name = "crowd" + i;
            jdbc.sql(
                            "insert into person (sign_in, name, password_hash, created_at) values (:name, :name, :hash, now())")
                    .param("name", name)
                    .param("hash", hash)
                    .update();
            jdbc.sql(
                            "insert into person_right (person_id, language_id, level) select p.id, l.id, :level from person p, language l where p.sign_in = :name and l.tag = 'de'")
                    .param("level", i % 3 == 0 ? "reviewer" : "contributor")
                    .param("name", name)
                    .update();
            Server at = servers.get(i % 2);
            int seed = i;
            people.submit(() -> {
                FaultsClient one = new FaultsClient("http://127.0.0.1:" + at.port);
                FaultsClient.until("a session", () -> one.signIn(name) ? Optional.of(true) : Optional.empty());
                new FaultsWorker(one, entries, new Random(seed), answers).until(end);
                return null;
            });
        }
        people.shutdown();
        people.awaitTermination(CROWD.toSeconds() + 120, TimeUnit.SECONDS);
        out.println("answers to " + PEOPLE + " people in " + CROWD.toSeconds() + " s: " + answers);
        answers.forEach((answer, n) -> {
            boolean fine = answer.startsWith("2")
                    || answer.startsWith("403")
                    || answer.startsWith("404")
                    || answer.startsWith("409")
                    || answer.startsWith("422");
            if (!fine) {
                contradictions.add(n + " answers " + answer + " in a crowd");
                out.println("FAULT: " + n + " answers " + answer);
            }
        });
        int differences = new Audit(jdbc)
                .run().stream().mapToInt(Audit.Finding::differences).sum();
        check(differences + " differences after the crowd", differences == 0);
        out.println(differences + " differences in the audit");
    }
}
