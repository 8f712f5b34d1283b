package mellow.server.memory;

import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mellow.core.format.Problem;
import mellow.core.format.ReadOptions;
import mellow.core.format.memory.MemoryFile;
import mellow.core.format.memory.MemoryUnit;
import mellow.core.language.LanguageTag;
import mellow.core.text.Keepable;
import mellow.server.common.Refusal;
import mellow.server.common.TextColumns;
import mellow.server.language.LanguageService;
import mellow.server.live.LiveChange;
import mellow.server.live.LiveService;
import mellow.server.people.PeopleService;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Keeps shelves: memories from elsewhere, taken in from TMX files and handed out as such. */
@Service
public class Shelves {

    private static final String DO = "change shelves of the memory";
    private static final int MOST = 100;
    private static final int AT_ONCE = 1_000;
    private static final int PROBLEMS_TOLD = 50;
    private static final int LONGEST_NAME = 120;
    private static final int LONGEST_WORD = 200;

    /** A unit that is there, was mended or was taken out by hand comes no second time. */
    private static final String ADD =
            """
            insert into shelf_unit (shelf_id, source_language_id, language_id, source, text, source_folded, text_folded, context, note, made_by, made_at, changed)
            select :shelf, u.source_language, u.language, u.source, u.text, u.source_folded, u.text_folded, u.context, u.note, u.made_by, u.made_at, :version
            from (select distinct on (source_language, language, source, text) * from unnest(:sourceLanguages::int[], :languages::int[], :sources::text[],
                :texts::text[], :foldedSources::text[], :foldedTexts::text[], :contexts::text[], :notes::text[], :makers::text[], :times::text[])
                    u(source_language, language, source, text, source_folded, text_folded, context, note, made_by, made_at)) u
            where not exists (select 1 from shelf_unit x where x.shelf_id = :shelf and md5(x.source) = md5(u.source) and x.language_id = u.language
                and x.source_language_id = u.source_language and x.source = u.source and coalesce(x.as_read, x.text) = u.text)
            """;

    private static final String ALL =
            """
            select s.*, p.name person, (select count(*) from memory_use m join shelf_unit u on u.id = m.from_unit where u.shelf_id = s.id) used
            from shelf s join person p on p.id = s.person_id where s.removed_at is null order by s.rank, lower(s.name)
            """;
    private static final String PAIRS =
            """
            select u.shelf_id, f.tag source, t.tag target, count(*) n from shelf_unit u join shelf s on s.id = u.shelf_id and s.removed_at is null
            join language f on f.id = u.source_language_id join language t on t.id = u.language_id where not u.removed
            group by 1, 2, 3 order by 2, 3
            """;
    private static final String UNITS =
            """
            select u.id, f.tag source_tag, t.tag target_tag, u.source, u.text, u.context, u.note, u.made_by, u.made_at from shelf_unit u
            join language f on f.id = u.source_language_id join language t on t.id = u.language_id
            where u.shelf_id = :shelf and not u.removed and u.id > :after order by u.id limit :most
            """;

    private final PeopleService people;
    private final LanguageService languages;
    private final LiveService live;
    private final JdbcClient jdbc;
    private final Clock clock;

