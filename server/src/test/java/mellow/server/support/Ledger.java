package mellow.server.support;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Locale;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.audit.Audit;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellService;
import mellow.server.cell.CellView;
import mellow.server.check.MaskKeeper;
import mellow.server.intake.IntakeService;
import mellow.server.people.Level;
import mellow.server.people.PeopleService;
import mellow.server.run.RunService;
import mellow.server.run.RunService.Progress;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/** Builds ledgers for tests and looks into them. */
@Component
public class Ledger {

    private static final Duration LONG = Duration.ofSeconds(60);

    private final JdbcClient jdbc;
    private final PeopleService people;
    private final IntakeService intakes;
    private final CellService cells;
    private final MaskKeeper masks;
    private final RunService runs;
    private final TransactionTemplate transaction;

    Ledger(
            JdbcClient jdbc,
            PeopleService people,
            IntakeService intakes,
            CellService cells,
            MaskKeeper masks,
            RunService runs,
            PlatformTransactionManager transactions) {
        this.runs = runs;
        this.masks = masks;
        this.transaction = new TransactionTemplate(transactions);
        this.jdbc = jdbc;
        this.people = people;
        this.intakes = intakes;
        this.cells = cells;
    }

    /** Waits until all texts were looked at again that somebody's change made necessary. */
    public void awaitRechecks() {
        jdbc.sql("select distinct subject from run where kind = 'recheck' and status in ('queued', 'going')")
                .query(Long.class)
                .list()
                .forEach(table -> runs.await("recheck", table, LONG));
    }

    /** Looks at every text anew, after something was changed that no screen can change. */
    public void lookAgain() {
        transaction.executeWithoutResult(status -> masks.ofEntries(
                jdbc.sql("select id from entry").query(Long.class).list()));
    }

    /** Allows texts of an entry so many characters. */
    public void limit(String key, int characters) {
        jdbc.sql("update entry set max_length = :most where key = :key")
                .param("most", characters)
                .param("key", key)
                .update();
        lookAgain();
    }

    /** Removes everything but languages. Emptying files of tables costs more than most tests; where little is, it is deleted. */
    public void empty() {
        jdbc.sql(
                        """
                        do $$
                        declare
                            doomed regclass[] := array(
                                with recursive doomed (it) as (
                                    select unnest('{memory_use, shelf_unit, shelf, answering, filling_draft, filling, draft, draft_use, draft_service, standing_rule, question, term_text, term, person, person_right, ledger_table, table_language, entry, cell, offer, stored_file, stored_file_part,
                                        intake, intake_line, intake_cell_was, intake_entry_was, token, master_file, cell_story, intake_entry, entry_story, coverage, coverage_day, activity, product,
                                        product_table, product_language, invite, kept_scope, run, attempt, known_browser, intake_decision, intake_file, dropped, dropped_file, finding_mask, check_setting,
                                        check_exception, product_font, recheck, product_host, recipe, delivery_plan, delivery, delivery_file, delivery_texts, delivered, delivered_part, entry_number,
                                        spring_session, spring_session_attributes}'::regclass[])
                                    union
                                    select conrelid from pg_constraint join doomed on confrelid = it where contype = 'f')
                                select it from doomed);
                            one regclass;
                        begin
                            if exists (select 1 from unnest(doomed) it where pg_relation_size(it) > 2000000) then
                                execute 'truncate ' || array_to_string(doomed, ', ');
                            else
                                set local session_replication_role = replica;
                                foreach one in array doomed loop
                                    if pg_relation_size(one) > 0 then
                                        execute 'delete from ' || one;
                                    end if;
                                end loop;
                            end if;
                        end $$
                        """)
                .update();
    }

    /** A coordinator. */
    public long coordinator(String signIn) {
        return people.add(signIn, signIn.toUpperCase(Locale.ROOT), "ahoy-" + signIn, true);
    }

    /** Someone with one right. */
    public long person(String signIn, String language, Level level) {
        long id = people.add(signIn, signIn.toUpperCase(Locale.ROOT), "ahoy-" + signIn, false);
        people.give(id, new LanguageTag(language), level);
        return id;
    }

    /** Uploads {@code csv} for a new table; the intake's number. */
    public long upload(long person, String name, String csv) {
        return intakes.upload(person, name, csv.getBytes(StandardCharsets.UTF_8));
    }

    /** Takes {@code csv} into the table {@code table}, which is made when there is none of that name; the intake's number. */
    public long takeIn(long person, String table, String csv, Arrival arrival) {
        return takeIn(person, table, table + ".csv", csv.getBytes(StandardCharsets.UTF_8), arrival);
    }

    /** The same from a named file of any bytes. */
    public long takeIn(long person, String table, String file, byte[] content, Arrival arrival) {
        long intake = intakes.upload(person, file, content);
        boolean known = jdbc.sql("select 1 from ledger_table where name = :name")
                .param("name", table)
                .query(Integer.class)
                .optional()
                .isPresent();
        intakes.decide(person, intake, known ? slug(table) : null, known ? null : table, arrival);
        intakes.apply(person, intake, Progress.UNWATCHED);
        return intake;
    }

    /** Lets reviewers settle their own texts. */
    public void allowOwn(String table, String language) {
        jdbc.sql(
                        "update table_language set settles_own = true where table_id = :table and language_id = (select id from language where tag = :tag)")
                .param("table", table(table))
                .param("tag", language)
                .update();
    }

    /** The table's name in addresses. */
    public String slug(String table) {
        return jdbc.sql("select slug from ledger_table where name = :name")
                .param("name", table)
                .query(String.class)
                .single();
    }

    /** The table's number. */
    public long table(String table) {
        return jdbc.sql("select id from ledger_table where name = :name")
                .param("name", table)
                .query(Long.class)
                .single();
    }

    /** The numbers of a table's entries, in order. */
    public List<Long> entries(String table) {
        return jdbc.sql("select id from entry where table_id = :table and removed_at is null order by position")
                .param("table", table(table))
                .query(Long.class)
                .list();
    }

    /** The number of the entry with that key. */
    public long entry(String key) {
        return jdbc.sql("select id from entry where key = :key and removed_at is null")
                .param("key", key)
                .query(Long.class)
                .single();
    }

    /** Changes a cell. */
    public CellView change(long person, String key, String language, CellChange change) {
        return cells.change(person, entry(key), new LanguageTag(language), change)
                .cell();
    }

    /** "state text" of a cell, "untranslated" when there is no row. */
    public String cell(String key, String language) {
        return jdbc.sql(
                        """
                        select (array['offered','returned','stale','settled','pencilled','untranslated'])[c.state + 1] || coalesce(' ' || c.text, '')
                        from cell c join language l on l.id = c.language_id join entry e on e.id = c.entry_id
                        where e.key = :key and e.removed_at is null and l.tag = :tag
                        """)
                .param("key", key)
                .param("tag", language)
                .query(String.class)
                .optional()
                .orElse("untranslated");
    }

    /** One value. */
    public <T> T ask(Class<T> type, String sql) {
        return jdbc.sql(sql).query(type).single();
    }

    /** Changes something behind the server's back. */
    public void run(String sql) {
        jdbc.sql(sql).update();
    }

    /** Recounts everything. */
    public List<Audit.Finding> audit() {
        return new Audit(jdbc).run();
    }

    /** Number of differences that a recount finds. */
    public int differences() {
        return audit().stream().mapToInt(Audit.Finding::differences).sum();
    }
}
