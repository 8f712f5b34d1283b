package mellow.server.fill;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import mellow.core.language.LanguageTag;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.cell.CellChange.How;
import mellow.server.cell.CellChanged;
import mellow.server.cell.CellChanged.Many;
import mellow.server.cell.CellChanged.RefusedCell;
import mellow.server.cell.CellService;
import mellow.server.cell.ManyChanges;
import mellow.server.common.Refusal;
import mellow.server.draft.Drafting;
import mellow.server.draft.Drafting.Draft;
import mellow.server.draft.Drafting.ToDraft;
import mellow.server.fill.Untranslated.Empty;
import mellow.server.language.LanguageService;
import mellow.server.people.PeopleService;
import mellow.server.people.Rights;
import mellow.server.run.RunService;
import mellow.server.run.RunService.Cancelled;
import mellow.server.run.RunService.Order;
import mellow.server.run.RunService.Progress;
import mellow.server.run.RunService.RunReply;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * Fills cells with what was chosen from the memory and with drafts of a service, as a run: one change, one undo. Drafts are kept as they come, so a run that begins
 * anew after a power cut asks for none of them again. Only what is untranslated still, as it was seen, is filled.
 */
@Service
public class Filling {

    private static final String RUN = "filling";
    private static final JsonMapper JSON = JsonMapper.shared();
    private static final TypeReference<List<RefusedCell>> TOLD = new TypeReference<>() {};
    private static final int MOST_TOLD = 200;
    private static final int AT_ONCE = 500;
    private static final int NEWEST = 50;

    private static final String KEEP =
            """
            insert into filling_draft (change_id, entry_id, text, failure)
            select :change, entry, text, failure from unnest(:entries::bigint[], :texts::text[], :failures::text[]) d(entry, text, failure) on conflict do nothing
            """;
    /** Of those whose cell has the text now; a draft of a cell that was not filled never became a text. */
    private static final String BECAME =
            """
            insert into draft (service_id, entry_id, language_id, change_id, text, made_at)
            select :service, entry, :language, :change, text, :now from unnest(:entries::bigint[], :texts::text[]) d(entry, text)
            """;

    private static final String FILLINGS =
            """
            select f.*, f.known + f.drafted + f.refused > 0 ended, p.name person, l.tag, s.name service, r.status, r.done, r.total, r.message
            from filling f join person p on p.id = f.person_id join language l on l.id = f.language_id left join draft_service s on s.id = f.service_id
            left join lateral (select status, done, total, message from run where kind = 'filling' and subject = f.change_id order by id desc limit 1) r on true
            """;

    private final CellService cells;
    private final Untranslated untranslated;
    private final Drafting drafting;
    private final LanguageService languages;
    private final PeopleService people;
    private final RunService runs;
    private final UsedMemory used;
    private final JdbcClient jdbc;
    private final Clock clock;
    private final TransactionTemplate apart;

    Filling(
            CellService cells,
            Untranslated untranslated,
            Drafting drafting,
            LanguageService languages,
            PeopleService people,
            RunService runs,
            UsedMemory used,
            JdbcClient jdbc,
            Clock clock,
            PlatformTransactionManager transactions) {
        this.cells = cells;
        this.untranslated = untranslated;
        this.drafting = drafting;
        this.languages = languages;
        this.people = people;
        this.runs = runs;
        this.used = used;
        this.jdbc = jdbc;
        this.clock = clock;
        this.apart = new TransactionTemplate(transactions);
        this.apart.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
        runs.handle(RUN, this::fill);
    }

    /**
     * A text from the memory for a cell, as it was seen.
     *
     * @param fromEntry the entry that has it, 0 for a unit of a shelf
     * @param fromUnit the unit of a shelf, 0 for an entry
     */
    public record Chosen(long entry, int version, String text, long fromEntry, long fromUnit) {}

    /** A cell to be drafted, as it was seen. */
    public record ForDraft(long entry, int version) {}

