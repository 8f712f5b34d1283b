package mellow.server.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import mellow.core.merge.Arrival;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.server.common.Refusal;
import mellow.server.coverage.CoverageService;
import mellow.server.intake.Previews.ChoiceRequest;
import mellow.server.people.Level;
import mellow.server.run.RunService.Progress;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import mellow.server.upkeep.Upkeep;
import org.assertj.core.api.Assertions;
import org.assertj.core.api.ThrowableAssert;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.support.TransactionTemplate;

/** Files of those who may little, what a crash leaves, and what is cleared at night. */
class IntakeSafetyTest extends ServerTest {

    private static final String WHOLE = "key,en,de,pl\nup,Ramp up,Rampe hoch,Rampa w górę\ndown,Ramp down,,\n";

    @Autowired
    private IntakeService intakes;

    @Autowired
    private Previews previews;

    @Autowired
    private Comparing comparing;

    @Autowired
    private Taking taking;

    @Autowired
    private TransactionTemplate transactions;

    @Autowired
    private Upkeep upkeep;

    @Autowired
    private Http http;

    private long mara;
    private long lina;
    private long oskar;
    private long noor;

    @BeforeEach
    void aTable() {
        mara = ledger.coordinator("mara");
        lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        oskar = ledger.person("oskar", "de", Level.REVIEWER);
        noor = ledger.person("noor", "fi", Level.CONTRIBUTOR);
        ledger.takeIn(mara, "Ramp", WHOLE, Arrival.SETTLED);
    }

    private String code(ThrowableAssert.ThrowingCallable call) {
        return Assertions.catchThrowableOfType(Refusal.class, call).code();
    }

    private String sentOut() throws Exception {
        return new String(
                http.get(mara, "/api/tables/ramp/export/in-place?file=Ramp.csv").bytes(), StandardCharsets.UTF_8);
    }

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    @Test
    void whoHasNoRightInTheTableBringsNothing() {
        long reader = ledger.person("ria", "de", Level.READER);
        assertThat(code(() -> intakes.upload(reader, "Ramp.csv", bytes(WHOLE)))).isEqualTo("no-right");
        assertThat(code(() -> intakes.upload(noor, "Ramp.csv", bytes(WHOLE)))).isEqualTo("no-right-in-table");
        long elsewhere = intakes.upload(noor, "other.csv", bytes(WHOLE));
        assertThat(code(() -> intakes.decide(noor, elsewhere, "ramp", null, Arrival.OFFERED)))
                .isEqualTo("no-right-in-table");
        assertThat(ledger.ask(Integer.class, "select count(*) from intake where status = 'applied'"))
                .isEqualTo(1);
    }

    @Test
    void aContributorsFileIsNoMasterAndNoBase() throws Exception {
        ledger.takeIn(lina, "Ramp", "key,en,de\nup,Ramp up,Rampe rauf\n", Arrival.SETTLED);
        assertThat(ledger.cell("up", "de")).isEqualTo("offered Rampe hoch");
        assertThat(sentOut()).isEqualTo(WHOLE);
        // What the contributor's file could not do is not what a coordinator's next file is compared with.
        long next = intakes.upload(
                mara, "Ramp.csv", bytes("key,en,de,pl\nup,Ramp up,Rampe rauf,Rampa w górę\ndown,Ramp down,,\n"));
        comparing.compare(mara, next, Progress.UNWATCHED);
        assertThat(ledger.ask(
                        Integer.class,
                        "select count(*) from intake_line where language = 'de' and intake_id = " + next))
                .isEqualTo(1);
    }

    @Test
    void aReviewersFileOfTextsAloneIsTheMaster() throws Exception {
        ledger.takeIn(
                oskar,
                "Ramp",
                "oskar.csv",
                bytes("key,en,de\nup,Ramp up,Rampe rauf\ndown,Ramp down,\n"),
                Arrival.SETTLED);
        assertThat(ledger.ask(String.class, "select string_agg(path, ',' order by path) from master_file"))
                .isEqualTo("Ramp.csv,oskar.csv");
        ledger.takeIn(oskar, "Ramp", "oskar.csv", bytes("key,en,de\nup,Ramp up,Rampe auf\n"), Arrival.SETTLED);
        assertThat(
                        ledger.ask(
                                String.class,
                                "select i.file_name || ' ' || m.intake_id from master_file m join intake i on i.id = m.intake_id where m.path = 'oskar.csv'"))
                .as("a file that lost entries which they cannot remove is none")
                .endsWith(" " + ledger.ask(Long.class, "select max(id) - 1 from intake"));
    }

