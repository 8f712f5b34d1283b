package mellow.server.audit;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mellow.core.check.Kind;
import mellow.core.check.Masks;
import mellow.core.check.Weight;
import mellow.server.audit.Audit.Finding;
import mellow.server.check.Grounds;
import mellow.server.check.MaskReader;
import mellow.server.check.MaskReader.Found;
import mellow.server.check.MaskReader.Which;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Looks at every text again and compares what is found with what is kept beside it. Tables that wait to be looked at again are left out: they say so themselves. */
final class MaskAudit {

    private static final int AT_ONCE = 1_000;
    private static final int MOST_TOLD = 20;

    private static final String NEXT =
            """
            select e.id from entry e where e.id > :after and not exists (select 1 from recheck r where r.table_id = e.table_id) order by e.id limit :most
            """;
    private static final String KEPT =
            "select entry_id, language_id, stops, minds from finding_mask where entry_id = any(:entries)";
    /** The same source said differently, found by comparing all texts of a source; where somebody said that it is right, it may be left out. */
    private static final String OTHERWISE =
            """
            with plain as (
                select e.id, e.table_id, e.source, e.context, e.note, c.language_id, c.text from entry e join cell c on c.entry_id = e.id
                where e.removed_at is null and e.translatable and e.shape = 'plain' and c.text is not null and e.source <> ''
                  and not exists (select 1 from recheck r where r.table_id = e.table_id)),
            counted as (
                select id, table_id, language_id, count(*) over (partition by table_id, language_id, md5(source)) said,
                    min(text) over alike <> max(text) over alike differ
                from plain window alike as (partition by table_id, language_id, source, context, note)),
            found as (
                select p.id, p.language_id from counted p where p.differ and p.said <= 200
                  and not exists (select 1 from check_exception x where x.entry_id = p.id and x.language_id = p.language_id and x.kind = 'otherwise')),
            kept as (
                select m.entry_id id, m.language_id from finding_mask m
                where m.twin is not null and not exists (select 1 from recheck r where r.table_id = m.table_id)
                  and not exists (select 1 from check_exception x where x.entry_id = m.entry_id and x.language_id = m.language_id and x.kind = 'otherwise'))
            select coalesce(f.id, k.id) entry, coalesce(f.language_id, k.language_id) language, f.id is not null found,
                (select table_id from entry e where e.id = coalesce(f.id, k.id)) table_id
            from found f full join kept k on k.id = f.id and k.language_id = f.language_id where f.id is null or k.id is null
            """;

    private final JdbcClient jdbc;
    private final Grounds grounds;
    private final List<String> examples = new ArrayList<>();
    private int differences;

    MaskAudit(JdbcClient jdbc) {
        this.jdbc = jdbc;
        this.grounds = new Grounds(jdbc);
    }

    private record Place(long entry, int language) {}

    Finding run() {
        MaskReader reader = new MaskReader(jdbc, grounds);
        long after = 0;
        for (List<Long> entries = next(after); !entries.isEmpty(); entries = next(after)) {
            compare(entries, reader);
            after = entries.get(entries.size() - 1);
        }
        jdbc.sql(OTHERWISE).query((RowCallbackHandler) row -> {
            boolean off = grounds.settings(row.getLong("table_id")).weight(Kind.OTHERWISE) == Weight.OFF;
            if (!(off && row.getBoolean("found"))) {
                differ("entry " + row.getLong("entry") + ", language " + row.getInt("language")
                        + ": said differently is "
                        + (row.getBoolean("found") ? "found and not kept" : "kept and not found"));
            }
        });
        return new Finding("what the checks find is what is kept of it", differences, List.copyOf(examples));
    }

    private List<Long> next(long after) {
        return jdbc.sql(NEXT)
                .param("after", after)
                .param("most", AT_ONCE)
                .query(Long.class)
                .list();
    }

    private void compare(List<Long> entries, MaskReader reader) {
        Map<Place, Masks> kept = new HashMap<>();
        jdbc.sql(KEPT).param("entries", entries.toArray(Long[]::new)).query((RowCallbackHandler) row -> kept.put(
                new Place(row.getLong("entry_id"), row.getInt("language_id")),
                new Masks(row.getLong("stops") & ~Kind.OTHERWISE.bit(), row.getLong("minds") & ~Kind.OTHERWISE.bit())));
        for (Found found : reader.of(entries, Which.ALL)) {
            Masks was = kept.remove(new Place(found.entry(), found.language()));
            if (!found.masks().equals(was == null ? Masks.NONE : was)) {
                differ("entry " + found.entry() + ", language " + found.language() + ": "
                        + (was == null ? Masks.NONE : was) + " kept, " + found.masks() + " found");
            }
        }
        kept.forEach((place, masks) -> differ("entry " + place.entry() + ", language " + place.language() + ": " + masks
                + " kept of a text that there is not"));
    }

    private void differ(String what) {
        differences++;
        if (examples.size() < MOST_TOLD) {
            examples.add(what);
        }
    }
}
