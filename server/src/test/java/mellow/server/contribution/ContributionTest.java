package mellow.server.contribution;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Clock;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.cell.CellChange.How;
import mellow.server.cell.CellService;
import mellow.server.common.Refusal;
import mellow.server.contribution.ContributionService.Contribution;
import mellow.server.contribution.ContributionService.Figures;
import mellow.server.contribution.ContributionService.Week;
import mellow.server.contribution.OfferList.OfferLine;
import mellow.server.contribution.OfferList.Offers;
import mellow.server.contribution.ReportService.Answerer;
import mellow.server.contribution.ReportService.InTable;
import mellow.server.contribution.ReportService.Report;
import mellow.server.entry.EntryService;
import mellow.server.intake.IntakeService;
import mellow.server.people.Level;
import mellow.server.people.PeopleService;
import mellow.server.support.ServerTest;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;

class ContributionTest extends ServerTest {

    private static final LanguageTag GERMAN = new LanguageTag("de");
    private static final LanguageTag FINNISH = new LanguageTag("fi");

    @Autowired
    private ContributionService contributions;

    @Autowired
    private OfferList offers;

    @Autowired
    private ReportService reports;

    @Autowired
    private CellService cells;

    @Autowired
    private EntryService entries;

    @Autowired
    private IntakeService intakes;

    @Autowired
    private PeopleService people;

    @Autowired
    private JdbcClient jdbc;

    private long mara;
    private long oskar;
    private long lina;

    @BeforeEach
    void people() {
        mara = ledger.coordinator("mara");
        oskar = ledger.person("oskar", "de", Level.REVIEWER);
        lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        people.give(lina, FINNISH, Level.CONTRIBUTOR);
        ledger.takeIn(
                mara,
                "Ramp",
                "key,en,de,fi\nup,Ramp up,,\ndown,Ramp down now,,\nstop,Stop,Halt,\ndraft,Draft text,,\nwait,Wait here,,\n",
                Arrival.SETTLED);
    }

    private long offer(String key, String language, int version, String text, @Nullable How how) {
        CellChange change = new CellChange(Action.PUT_FORWARD, version, text, null, null, false, null, null, how);
        ledger.change(lina, key, language, change);
        return ledger.ask(Long.class, "select max(id) from offer");
    }

    /** Of Lina's German offers: one settled after an hour, one amended after three, one returned after two, one drafted and settled at once, one waits. */
    private void work() {
        long up = offer("up", "de", 0, "Rampe auf", null);
        long down = offer("down", "de", 0, "Rampe runter", null);
        long stop = offer("stop", "de", 1, "Stopp", null);
        long draft = offer("draft", "de", 0, "Entwurf", How.DRAFT);
        offer("wait", "de", 0, "Warten", null);
        ledger.change(oskar, "up", "de", CellChange.answer(Action.SETTLE, 1, up, null));
        ledger.change(oskar, "down", "de", new CellChange(Action.AMEND, 1, "Rampe zu", down, null, false, null));
        ledger.change(oskar, "stop", "de", CellChange.answer(Action.RETURN, 2, stop, "Halt is better."));
        ledger.change(oskar, "draft", "de", CellChange.answer(Action.SETTLE, 1, draft, null));
        answeredAfter(up, 1);
        answeredAfter(down, 3);
        answeredAfter(stop, 2);
        answeredAfter(draft, 0);
    }

    private void answeredAfter(long offer, int hours) {
        jdbc.sql("update offer set offered_time = answered_time - make_interval(hours => :hours) where id = :offer")
                .param("hours", hours)
                .param("offer", offer)
                .update();
    }

    private static Period lately() {
        return Period.of(null, null, Clock.systemUTC());
    }

    private Contribution german() {
        return contributions
                .contributions(oskar, List.of(GERMAN), lina, lately())
                .get(0);
    }

    @Test
    void figuresTellWhatBecameOfOffersAndCountAMachinesTextsApart() {
        work();
        Contribution one = german();
        assertThat(one.name()).isEqualTo("LINA");
        // "runter" became "zu": the u stays, 5 of 12 characters change.
        assertThat(one.own()).isEqualTo(new Figures(4, 1, 0, 1, 1, 0, 0, 1, 5, 5, 12, 2 * 3600L));
        assertThat(one.machine().settled()).isEqualTo(1);
        assertThat(one.machine().words()).isEqualTo(2);
        assertThat(one.weeks())
                .hasSize(1)
                .first()
                .extracting(Week::settled, Week::amended, Week::returned)
                .containsExactly(2, 1, 1);
        assertThat(one.inARow()).as("the draft was settled after the return").isEqualTo(1);
    }

