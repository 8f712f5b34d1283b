package mellow.server.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.stream.Collectors;
import mellow.core.format.UnreadableFileException;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.common.Refusal;
import mellow.server.coverage.CoverageService;
import mellow.server.master.ReadingChoice;
import mellow.server.people.Level;
import mellow.server.run.RunService;
import mellow.server.run.RunService.Progress;
import mellow.server.support.ServerTest;
import mellow.server.table.TableService;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.Timeout.ThreadMode;
import org.springframework.beans.factory.annotation.Autowired;

class IntakeServiceTest extends ServerTest {

    private static final String FIRST =
            "key,section,note,limit,en,de,fi\nup,Bow,look up,20,Ramp up,Rampe oben,\ndown,Bow,,,Ramp down,,Ramppi alhaalla\nmid,Stern,,,Halfway,Halb,\n";

    @Autowired
    private IntakeService intakes;

    @Autowired
    private IntakeReplies replies;

    @Autowired
    private Previews previews;

    @Autowired
    private Comparing comparing;

    @Autowired
    private RunService runs;

    @Autowired
    private TableService tables;

    private long mara;

    @BeforeEach
    void people() {
        mara = ledger.coordinator("mara");
    }

    /** "KIND count" of every group. */
    private List<String> preview(long person, long intake) {
        comparing.compare(person, intake, Progress.UNWATCHED);
        PreviewReply preview =
                Objects.requireNonNull(previews.preview(person, intake, false).preview());
        List<String> told = new ArrayList<>();
        preview.groups().forEach(group -> told.add(group.kind() + " " + group.count()));
        preview.stale().forEach((tag, n) -> told.add("stale " + tag + " " + n));
        return told;
    }

    private long again(long person, String csv, Arrival arrival) {
        long intake = intakes.upload(person, "Ramp panel.csv", csv.getBytes(StandardCharsets.UTF_8));
        intakes.decide(person, intake, "ramp-panel", null, arrival);
        return intake;
    }

    @Test
    void makesATableFromASpreadsheet() {
        long intake = ledger.takeIn(mara, "Ramp panel", FIRST, Arrival.SETTLED);
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe oben");
        assertThat(ledger.cell("up", "fi")).isEqualTo("untranslated");
        assertThat(
                        ledger.ask(
                                String.class,
                                "select section || '/' || note || '/' || max_length || '/' || words from entry where key = 'up'"))
                .isEqualTo("Bow/look up/20/2");
        assertThat(ledger.ask(String.class, "select string_agg(key, ',' order by position) from entry"))
                .isEqualTo("up,down,mid");
        assertThat(ledger.ask(Integer.class, "select count(*) from intake_entry where intake_id = " + intake))
                .isEqualTo(3);
        assertThat(ledger.ask(String.class, "select entries || '/' || words from ledger_table"))
                .isEqualTo("3/5");
        assertThat(ledger.differences()).isZero();
        assertThat(replies.reply(mara, intake).done().report().groups())
                .extracting(PreviewReply.Group::count)
                .containsExactly(3, 3);
    }

    @Test
    void takingTheSameFileTwiceChangesNothing() {
        ledger.takeIn(mara, "Ramp panel", FIRST, Arrival.SETTLED);
        int lines = ledger.ask(Integer.class, "select count(*) from cell_story");
        assertThat(preview(mara, again(mara, FIRST, Arrival.SETTLED))).isEmpty();
        ledger.takeIn(mara, "Ramp panel", FIRST, Arrival.SETTLED);
        assertThat(ledger.ask(Integer.class, "select count(*) from cell_story")).isEqualTo(lines);
    }

