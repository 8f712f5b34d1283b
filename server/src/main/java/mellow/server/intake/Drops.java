package mellow.server.intake;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import mellow.core.asset.AssetKind;
import mellow.core.format.FileReading;
import mellow.core.format.LanguagePart;
import mellow.core.format.Limits;
import mellow.core.format.Position;
import mellow.core.format.Problems;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.archive.Archive;
import mellow.core.format.registry.Formats;
import mellow.core.set.Apart;
import mellow.core.set.FileFacts;
import mellow.core.set.FileSet;
import mellow.core.set.FileSets;
import mellow.core.set.SetNames;
import mellow.server.common.Perishable;
import mellow.server.common.Refusal;
import mellow.server.common.TextRules;
import mellow.server.file.FileStore;
import mellow.server.master.FileRead;
import mellow.server.master.MasterFiles;
import mellow.server.master.ReadingChoice;
import mellow.server.people.PeopleService;
import mellow.server.run.RunService;
import mellow.server.run.RunService.Progress;
import mellow.server.run.RunService.RunReply;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;

/** Files that came together: they are kept until all are there, and then sorted into sets and files by themselves, each an intake. */
@Service
public class Drops implements Perishable {

    static final String RUN = "sort";
    private static final int MOST_FILES = 10_000;
    private static final int SAMPLED_KEYS = 200;

    /** So many bytes of files are kept as they were read while they are sorted; what comes after is read once more. */
    private static final long MOST_HELD = 16L << 20;

    /** A file belongs to a table that has this share of its keys. */
    private static final double SHARED = 0.25;

    private static final Duration KEPT = Duration.ofDays(1);
    private static final Duration WAITS = Duration.ofMillis(900);

    private final IntakeService intakes;
    private final IntakeReplies replies;
    private final Sets sets;
    private final MasterFiles masters;
    private final FileStore files;
    private final TableService tables;
    private final PeopleService people;
    private final RunService runs;
    private final JdbcClient jdbc;
    private final JsonMapper json;
    private final TransactionTemplate transaction;
    private final TextRules texts;
    private final Clock clock;

    Drops(
            IntakeService intakes,
            IntakeReplies replies,
            Sets sets,
            MasterFiles masters,
            FileStore files,
            TableService tables,
            PeopleService people,
            RunService runs,
            JdbcClient jdbc,
            JsonMapper json,
            TransactionTemplate transaction,
            TextRules texts,
            Clock clock) {
        this.intakes = intakes;
        this.replies = replies;
        this.sets = sets;
        this.masters = masters;
        this.files = files;
        this.tables = tables;
        this.people = people;
        this.runs = runs;
        this.jdbc = jdbc;
        this.json = json;
        this.transaction = transaction;
        this.texts = texts;
        this.clock = clock;
        runs.handle(RUN, (order, progress) -> sort(order.person(), order.subject(), progress));
    }

    /** What sorting found, as it is kept; {@code assets} is how many pictures and sounds came along. */
    private record Kept(List<Long> intakes, List<DropReply.NotTaken> refused, @Nullable Integer assets) {}

    @Override
    public String what() {
        return "files that came together and were sorted";
    }

    @Override
    @Transactional
    public int forget(Instant now) {
        return jdbc.sql("delete from dropped where created_at < :before")
                .param("before", now.minus(KEPT).atOffset(ZoneOffset.UTC))
                .update();
    }

    /** Begins with no files; its number. */
    @Transactional
    public long begin(long person) {
        people.rights(person).requireAny("bring files in");
        return jdbc.sql("insert into dropped (person_id, created_at) values (:person, :at) returning id")
                .param("person", person)
                .param("at", clock.instant().atOffset(ZoneOffset.UTC))
                .query(Long.class)
                .single();
    }

    /**
     * Keeps a file, or all files of a ZIP archive; one of a path that came already takes its place.
     *
     * @throws UnreadableFileException when an archive is damaged or made to do harm; then nothing of it is kept
     */
    @Transactional
    public void add(long person, long drop, String name, byte[] content) {
        requireOpen(person, drop);
        if (!name.toLowerCase(Locale.ROOT).endsWith(".zip")) {
            keep(person, drop, name, content);
        } else {
            Archive archive = Archive.read(content, Limits.DEFAULT, new Problems(name));
            List<String> paths = archive.names().stream()
                    .filter(path -> !path.endsWith("/") && !Archive.beside(path))
                    .toList();
            if (paths.isEmpty()) {
                throw new Problems(name)
                        .refuse(
                                Position.WHOLE_FILE,
                                "there are no files in the archive but those of a file manager",
                                "files");
            }
            paths.forEach(path -> keep(person, drop, path, archive.part(path).orElseThrow()));
        }
        if (count(drop) > MOST_FILES) {
            throw Refusal.tooLarge(
                    "too-many-files",
                    "More than {most} files came together; bring them in parts.",
                    Map.of("most", MOST_FILES));
        }
    }

