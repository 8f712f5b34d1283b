package mellow.bench;

import static mellow.bench.Figures.percentile;
import static mellow.bench.Figures.seconds;
import static mellow.bench.Figures.sql;

import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.Statement;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Locale;
import tools.jackson.databind.JsonNode;

/**
 * {@code ./mellow bench review}: 10,000 offers that wait in one language among 200,000 entries, a million answered ones and four million story lines;
 * looking at them, settling half of them in one go, taking that back, figures and a report.
 */
public final class ReviewBench {

    private static final int ENTRIES = Integer.getInteger("mellow.bench.entries", 200_000);
    private static final int HALF = 5_000;
    private static final int ANSWERED = 5 * ENTRIES;
    private static final int STORY = 20 * ENTRIES;
    private static final int PEOPLE = 50;
    private static final int SAVES = 40;
    /** Answers that are given before they are timed: a server that nobody has used yet compiles its code first. */
    private static final int WARM = 60;

    private static final long POLL_MS = 50;

    private final Product product;
    private final Figures figures;
    private final PrintStream out;

    private ReviewBench(Product product, PrintStream out) {
        this.product = product;
        this.out = out;
        this.figures = new Figures(out);
    }

    public static void main(String[] arguments) throws Exception {
        PrintStream out = new PrintStream(new FileOutputStream(FileDescriptor.out), true, StandardCharsets.UTF_8);
        try (Product product = new Product()) {
            ReviewBench bench = new ReviewBench(product, out);
            bench.fill();
            bench.figures.line("work", "offers", "took", "against", "took", "ratio");
            bench.look();
            bench.answerOne();
            bench.settle();
            bench.figures();
        }
    }

    private void fill() throws Exception {
        long start = System.nanoTime();
        product.send("POST", "/api/tables", "{\"name\":\"Large\",\"source\":\"en\",\"languages\":[\"de\",\"fi\"]}");
        try (Connection connection = product.database();
                Statement statement = connection.createStatement()) {
            statement.execute("set synchronous_commit = off");
            statement.execute(
                    "insert into person (sign_in, name, password_hash, created_at) select 'p' || i, 'Person ' || i, '!', now() from generate_series(1, "
                            + PEOPLE + ") i");
            statement.execute(
                    """
                    insert into entry (table_id, position, key, source, section, words, changed_at)
                    select t.id, i, 'unit.' || i, 'Check {n} of the ramp number ' || i, 'Section ' || i / 200, 7, now()
                    from ledger_table t, generate_series(1, %d) i
                    """
                            .formatted(ENTRIES));
            statement.execute(
                    """
                    insert into cell (entry_id, language_id, text, standing, state, based_on, text_version, version, origin, author_id, changed_at, open_offers)
                    select e.id, l.id, 'Prüfe {n} der Rampe ' || e.position, 2, case when e.position <= %d and l.tag = 'de' then 0 else 3 end, 1, 1, 2, 'file', 1,
                        now(), case when e.position <= %d and l.tag = 'de' then 1 else 0 end
                    from entry e, language l where l.tag in ('de', 'fi')
                    """
                            .formatted(2 * HALF, 2 * HALF));
            statement.execute(
                    """
                    insert into offer (entry_id, language_id, author_id, text, based_on, opened_version, offered_time, origin)
                    select c.entry_id, c.language_id, 2 + c.entry_id %% %d, 'Prüfung {n} der Rampe', 1, 2, now() - c.entry_id * interval '1 second', 'typed'
                    from cell c where c.state = 0
                    """
                            .formatted(PEOPLE));
            statement.execute(
                    """
                    insert into offer (entry_id, language_id, author_id, text, based_on, opened_version, offered_time, origin, answer, answered_version, answered_by,
                        answered_time, changed, changed_of)
                    select e.id, l.id, 2 + i %% %d, 'Prüfung {n} der Rampe', 1, 1, now() - i * interval '30 seconds', 'typed', (array[1, 1, 1, 1, 2, 3])[1 + i %% 6], 1, 1,
                        now() - i * interval '30 seconds' + interval '1 hour', case when i %% 6 = 4 then 3 end, case when i %% 6 = 4 then 22 end
                    from generate_series(1, %d) i join entry e on e.position = 1 + i %% %d join language l on l.tag = (array['de', 'fi'])[1 + i %% 2]
                    """
                            .formatted(PEOPLE, ANSWERED, ENTRIES));
            statement.execute(
                    """
                    insert into cell_story (entry_id, language_id, at, person_id, what, origin, before, after, standing, based_on, version, was)
                    select e.id, l.id, now() - (%1$d - i) * interval '8 seconds', 1, (array['settled', 'offered'])[1 + i %% 2], 'typed', 'Vorher', 'Prüfe {n} der Rampe', 2, 1,
                        1 + i / %2$d, '{"basedOn":1}'
                    from generate_series(1, %1$d) i join entry e on e.position = 1 + i %% %2$d join language l on l.tag = (array['de', 'fi'])[1 + i %% 2]
                    """
                            .formatted(STORY, ENTRIES));
            statement.execute(
                    "insert into coverage select e.table_id, c.language_id, c.state, count(*), sum(e.words) from entry e join cell c on c.entry_id = e.id group by 1, 2, 3");
            statement.execute(
                    "update ledger_table t set (entries, words) = (select count(*), sum(words) from entry where table_id = t.id)");
            statement.execute("vacuum analyze");
            statement.execute("checkpoint");
        }
        out.printf(
                Locale.ROOT,
                "%,d entries, %,d open and %,d answered offers, %,d story lines made in %.0f s%n",
                ENTRIES,
                2 * HALF,
                ANSWERED,
                STORY,
                seconds(start));
    }