    @Test
    void figuresAreThoseOfThePeriodAndOfAll() {
        work();
        jdbc.sql(
                        "update offer set offered_time = offered_time - interval '100 days', answered_time = answered_time - interval '100 days'")
                .update();
        Contribution one = german();
        assertThat(one.own().offered()).isZero();
        assertThat(one.own().settled()).isZero();
        assertThat(one.own().waiting()).as("waits whenever it was made").isEqualTo(1);
        LocalDate longAgo = LocalDate.now(Clock.systemUTC()).minusDays(120);
        Contribution all = contributions
                .contributions(oskar, List.of(GERMAN), lina, Period.of(longAgo, null, Clock.systemUTC()))
                .get(0);
        assertThat(all.own().settled()).isEqualTo(1);
        assertThatThrownBy(() -> Period.of(LocalDate.of(2026, 2, 2), LocalDate.of(2026, 2, 1), Clock.systemUTC()))
                .hasMessage("The first day, 2026-02-02, comes after the last, 2026-02-01.");
    }

    @Test
    void othersFiguresAreForReviewersOfTheLanguage() {
        work();
        offer("up", "fi", 0, "Ramppi ylös", null);
        assertThat(contributions.contributions(lina, List.of(), lina, lately()))
                .extracting(Contribution::language)
                .containsExactly("de", "fi");
        assertThat(contributions.contributions(oskar, List.of(), 0, lately()))
                .extracting(Contribution::language)
                .containsExactly("de");
        assertThat(contributions.contributions(lina, List.of(), 0, lately())).isEmpty();
        assertThatThrownBy(() -> contributions.contributions(oskar, List.of(FINNISH), lina, lately()))
                .isInstanceOf(Refusal.class);
        assertThatThrownBy(() -> offers.offers(lina, oskar, null, "", 0)).isInstanceOf(Refusal.class);
        assertThatThrownBy(() -> reports.report(lina, GERMAN, lately())).isInstanceOf(Refusal.class);
    }

    @Test
    void offersAreListedWithWhatBecameOfThem() {
        work();
        Offers all = offers.offers(lina, lina, null, "", 0);
        assertThat(all.counts())
                .containsOnly(
                        Map.entry("open", 1),
                        Map.entry("settled", 2),
                        Map.entry("amended", 1),
                        Map.entry("returned", 1));
        assertThat(all.offers())
                .extracting(line -> line.place().key())
                .containsExactly("wait", "draft", "stop", "down", "up");
        OfferLine amended =
                offers.offers(oskar, lina, GERMAN, "amended", 0).offers().get(0);
        assertThat(amended.text()).isEqualTo("Rampe runter");
        assertThat(amended.amended()).isEqualTo("Rampe zu");
        assertThat(amended.answeredBy()).isEqualTo("OSKAR");
        OfferLine returned =
                offers.offers(lina, lina, null, "returned", 0).offers().get(0);
        assertThat(returned.reason()).isEqualTo("Halt is better.");
        assertThat(returned.cameBack()).isTrue();
        offer("stop", "de", 3, "Anhalten", null);
        assertThat(offers.offers(lina, lina, null, "returned", 0)
                        .offers()
                        .get(0)
                        .cameBack())
                .as("something newer is offered")
                .isFalse();
        assertThatThrownBy(() -> offers.offers(lina, lina, null, "lost", 0)).hasMessageContaining("“lost”");
    }

    @Test
    void pagesOfOffersFollowEachOther() {
        StringBuilder csv = new StringBuilder("key,en,de\n");
        for (int i = 0; i < OfferList.PAGE + 5; i++) {
            csv.append("k").append(i).append(",Text ").append(i).append(",\n");
        }
        ledger.takeIn(mara, "Many", csv.toString(), Arrival.SETTLED);
        for (int i = 0; i < OfferList.PAGE + 5; i++) {
            offer("k" + i, "de", 0, "Wort " + i, null);
        }
        Offers first = offers.offers(lina, lina, GERMAN, "", 0);
        assertThat(first.offers()).hasSize(OfferList.PAGE);
        Offers second = offers.offers(lina, lina, GERMAN, "", Objects.requireNonNull(first.next()));
        assertThat(second.offers())
                .extracting(line -> line.place().key())
                .containsExactly("k4", "k3", "k2", "k1", "k0");
        assertThat(second.next()).isNull();
    }

    @Test
    void draftsAreWhatOneTypedAndDidNotPutForward() {
        ledger.change(lina, "up", "de", CellChange.text(Action.PENCIL, 0, "Ramp"));
        ledger.change(lina, "wait", "fi", CellChange.text(Action.PENCIL, 0, "Odota"));
        offer("wait", "fi", 1, "Odota tässä", null);
        assertThat(offers.drafts(lina)).extracting(OfferList.Draft::text).containsExactly("Ramp");
        assertThat(offers.drafts(oskar)).isEmpty();
    }