    /**
     * What is to be filled.
     *
     * @param scope where it was looked for, to go back to
     * @param known texts of the memory
     * @param drafts what the service is asked for
     * @param service its number, null for none
     */
    public record FillOrder(
            String scope, String language, List<Chosen> known, List<ForDraft> drafts, @Nullable Long service) {}

    /**
     * How far a fill is, and what came of it.
     *
     * @param change the change's number, for undo
     * @param service the name of the one that drafted, null for none
     * @param status queued, going, done, failed, cancelled, or lost when its servers stopped before it began or again and again
     * @param done texts that were drafted or could not be
     * @param message why it failed, empty otherwise
     * @param known texts that came from the memory
     * @param drafted texts that the service drafted
     * @param refused texts that were not filled after all
     * @param told why, the first of them
     */
    public record FillReply(
            long change,
            String person,
            boolean mine,
            String language,
            String scope,
            @Nullable String service,
            Instant begunAt,
            String status,
            long done,
            long total,
            String message,
            int known,
            int drafted,
            int refused,
            List<RefusedCell> told) {}

    /** Begins to fill; the change's number. */
    public long start(long person, FillOrder order) {
        LanguageTag language = languages.parse(order.language());
        Rights rights = people.rights(person);
        requireContributor(rights, language);
        if (order.known().isEmpty() && order.drafts().isEmpty()) {
            throw Refusal.unacceptable("nothing-to-fill", "Nothing was chosen to be filled.");
        }
        if (order.service() != null) {
            drafting.require(order.service(), language);
        } else if (!order.drafts().isEmpty()) {
            throw Refusal.unacceptable("no-service", "Say which service drafts them.", Map.of("field", "service"));
        }
        int number = languages
                .known(language)
                .orElseThrow(() -> Refusal.unacceptable(
                        "language-not-kept", "No table is kept in {language}.", Map.of("language", language.value())));
        long change = cells.newChange();
        apart.executeWithoutResult(status -> jdbc.sql(
                        "insert into filling (change_id, person_id, language_id, scope, service_id, begun_at) values (:change, :person, :language, :scope, :service, :now)")
                .param("change", change)
                .param("person", person)
                .param("language", number)
                .param("scope", order.scope())
                .param("service", order.service())
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .update());
        runs.start(RUN, change, person, JSON.writeValueAsString(order));
        return change;
    }

    private static void requireContributor(Rights rights, LanguageTag language) {
        if (!rights.contributes(language)) {
            throw Refusal.forbidden(
                    "no-right-to-offer",
                    "You have no right to offer texts in this language; ask a coordinator for it.");
        }
    }

    private void fill(Order run, Progress progress) {
        FillOrder order = JSON.readValue(run.arguments(), FillOrder.class);
        LanguageTag language = languages.parse(order.language());
        long change = run.subject();
        if (order.service() != null) {
            draft(run.person(), change, order, order.service(), language, progress);
        }
        Map<Long, Draft> kept = kept(change);
        List<ManyChanges.One> drafts = new ArrayList<>();
        List<RefusedCell> told = new ArrayList<>();
        int refused = 0;
        Map<Long, String> keys =
                keys(order.drafts().stream().map(ForDraft::entry).toList());
        for (ForDraft one : order.drafts()) {
            Draft draft = kept.get(one.entry());
            if (draft != null && draft.failure().isEmpty()) {
                drafts.add(new ManyChanges.One(one.entry(), order.language(), one.version(), draft.text(), null, null));
            } else {
                refused++;
                if (told.size() < MOST_TOLD) {
                    String why = draft == null ? "It was stopped before this one." : draft.failure();
                    told.add(new RefusedCell(one.entry(), keys.get(one.entry()), order.language(), "no-draft", why));
                }
            }
        }
        List<ManyChanges.One> known = order.known().stream()
                .map(one -> new ManyChanges.One(one.entry(), order.language(), one.version(), one.text(), null, null))
                .toList();
        int fromMemory = 0;
        int drafted = 0;
        if (!known.isEmpty()) {
            Many done = pencil(run.person(), change, known, How.MEMORY);
            fromMemory = done.changed();
            refused += done.refusedInAll();
            told.addAll(done.refused());
            used.used(change, run.person(), languages.number(language), order.known());
        }
        if (!drafts.isEmpty()) {
            Many done = pencil(run.person(), change, drafts, How.DRAFT);
            drafted = done.changed();
            refused += done.refusedInAll();
            told.addAll(done.refused());
            became(change, order, language, drafts);
        }
        jdbc.sql(
                        "update filling set known = :known, drafted = :drafted, refused = :refused, told = :told::jsonb where change_id = :change")
                .param("known", fromMemory)
                .param("drafted", drafted)
                .param("refused", refused)
                .param("told", JSON.writeValueAsString(told.subList(0, Math.min(told.size(), MOST_TOLD))))
                .param("change", change)
                .update();
        jdbc.sql("delete from filling_draft where change_id = :change")
                .param("change", change)
                .update();
    }

