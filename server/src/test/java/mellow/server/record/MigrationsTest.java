package mellow.server.record;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import mellow.core.cell.CellState;
import mellow.core.cell.Offer.Answer;
import mellow.core.cell.Standing;
import mellow.core.merge.Arrival;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.server.audit.Audit;
import mellow.server.launch.PrivateCluster;
import mellow.server.support.TestDatabase;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;

/** A ledger of the first released schema comes through every migration since, and new migrations keep nobody waiting. */
class MigrationsTest {

    private static final Path MIGRATIONS = Path.of("src/main/resources/db/migration");
    /** Those before were written when one server was all there was. */
    private static final int RULED_FROM = 11;

    private static final String FILL =
            """
            insert into language (tag) values ('en'), ('de'), ('fi');
            insert into person (sign_in, name, password_hash, coordinator, created_at) values
                ('mara', 'Mara', 'x', true, now()), ('lina', 'Lina', 'x', false, now());
            insert into person_right select 2, id, 'contributor' from language;
            insert into ledger_table (slug, name, source_language_id, entries, words, created_at) values ('ramp', 'Ramp', 1, 1001, 1002, now());
            insert into table_language (table_id, language_id, position) values (1, 2, 1), (1, 3, 2);
            insert into entry (id, table_id, position, key, source, source_revision, meaning_revision, words, changed_at)
                select i, 1, i, 'key ' || i, 'Ramp', 1, 1, 1, now() from generate_series(1, 1000) i;
            insert into entry (id, table_id, position, key, context, source, source_revision, meaning_revision, words, changed_at)
                values (1001, 1, 1001, 'ramp.up', 'panel', 'Ramp up', 2, 2, 2, now());
            insert into entry (id, table_id, position, key, source, words, changed_at, removed_at) values (1002, 1, 1002, 'gone', 'Gone', 1, now(), now());
            insert into cell (entry_id, language_id, text, standing, state, based_on, text_at, version, origin, author_id, changed_at)
                select i, 2, 'Rampe ' || i, 2, 3, 1, 1, 1, 'file', 1, now() from generate_series(1, 1000) i;
            insert into cell (entry_id, language_id, text, standing, state, based_on, text_at, version, origin, author_id, changed_at, open_offers) values
                (1001, 2, 'Rampe hoch', 2, 2, 1, 1, 1, 'typed', 1, now(), 0), (1001, 3, null, 0, 0, 0, 0, 1, 'typed', 2, now(), 1);
            insert into offer (id, entry_id, language_id, author_id, text, based_on, answer, opened_at, offered_time) values (1, 1001, 3, 2, 'Ylös', 2, 0, 1, now());
            insert into cell_story (entry_id, language_id, at, person_id, what, origin, after, standing, based_on)
                select entry_id, language_id, now(), author_id, 'settled', origin, text, 2, 1 from cell where text is not null;
            insert into coverage select 1, language_id, state, count(*), sum(e.words) from cell c join entry e on e.id = c.entry_id group by 2, 3;
            insert into stored_file (name, bytes, created_at) values ('Ramp.csv', 9, now());
            insert into stored_file_part values (1, 0, 'key,en'::bytea);
            insert into intake (person_id, file_id, file_name, table_id, options, status, created_at, applied_at)
                values (1, 1, 'Ramp.csv', 1, '{"format": "csv"}', 'applied', now(), now()), (1, 1, 'Ramp.csv', 1, '{"format": "csv"}', 'open', now(), null);
            insert into master_file values (1, 'Ramp.csv', 1, 1, '{"format": "csv"}', now());
            insert into run (kind, subject, person_id, status, started_at, seen_at, ended_at) values ('intake', 1, 1, 'done', now(), now(), now());
            """;

    private final PrivateCluster.Access server = TestDatabase.access();
    private final JdbcClient admin = JdbcClient.create(source(server.url()));
    private final String url = server.url().replaceAll("/[^/?]+(\\?|$)", "/migrated$1");

    private DriverManagerDataSource source(String of) {
        return new DriverManagerDataSource(of, server.user(), server.password());
    }

    @BeforeEach
    void aDatabase() {
        admin.sql("drop database if exists migrated").update();
        admin.sql("create database migrated").update();
    }

    @AfterEach
    void isGone() {
        admin.sql("drop database if exists migrated with (force)").update();
    }

    private Flyway to(String version) {
        return Flyway.configure()
                .dataSource(source(url))
                .locations("classpath:db/migration")
                .target(version)
                .configuration(Map.of("flyway.postgresql.transactional.lock", "false"))
                .load();
    }