    @Test
    void takesWhatOnlyTheFileChangedAndOffersWhatBothDid() {
        ledger.takeIn(mara, "Ramp panel", FIRST, Arrival.SETTLED);
        ledger.allowOwn("Ramp panel", "de");
        ledger.change(mara, "mid", "de", CellChange.text(Action.PUT_FORWARD, 1, "Halb offen"));
        String second = FIRST.replace("Rampe oben", "Rampe hoch")
                .replace("Halb,", "Mitte,")
                .replace("Ramppi alhaalla", "");
        assertThat(preview(mara, again(mara, second, Arrival.SETTLED)))
                .containsExactly("TEXTS_REPLACED 1", "CONFLICTS 1", "EMPTIED_IN_FILE 1");
        ledger.takeIn(mara, "Ramp panel", second, Arrival.SETTLED);
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe hoch");
        assertThat(ledger.cell("mid", "de")).isEqualTo("offered Halb offen");
        assertThat(ledger.cell("down", "fi")).isEqualTo("settled Ramppi alhaalla");
        assertThat(ledger.differences()).isZero();
    }

    @Test
    void anotherFileNeverReplacesWhatIsSettled() {
        ledger.takeIn(mara, "Ramp panel", FIRST, Arrival.SETTLED);
        ledger.takeIn(
                mara,
                "Ramp panel",
                "agency.csv",
                "key,de\nup,Rampe hoch\ndown,Rampe unten\n".getBytes(StandardCharsets.UTF_8),
                Arrival.SETTLED);
        assertThat(ledger.cell("up", "de")).isEqualTo("offered Rampe oben");
        assertThat(ledger.cell("down", "de")).isEqualTo("settled Rampe unten");
        assertThat(ledger.ask(String.class, "select text from offer where answer = 0"))
                .isEqualTo("Rampe hoch");
        assertThat(ledger.differences()).isZero();
    }

    @Test
    void aRewrittenSourceMakesOlderTextsStaleButNotThoseThatCameWithIt() {
        ledger.takeIn(mara, "Ramp panel", FIRST, Arrival.SETTLED);
        String second = FIRST.replace("Ramp up,Rampe oben", "Ramp fully up,Rampe ganz oben")
                .replace("Ramp down", "Ramp fully down");
        long intake = again(mara, second, Arrival.SETTLED);
        assertThat(preview(mara, intake)).containsExactly("SOURCES_REWRITTEN 2", "TEXTS_REPLACED 1", "stale fi 1");
        ledger.takeIn(mara, "Ramp panel", second, Arrival.SETTLED);
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe ganz oben");
        assertThat(ledger.cell("down", "fi")).isEqualTo("stale Ramppi alhaalla");
        assertThat(ledger.differences()).isZero();
    }

    @Test
    void newEntriesFollowTheirNeighbour() {
        ledger.takeIn(mara, "Ramp panel", FIRST, Arrival.SETTLED);
        ledger.takeIn(
                mara,
                "Ramp panel",
                "key,en\nfirst,A\nup,Ramp up\nb1,B\nb2,C\ndown,Ramp down\nlast,Z\n",
                Arrival.SETTLED);
        assertThat(ledger.ask(String.class, "select string_agg(key, ',' order by position) from entry"))
                .isEqualTo("first,up,b1,b2,down,last,mid");
    }

    @Test
    void aContributorBringsOnlyOffersInTheirLanguage() {
        ledger.takeIn(mara, "Ramp panel", FIRST, Arrival.SETTLED);
        long lina = ledger.person("lina", "fi", Level.CONTRIBUTOR);
        String file = "key,en,de,fi\nup,Ramp UP,Klappe,Ramppi ylhäällä\nnew,New,Neu,Uusi\n";
        assertThat(preview(lina, again(lina, file, Arrival.SETTLED)))
                .containsExactly("TEXTS_ADDED 1", "GONE_FROM_FILE 2", "NO_RIGHT 2");
        ledger.takeIn(lina, "Ramp panel", file, Arrival.SETTLED);
        assertThat(ledger.cell("up", "fi")).isEqualTo("offered");
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe oben");
        assertThat(ledger.ask(Integer.class, "select count(*) from entry")).isEqualTo(3);
        ledger.takeIn(lina, "Ramp panel", file.replace("ylhäällä", "ylhäällä nyt"), Arrival.OFFERED);
        assertThat(ledger.ask(String.class, "select string_agg(answer || text, ';' order by id) from offer"))
                .isEqualTo("4Ramppi ylhäällä;0Ramppi ylhäällä nyt");
        assertThat(ledger.differences()).isZero();
    }

