package mellow.server.intake;

import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import mellow.core.language.LanguageTag;
import mellow.server.activity.ActivityService;
import mellow.server.common.Refusal;
import mellow.server.coverage.CoverageService;
import mellow.server.live.LiveChange;
import mellow.server.live.LiveService;
import mellow.server.people.PeopleService;
import mellow.server.people.Rights;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/**
 * Takes an intake back: every cell and entry whose last change is that intake becomes what it was before; those changed since are left, or put back too
 * when somebody says so. Set-based, one transaction, with the table held alone; the story tells it.
 */
@Component
class Undoing {

    private static final int LISTED = 200;

    /** Cells that the intake made or changed, with how they were; "since" when something happened to them later. */
    private static final String CELLS =
            """
            create temporary table taken_cell on commit drop as
            select w.entry_id, w.language_id, w.text, w.forms, w.folded, w.standing, w.based_on, w.text_at, c.version <> w.version + 1 since
            from intake_cell_was w join cell c on c.entry_id = w.entry_id and c.language_id = w.language_id
            where w.intake_id = :intake
            """;
    /** A new entry goes as a whole; it was changed since when it or any of its cells was. */
    private static final String ENTRIES =
            """
            create temporary table taken_entry on commit drop as
            select i.entry_id, true added, e.version <> 0 or exists (select 1 from cell c where c.entry_id = e.id and c.version > 1) since
            from intake_entry i join entry e on e.id = i.entry_id
            where i.intake_id = :intake and i.added and e.removed_at is null
            union all
            select w.entry_id, false, e.version <> w.version_after or (e.source_revision <> w.source_revision and exists (
                select 1 from cell c join taken_cell t on t.entry_id = c.entry_id and t.language_id = c.language_id and t.since
                where c.entry_id = e.id and c.based_on > w.source_revision))
                or (e.source_revision <> w.source_revision and exists (
                select 1 from cell c where c.entry_id = e.id and c.based_on > w.source_revision
                  and not exists (select 1 from taken_cell t where t.entry_id = c.entry_id and t.language_id = c.language_id)))
            from intake_entry_was w join entry e on e.id = w.entry_id
            where w.intake_id = :intake
            """;

    private static final String SINCE =
            """
            select e.key, null tag, coalesce(e.source, '') words from taken_entry t join entry e on e.id = t.entry_id where t.since
            union all
            select e.key, l.tag, coalesce(c.text, '') from taken_cell t join cell c on c.entry_id = t.entry_id and c.language_id = t.language_id
            join entry e on e.id = t.entry_id join language l on l.id = t.language_id where t.since
            order by 1, 2
            """;
    /** Languages in which texts go back, and whether settled ones are among them. */
    private static final String LEVELS =
            """
            select l.tag, bool_or((t.standing = 2 or c.standing = 2) and (c.standing <> t.standing or c.text is distinct from t.text or c.forms is distinct from t.forms))
            from taken_cell t join cell c on c.entry_id = t.entry_id and c.language_id = t.language_id join language l on l.id = t.language_id
            group by 1
            """;

