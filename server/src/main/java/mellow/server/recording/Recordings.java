package mellow.server.recording;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import mellow.server.coverage.CoverageService;
import mellow.server.live.LiveChange;
import mellow.server.live.LiveService;
import mellow.server.record.CellStates;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Keeps recordings in step with the lines that they speak. Whoever changes texts or sources calls this in the same transaction, after the change; only what the
 * lines say then is looked at: a line that says again what was recorded makes the recording current again.
 */
@Component
public class Recordings {

    private static final String SPEAKING =
            """
            select r.entry_id from recording r join entry e on e.id = r.entry_id and e.removed_at is null
            where r.line_id = any(:entries) or r.entry_id = any(:entries) order by 1
            """;
    private static final String SPEAKING_OF_INTAKE =
            """
            select r.entry_id from recording r join entry e on e.id = r.entry_id and e.removed_at is null
            where exists (select 1 from intake_entry i where i.intake_id = :intake and i.entry_id in (r.line_id, r.entry_id)) order by 1
            """;

    /** What lines say: {@code source} in the language of their tables. */
    private static final String SAID =
            """
            select r.entry_id, l.id line_id, t.source_language_id language_id, md5(l.source || coalesce(l.source_forms::text, '')) said, true source
            from recording r join entry l on l.id = r.line_id join ledger_table t on t.id = l.table_id where r.entry_id = any(:recordings)
            union all
            select r.entry_id, r.line_id, c.language_id, md5(c.text || coalesce(c.forms::text, '')), false
            from recording r join cell c on c.entry_id = r.line_id and c.text is not null where r.entry_id = any(:recordings)
            """;

    private static final String KNOWN =
            """
            select k.*, coalesce(c.based_on, 0) based_on, c.text is not null there, e.meaning_revision meaning,
                exists (select 1 from cell_story s where s.entry_id = k.entry_id and s.language_id = k.language_id and s.intake_id = :intake and s.after is not null) came
            from recording_line k join entry e on e.id = k.entry_id
            left join cell c on c.entry_id = k.entry_id and c.language_id = k.language_id
            where k.entry_id = any(:recordings)
            """;
    private static final String PUT =
            """
            insert into recording_line (entry_id, language_id, made_for, last, was_based_on)
            select * from unnest(:entries::bigint[], :languages::int[], :made::text[], :last::text[], :was::int[])
            on conflict (entry_id, language_id) do update set made_for = excluded.made_for, last = excluded.last, was_based_on = excluded.was_based_on
            """;
    /** Recordings whose own source was replaced since it was looked at last. */
    private static final String RENEWED =
            """
            update recording r set source_print = md5(e.source || coalesce(e.source_forms::text, '')) from entry e
            where e.id = r.entry_id and r.entry_id = any(:recordings) and r.source_print <> md5(e.source || coalesce(e.source_forms::text, ''))
            returning r.entry_id
            """;

    private final CellStates states;
    private final CoverageService coverage;
    private final LiveService live;
    private final JdbcClient jdbc;

    Recordings(CellStates states, CoverageService coverage, LiveService live, JdbcClient jdbc) {
        this.states = states;
        this.coverage = coverage;
        this.live = live;
        this.jdbc = jdbc;
    }

    /** Looks at what the lines among entries say now. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void follow(Collection<Long> entries) {
        if (!entries.isEmpty()) {
            follow(
                    jdbc.sql(SPEAKING)
                            .param("entries", entries.toArray(Long[]::new))
                            .query(Long.class)
                            .list(),
                    null);
        }
    }

    /** The same for what an intake changed; a recording that came with its line was made for it. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void followIntake(long intake) {
        follow(
                jdbc.sql(SPEAKING_OF_INTAKE)
                        .param("intake", intake)
                        .query(Long.class)
                        .list(),
                intake);
    }

    private record Place(long entry, int language) {}

    private record Said(String print, boolean source) {}

    /** What is known of a line in a language; {@code was} as in the table. */
    private record Known(String madeFor, String last, @Nullable Integer was) {}