    @Test
    void decisionsOutliveACrash() {
        long intake = intakes.upload(
                mara, "Ramp.csv", bytes("key,en,de,pl\nup,Ramp up,Rampe rauf,Rampa\ndown,Ramp down,,\n"));
        comparing.compare(mara, intake, Progress.UNWATCHED);
        previews.choose(mara, intake, new ChoiceRequest(ChangeKind.TEXTS_REPLACED, Choice.KEEP, List.of(0), null));
        // What PostgreSQL does to it after a crash.
        ledger.run("truncate intake_line");
        intakes.apply(mara, intake, Progress.UNWATCHED);
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe hoch");
        assertThat(ledger.cell("up", "pl")).isEqualTo("settled Rampa");
        assertThat(ledger.ask(Integer.class, "select count(*) from intake_decision"))
                .isZero();
    }

    @Test
    void aDecisionAboutAllOfAKindIsTheLastWord() {
        long intake = intakes.upload(
                mara, "Ramp.csv", bytes("key,en,de,pl\nup,Ramp up,Rampe rauf,Rampa\ndown,Ramp down,,\n"));
        comparing.compare(mara, intake, Progress.UNWATCHED);
        previews.choose(mara, intake, new ChoiceRequest(ChangeKind.TEXTS_REPLACED, Choice.KEEP, List.of(0), null));
        previews.choose(mara, intake, new ChoiceRequest(ChangeKind.TEXTS_REPLACED, Choice.TAKE, null, null));
        ledger.run("truncate intake_line");
        intakes.apply(mara, intake, Progress.UNWATCHED);
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe rauf");
    }

    @Test
    void aLineThatGotAnotherNumberMeanwhileIsNotChosen() {
        long intake = intakes.upload(
                mara, "Ramp.csv", bytes("key,en,de,pl\nup,Ramp up,Rampe rauf,Rampa\ndown,Ramp down,,\n"));
        comparing.compare(mara, intake, Progress.UNWATCHED);
        var seen = previews.preview(mara, intake, false);
        ChoiceRequest keep =
                new ChoiceRequest(ChangeKind.TEXTS_REPLACED, Choice.KEEP, List.of(0), null, seen.compared());
        previews.choose(mara, intake, keep);
        comparing.compare(mara, intake, Progress.UNWATCHED);
        assertThat(code(() -> previews.choose(mara, intake, keep))).isEqualTo("compared-anew");
    }