    private void look() throws Exception {
        double bare = sql(
                product,
                "select o.*, e.*, c.* from offer o join entry e on e.id = o.entry_id join cell c on c.entry_id = o.entry_id and c.language_id = o.language_id "
                        + "where o.answer = 0 order by o.offered_time limit 100");
        figures.compare("first hundred offers", 2 * HALF, look(""), "bare SQL", bare);
        figures.compare("the last hundred", 2 * HALF, look("&from=9900"), "bare SQL", bare);
        double all = sql(
                product, "select o.text, e.source from offer o join entry e on e.id = o.entry_id where o.answer = 0");
        figures.compare(
                "only what the checks find sound", 2 * HALF, look("&checks=sound"), "reading all their texts", all);
    }

    private double look(String filter) throws Exception {
        return Figures.best(() -> product.get("/api/review?in=de" + filter).length);
    }

    /** One answer by S: what a reviewer waits for if the screen did not go on at once. */
    private void answerOne() throws Exception {
        JsonNode strips =
                product.json(product.get("/api/review?in=de&from=9900")).path("strips");
        double[] took = new double[SAVES];
        for (int i = -WARM; i < SAVES; i++) {
            JsonNode strip = strips.get(WARM + i);
            long start = System.nanoTime();
            product.send(
                    "POST",
                    "/api/cells/changes",
                    "{\"action\":\"SETTLE\",\"meaningConfirmed\":true,\"cells\":[{\"entry\":" + strip.path("entry")
                            + ",\"language\":\"de\",\"offer\":" + strip.path("offer") + "}]}");
            if (i >= 0) {
                took[i] = seconds(start);
            }
        }
        figures.line("one answer, median", "1", Figures.time(percentile(took, 50)), "", "", "");
        figures.line("one answer, p95", "1", Figures.time(percentile(took, 95)), "", "", "");
    }

    private void settle() throws Exception {
        // The same rows by nothing but SQL first, taken back by rolling back.
        double bare;
        try (Connection connection = product.database();
                Statement statement = connection.createStatement()) {
            connection.setAutoCommit(false);
            long start = System.nanoTime();
            statement.execute(
                    "create temporary table chosen on commit drop as select id, entry_id, language_id, text from offer where answer = 0 order by offered_time desc limit "
                            + HALF);
            statement.execute(
                    "insert into cell_story (entry_id, language_id, at, person_id, what, origin, before, after, standing, based_on, offer_id) "
                            + "select c.entry_id, c.language_id, now(), 1, 'settled', 'typed', c.text, h.text, 2, 1, h.id from chosen h join cell c using (entry_id, language_id)");
            statement.execute(
                    "update cell c set text = h.text, state = 3, standing = 2, version = version + 1, open_offers = 0, changed_at = now() from chosen h "
                            + "where c.entry_id = h.entry_id and c.language_id = h.language_id");
            statement.execute(
                    "update offer o set answer = 1, answered_version = 3, answered_by = 1, answered_time = now() from chosen h where o.id = h.id");
            statement.execute("update coverage set entries = entries + 0");
            bare = seconds(start);
            connection.rollback();
        }
        long half;
        try (Connection connection = product.database();
                Statement statement = connection.createStatement();
                var row = statement.executeQuery(
                        "select id from offer where answer = 0 order by id offset " + (HALF - 1) + " limit 1")) {
            row.next();
            half = row.getLong(1);
        }
        long start = System.nanoTime();
        long change = product.send(
                        "POST",
                        "/api/review/answers",
                        "{\"language\":\"de\",\"tables\":[],\"person\":0,\"days\":0,\"checks\":\"all\",\"action\":\"SETTLE\",\"upTo\":"
                                + half + "}")
                .path("change")
                .asLong();
        int polls = 0;
        JsonNode state;
        do {
            Thread.sleep(POLL_MS);
            state = product.json(product.get("/api/review/answers/" + change));
            polls++;
        } while (state.path("status").asString().equals("going"));
        double took = seconds(start);
        out.printf(
                Locale.ROOT,
                "settled %,d, refused %,d, status %s, %d polls%n",
                state.path("changed").asInt(),
                state.path("refused").asInt(),
                state.path("status").asString(),
                polls);
        figures.compare("settle all that match", HALF, took, "bare SQL, set-based", bare);
        start = System.nanoTime();
        product.send("POST", "/api/changes/" + change + "/undo", "{}");
        figures.compare("take it back", HALF, seconds(start), "bare SQL, set-based", bare);
    }

    private void figures() throws Exception {
        double bare = sql(
                product,
                "select author_id, answer, count(*) from offer where answered_time > now() - interval '90 days' group by 1, 2");
        figures.compare(
                "figures of 90 days, all languages",
                ANSWERED,
                Figures.best(() -> product.get("/api/contributions").length),
                "counting them",
                bare);
        figures.compare(
                "figures of 90 days, one language",
                ANSWERED,
                Figures.best(() -> product.get("/api/contributions?in=de").length),
                "counting them",
                bare);
        double lines = sql(
                product,
                "select person_id, what, count(*) from cell_story where at > now() - interval '30 days' group by 1, 2");
        String from = LocalDate.now(ZoneOffset.UTC).minusDays(29).toString();
        figures.compare(
                "report of 30 days",
                STORY,
                Figures.best(() -> product.get("/api/reports/de?from=" + from).length),
                "counting the lines",
                lines);
        figures.line("notices", "", Figures.time(Figures.best(() -> product.get("/api/bell").length)), "", "", "");
    }
}