    private static final String KEYS_TAKEN =
            """
            select w.key from intake_entry_was w join taken_entry t on t.entry_id = w.entry_id and not t.since
            where w.intake_id = :intake and w.removed_at is null and exists (
                select 1 from entry o where o.table_id = :table and o.key = w.key and o.context = w.context and o.removed_at is null and o.id <> w.entry_id
                  and not exists (select 1 from taken_entry a where a.entry_id = o.id and a.added and not a.since)
                  and not exists (select 1 from intake_entry_was r join taken_entry q on q.entry_id = r.entry_id and not q.since
                      where r.intake_id = :intake and r.entry_id = o.id and (r.key, r.context) <> (o.key, o.context)))
            limit 1
            """;
    private static final List<String> STEPS = List.of(
            // Offers of the intake that nobody answered are withdrawn; one's own that it set aside are open again.
            """
            update offer o set answer = 5, answered_at = c.version + 1, answered_by = :person, answered_time = :at
            from taken_cell t join cell c on c.entry_id = t.entry_id and c.language_id = t.language_id
            where o.intake_id = :intake and o.answer = 0 and o.entry_id = t.entry_id and o.language_id = t.language_id and (not t.since or :all)
            """,
            """
            update offer o set answer = 0, answered_at = 0, answered_by = null, answered_time = null
            from taken_cell t, intake i
            where i.id = :intake and not t.since and o.entry_id = t.entry_id and o.language_id = t.language_id
              and o.answer = 4 and o.answered_by = i.person_id and o.author_id = i.person_id and o.answered_time = i.applied_at
            """,
            """
            insert into cell_story (entry_id, language_id, at, person_id, what, origin, before, before_forms, after, after_forms, standing, based_on, intake_id)
            select c.entry_id, c.language_id, :at, :person, 'undone', 'undo', c.text, c.forms, t.text, t.forms, t.standing, t.based_on, :intake
            from taken_cell t join cell c on c.entry_id = t.entry_id and c.language_id = t.language_id where not t.since or :all
            """,
            """
            update cell c set text = t.text, forms = t.forms, folded = t.folded, standing = t.standing, based_on = t.based_on,
                text_at = case when t.since then c.version + 1 else t.text_at end, version = c.version + 1, origin = 'undo', author_id = :person, changed_at = :at
            from taken_cell t where c.entry_id = t.entry_id and c.language_id = t.language_id and (not t.since or :all)
            """,
            """
            insert into entry_story (entry_id, at, person_id, what, before, after, revision, intake_id)
            select e.id, :at, :person, case when t.added then 'removed' else 'undone' end, e.source, case when t.added then null else w.source end, e.source_revision, :intake
            from taken_entry t join entry e on e.id = t.entry_id left join intake_entry_was w on w.entry_id = e.id and w.intake_id = :intake
            where not t.since or :all
            """,
            "update entry e set removed_at = :at, version = e.version + 1, changed_at = :at from taken_entry t where t.added and (not t.since or :all) and e.id = t.entry_id",
            """
            update entry e set key = w.key, context = w.context, source = w.source, source_forms = w.source_forms, source_folded = w.source_folded,
                note = w.note, note_folded = w.note_folded, reference = w.reference, section = w.section, max_length = w.max_length, words = w.words,
                source_revision = case when t.since and e.source <> w.source then e.source_revision + 1 when t.since then e.source_revision else w.source_revision end,
                meaning_revision = case when t.since then e.meaning_revision else w.meaning_revision end,
                removed_at = w.removed_at, version = e.version + 1, changed_at = :at
            from intake_entry_was w join taken_entry t on t.entry_id = w.entry_id and not t.added
            where w.intake_id = :intake and e.id = w.entry_id and (not t.since or :all)
            """,
            """
            update cell c set open_offers = n.open from taken_cell t
            join lateral (select count(*)::smallint open from offer o where o.entry_id = t.entry_id and o.language_id = t.language_id and o.answer = 0) n on true
            where c.entry_id = t.entry_id and c.language_id = t.language_id and c.open_offers <> n.open
            """,
            """
            update cell c set state = s.state from (
                select c.entry_id, c.language_id, case
                    when c.open_offers > 0 then 0
                    when n.answer = 3 and c.text_at < n.answered_at then 1
                    when c.standing <> 0 and c.based_on < e.meaning_revision then 2
                    when c.standing = 2 then 3
                    when c.standing = 1 then 4
                    else 5 end state
                from (select entry_id from taken_cell union select entry_id from taken_entry where not added) t
                join cell c on c.entry_id = t.entry_id join entry e on e.id = c.entry_id
                left join lateral (select answer, answered_at from offer o where o.entry_id = c.entry_id and o.language_id = c.language_id and o.answer <> 5
                    order by opened_at desc, id desc limit 1) n on true) s
            where c.entry_id = s.entry_id and c.language_id = s.language_id and c.state <> s.state
            """);

    private final IntakeRepository intakes;
    private final MasterFiles masters;
    private final TableService tables;
    private final PeopleService people;
    private final CoverageService coverage;
    private final ActivityService activity;
    private final LiveService live;
    private final Lowering lowering;
    private final JdbcClient jdbc;
    private final JsonMapper json;

    Undoing(
            IntakeRepository intakes,
            MasterFiles masters,
            TableService tables,
            PeopleService people,
            CoverageService coverage,
            ActivityService activity,
            LiveService live,
            Lowering lowering,
            JdbcClient jdbc,
            JsonMapper json) {
        this.intakes = intakes;
        this.masters = masters;
        this.tables = tables;
        this.people = people;
        this.coverage = coverage;
        this.activity = activity;
        this.live = live;
        this.lowering = lowering;
        this.jdbc = jdbc;
        this.json = json;
    }

    /**
     * What taking an intake back does, or did.
     *
     * @param texts texts and offers put back to how they were
     * @param entries entries put back to how they were
     * @param removed new entries that go again
     * @param changedSince what was changed since the intake: left, or put back too
     * @param changed the first of them
     * @param pencilled texts that came back pencilled, because they would not be settled today; null before it is done
     */
    record UndoReply(
            int texts,
            int entries,
            int removed,
            int changedSince,
            List<Since> changed,
            @Nullable Pencilled pencilled) {}

    /**
     * Texts that came back pencilled.
     *
     * @param amount how many
     * @param first the first of them, each with what the checks say
     */
    record Pencilled(int amount, List<Since> first) {}

