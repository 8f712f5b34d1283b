package mellow.server.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import mellow.core.merge.Arrival;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.entry.EntryService;
import mellow.server.intake.PreviewReply.Group;
import mellow.server.intake.PreviewReply.Line;
import mellow.server.intake.Previews.ChoiceRequest;
import mellow.server.people.Level;
import mellow.server.run.RunService.Progress;
import mellow.server.support.ServerTest;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Deciding about what a file would do: what is shown is what is done. */
class IntakeChoicesTest extends ServerTest {

    private static final String FIRST =
            "key,en,de,fi\nup,Ramp up,Rampe oben,Ylös\ndown,Ramp down,Rampe unten,Alas\nmid,Halfway,Halb,Puoli\nstop,Stop,Halt,\n";
    private static final String SECOND =
            "key,en,de,fi\nup,Ramp fully up,Klappe oben,Ylös\ndown,Ramp fully down,Klappe unten,Alas\nmid,Half the way,Mitte,Puoli\nnew,New,Neu,Uusi\nnew2,New two,Neu zwei,\n";

    @Autowired
    private IntakeService intakes;

    @Autowired
    private IntakeReplies replies;

    @Autowired
    private Previews previews;

    @Autowired
    private Comparing comparing;

    @Autowired
    private EntryService entries;

    private long mara;
    private long intake;