    private void keep(long person, long drop, String name, byte[] content) {
        String path = Paths.checked(name);
        jdbc.sql(
                        """
                        insert into dropped_file (drop_id, path, file_id) values (:drop, :path, :file)
                        on conflict (drop_id, path) do update set file_id = excluded.file_id
                        """)
                .param("drop", drop)
                .param("path", path)
                .param("file", files.store(person, path, content))
                .update();
    }

    /** Refuses before anything is sent. */
    @Transactional(readOnly = true)
    public void requireMayAdd(long person, long drop) {
        requireOpen(person, drop);
    }

    private int count(long drop) {
        return jdbc.sql("select count(*) from dropped_file where drop_id = :drop")
                .param("drop", drop)
                .query(Integer.class)
                .single();
    }

    private void requireMine(long person, long drop) {
        boolean mine = jdbc.sql(
                        "select exists (select 1 from dropped where id = :drop and person_id = :person and created_at > :since)")
                .param("since", clock.instant().minus(KEPT).atOffset(ZoneOffset.UTC))
                .param("drop", drop)
                .param("person", person)
                .query(Boolean.class)
                .single();
        if (!mine) {
            throw Refusal.notFound("no-such-drop", "These files are not here any more; bring them again.");
        }
        people.rights(person).requireAny("bring files in");
    }

    private void requireOpen(long person, long drop) {
        requireMine(person, drop);
        if (sorted(drop).isPresent()) {
            throw Refusal.conflict(
                    "sorted-already", "These files have been sorted already; bring others by themselves.", Map.of());
        }
    }

    private Optional<Kept> sorted(long drop) {
        return jdbc.sql("select reply from dropped where id = :drop and reply is not null")
                .param("drop", drop)
                .query(String.class)
                .optional()
                .map(reply -> json.readValue(reply, Kept.class));
    }

    /** Starts sorting as a run, and waits a moment, in which few files are done. Asked again it only tells what came of it. */
    DropReply sort(long person, long drop) {
        runs.startWhen(
                RUN,
                drop,
                person,
                "",
                () -> Boolean.TRUE.equals(transaction.execute(status -> {
                    requireMine(person, drop);
                    return sorted(drop).isEmpty();
                })));
        runs.await(RUN, drop, WAITS);
        return reply(person, drop);
    }

    /** Sorts now. */
    @Transactional
    public void sort(long person, long drop, Progress progress) {
        requireOpen(person, drop);
        Map<String, Long> stored = stored(drop);
        int all = stored.size();
        stored.keySet().removeIf(Drops::isAsset);
        Looked looked = new Looked(new HashMap<>(), new HashMap<>(), new HashMap<>());
        Map<String, ReadingChoice> habits = masters.habits();
        List<FileFacts> facts = new ArrayList<>();
        long held = 0;
        int done = 0;
        for (Map.Entry<String, Long> one : stored.entrySet()) {
            byte[] content = files.load(one.getValue());
            held += content.length;
            FileFacts found = look(
                    one.getKey(),
                    content,
                    habitsOf(one.getKey(), habits),
                    stored.size() > 1,
                    held < MOST_HELD ? looked : new Looked(looked.reasons, looked.keys, new HashMap<>()));
            if (!flawed(looked.just.get(one.getKey()))) {
                facts.add(found);
            }
            progress.at(++done, stored.size());
        }
        FileSets.Sorted sorted =
                FileSets.of(facts, masters.known(), (path, table) -> belongs(looked.keysOf(path), table));
        Set<String> names = tables.all().stream()
                .map(table -> table.table().name().toLowerCase(Locale.ROOT))
                .collect(Collectors.toCollection(HashSet::new));
        List<Long> made = new ArrayList<>();
        // Somebody can say what the columns of a sheet hold; until then nobody knows what it belongs to.
        looked.just.forEach((path, read) -> {
            if (read.flawed()) {
                made.add(intakes.makeOfOne(person, path, Objects.requireNonNull(stored.get(path))));
            }
        });
        for (FileSet set : sorted.sets()) {
            made.add(intake(person, set, stored, names, looked));
        }
        List<DropReply.NotTaken> refused = sorted.apart().stream()
                .map(file -> new DropReply.NotTaken(
                        file.path(), sentence(file, looked.reasons), file.why() != Apart.Why.UNREADABLE))
                .toList();
        jdbc.sql("update dropped set reply = cast(:reply as jsonb) where id = :drop")
                .param("reply", json.writeValueAsString(new Kept(made, refused, all - stored.size())))
                .param("drop", drop)
                .update();
    }

    private Map<String, Long> stored(long drop) {
        Map<String, Long> stored = new LinkedHashMap<>();
        jdbc.sql("select path, file_id from dropped_file where drop_id = :drop order by path")
                .param("drop", drop)
                .query((RowCallbackHandler) row -> stored.put(row.getString(1), row.getLong(2)));
        return stored;
    }

    private static boolean isAsset(String path) {
        return AssetKind.named(path).isPresent();
    }

    /** The numbers of the stored files that are pictures and sounds by their names, by path. */
    @Transactional(readOnly = true)
    public Map<String, Long> assets(long person, long drop) {
        requireMine(person, drop);
        Map<String, Long> assets = stored(drop);
        assets.keySet().removeIf(path -> !isAsset(path));
        return assets;
    }

