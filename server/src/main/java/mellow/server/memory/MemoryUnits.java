package mellow.server.memory;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import mellow.core.language.LanguageTag;
import mellow.core.memory.Similarity;
import mellow.core.text.Folding;
import mellow.core.text.Shape;
import mellow.server.common.Coded;
import mellow.server.common.Refusal;
import mellow.server.common.TextColumns;
import mellow.server.common.TextRules;
import mellow.server.language.LanguageService;
import mellow.server.memory.MemoryKeeper.Found;
import mellow.server.people.PeopleService;
import mellow.server.people.Reading;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Looks through the memory by words of either side or by how alike a source is, and mends units of shelves. What is settled in the ledger is mended there. */
@Service
public class MemoryUnits {

    private static final int MOST = 100;
    private static final int LEAST = 50;
    private static final int MOST_AT_ONCE = 200;

    private static final String ENTRIES = Coded.sql(
            """
            select e.id entry, 0 unit, 0 version, e.source, c.text, e.key place, t.name shelf, t.slug, (select p.name from person p where p.id = c.author_id) person,
                to_char(c.changed_at at time zone 'utc', 'YYYY-MM-DD') made,
                (select count(*) from memory_use m where m.from_entry = e.id and m.language_id = c.language_id) used
            from cell c join entry e on e.id = c.entry_id and e.removed_at is null and e.shape = 'plain'
            join ledger_table t on t.id = e.table_id and t.removed_at is null and t.source_language_id = :from
            where c.language_id = :to and c.state = {state.settled} and
            """);
    private static final String UNITS =
            """
            select 0 entry, u.id unit, u.changed version, u.source, u.text, u.context place, s.name shelf, '' slug, u.made_by person, u.made_at made,
                (select count(*) from memory_use m where m.from_unit = u.id) used
            from shelf_unit u join shelf s on s.id = u.shelf_id and s.removed_at is null
            where not u.removed and u.source_language_id = :from and u.language_id = :to and
            """;

    private final MemoryKeeper keeper;
    private final Shelves shelves;
    private final LanguageService languages;
    private final PeopleService people;
    private final Reading reading;
    private final TextRules texts;
    private final JdbcClient jdbc;

    MemoryUnits(
            MemoryKeeper keeper,
            Shelves shelves,
            LanguageService languages,
            PeopleService people,
            Reading reading,
            TextRules texts,
            JdbcClient jdbc) {
        this.keeper = keeper;
        this.shelves = shelves;
        this.languages = languages;
        this.people = people;
        this.reading = reading;
        this.texts = texts;
        this.jdbc = jdbc;
    }

    /** On which side words are looked for; or how alike sources are. */
    public enum Side {
        SOURCE,
        TEXT,
        SIMILAR
    }

    /**
     * A text with its source.
     *
     * @param entry the entry that it is settled for, 0 for a unit of a shelf
     * @param unit the unit of a shelf, 0 for an entry
     * @param version of the unit, to be sent back with a change
     * @param percent how alike the sources are, 0 where words were looked for
     * @param place the entry's key, or the unit's context
     * @param shelf the name of the table, or of the shelf
     * @param slug the table in addresses, empty for a shelf
     * @param person whose text it is, empty when not known
     * @param made when it was made, as it is known
     * @param used how many cells were filled with it
     */
    public record UnitReply(
            long entry,
            long unit,
            long version,
            int percent,
            String source,
            String text,
            String place,
            String shelf,
            String slug,
            String person,
            String made,
            int used) {

        private UnitReply alike(Similarity to) {
            return new UnitReply(
                    entry, unit, version, to.percent(source), source, text, place, shelf, slug, person, made, used);
        }
    }

    /**
     * What was found, at most 100.
     *
     * @param more whether there is more than that
     */
    public record UnitsFound(List<UnitReply> units, boolean more) {}