    @BeforeEach
    void aFile() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(mara, "Ramp panel", FIRST, Arrival.SETTLED);
        ledger.allowOwn("Ramp panel", "de");
        ledger.change(mara, "mid", "de", CellChange.text(Action.PUT_FORWARD, 1, "Auf halbem Weg"));
        intake = intakes.upload(mara, "Ramp panel.csv", SECOND.getBytes(StandardCharsets.UTF_8));
        comparing.compare(mara, intake, Progress.UNWATCHED);
    }

    private PreviewReply choose(ChangeKind kind, Choice choice, List<Integer> lines, String find) {
        return Objects.requireNonNull(previews.choose(mara, intake, new ChoiceRequest(kind, choice, lines, find))
                .preview());
    }

    private PreviewReply preview() {
        return Objects.requireNonNull(previews.preview(mara, intake, false).preview());
    }

    private static Map<Choice, Integer> chosen(PreviewReply preview, ChangeKind kind) {
        return preview.groups().stream()
                .filter(group -> group.kind() == kind)
                .findFirst()
                .map(Group::chosen)
                .orElse(Map.of());
    }

    @Test
    void meaningIsDecidedPerEntryAndForAllAndStalenessFollows() {
        assertThat(preview().stale()).containsExactlyInAnyOrderEntriesOf(Map.of("fi", 3, "de", 1));
        PreviewReply one = choose(ChangeKind.SOURCES_REWRITTEN, Choice.FIX, List.of(0), "");
        assertThat(one.stale()).containsExactlyInAnyOrderEntriesOf(Map.of("fi", 2, "de", 1));
        PreviewReply all = choose(ChangeKind.SOURCES_REWRITTEN, Choice.FIX, null, "");
        assertThat(all.stale()).isEmpty();
        PreviewReply found = choose(ChangeKind.SOURCES_REWRITTEN, Choice.CHANGED, null, "fully DOWN");
        assertThat(found.stale()).containsExactly(Map.entry("fi", 1));
        assertThat(chosen(found, ChangeKind.SOURCES_REWRITTEN)).isEqualTo(Map.of(Choice.CHANGED, 1, Choice.FIX, 2));
        intakes.apply(mara, intake, Progress.UNWATCHED);
        assertThat(ledger.cell("up", "fi")).isEqualTo("settled Ylös");
        assertThat(ledger.cell("down", "fi")).isEqualTo("stale Alas");
        assertThat(ledger.cell("down", "de")).isEqualTo("settled Klappe unten");
        assertThat(replies.reply(mara, intake).done().report().stale()).containsExactly(Map.entry("fi", 1));
    }

    @Test
    void aConflictCanBeTakenOfferedOrLeft() {
        Line conflict = previews.lines(mara, intake, ChangeKind.CONFLICTS, "", 0, 10)
                .lines()
                .get(0);
        assertThat(conflict.was().before()).isEqualTo("Auf halbem Weg");
        assertThat(conflict.comes().after()).isEqualTo("Mitte");
        assertThat(conflict.of().source()).isEqualTo("Half the way");
        assertThat(conflict.outcome().becomes()).isEqualTo("offered");
        choose(ChangeKind.CONFLICTS, Choice.TAKE, List.of(conflict.n()), "");
        intakes.apply(mara, intake, Progress.UNWATCHED);
        assertThat(ledger.cell("mid", "de")).isEqualTo("settled Mitte");
        assertThat(ledger.ask(
                        Integer.class,
                        "select count(*) from cell_story where before = 'Auf halbem Weg' and after = 'Mitte'"))
                .isEqualTo(1);
    }

    @Test
    void theSumsAreWhatIsDone() {
        choose(ChangeKind.NEW_ENTRIES, Choice.KEEP, List.of(1), "");
        choose(ChangeKind.TEXTS_REPLACED, Choice.OFFER, null, "");
        choose(ChangeKind.GONE_FROM_FILE, Choice.KEEP, null, "");
        PreviewReply before = preview();
        assertThat(before.arrivals().settled()).isEqualTo(2);
        assertThat(before.arrivals().offered()).isEqualTo(3);
        intakes.apply(mara, intake, Progress.UNWATCHED);
        PreviewReply after = replies.reply(mara, intake).done().report();
        assertThat(after.arrivals().settled()).isEqualTo(before.arrivals().settled());
        assertThat(after.arrivals().offered()).isEqualTo(before.arrivals().offered());
        assertThat(after.stale()).isEqualTo(before.stale());
        assertThat(after.unchanged()).isEqualTo(before.unchanged());
        assertThat(after.groups().stream().map(Group::kind))
                .containsAll(before.groups().stream().map(Group::kind).toList());
        assertThat(ledger.ask(
                        String.class,
                        "select string_agg(key, ',' order by position) from entry where removed_at is null"))
                .isEqualTo("up,down,mid,new,stop");
        assertThat(ledger.ask(Integer.class, "select count(*) from offer where answer = 0"))
                .isEqualTo(3);
        assertThat(ledger.ask(Integer.class, "select count(*) from intake_line"))
                .isZero();
    }

    @Test
    void whatWasDecidedHoldsWhenTheTableMovesOn() {
        choose(ChangeKind.SOURCES_REWRITTEN, Choice.KEEP, List.of(1), "");
        ledger.change(mara, "stop", "de", CellChange.text(Action.PUT_FORWARD, 1, "Stopp"));
        comparing.compare(mara, intake, Progress.UNWATCHED);
        assertThat(chosen(preview(), ChangeKind.SOURCES_REWRITTEN))
                .isEqualTo(Map.of(Choice.CHANGED, 2, Choice.KEEP, 1));
        intakes.apply(mara, intake, Progress.UNWATCHED);
        assertThat(ledger.ask(String.class, "select source from entry where key = 'down'"))
                .isEqualTo("Ramp down");
    }

    @Test
    void anEntryThatIsGoneIsRemovedAndComesBackWhenTheFileHasItAgain() {
        intakes.apply(mara, intake, Progress.UNWATCHED);
        assertThat(ledger.ask(Integer.class, "select count(*) from entry where key = 'stop' and removed_at is null"))
                .isZero();
        long third =
                intakes.upload(mara, "Ramp panel.csv", (SECOND + "stop,Stop,Halt,\n").getBytes(StandardCharsets.UTF_8));
        comparing.compare(mara, third, Progress.UNWATCHED);
        assertThat(previews.lines(mara, third, ChangeKind.NEW_ENTRIES, "", 0, 10)
                        .total())
                .isEqualTo(1);
        intakes.apply(mara, third, Progress.UNWATCHED);
        // Removed here by a person, it stays removed unless somebody says otherwise.
        entries.remove(mara, List.of(ledger.entry("stop")));
        long fourth = intakes.upload(
                mara, "Ramp panel.csv", (SECOND + "stop,Stop,Halt!,\n").getBytes(StandardCharsets.UTF_8));
        comparing.compare(mara, fourth, Progress.UNWATCHED);
        assertThat(previews.lines(mara, fourth, ChangeKind.REMOVED_HERE, "", 0, 10)
                        .total())
                .isEqualTo(1);
        previews.choose(mara, fourth, new ChoiceRequest(ChangeKind.REMOVED_HERE, Choice.PUT_BACK, null, null));
        intakes.apply(mara, fourth, Progress.UNWATCHED);
        assertThat(ledger.cell("stop", "de")).isEqualTo("settled Halt");
    }

    @Test
    void aFileThatHoldsOnlyAPartRemovesNothing() {
        long part = intakes.upload(
                mara, "Ramp panel.csv", "key,en,de\nup,Ramp up,Klappe\n".getBytes(StandardCharsets.UTF_8));
        comparing.compare(mara, part, Progress.UNWATCHED);
        assertThat(chosen(previews.preview(mara, part, false).preview(), ChangeKind.GONE_FROM_FILE))
                .isEqualTo(Map.of(Choice.KEEP, 3));
    }

    @Test
    void decidingOtherwiseComparesAgainAndManyWhoAskCompareOnce() throws Exception {
        intakes.decide(mara, intake, "ramp-panel", null, Arrival.PENCILLED);
        List<CompletableFuture<PreviewReply>> asked = new ArrayList<>();
        for (int i = 0; i < 6; i++) {
            asked.add(CompletableFuture.supplyAsync(
                    () -> previews.preview(mara, intake, false).preview()));
        }
        for (CompletableFuture<PreviewReply> one : asked) {
            one.get(60, TimeUnit.SECONDS);
        }
        Awaitility.await().until(() -> previews.preview(mara, intake, false).preview() != null);
        assertThat(preview().arrivals().pencilled()).isEqualTo(3);
        assertThat(preview().arrivals().settled()).isZero();
        assertThat(ledger.ask(Integer.class, "select count(*) from run where kind = 'compare'"))
                .isEqualTo(1);
        assertThat(ledger.ask(Integer.class, "select count(*) from run where status = 'failed'"))
                .isZero();
    }

    @Test
    void whatAKindCannotDoIsRefused() {
        assertThatThrownBy(() -> choose(ChangeKind.CONFLICTS, Choice.REMOVE, null, ""))
                .hasMessageContaining("What can be done about this is");
    }

    @Test
    void whoMayNotSettleTakesAsAnOffer() {
        long lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        long hers = intakes.upload(lina, "Ramp panel.csv", SECOND.getBytes(StandardCharsets.UTF_8));
        comparing.compare(lina, hers, Progress.UNWATCHED);
        previews.choose(lina, hers, new ChoiceRequest(ChangeKind.CONFLICTS, Choice.TAKE, null, null));
        intakes.apply(lina, hers, Progress.UNWATCHED);
        assertThat(ledger.cell("mid", "de")).isEqualTo("offered Auf halbem Weg");
        assertThat(ledger.ask(Integer.class, "select count(*) from entry where removed_at is null"))
                .isEqualTo(4);
        assertThat(ledger.ask(String.class, "select source from entry where key = 'up'"))
                .isEqualTo("Ramp up");
    }
}