    @Test
    void aNoteIsWrittenToOnesOwnOpenOfferOnly() {
        long up = offer("up", "de", 0, "Rampe auf", null);
        cells.say(lina, up, " Or Klappe? ");
        assertThat(ledger.ask(String.class, "select note from offer")).isEqualTo("Or Klappe?");
        assertThatThrownBy(() -> cells.say(oskar, up, "x")).isInstanceOf(Refusal.class);
        ledger.change(oskar, "up", "de", CellChange.answer(Action.SETTLE, 1, up, null));
        assertThatThrownBy(() -> cells.say(lina, up, "x")).hasMessageContaining("still waits");
    }

    @Test
    void anUndoneAnswerIsNoneAndARedoneReturnKeepsItsReason() {
        long up = offer("up", "de", 0, "Rampe auf", null);
        ledger.change(oskar, "up", "de", CellChange.answer(Action.RETURN, 1, up, "Too short."));
        long change = ledger.ask(Long.class, "select max(change_id) from cell_story");
        cells.undo(oskar, change);
        OfferLine open = offers.offers(lina, lina, null, "open", 0).offers().get(0);
        assertThat(open.answeredAt()).isNull();
        assertThat(open.reason()).isNull();
        cells.undo(oskar, ledger.ask(Long.class, "select max(change_id) from cell_story"));
        assertThat(offers.offers(lina, lina, null, "returned", 0)
                        .offers()
                        .get(0)
                        .reason())
                .isEqualTo("Too short.");
    }

    @Test
    void aReportTellsWhoPutWhatInForceAndWhichStaleTextsWereAnswered() {
        work();
        TreeMap<String, String> source = new TreeMap<>();
        source.put("other", "Stop at once");
        int version = ledger.ask(Integer.class, "select version from entry where key = 'stop'");
        entries.rewrite(mara, ledger.entry("stop"), version, source, true);
        ledger.change(oskar, "stop", "de", CellChange.text(Action.STILL_HOLDS, 3, ""));
        long undone = offer("wait", "de", 1, "Warte", null);
        ledger.change(oskar, "wait", "de", CellChange.answer(Action.SETTLE, 2, undone, null));
        cells.undo(oskar, ledger.ask(Long.class, "select max(change_id) from cell_story"));

        Report report = reports.report(mara, GERMAN, lately());
        // Ramp up 2, Ramp down now 3, Draft text 2, Stop at once 3 words.
        assertThat(report.answerers())
                .containsExactly(
                        new Answerer("OSKAR", false, 2, 0, 1, 1, 1, 0, 1, 10),
                        new Answerer("MARA", true, 1, 0, 0, 0, 0, 0, 0, 3));
        assertThat(report.tables()).containsExactly(new InTable("ramp", "Ramp", 4, 5, 1, 13));
        assertThat(report.contributors()).extracting(Contribution::name).containsExactly("LINA");
    }

    @Test
    void whatIsDoneAgainCountsInReportsAndWhatAFileBroughtDoesNotOnceItIsTakenBack() {
        long up = offer("up", "de", 0, "Rampe auf", null);
        ledger.change(oskar, "up", "de", CellChange.answer(Action.SETTLE, 1, up, null));
        cells.undo(oskar, ledger.ask(Long.class, "select max(change_id) from cell_story"));
        assertThat(reports.report(mara, GERMAN, lately()).answerers())
                .extracting(Answerer::name)
                .containsExactly("MARA");
        cells.undo(oskar, ledger.ask(Long.class, "select max(change_id) from cell_story"));
        assertThat(reports.report(mara, GERMAN, lately()).answerers())
                .containsExactly(
                        new Answerer("OSKAR", false, 1, 0, 0, 0, 0, 0, 0, 2),
                        new Answerer("MARA", true, 1, 0, 0, 0, 0, 0, 0, 1));
        intakes.undo(mara, ledger.ask(Long.class, "select max(id) from intake"), false);
        assertThat(reports.report(mara, GERMAN, lately()).answerers())
                .extracting(Answerer::name)
                .doesNotContain("MARA");
    }

    @Test
    void sheetsOfFiguresHaveARowForEachKindOfText() {
        work();
        String csv = FiguresCsv.contributions(contributions.contributions(oskar, List.of(GERMAN), 0, lately()));
        assertThat(csv.lines())
                .containsExactly(
                        "language,person,texts,offered,settled,settled by rule,amended,returned,set aside,withdrawn,waiting,words,percent changed by amending,median seconds to answer,settled in a row",
                        "de,LINA,own,4,1,0,1,1,0,0,1,5,42,7200,1",
                        "de,LINA,machine,1,1,0,0,0,0,0,0,2,,0,");
        LocalDate day = LocalDate.now(Clock.systemUTC());
        String report = FiguresCsv.report(reports.report(mara, GERMAN, Period.of(day, day, Clock.systemUTC())));
        assertThat(report.lines())
                .contains("de," + day + "," + day + ",person,OSKAR,answer,2,0,1,1,0,0,0,7,")
                .contains("de," + day + "," + day + ",table,Ramp,,4,,,,,,0,8,4");
    }
}