    private void follow(List<Long> recordings, @Nullable Long intake) {
        if (recordings.isEmpty()) {
            return;
        }
        Long[] ids = recordings.toArray(Long[]::new);
        List<Long> renewed =
                jdbc.sql(RENEWED).param("recordings", ids).query(Long.class).list();
        Map<Place, Said> said = said(ids);
        Map<Place, Known> becoming = new HashMap<>();
        Map<Place, Integer> bases =
                new TreeMap<>(Comparator.comparingLong(Place::entry).thenComparing(Place::language));
        Map<Place, Known> known = new HashMap<>();
        jdbc.sql(KNOWN).param("recordings", ids).param("intake", intake).query((RowCallbackHandler) row -> {
            Place place = new Place(row.getLong("entry_id"), row.getInt("language_id"));
            Known now = new Known(
                    row.getString("made_for"), row.getString("last"), row.getObject("was_based_on", Integer.class));
            known.put(place, now);
            Said says = said.get(place);
            if (says == null) {
                return;
            }
            int basedOn = row.getInt("based_on");
            int meaning = row.getInt("meaning");
            boolean current = says.source ? renewed.contains(place.entry) : basedOn >= meaning;
            boolean came = row.getBoolean("came") || says.source && renewed.contains(place.entry);
            Known next = next(now, says, current, came, basedOn);
            if (!next.equals(now)) {
                becoming.put(place, next);
            }
            boolean there = !says.source && row.getBoolean("there");
            if (there && next.was != null && basedOn >= meaning) {
                bases.put(place, meaning - 1);
            } else if (there && now.was != null && next.was == null && basedOn < meaning && !current) {
                bases.put(place, Math.min(now.was, meaning));
            }
        });
        said.forEach((place, says) -> {
            if (!known.containsKey(place)) {
                becoming.put(place, new Known(says.print, says.print, null));
            }
        });
        put(becoming);
        outdate(bases);
    }

    /** What is known of a line next. */
    private static Known next(Known now, Said says, boolean current, boolean came, int basedOn) {
        boolean settledSince = now.was != null && current;
        String madeFor = now.was == null || settledSince ? now.last : now.madeFor;
        if (came) {
            return new Known(says.print, says.print, null);
        }
        boolean fits = madeFor.equals(says.print);
        Integer was = fits ? null : now.was != null && !settledSince ? now.was : Integer.valueOf(basedOn);
        return new Known(madeFor, says.print, was);
    }

    private Map<Place, Said> said(Long[] recordings) {
        Map<Place, Said> said = new HashMap<>();
        jdbc.sql(SAID).param("recordings", recordings).query((RowCallbackHandler) row -> {
            boolean source = row.getBoolean("source");
            Place place = new Place(row.getLong("entry_id"), row.getInt("language_id"));
            Said says = new Said(row.getString("said"), source);
            said.merge(place, says, (one, other) -> one.source ? one : other);
        });
        return said;
    }

    private void put(Map<Place, Known> lines) {
        List<Map.Entry<Place, Known>> all = new ArrayList<>(lines.entrySet());
        if (!all.isEmpty()) {
            jdbc.sql(PUT)
                    .param(
                            "entries",
                            all.stream().map(one -> one.getKey().entry).toArray(Long[]::new))
                    .param(
                            "languages",
                            all.stream().map(one -> one.getKey().language).toArray(Integer[]::new))
                    .param(
                            "made",
                            all.stream().map(one -> one.getValue().madeFor).toArray(String[]::new))
                    .param("last", all.stream().map(one -> one.getValue().last).toArray(String[]::new))
                    .param("was", all.stream().map(one -> one.getValue().was).toArray(Integer[]::new))
                    .update();
        }
    }

    /** Says for which revision of their source cells were made; their states, counters and screens follow. */
    private void outdate(Map<Place, Integer> bases) {
        if (bases.isEmpty()) {
            return;
        }
        List<Long> entries = bases.keySet().stream().map(Place::entry).toList();
        coverage.around(new TreeSet<>(entries), () -> {
            states.base(entries, bases.keySet().stream().map(Place::language).toList(), List.copyOf(bases.values()));
            states.anew(entries);
        });
        jdbc.sql("select table_id, array_agg(id) ids from entry where id = any(:entries) group by 1 order by 1")
                .param("entries", entries.toArray(Long[]::new))
                .query((RowCallbackHandler) row -> live.tell(new LiveChange(
                        row.getLong("table_id"),
                        List.of((Long[]) row.getArray("ids").getArray()),
                        List.of())));
    }

    /** Says which lines recordings speak; they are taken to fit what the lines say now. */
    @Transactional(propagation = Propagation.MANDATORY)
    void tie(Map<Long, Long> lines) {
        Long[] recordings = lines.keySet().toArray(Long[]::new);
        // Who ties the same at the same moment waits, and ties them again.
        jdbc.sql("select id from entry where id = any(:entries) order by id for no key update")
                .param("entries", recordings)
                .query(Long.class)
                .list();
        untie(lines.keySet());
        jdbc.sql(
                        """
                        insert into recording (entry_id, line_id, source_print)
                        select e.id, n.line, md5(e.source || coalesce(e.source_forms::text, '')) from unnest(:entries::bigint[], :lines::bigint[]) n(id, line)
                        join entry e on e.id = n.id
                        """)
                .param("entries", recordings)
                .param("lines", lines.values().toArray(Long[]::new))
                .update();
        follow(List.of(recordings), null);
    }

    /** Recordings speak no line any more; what one made stale stays so until somebody says that it holds. */
    @Transactional(propagation = Propagation.MANDATORY)
    void untie(Collection<Long> recordings) {
        jdbc.sql("delete from recording where entry_id = any(:entries)")
                .param("entries", recordings.toArray(Long[]::new))
                .update();
    }
}