    private Many pencil(long person, long change, List<ManyChanges.One> texts, How how) {
        return cells.changeMany(
                person, new ManyChanges(Action.PENCIL, texts, null, false, how), change, Progress.UNWATCHED);
    }

    /** Has drafted what is not drafted yet. Who stops it has what came until then. */
    private void draft(
            long person, long change, FillOrder order, long service, LanguageTag language, Progress progress) {
        Map<Long, Draft> kept = kept(change);
        int total = order.drafts().size();
        List<Long> left = order.drafts().stream()
                .map(ForDraft::entry)
                .filter(entry -> !kept.containsKey(entry))
                .toList();
        List<ToDraft> wanted = new ArrayList<>();
        for (int from = 0; from < left.size(); from += AT_ONCE) {
            Map<Long, Empty> empty =
                    untranslated.of(left.subList(from, Math.min(left.size(), from + AT_ONCE)), language);
            wanted.addAll(untranslated.toDraft(List.copyOf(empty.values())));
        }
        int[] done = {total - wanted.size()};
        try {
            drafting.draft(service, language, wanted, some -> {
                // Nothing more is sent for somebody whose right ended meanwhile.
                requireContributor(people.rights(person), language);
                keep(change, some);
                done[0] += some.size();
                progress.at(done[0], total);
            });
        } catch (Cancelled stopped) {
            // What came is paid for, so it is filled in; one undo takes it back.
        }
    }

    private void keep(long change, List<Draft> drafts) {
        apart.executeWithoutResult(status -> jdbc.sql(KEEP)
                .param("change", change)
                .param("entries", drafts.stream().map(Draft::entry).toArray(Long[]::new))
                .param(
                        "texts",
                        drafts.stream()
                                .map(one -> one.failure().isEmpty() ? one.text() : null)
                                .toArray(String[]::new))
                .param(
                        "failures",
                        drafts.stream()
                                .map(one -> one.failure().isEmpty() ? null : one.failure())
                                .toArray(String[]::new))
                .update());
    }

    private Map<Long, Draft> kept(long change) {
        Map<Long, Draft> kept = new HashMap<>();
        jdbc.sql(
                        "select entry_id, coalesce(text, '') text, coalesce(failure, '') failure from filling_draft where change_id = :change")
                .param("change", change)
                .query((row, n) -> new Draft(row.getLong(1), row.getString(2), row.getString(3)))
                .list()
                .forEach(draft -> kept.put(draft.entry(), draft));
        return kept;
    }