    @Test
    void aFileThatCannotBeReadLeavesNothingBehind() {
        assertThatThrownBy(() -> ledger.upload(mara, "broken.csv", "key,en\na,\"x"))
                .isInstanceOf(UnreadableFileException.class);
        assertThat(ledger.ask(Integer.class, "select count(*) from intake")
                        + ledger.ask(Integer.class, "select count(*) from stored_file"))
                .isZero();
    }

    @Test
    void aFileWithAFlawCanBeCorrected() {
        long intake = ledger.upload(mara, "flawed.csv", "key,en,de,German\na,A,B,C\n");
        assertThatThrownBy(() -> intakes.apply(mara, intake, Progress.UNWATCHED))
                .isInstanceOf(Refusal.class)
                .hasMessageContaining("are both de");
        IntakeReply reply = replies.reply(mara, intake);
        assertThat(reply.reading().trouble().blocked()).contains("are both de");
        List<ReadingChoice.ColumnChoice> columns = reply.reading().shown().columns().stream()
                .map(column -> column.heading().equals("German")
                        ? new ReadingChoice.ColumnChoice("German", column.role(), "de-AT")
                        : column)
                .collect(Collectors.toList());
        intakes.decide(
                mara,
                intake,
                new IntakeOptions(
                        new ReadingChoice(null, null, null, null, 0, columns, null, null, null, null),
                        new Destination(null, "Flawed", "en", false, Arrival.SETTLED, null)));
        intakes.apply(mara, intake, Progress.UNWATCHED);
        assertThat(ledger.cell("a", "de-AT")).isEqualTo("settled C");
    }

    @Test
    void aFailureHalfWayLeavesTheTableAsItWas() {
        ledger.takeIn(mara, "Ramp panel", FIRST, Arrival.SETTLED);
        String big = FIRST.replace("Rampe oben", "Rampe hoch")
                + "x,,,,New,Neu,\n".repeat(1).replace("x", "n1");
        StringBuilder csv = new StringBuilder(big);
        for (int i = 0; i < 3000; i++) {
            csv.append("more.").append(i).append(",,,,Source,Text,\n");
        }
        long intake = again(mara, csv.toString(), Arrival.SETTLED);
        Progress failing = (done, total) -> {
            if (done >= 2000) {
                throw new IllegalStateException("the power went out");
            }
        };
        assertThatThrownBy(() -> intakes.apply(mara, intake, failing)).hasMessage("the power went out");
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe oben");
        assertThat(ledger.ask(Integer.class, "select count(*) from entry")).isEqualTo(3);
        assertThat(replies.reply(mara, intake).about().status()).isEqualTo("open");
        intakes.apply(mara, intake, Progress.UNWATCHED);
        assertThat(ledger.ask(Integer.class, "select count(*) from entry")).isEqualTo(3004);
        assertThat(ledger.differences()).isZero();
    }