    Shelves(PeopleService people, LanguageService languages, LiveService live, JdbcClient jdbc, Clock clock) {
        this.people = people;
        this.languages = languages;
        this.live = live;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** How many units a shelf has from one language into another. */
    public record ShelfPair(String from, String to, int units) {}

    /**
     * A shelf.
     *
     * @param rank of equally alike units those of a lower rank come first
     * @param deduction taken off how alike its units are, in percent
     * @param used how many cells were filled with its units
     */
    public record Shelf(
            long id,
            String name,
            int rank,
            int deduction,
            List<ShelfPair> pairs,
            int used,
            String person,
            Instant madeAt) {}

    /**
     * What a file brought.
     *
     * @param units that it has
     * @param fresh that were not there yet
     * @param problems the first things that were left out, in sentences
     */
    public record ShelfFilled(long id, int units, int fresh, List<String> problems) {}

    /** All shelves, in the order in which they are asked. */
    @Transactional(readOnly = true)
    public List<Shelf> all(long person) {
        people.rights(person).requireCoordinator("see the shelves of the memory");
        Map<Long, List<ShelfPair>> pairs = new HashMap<>();
        jdbc.sql(PAIRS).query(row -> {
            pairs.computeIfAbsent(row.getLong("shelf_id"), shelf -> new ArrayList<>())
                    .add(new ShelfPair(row.getString("source"), row.getString("target"), row.getInt("n")));
        });
        return jdbc.sql(ALL)
                .query((row, n) -> new Shelf(
                        row.getLong("id"),
                        row.getString("name"),
                        row.getInt("rank"),
                        row.getInt("deduction"),
                        pairs.getOrDefault(row.getLong("id"), List.of()),
                        row.getInt("used"),
                        row.getString("person"),
                        row.getTimestamp("made_at").toInstant()))
                .list();
    }

    /** Refuses who may not bring files. */
    void requireMayBring(long person) {
        people.rights(person).requireCoordinator(DO);
    }

    /** Makes a shelf of a file. */
    @Transactional
    public ShelfFilled add(long person, String name, String file, byte[] content) {
        requireMayBring(person);
        String said = named(name);
        int there = jdbc.sql("select count(*) from shelf where removed_at is null")
                .query(Integer.class)
                .single();
        if (there >= MOST) {
            throw Refusal.unacceptable("many-shelves", "At most {most} shelves are kept.", Map.of("most", MOST));
        }
        try {
            long id = jdbc.sql(
                            "insert into shelf (name, rank, deduction, person_id, made_at) values (:name, :rank, 0, :person, :now) returning id")
                    .param("name", said)
                    .param("rank", there + 1)
                    .param("person", person)
                    .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                    .query(Long.class)
                    .single();
            return fill(id, 1, file, content);
        } catch (DuplicateKeyException twice) {
            throw taken(said);
        }
    }

    /** Adds what a shelf does not have of another file, or of the same in a newer state. */
    @Transactional
    public ShelfFilled addTo(long person, long id, String file, byte[] content) {
        requireMayBring(person);
        return fill(id, next(id), file, content);
    }

    private ShelfFilled fill(long shelf, long version, String file, byte[] content) {
        List<MemoryUnit> some = new ArrayList<>(AT_ONCE);
        int[] read = {0, 0, 0};
        Map<LanguageTag, Integer> numbers = new HashMap<>();
        List<Problem> problems = MemoryFile.read(file, content, ReadOptions.AUTOMATIC, unit -> {
            read[0]++;
            if (Keepable.against(unit.source(), Keepable.LONGEST).isPresent()
                    || Keepable.against(unit.text(), Keepable.LONGEST).isPresent()) {
                read[2]++;
                return;
            }
            some.add(unit);
            if (some.size() == AT_ONCE) {
                read[1] += keep(shelf, version, some, numbers);
                some.clear();
            }
        });
        if (!some.isEmpty()) {
            read[1] += keep(shelf, version, some, numbers);
        }
        List<String> told = new ArrayList<>(
                problems.stream().limit(PROBLEMS_TOLD).map(Problem::sentence).toList());
        if (read[2] > 0) {
            told.add("Left out " + read[2] + " units that are too long, or have characters that cannot be kept.");
        }
        if (read[0] == 0) {
            throw Refusal.unacceptable(
                    "no-units", "{file} has no unit with a source and a text.", Map.of("file", file));
        }
        tell();
        return new ShelfFilled(shelf, read[0], read[1], told);
    }

    private int keep(long shelf, long version, List<MemoryUnit> units, Map<LanguageTag, Integer> numbers) {
        return jdbc.sql(ADD)
                .param("shelf", shelf)
                .param("version", version)
                .param(
                        "sourceLanguages",
                        units.stream().map(one -> number(one.from(), numbers)).toArray(Integer[]::new))
                .param(
                        "languages",
                        units.stream().map(one -> number(one.to(), numbers)).toArray(Integer[]::new))
                .param("sources", units.stream().map(MemoryUnit::source).toArray(String[]::new))
                .param("texts", units.stream().map(MemoryUnit::text).toArray(String[]::new))
                .param(
                        "foldedSources",
                        units.stream()
                                .map(one -> TextColumns.foldedOrNull(one.source()))
                                .toArray(String[]::new))
                .param(
                        "foldedTexts",
                        units.stream()
                                .map(one -> TextColumns.foldedOrNull(one.text()))
                                .toArray(String[]::new))
                .param("contexts", shown(units.stream().map(MemoryUnit::context).toList()))
                .param("notes", shown(units.stream().map(MemoryUnit::note).toList()))
                .param("makers", shown(units.stream().map(MemoryUnit::madeBy).toList()))
                .param("times", shown(units.stream().map(MemoryUnit::madeAt).toList()))
                .update();
    }

    private static String[] shown(List<String> said) {
        return said.stream()
                .map(text -> Keepable.shown(text.strip(), LONGEST_WORD))
                .toArray(String[]::new);
    }

    /** A language as the ledger has it: "en-US" is "en" where only that is kept, and the other way round, so that units of other programs are found. */
    private int number(LanguageTag tag, Map<LanguageTag, Integer> numbers) {
        return numbers.computeIfAbsent(tag, one -> languages.known(one).orElseGet(() -> languages.all().stream()
                .filter(kept -> kept.language().equals(one.language()))
                .min((a, b) -> Integer.compare(a.value().length(), b.value().length()))
                .map(languages::number)
                .orElseGet(() -> languages.number(one))));
    }

    /** Changes a shelf's name, rank and deduction. */
    @Transactional
    public void change(long person, long id, String name, int rank, int deduction) {
        people.rights(person).requireCoordinator(DO);
        String said = named(name);
        try {
            int changed = jdbc.sql(
                            "update shelf set name = :name, rank = :rank, deduction = :deduction where id = :id and removed_at is null")
                    .param("name", said)
                    .param("rank", rank)
                    .param("deduction", deduction)
                    .param("id", id)
                    .update();
            if (changed == 0) {
                throw unknown();
            }
        } catch (DuplicateKeyException twice) {
            throw taken(said);
        }
    }

    /** Takes a shelf away, or puts one back; it keeps its units. */
    @Transactional
    public void remove(long person, long id, boolean away) {
        people.rights(person).requireCoordinator(DO);
        try {
            int changed = jdbc.sql(
                            "update shelf set removed_at = case when :away then :now::timestamptz end where id = :id and (removed_at is null) = :away")
                    .param("away", away)
                    .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                    .param("id", id)
                    .update();
            if (changed == 0) {
                throw unknown();
            }
        } catch (DuplicateKeyException twice) {
            throw Refusal.conflict(
                    "shelf-there", "Another shelf has its name meanwhile; rename that one first.", Map.of());
        }
        tell();
    }

    /** Writes a shelf as a TMX file. */
    @Transactional(readOnly = true)
    public void write(long person, long id, OutputStream to) {
        people.rights(person).requireCoordinator("take shelves out");
        name(id);
        try (Writer out = new OutputStreamWriter(to, StandardCharsets.UTF_8)) {
            MemoryFile.begin(out);
            long after = 0;
            for (List<Numbered> some = units(id, after); !some.isEmpty(); some = units(id, after)) {
                for (Numbered one : some) {
                    MemoryFile.write(one.unit, out);
                    after = one.id;
                }
            }
            MemoryFile.end(out);
        } catch (IOException gone) {
            throw new UncheckedIOException(gone);
        }
    }

    /** What a shelf is called. */
    @Transactional(readOnly = true)
    public String name(long id) {
        return jdbc.sql("select name from shelf where id = :id and removed_at is null")
                .param("id", id)
                .query(String.class)
                .optional()
                .orElseThrow(Shelves::unknown);
    }

    private record Numbered(long id, MemoryUnit unit) {}

    private List<Numbered> units(long shelf, long after) {
        return jdbc.sql(UNITS)
                .param("shelf", shelf)
                .param("after", after)
                .param("most", AT_ONCE)
                .query((row, n) -> new Numbered(
                        row.getLong("id"),
                        new MemoryUnit(
                                new LanguageTag(row.getString("source_tag")),
                                new LanguageTag(row.getString("target_tag")),
                                row.getString("source"),
                                row.getString("text"),
                                row.getString("context"),
                                row.getString("note"),
                                row.getString("made_by"),
                                row.getString("made_at"))))
                .list();
    }

    /** The next version of a shelf, which is held until this transaction ends. */
    long next(long id) {
        return jdbc.sql(
                        "update shelf set version = version + 1 where id = :id and removed_at is null returning version")
                .param("id", id)
                .query(Long.class)
                .optional()
                .orElseThrow(Shelves::unknown);
    }

    /** Tells all servers that something on shelves changed. */
    void tell() {
        live.tell(new LiveChange(MemoryKeeper.SHELVES, List.of(), List.of()));
    }

    private static String named(String name) {
        String said = name.strip();
        if (said.isEmpty()
                || said.length() > LONGEST_NAME
                || Keepable.against(said, LONGEST_NAME).isPresent()) {
            throw Refusal.unacceptable(
                    "bad-name",
                    "A shelf has a name of at most {most} characters.",
                    Map.of("field", "name", "most", LONGEST_NAME));
        }
        return said;
    }

    private static Refusal taken(String name) {
        return Refusal.conflict("shelf-there", "Another shelf is called “{name}”.", Map.of("name", name));
    }

    private static Refusal unknown() {
        return Refusal.notFound("no-such-shelf", "There is no such shelf any more.");
    }
}