    /** Looks for words in sources or texts, whatever their case, or for similar sources. */
    @Transactional(readOnly = true)
    public UnitsFound find(LanguageTag from, LanguageTag to, Side side, String words) {
        reading.require(to);
        texts.require(words, "words");
        String wanted = words.strip();
        if (wanted.isEmpty()) {
            return new UnitsFound(List.of(), false);
        }
        int source = languages.numberOrNone(from);
        int target = languages.numberOrNone(to);
        List<UnitReply> found = new ArrayList<>();
        if (side == Side.SIMILAR) {
            Found known = keeper.search(source, Shape.PLAIN.word(), target, wanted, LEAST, MOST);
            if (known == null) {
                throw Refusal.busy("memory-not-ready", "The memory is still being read; try again in a moment.");
            }
            Similarity alike = Similarity.to(wanted);
            read(ENTRIES + "e.id = any(:ids)", source, target, known.entries(), "", found);
            read(UNITS + "u.id = any(:ids)", source, target, known.units(), "", found);
            found.replaceAll(one -> one.alike(alike));
            found.removeIf(one -> one.percent < LEAST);
            found.sort(Comparator.comparingInt(UnitReply::percent)
                    .reversed()
                    .thenComparing(UnitReply::unit)
                    .thenComparing(UnitReply::entry));
        } else {
            String like = "%"
                    + Folding.fold(wanted)
                            .replace("\\", "\\\\")
                            .replace("%", "\\%")
                            .replace("_", "\\_") + "%";
            boolean ofSource = side == Side.SOURCE;
            read(
                    ENTRIES
                            + (ofSource
                                    ? "coalesce(e.source_folded, e.source) ilike :like"
                                    : "coalesce(c.folded, c.text) ilike :like")
                            + " order by e.id limit " + (MOST + 1),
                    source,
                    target,
                    List.of(),
                    like,
                    found);
            if (found.size() <= MOST) {
                read(
                        UNITS
                                + (ofSource
                                        ? "coalesce(u.source_folded, u.source) ilike :like"
                                        : "coalesce(u.text_folded, u.text) ilike :like")
                                + " limit " + (MOST + 1),
                        source,
                        target,
                        List.of(),
                        like,
                        found);
            }
        }
        return new UnitsFound(List.copyOf(found.subList(0, Math.min(found.size(), MOST))), found.size() > MOST);
    }

    private void read(String sql, int from, int to, List<Long> ids, String like, List<UnitReply> found) {
        found.addAll(jdbc.sql(sql)
                .param("from", from)
                .param("to", to)
                .param("ids", ids.toArray(Long[]::new))
                .param("like", like)
                .query((row, n) -> new UnitReply(
                        row.getLong("entry"),
                        row.getLong("unit"),
                        row.getLong("version"),
                        0,
                        row.getString("source"),
                        row.getString("text"),
                        row.getString("place"),
                        row.getString("shelf"),
                        row.getString("slug"),
                        row.getString("person") == null ? "" : row.getString("person"),
                        row.getString("made"),
                        row.getInt("used")))
                .list());
    }

    private record Kept(long shelf, long version) {}

    /**
     * Mends the text of a unit of a shelf.
     *
     * @param version that was seen
     * @throws Refusal 409 when somebody changed it meanwhile
     */
    @Transactional
    public void mend(long person, long unit, long version, String text) {
        people.rights(person).requireCoordinator("mend units of shelves");
        texts.require(text, "text");
        if (text.isBlank()) {
            throw Refusal.unacceptable(
                    "empty-text", "A unit without a text is none; remove it instead.", Map.of("field", "text"));
        }
        Kept kept = held(unit, version);
        jdbc.sql(
                        "update shelf_unit set as_read = coalesce(as_read, text), text = :text, text_folded = :folded, changed = :version where id = :id")
                .param("text", text)
                .param("folded", TextColumns.foldedOrNull(text))
                .param("version", shelves.next(kept.shelf))
                .param("id", unit)
                .update();
        shelves.tell();
    }

    /** Takes units of shelves out, or puts them back; how many. */
    @Transactional
    public int remove(long person, List<Long> units, boolean away) {
        people.rights(person).requireCoordinator("remove units of shelves");
        if (units.size() > MOST_AT_ONCE) {
            throw Refusal.unacceptable(
                    "many-units", "At most {most} units are removed at once.", Map.of("most", MOST_AT_ONCE));
        }
        int changed = 0;
        List<Long> concerned = jdbc.sql(
                        "select distinct shelf_id from shelf_unit where id = any(:ids) and removed <> :away order by shelf_id")
                .param("ids", units.toArray(Long[]::new))
                .param("away", away)
                .query(Long.class)
                .list();
        for (long shelf : concerned) {
            changed += jdbc.sql(
                            "update shelf_unit set removed = :away, changed = :version where id = any(:ids) and shelf_id = :shelf and removed <> :away")
                    .param("away", away)
                    .param("version", shelves.next(shelf))
                    .param("ids", units.toArray(Long[]::new))
                    .param("shelf", shelf)
                    .update();
        }
        if (changed > 0) {
            shelves.tell();
        }
        return changed;
    }

    private Kept held(long unit, long version) {
        Kept kept = jdbc.sql("select shelf_id, changed from shelf_unit where id = :id and not removed for update")
                .param("id", unit)
                .query((row, n) -> new Kept(row.getLong(1), row.getLong(2)))
                .optional()
                .orElseThrow(() -> Refusal.notFound("no-such-unit", "There is no such unit any more."));
        if (kept.version != version) {
            throw Refusal.conflict(
                    "unit-moved-on",
                    "Someone changed this unit meanwhile; look at it again, then repeat your change.",
                    Map.of());
        }
        return kept;
    }
}