    private static boolean flawed(@Nullable FileRead read) {
        return read != null && read.flawed();
    }

    /** How the file was understood before, or others that are named like it. */
    private static ReadingChoice habitsOf(String path, Map<String, ReadingChoice> habits) {
        ReadingChoice own = habits.get(path);
        return own != null
                ? own
                : LanguagePart.sureOf(path)
                        .map(part -> habits.get(part.pattern()))
                        .orElse(ReadingChoice.UNDECIDED);
    }

    /**
     * What was found in the files of a drop, by path.
     *
     * @param reasons why files cannot be read
     * @param keys some of their keys
     * @param just those just read, as far as memory goes
     */
    private record Looked(Map<String, String> reasons, Map<String, List<String>> keys, Map<String, FileRead> just) {

        List<String> keysOf(String path) {
            return keys.getOrDefault(path, List.of());
        }
    }

    private FileFacts look(String path, byte[] content, ReadingChoice habits, boolean among, Looked looked) {
        try {
            FileRead read = FileRead.byItself(path, content, among, habits);
            FileReading reading = read.reading();
            texts.require(path, reading);
            looked.just.put(path, read);
            int step = Math.max(1, reading.size() / SAMPLED_KEYS);
            looked.keys.put(
                    path,
                    IntStream.range(0, reading.size())
                            .filter(i -> i % step == 0)
                            .limit(SAMPLED_KEYS)
                            .mapToObj(i -> reading.id(i).key())
                            .toList());
            return FileFacts.of(path, read.format(), reading);
        } catch (UnreadableFileException | Refusal unreadable) {
            looked.reasons.put(path, String.valueOf(unreadable.getMessage()));
            return FileFacts.unreadable(
                    path, Formats.forNew(path).map(format -> format.name()).orElse(""));
        }
    }

    /** Whether a table has enough of a file's keys to be the one that it belongs to; a file without keys belongs where its path does. */
    private boolean belongs(List<String> keys, long table) {
        if (keys.isEmpty()) {
            return true;
        }
        int there = jdbc.sql(
                        "select count(distinct key) from entry where table_id = :table and removed_at is null and key = any(:keys)")
                .param("table", table)
                .param("keys", keys.toArray(String[]::new))
                .query(Integer.class)
                .single();
        return there >= SHARED * keys.size();
    }

    private long intake(long person, FileSet set, Map<String, Long> stored, Set<String> names, Looked looked) {
        Optional<TableInfo> named = set.table() != null
                ? Optional.empty()
                : tables.all().stream()
                        .map(TableService.Listed::table)
                        .filter(table -> table.name().equalsIgnoreCase(set.name())
                                && belongs(looked.keysOf(set.members().get(0).path()), table.id()))
                        .findFirst();
        FileSet placed =
                named.map(table -> set.into(table.id(), table.source())).orElse(set);
        String name = SetNames.free(set.name(), placed.table() == null ? names : Set.of());
        names.add(name.toLowerCase(Locale.ROOT));
        return placed.members().size() > 1
                ? sets.make(person, placed, stored, name, looked.just)
                : intakes.makeOfOne(
                        person,
                        placed,
                        Objects.requireNonNull(
                                stored.get(placed.members().get(0).path())),
                        name);
    }

    private static String sentence(Apart file, Map<String, String> reasons) {
        String of = String.valueOf(file.of()).replace("{}", "*");
        return switch (file.why()) {
            case UNREADABLE -> reasons.getOrDefault(file.path(), file.path() + " cannot be read.");
            case NO_TEXTS -> file.path() + " holds no texts.";
            case ALONE -> file.path() + " stands alone: neither its name nor a file beside it tells a language.";
            case OTHER_FORMAT -> file.path() + " is of another format than the others of " + of + ".";
            case OTHER_KEYS ->
                file.path() + " is named like the others of " + of + ", and has hardly a key in common with them.";
            case SAME_LANGUAGE -> file.path() + " is in a language that another file of " + of + " is in already.";
        };
    }

    /** How these files stand. */
    DropReply reply(long person, long drop) {
        return Objects.requireNonNull(transaction.execute(status -> {
            requireMine(person, drop);
            RunReply run = runs.latest(RUN, drop).orElse(null);
            Optional<Kept> kept = sorted(drop);
            return new DropReply(
                    drop,
                    count(drop),
                    kept.map(one -> one.intakes().stream()
                                    .map(id -> replies.listed(person, id))
                                    .toList())
                            .orElse(null),
                    kept.map(Kept::refused).orElse(List.of()),
                    kept.map(Kept::assets).orElse(0),
                    run);
        }));
    }

    /** Makes an intake of a file that stands apart. */
    @Transactional
    public long takeAlone(long person, long drop, String path) {
        requireMine(person, drop);
        long file = jdbc.sql("select file_id from dropped_file where drop_id = :drop and path = :path")
                .param("drop", drop)
                .param("path", path)
                .query(Long.class)
                .optional()
                .orElseThrow(() -> Refusal.notFound(
                        "no-such-file", "“{path}” is not here any more; bring it again.", Map.of("path", path)));
        return intakes.makeOfOne(person, path, file);
    }
}
