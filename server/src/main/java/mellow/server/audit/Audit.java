package mellow.server.audit;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * The invariants of the record as queries; each finds nothing on a sound database. It is a witness: it says rules and codes by itself, in plain SQL, so that an
 * error in what everything else shares is found. Only what the checks find is asked of the checks.
 */
public final class Audit {

    private static final int MOST_TOLD = 20;

    /** Each query names what differs, in a sentence. */
    private static final Map<String, String> CHECKS = checks();

    private final JdbcClient jdbc;

    /** An audit of the database that {@code jdbc} reaches. */
    public Audit(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * What a check found.
     *
     * @param check what was checked
     * @param differences how many differences there are
     * @param examples the first of them
     */
    public record Finding(String check, int differences, List<String> examples) {}

    /** Runs every check, in one read-only look at the database. */
    public List<Finding> run() {
        List<Finding> findings = new ArrayList<>();
        CHECKS.forEach((check, sql) -> {
            List<String> found = jdbc.sql(sql).query(String.class).list();
            findings.add(new Finding(
                    check, found.size(), found.stream().limit(MOST_TOLD).toList()));
        });
        findings.add(new MaskAudit(jdbc).run());
        return findings;
    }

    private static Map<String, String> checks() {
        Map<String, String> checks = new LinkedHashMap<>();
        checks.put(
                "counters equal a recount",
                """
                with counted as (
                    select e.table_id, c.language_id, c.state, count(*)::int entries, sum(e.words)::bigint words
                    from entry e join cell c on c.entry_id = e.id
                    where e.removed_at is null and e.translatable and c.state <> 5 group by 1, 2, 3)
                select 'table ' || table_id || ', language ' || language_id || ', state ' || state || ': '
                    || coalesce(kept.entries, 0) || ' entries and ' || coalesce(kept.words, 0) || ' words kept, '
                    || coalesce(counted.entries, 0) || ' and ' || coalesce(counted.words, 0) || ' counted'
                from (select table_id, language_id, state, entries, words from coverage where entries <> 0 or words <> 0) kept
                full join counted using (table_id, language_id, state)
                where kept.entries is distinct from counted.entries or kept.words is distinct from counted.words
                """);
        checks.put(
                "totals of tables equal a recount",
                """
                select t.name || ': ' || t.entries || ' entries and ' || t.words || ' words kept, ' || n.entries || ' and ' || n.words || ' counted'
                from ledger_table t join lateral (
                    select count(*) entries, coalesce(sum(e.words), 0) words from entry e
                    where e.table_id = t.id and e.removed_at is null and e.translatable) n on true
                where t.entries <> n.entries or t.words <> n.words
                """);
        checks.put(
                "open offers are counted in their cells",
                """
                with counted as (select entry_id, language_id, count(*) n from offer where answer = 0 group by 1, 2)
                select 'entry ' || coalesce(c.entry_id, n.entry_id) || ', language ' || coalesce(c.language_id, n.language_id) || ': '
                    || coalesce(c.open_offers, 0) || ' kept, ' || coalesce(n.n, 0) || ' counted'
                from (select * from cell where open_offers <> 0) c full join counted n using (entry_id, language_id)
                where c.open_offers is distinct from n.n
                """);
        checks.put(
                "every cell shows the state that its text and offers give",
                """
                with newest as (
                    select distinct on (entry_id, language_id) entry_id, language_id, answer, answered_version from offer
                    where answer <> 5 order by entry_id, language_id, opened_version desc, id desc),
                expected as (
                    select c.entry_id, c.language_id, c.state, case
                        when c.open_offers > 0 then 0
                        when n.answer = 3 and c.text_version < n.answered_version then 1
                        when c.standing <> 0 and c.based_on < e.meaning_revision then 2
                        when c.standing = 2 then 3
                        when c.standing = 1 then 4
                        else 5 end should
                    from cell c join entry e on e.id = c.entry_id left join newest n on n.entry_id = c.entry_id and n.language_id = c.language_id)
                select 'entry ' || entry_id || ', language ' || language_id || ': ' || state || ' kept, ' || should || ' expected'
                from expected where state <> should
                """);
        checks.put(
                "every text is reachable in its story",
                """
                select 'entry ' || c.entry_id || ', language ' || c.language_id from cell c
                where c.text is not null and not exists (
                    select 1 from cell_story s where s.entry_id = c.entry_id and s.language_id = c.language_id
                      and s.after = c.text and s.after_forms is not distinct from c.forms)
                """);
        checks.put(
                "what was delivered is kept whole",
                """
                select 'content ' || left(encode(d.hash, 'hex'), 12) || ': ' || d.bytes || ' bytes on record, ' || coalesce(p.bytes, 0) || ' kept'
                from delivered d left join (select hash, sum(octet_length(content)) bytes from delivered_part group by 1) p using (hash)
                where d.bytes <> coalesce(p.bytes, 0)
                union all
                select 'delivery ' || d.id || ': ' || d.files || ' files on record, ' || (select count(*) from delivery_file f where f.delivery_id = d.id) || ' kept'
                from delivery d where d.files <> (select count(*) from delivery_file f where f.delivery_id = d.id)
                """);
        checks.put(
                "versions only grow",
                """
                select 'entry ' || s.entry_id || ', language ' || s.language_id || ': story at ' || max(s.version) || ', cell at ' || max(c.version)
                from cell_story s left join cell c on c.entry_id = s.entry_id and c.language_id = s.language_id
                where s.version is not null group by s.entry_id, s.language_id
                having max(s.version) > coalesce(max(c.version), 0) or count(*) <> count(distinct s.version)
                """);
        checks.put(
                "no entry, cell, offer or story line is without its table, entry, language and person",
                """
                select 'entry ' || e.id from entry e where not exists (select 1 from ledger_table t where t.id = e.table_id)
                union all
                select 'intake ' || i.intake_id || ' of entry ' || i.entry_id from intake_entry i
                where not exists (select 1 from intake n where n.id = i.intake_id) or not exists (select 1 from entry e where e.id = i.entry_id)
                union all
                select 'cell of entry ' || c.entry_id from cell c
                where not exists (select 1 from entry e where e.id = c.entry_id) or not exists (select 1 from language l where l.id = c.language_id)
                   or not exists (select 1 from person p where p.id = c.author_id)
                union all
                select 'offer ' || o.id from offer o
                where not exists (select 1 from cell c where c.entry_id = o.entry_id and c.language_id = o.language_id)
                   or not exists (select 1 from person p where p.id = o.author_id)
                union all
                select 'story line ' || s.id || ' of entry ' || s.entry_id from cell_story s
                where not exists (select 1 from cell c where c.entry_id = s.entry_id and c.language_id = s.language_id)
                   or not exists (select 1 from person p where p.id = s.person_id)
                """);
        return checks;
    }
}