    @Test
    void aRunCanBeCancelledAndTellsSo() throws Exception {
        StringBuilder csv = new StringBuilder("key,en\n");
        for (int i = 0; i < 5000; i++) {
            csv.append("k").append(i).append(",Source\n");
        }
        long intake = ledger.upload(mara, "Long.csv", csv.toString());
        CountDownLatch started = new CountDownLatch(1);
        CompletableFuture<Void> cancelled = new CompletableFuture<>();
        runs.handle(IntakeService.RUN, (order, progress) -> {
            started.countDown();
            try {
                cancelled.get(20, TimeUnit.SECONDS);
            } catch (InterruptedException | ExecutionException | TimeoutException late) {
                throw new IllegalStateException(late);
            }
            intakes.apply(order.person(), order.subject(), progress);
        });
        runs.start(IntakeService.RUN, intake, mara, "");
        assertThat(started.await(20, TimeUnit.SECONDS)).isTrue();
        assertThatThrownBy(() -> runs.start(IntakeService.RUN, intake, mara, ""))
                .isInstanceOf(Refusal.class);
        intakes.cancel(mara, intake);
        cancelled.complete(null);
        Awaitility.await().until(() -> runs.latest(IntakeService.RUN, intake)
                .orElseThrow()
                .status()
                .equals("cancelled"));
        assertThat(ledger.ask(Integer.class, "select count(*) from entry")).isZero();
        runs.handle(IntakeService.RUN, (order, progress) -> intakes.apply(order.person(), order.subject(), progress));
    }

    @Test
    void guessesTableAndSourceFromTheFile() {
        ledger.takeIn(mara, "Ramp panel", FIRST, Arrival.SETTLED);
        assertThat(replies.reply(mara, ledger.upload(mara, "ramp-panel_v2.csv", FIRST))
                        .into()
                        .tableSlug())
                .isEqualTo("ramp-panel");
        IntakeReply fresh = replies.reply(mara, ledger.upload(mara, "texts/deck_side-3.csv", "key,de,fi\na,b,c\n"));
        assertThat(fresh.options().where().newTable()).isEqualTo("Deck side");
        assertThat(fresh.options().where().source()).isEqualTo("de");
    }

    @Test
    void readsASheetAsItComesFromAnOldOfficeProgram() {
        byte[] sheet =
                "Panel texts 2019;;\r\n;;\r\nBezeichner;English;Deutsch\r\nramp.up;Ramp up;Größe über alles\r\nramp.dn;Ramp down;Öffnen\r\n"
                        .getBytes(Charset.forName("windows-1252"));
        ledger.takeIn(mara, "Old", "old.csv", sheet, Arrival.SETTLED);
        assertThat(ledger.cell("ramp.up", "de")).isEqualTo("settled Größe über alles");
    }

    @Test
    void theListShowsEveryonesToACoordinatorAndOnesOwnToOthers() {
        long lina = ledger.person("lina", "fi", Level.CONTRIBUTOR);
        long hers = ledger.upload(lina, "hers.csv", FIRST);
        ledger.upload(mara, "mine.csv", FIRST);
        assertThat(replies.all(mara, Long.MAX_VALUE))
                .extracting(listed -> listed.about().fileName())
                .containsExactly("mine.csv", "hers.csv");
        assertThat(replies.all(lina, Long.MAX_VALUE))
                .extracting(listed -> listed.about().fileName())
                .containsExactly("hers.csv");
        long mine = replies.all(mara, Long.MAX_VALUE).get(0).about().id();
        assertThatThrownBy(() -> previews.preview(lina, mine, false)).isInstanceOf(Refusal.class);
        intakes.leave(lina, hers);
        assertThatThrownBy(() -> intakes.apply(lina, hers, Progress.UNWATCHED)).hasMessageContaining("was left");
    }

    /** So many that they are written while the comparison still goes on. */
    @Test
    @Timeout(value = 2, unit = TimeUnit.MINUTES, threadMode = ThreadMode.SEPARATE_THREAD)
    void aTableThatHasNothingYetTakesInMoreThanIsCountedOneByOne() {
        tables.create(mara, "Ramp panel", new LanguageTag("en"), List.of(new LanguageTag("de")), false);
        StringBuilder csv = new StringBuilder("key,en,de\n");
        for (int n = 0; n <= CoverageService.FEW; n++) {
            csv.append("k").append(n).append(",Ramp {n},Rampe\n");
        }
        ledger.takeIn(mara, "Ramp panel", csv.toString(), Arrival.PENCILLED);
        assertThat(ledger.ask(Integer.class, "select count(*)::int from finding_mask where stops <> 0"))
                .isEqualTo(CoverageService.FEW + 1);
    }
}