    @Test
    void whatIsGoneIsNotDoneWithout() {
        long intake = intakes.upload(mara, "Ramp.csv", bytes(WHOLE.replace("hoch", "rauf")));
        ledger.run("delete from stored_file_part where file_id = (select file_id from intake_file where intake_id = "
                + intake + ")");
        assertThat(code(() -> intakes.apply(mara, intake, Progress.UNWATCHED))).isEqualTo("file-gone");
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe hoch");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "../../etc/x.csv",
                "a/../../x.csv",
                "..\\x.csv",
                "a\nb.csv",
                "  ",
                "/",
                "a\u0000.csv",
                "\ud800.csv"
            })
    void namesThatLeadAwayAreRefused(String name) {
        assertThat(code(() -> intakes.upload(mara, name, bytes(WHOLE)))).isEqualTo("bad-name");
    }

    @Test
    void aTextThatCannotBeKeptIsRefusedOnEveryWayIn() {
        byte[] spelled = bytes("{\"up\": \"a\\u0000b\"}");
        assertThatThrownBy(() -> intakes.upload(mara, "de.json", spelled)).hasMessageContaining("NUL");
        byte[] far = bytes("key,en\nlong," + "x".repeat(100_001) + "\n");
        assertThatThrownBy(() -> intakes.upload(mara, "long.csv", far))
                .hasMessageStartingWith("long.csv, line 2: a text of “long” is 100001 characters long");
    }

    @Test
    void aKeyMayBeAsLongAsAParagraph() {
        StringBuilder key = new StringBuilder();
        for (int i = 0; key.length() < 9_000; i++) {
            key.append(Integer.toString(i * 7919, 36)).append(' ');
        }
        ledger.takeIn(mara, "Long", "key,en,de\n" + key.toString().strip() + ",x,y\n", Arrival.SETTLED);
        assertThat(ledger.ask(Integer.class, "select count(*) from entry where length(key) > 8000"))
                .isEqualTo(1);
    }

    @Test
    void theNightClearsWhatHadItsTime() {
        long left = intakes.upload(mara, "left.csv", bytes(WHOLE));
        intakes.leave(mara, left);
        long forgotten = intakes.upload(mara, "forgotten.csv", bytes(WHOLE));
        long back = ledger.takeIn(mara, "Quay", "key,en,de\nq,Quay,Kai\n", Arrival.SETTLED);
        intakes.undo(mara, back, false);
        long young = intakes.upload(mara, "young.csv", bytes(WHOLE));
        upkeep.clear();
        assertThat(ledger.ask(Integer.class, "select count(*) from intake_file"))
                .isEqualTo(5);
        ledger.run("update intake set created_at = created_at - interval '91 days' where id <> " + young);
        ledger.run("update intake set undone_at = undone_at - interval '91 days' where undone_at is not null");
        ledger.run("update stored_file set created_at = created_at - interval '91 days'");
        ledger.run("insert into attempt (what, failures, last_at) values ('x', 3, now() - interval '2 hours')");
        upkeep.clear();
        upkeep.clear();
        assertThat(ledger.ask(String.class, "select status from intake where id = " + forgotten))
                .isEqualTo("left");
        assertThat(ledger.ask(String.class, "select status from intake where id = " + young))
                .isEqualTo("open");
        assertThat(ledger.ask(Integer.class, "select count(*) from intake_entry where intake_id = " + back))
                .isZero();
        assertThat(ledger.ask(Integer.class, "select count(*) from attempt")).isZero();
        // The master of the table, the young one, and what the undone intake names; not the left ones.
        assertThat(ledger.ask(
                        Integer.class, "select count(*) from stored_file where name in ('left.csv', 'forgotten.csv')"))
                .isZero();
        assertThat(ledger.ask(
                        Integer.class, "select count(*) from stored_file where name in ('Ramp.csv', 'young.csv')"))
                .isEqualTo(2);
    }

    @Test
    void whileAFileIsTakenInItsTableIsHeld() {
        long intake = intakes.upload(mara, "Ramp.csv", bytes("key,en,de\nup,Ramp raised,Rampe\n"));
        intakes.decide(mara, intake, ledger.slug("Ramp"), null, Arrival.SETTLED);
        transactions.executeWithoutResult(status -> {
            taking.take(mara, intake, Progress.UNWATCHED);
            CompletableFuture<Boolean> free = CompletableFuture.supplyAsync(() -> ledger.ask(
                    Boolean.class,
                    "select exists (select 1 from ledger_table where name = 'Ramp' for key share skip locked)"));
            assertThat(free.join())
                    .as("whether somebody else could change a text meanwhile")
                    .isFalse();
            status.setRollbackOnly();
        });
        assertThat(ledger.ask(
                        Boolean.class,
                        "select exists (select 1 from ledger_table where name = 'Ramp' for key share skip locked)"))
                .isTrue();
    }

    /** Most of what the file has is nobody's to add, so little is touched although the file is large. */
    @Test
    void aLargeFileOfWhichAContributorMayTakeLittle() {
        StringBuilder file = new StringBuilder("key,en,de\ndown,Ramp down,Rampe unten\n");
        for (int i = 0; i < CoverageService.FEW + 10; i++) {
            file.append("more.").append(i).append(",More,\n");
        }
        long intake = intakes.upload(lina, "Ramp.csv", bytes(file.toString()));
        intakes.decide(lina, intake, ledger.slug("Ramp"), null, Arrival.OFFERED);
        intakes.apply(lina, intake, Progress.UNWATCHED);
        assertThat(ledger.cell("down", "de")).isEqualTo("offered");
        assertThat(ledger.ask(Integer.class, "select entries from ledger_table where name = 'Ramp'"))
                .isEqualTo(2);
    }
}