    @Test
    void aFilledLedgerOfTheFirstSchemaComesThrough() {
        to("1").migrate();
        JdbcClient jdbc = JdbcClient.create(source(url));
        for (String statement : FILL.split(";\n")) {
            jdbc.sql(statement).update();
        }
        to("latest").migrate();
        assertThat(new Audit(jdbc).run())
                .allSatisfy(finding ->
                        assertThat(finding.examples()).as(finding.check()).isEmpty());
        assertThat(jdbc.sql(
                                "select string_agg(coalesce(text, '-') || ' ' || state || ' ' || text_version, ', ' order by language_id)"
                                        + " from cell where entry_id = 1001")
                        .query(String.class)
                        .single())
                .isEqualTo("Rampe hoch 2 1, - 0 0");
        assertThat(jdbc.sql("select count(*) from cell").query(Integer.class).single())
                .isEqualTo(1002);
        assertThat(jdbc.sql("select opened_version || ' ' || answered_version from offer")
                        .query(String.class)
                        .single())
                .isEqualTo("1 0");
        assertThat(jdbc.sql("select path from intake_file order by intake_id")
                        .query(String.class)
                        .list())
                .as("an intake's file is one of its files now")
                .containsExactly("Ramp.csv", "Ramp.csv");
    }

    @Test
    void codedColumnsHoldWhatCoreKnows() {
        to("latest").migrate();
        JdbcClient jdbc = JdbcClient.create(source(url));
        List<String> checks = jdbc.sql(
                        "select pg_get_constraintdef(oid) from pg_constraint where conname like '%\\_coded' and convalidated order by conname")
                .query(String.class)
                .list();
        assertThat(checks).hasSize(7);
        String all = String.join("\n", checks);
        Matcher most = Pattern.compile("\\((\\w+) <= (\\d+)\\)").matcher(all);
        while (most.find()) {
            int last = Integer.parseInt(most.group(2));
            int known =
                    switch (most.group(1)) {
                        case "state" -> CellState.values().length - (last == 4 ? 2 : 1);
                        case "standing" -> Standing.values().length - 1;
                        case "answer" -> Answer.values().length - 1;
                        case "kind" -> ChangeKind.values().length - 1;
                        case "taken" -> Arrival.values().length - 1;
                        default -> Choice.values().length - 1;
                    };
            assertThat(last).as(most.group()).isEqualTo(known);
        }
    }

    /** What holds a table for as long as it is large: indexes made in a transaction, all rows written anew, constraints that look at all rows at once. */
    @Test
    void newMigrationsKeepNobodyWaiting() throws IOException {
        List<Path> files;
        try (Stream<Path> all = Files.list(MIGRATIONS)) {
            files = all.filter(path -> path.toString().endsWith(".sql"))
                    .filter(path -> number(path) >= RULED_FROM)
                    .toList();
        }
        assertThat(files).isNotEmpty();
        for (Path file : files) {
            String sql = Files.readString(file).replaceAll("--.*", "");
            assertThat(breaches(sql, Files.exists(Path.of(file + ".conf"))))
                    .as(file.getFileName().toString())
                    .isEmpty();
        }
    }

    @Test
    void theRulesBite() {
        assertThat(breaches("create index cell_x on cell (version);", false)).hasSize(1);
        assertThat(breaches("create index concurrently cell_x on cell (version);", false))
                .hasSize(1);
        assertThat(breaches("create index concurrently cell_x on cell (version);", true))
                .isEmpty();
        assertThat(breaches("create table visit (id int primary key); create index visit_x on visit (id);", false))
                .isEmpty();
        assertThat(breaches("alter table cell alter column version type bigint;", false))
                .hasSize(1);
        assertThat(breaches("alter table cell add constraint x check (version > 0);", false))
                .hasSize(1);
        assertThat(breaches("update cell set version = 1;", false)).hasSize(1);
    }

    private static int number(Path file) {
        return Integer.parseInt(file.getFileName().toString().replaceAll("^V(\\d+)__.*", "$1"));
    }

    private static final Pattern LARGE =
            Pattern.compile("cell|entry|offer|cell_story|entry_story|intake_cell_was|intake_entry_was");

    private static List<String> breaches(String sql, boolean outsideTransaction) {
        return Stream.of(sql.split(";"))
                .map(statement -> statement.strip().replaceAll("\\s+", " "))
                .filter(statement -> breaks(statement, outsideTransaction))
                .toList();
    }

    private static boolean breaks(String statement, boolean outsideTransaction) {
        Matcher index = Pattern.compile("create (unique )?index (concurrently )?\\S+ on (\\w+).*")
                .matcher(statement);
        if (index.matches()) {
            return LARGE.matcher(index.group(3)).matches() && (index.group(2) == null || !outsideTransaction);
        }
        Matcher update = Pattern.compile("(?:update|delete from) (\\w+).*").matcher(statement);
        if (update.matches()) {
            return LARGE.matcher(update.group(1)).matches();
        }
        Matcher alter = Pattern.compile("alter table (\\w+) (.*)").matcher(statement);
        if (alter.matches() && LARGE.matcher(alter.group(1)).matches()) {
            String what = alter.group(2);
            return what.contains(" type ")
                    || what.contains("set not null")
                    || (what.contains("add constraint") && !what.endsWith("not valid"));
        }
        return false;
    }
}