    private Map<Long, String> keys(List<Long> entries) {
        return jdbc
                .sql("select id, key from entry where id = any(:ids)")
                .param("ids", entries.toArray(Long[]::new))
                .query((row, n) -> Map.entry(row.getLong(1), row.getString(2)))
                .list()
                .stream()
                .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue));
    }

    private void became(long change, FillOrder order, LanguageTag language, List<ManyChanges.One> drafts) {
        Map<Long, String> texts = new HashMap<>();
        drafts.forEach(one -> texts.put(one.entry(), String.valueOf(one.text())));
        List<Long> filled = jdbc.sql(
                        "select entry_id from cell_story where change_id = :change and language_id = :language and origin = 'draft'")
                .param("change", change)
                .param("language", languages.number(language))
                .query(Long.class)
                .list();
        jdbc.sql(BECAME)
                .param("service", order.service())
                .param("language", languages.number(language))
                .param("change", change)
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .param("entries", filled.toArray(Long[]::new))
                .param("texts", filled.stream().map(texts::get).toArray(String[]::new))
                .update();
    }

    /**
     * Drafts one cell and pencils the draft.
     *
     * @param service the number of the one that is asked, null for the first that drafts the language
     * @throws Refusal 409 when it has a text, 422 when no draft could be taken, and why
     */
    public CellChanged one(long person, long entry, LanguageTag language, int version, @Nullable Long service) {
        requireContributor(people.rights(person), language);
        Empty empty = untranslated.of(List.of(entry), language).get(entry);
        if (empty == null || empty.version() != version) {
            throw Refusal.conflict(
                    "not-untranslated",
                    "Only a plain text that is untranslated is drafted; this one is not, or not any more.",
                    Map.of());
        }
        long asked = service == null ? drafting.usual(language) : service;
        List<Draft> drafts = new ArrayList<>();
        drafting.draft(asked, language, apart.execute(status -> untranslated.toDraft(List.of(empty))), drafts::addAll);
        Draft draft = drafts.stream().findFirst().orElseThrow();
        if (!draft.failure().isEmpty()) {
            throw Refusal.unacceptable("no-draft", "No draft: {why}", Map.of("why", draft.failure()));
        }
        return apart.execute(status -> {
            CellChange change =
                    new CellChange(Action.PENCIL, version, draft.text(), null, null, false, null, null, How.DRAFT);
            CellChanged changed = cells.change(person, entry, language, change);
            FillOrder order = new FillOrder("", language.value(), List.of(), List.of(), asked);
            became(
                    changed.change(),
                    order,
                    language,
                    List.of(new ManyChanges.One(entry, language.value(), version, draft.text(), null, null)));
            return changed;
        });
    }

    /** How far a fill of one's own is; a coordinator sees anybody's. */
    public FillReply state(long person, long change) {
        return list(person, "where f.change_id = :change", change).stream()
                .findFirst()
                .orElseThrow(Filling::unknown);
    }

    /** The newest of one's own; a coordinator sees anybody's. */
    public List<FillReply> newest(long person) {
        return list(person, "where :change = 0", 0);
    }

    private List<FillReply> list(long person, String where, long change) {
        boolean all = people.rights(person).coordinator();
        return jdbc.sql(FILLINGS + where
                        + " and (f.person_id = :person or :all) order by f.begun_at desc, f.change_id desc limit "
                        + NEWEST)
                .param("change", change)
                .param("person", person)
                .param("all", all)
                .query((row, n) -> new FillReply(
                        row.getLong("change_id"),
                        row.getString("person"),
                        row.getLong("person_id") == person,
                        row.getString("tag"),
                        row.getString("scope"),
                        row.getString("service"),
                        row.getTimestamp("begun_at").toInstant(),
                        Optional.ofNullable(row.getString("status")).orElse(row.getBoolean("ended") ? "done" : "lost"),
                        row.getLong("done"),
                        row.getLong("total"),
                        Optional.ofNullable(row.getString("message")).orElse(""),
                        row.getInt("known"),
                        row.getInt("drafted"),
                        row.getInt("refused"),
                        JSON.readValue(row.getString("told"), TOLD)))
                .list();
    }

    /** Stops it: what was drafted until then is filled in. */
    public void stop(long person, long change) {
        RunReply run = runs.latest(RUN, change, person).orElseThrow(Filling::unknown);
        if (run.open()) {
            runs.cancel(RUN, change);
        }
    }

    private static Refusal unknown() {
        return Refusal.notFound("no-such-filling", "There is no such fill.");
    }
}