    /**
     * Something that was changed since.
     *
     * @param language of the text, null for the entry itself
     * @param now what it says now, or what is said of it
     */
    record Since(String key, @Nullable String language, String now) {}

    /** What taking it back would do. Changes nothing. */
    @Transactional
    public UndoReply look(long person, Intake intake) {
        require(person, intake);
        return found(intake.id());
    }

    /** Takes it back. */
    @Transactional
    public UndoReply undo(long person, long id, boolean all, Instant at) {
        Intake intake = intakes.findById(id).orElseThrow();
        require(person, intake);
        long table = intake.table().orElseThrow();
        tables.holdAlone(table);
        UndoReply found = found(id);
        requireRights(person);
        List<Since> lowered = lowering.lower(id, all);
        UndoReply reply = new UndoReply(
                found.texts(),
                found.entries(),
                found.removed(),
                found.changedSince(),
                found.changed(),
                new Pencilled(lowered.size(), lowered.stream().limit(LISTED).toList()));
        jdbc.sql(KEYS_TAKEN)
                .param("intake", id)
                .param("table", table)
                .query(String.class)
                .optional()
                .ifPresent(key -> {
                    throw Refusal.conflict(
                            "key-taken",
                            "The key \u201c" + key
                                    + "\u201d has been given to another entry since; rename that one, then take the intake back.",
                            java.util.Map.of());
                });
        Runnable steps = () -> STEPS.forEach(step -> jdbc.sql(step)
                .param("intake", id)
                .param("person", person)
                .param("all", all)
                .param("at", at.atOffset(ZoneOffset.UTC))
                .update());
        List<Long> concerned = jdbc.sql("select entry_id from taken_cell union select entry_id from taken_entry limit "
                        + (Applier.FEW + 1))
                .query(Long.class)
                .list();
        if (concerned.size() <= Applier.FEW) {
            coverage.around(concerned, steps);
        } else {
            steps.run();
            coverage.recount(table);
        }
        masters.putBack(table, id, intake.masterWas().orElse(null));
        int amount = reply.texts() + reply.entries() + reply.removed() + (all ? reply.changedSince() : 0);
        activity.note(person, table, ActivityService.NO_LANGUAGE, "taken_back", id, amount, at);
        if (intake.madeTable()) {
            tables.removeEmpty(table);
        }
        live.tell(new LiveChange(table, List.of(), List.of()));
        intake.undone(person, at, json.writeValueAsString(reply));
        return reply;
    }

    private void require(long person, Intake intake) {
        if (intake.person() != person && !people.rights(person).coordinator()) {
            throw Refusal.forbidden(
                    "not-your-intake", "Only the person who took this file in, or a coordinator, can take it back.");
        }
        if (!intake.applied()) {
            throw Refusal.conflict(
                    "not-applied", "Only a file that was taken in can be taken back.", java.util.Map.of());
        }
    }

    /** Taking an intake back changes texts and entries like any other way: by the rights that the person has now. */
    private void requireRights(long person) {
        Rights rights = people.rights(person);
        if (rights.coordinator()) {
            return;
        }
        boolean entries = jdbc.sql("select exists (select 1 from taken_entry)")
                .query(Boolean.class)
                .single();
        if (entries) {
            rights.requireCoordinator("take back what a file did to entries");
        }
        jdbc.sql(LEVELS).query((org.springframework.jdbc.core.RowCallbackHandler) row -> {
            LanguageTag tag = new LanguageTag(row.getString(1));
            boolean may = row.getBoolean(2) ? rights.reviews(tag) : rights.contributes(tag);
            if (!may) {
                throw Refusal.forbidden(
                        "no-right",
                        "Taking this file back changes texts in " + tag
                                + " that you may not change any more; ask a coordinator.");
            }
        });
    }

    private UndoReply found(long intake) {
        jdbc.sql(CELLS).param("intake", intake).update();
        jdbc.sql("analyze taken_cell").update();
        jdbc.sql(ENTRIES).param("intake", intake).update();
        jdbc.sql("analyze taken_entry").update();
        int[] counts = new int[4];
        jdbc.sql(
                        """
                        select (select count(*) from taken_cell where not since) texts, (select count(*) from taken_entry where not since and not added) entries,
                            (select count(*) from taken_entry where not since and added) removed,
                            (select count(*) from taken_cell where since) + (select count(*) from taken_entry where since) since
                        """)
                .query(row -> {
                    for (int i = 0; i < counts.length; i++) {
                        counts[i] = row.getInt(i + 1);
                    }
                });
        List<Since> since = jdbc.sql(SINCE + " limit " + LISTED)
                .query((row, n) -> new Since(row.getString(1), row.getString(2), row.getString(3)))
                .list();
        return new UndoReply(counts[0], counts[1], counts[2], counts[3], since, null);
    }
}
