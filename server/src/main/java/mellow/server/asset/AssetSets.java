package mellow.server.asset;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import mellow.core.asset.AssetNames;
import mellow.core.asset.AssetPattern;
import mellow.core.format.ledger.LedgerFormat;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.core.set.SetNames;
import mellow.server.asset.AssetSetRows.FileRow;
import mellow.server.asset.AssetSetRows.SetRow;
import mellow.server.common.Refusal;
import mellow.server.common.TextRules;
import mellow.server.file.AssetFiles;
import mellow.server.file.FileStore;
import mellow.server.intake.Drops;
import mellow.server.intake.IntakeService;
import mellow.server.language.LanguageService;
import mellow.server.people.PeopleService;
import mellow.server.run.RunService;
import mellow.server.run.RunService.Progress;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Pictures and sounds that came together: looked through, named by patterns, corrected by people, and then made into an intake, which compares them with the table
 * and takes them in like any file. Nothing is an asset before that.
 */
@Service
public class AssetSets {

    private static final int MOST_FILES = 5_000;
    private static final Duration WAITS = Duration.ofMillis(900);

    private final AssetSetRows rows;
    private final AssetSetStanding standing;
    private final AssetFiles assets;
    private final FileStore files;
    private final Drops drops;
    private final IntakeService intakes;
    private final TableService tables;
    private final LanguageService languages;
    private final PeopleService people;
    private final RunService runs;
    private final TextRules texts;
    private final TransactionTemplate transaction;

    AssetSets(
            AssetSetRows rows,
            AssetSetStanding standing,
            AssetFiles assets,
            FileStore files,
            Drops drops,
            IntakeService intakes,
            TableService tables,
            LanguageService languages,
            PeopleService people,
            RunService runs,
            TextRules texts,
            TransactionTemplate transaction) {
        this.rows = rows;
        this.standing = standing;
        this.assets = assets;
        this.files = files;
        this.drops = drops;
        this.intakes = intakes;
        this.tables = tables;
        this.languages = languages;
        this.people = people;
        this.runs = runs;
        this.texts = texts;
        this.transaction = transaction;
        runs.handle(
                AssetSetStanding.RUN,
                (order, progress) -> look(order.person(), order.subject(), order.arguments(), progress));
    }

    /** Makes a set of the pictures and sounds among files that came together, and starts to look through them; its number. */
    long make(long person, long drop, @Nullable String table) {
        long id = Objects.requireNonNull(transaction.execute(status -> {
            Map<String, Long> dropped = drops.assets(person, drop);
            if (dropped.isEmpty() || dropped.size() > MOST_FILES) {
                throw Refusal.unacceptable(
                        "bad-amount", "Bring 1 to {most} pictures and sounds at once.", Map.of("most", MOST_FILES));
            }
            Optional<TableInfo> into = Optional.ofNullable(table).map(tables::find);
            Arrival arrival = people.rights(person).coordinator() ? Arrival.SETTLED : Arrival.OFFERED;
            return rows.add(
                    person,
                    new AssetSetOptions(
                            List.of(),
                            into.map(TableInfo::slug).orElse(null),
                            into.isEmpty() ? "Pictures and sounds" : null,
                            into.map(one -> one.source().value()).orElse("en"),
                            arrival));
        }));
        runs.start(AssetSetStanding.RUN, id, person, Long.toString(drop));
        runs.await(AssetSetStanding.RUN, id, WAITS);
        return id;
    }

    /**
     * The same of files that are here already, looked through at once: their texts settle.
     *
     * @param table the name of the table they go into, which is made when there is none
     * @return the set's number
     */
    @Transactional
    public long bring(long person, Map<String, byte[]> content, String table) {
        people.rights(person).requireAny("bring files in");
        Optional<TableInfo> into = tables.all().stream()
                .map(TableService.Listed::table)
                .filter(one -> one.name().equals(table))
                .findFirst();
        AssetSetOptions options = new AssetSetOptions(
                List.of(),
                into.map(TableInfo::slug).orElse(null),
                into.isEmpty() ? table : null,
                into.map(one -> one.source().value()).orElse("en"),
                Arrival.SETTLED);
        long id = rows.add(person, options);
        List<FileRow> looked = new ArrayList<>();
        content.forEach((path, bytes) ->
                looked.add(looked(person, looked.size(), path, files.store(person, path, bytes), bytes)));
        rows.addFiles(id, looked);
        List<String> proposed = proposed(looked, options);
        rows.decide(id, options.with(proposed), proposed, List.of());
        return id;
    }

    private void look(long person, long id, String drop, Progress progress) {
        SetRow set = standing.mine(person, rows.hold(id));
        Map<String, Long> dropped = drops.assets(person, Long.parseLong(drop));
        assets.requireRoomFor(dropped.values());
        List<FileRow> looked = new ArrayList<>();
        for (Map.Entry<String, Long> one : dropped.entrySet()) {
            long file = one.getValue();
            looked.add(looked(person, looked.size(), one.getKey(), file, files.load(file)));
            progress.at(looked.size(), dropped.size());
        }
        rows.addFiles(id, looked);
        List<String> proposed = proposed(looked, set.options());
        AssetSetOptions options = set.options().with(proposed);
        if (options.newTable() != null) {
            options = options.into(free(name(looked)), likeliestSource(looked, options.read()));
        }
        rows.decide(id, options, proposed, List.of());
    }

    private FileRow looked(long person, int position, String path, long file, byte[] content) {
        AssetFiles.Looked looked;
        try {
            looked = AssetFiles.look(path.substring(path.lastIndexOf('/') + 1), content);
        } catch (Refusal broken) {
            return stays(position, path, String.valueOf(broken.getMessage()));
        }
        if (looked.facts() == null) {
            return stays(position, path, "This is neither a picture nor a sound.");
        }
        long kept = assets.keep(person, file, path, content, looked);
        return new FileRow(position, path, kept, null, looked.gone(), null, null, null);
    }

    private static FileRow stays(int position, String path, String why) {
        return new FileRow(position, path, null, why, List.of(), null, null, null);
    }

    /** What was said of the table's files before, as far as these are named so, and what the names of the others tell. */
    private List<String> proposed(List<FileRow> rowsOf, AssetSetOptions options) {
        Set<LanguageTag> known = new HashSet<>();
        List<AssetPattern> patterns = new ArrayList<>();
        List<String> left = new ArrayList<>(rowsOf.stream().map(FileRow::path).toList());
        if (options.table() != null) {
            TableInfo table = tables.find(options.table());
            known.add(table.source());
            table.languages().forEach(kept -> known.add(kept.tag()));
            rows.patternsOf(table.id()).stream().map(AssetPattern::of).forEach(pattern -> {
                if (left.removeIf(path -> pattern.named(path).isPresent())) {
                    patterns.add(pattern);
                }
            });
        }
        patterns.addAll(AssetNames.propose(left, known));
        return patterns.stream().map(AssetPattern::toString).toList();
    }

    /** The folder that all came in, else what they are. */
    private static String name(List<FileRow> files) {
        Set<String> first = files.stream()
                .map(file -> file.path().indexOf('/') < 0
                        ? ""
                        : file.path().substring(0, file.path().indexOf('/')))
                .collect(Collectors.toSet());
        String folder = first.size() == 1 ? first.iterator().next() : "";
        return folder.isEmpty() ? "Pictures and sounds" : SetNames.title(folder);
    }

    private String free(String name) {
        return SetNames.free(
                name,
                tables.all().stream()
                        .map(table -> table.table().name().toLowerCase(Locale.ROOT))
                        .collect(Collectors.toSet()));
    }

    /** English when there are files in it, else the language of most of them. */
    private static String likeliestSource(List<FileRow> files, List<AssetPattern> patterns) {
        LanguageTag english = new LanguageTag("en");
        Map<LanguageTag, Long> counts = new NamedAssets(files, patterns, english)
                .files().stream()
                        .map(NamedAssets.One::language)
                        .filter(Objects::nonNull)
                        .collect(Collectors.groupingBy(tag -> tag, Collectors.counting()));
        return counts.containsKey(english)
                ? english.value()
                : counts.entrySet().stream()
                        .max(Map.Entry.comparingByValue())
                        .map(Map.Entry::getKey)
                        .orElse(english)
                        .value();
    }

    /** Changes what was decided about a set; files that are not named stay as they are. */
    @Transactional
    void decide(long person, long id, int version, AssetSetOptions options, List<AssetChoice> choices) {
        SetRow set = standing.mine(person, rows.hold(id));
        requireVersion(set, version);
        options.read();
        Optional<TableInfo> table = Optional.ofNullable(options.table()).map(tables::find);
        standing.source(options, table);
        texts.require(Objects.requireNonNullElse(options.newTable(), ""), "newTable");
        for (AssetChoice choice : choices) {
            if (choice.language() != null) {
                languages.parse(choice.language());
            }
            texts.require(Objects.requireNonNullElse(choice.key(), ""), "key");
        }
        // Into another table other languages are likely, and other names were said before.
        boolean elsewhere = !Objects.equals(options.table(), set.options().table());
        List<String> proposed = elsewhere ? proposed(rows.files(id), options) : set.proposed();
        List<String> made = options.patterns().isEmpty() ? proposed : options.patterns();
        rows.decide(
                id,
                options.with(made),
                proposed,
                choices.stream().map(AssetSets::clean).toList());
    }

    private static AssetChoice clean(AssetChoice choice) {
        String key = choice.key() == null || choice.key().isBlank()
                ? null
                : choice.key().strip();
        String language = choice.language() == null
                ? null
                : LanguageTag.parse(choice.language()).orElseThrow().value();
        return new AssetChoice(choice.position(), key, language, choice.leftOut());
    }

    private static void requireVersion(SetRow set, int version) {
        if (set.version() != version) {
            throw Refusal.conflict(
                    "set-moved-on",
                    "Someone decided about these files meanwhile; look at them again, then repeat your change.",
                    Map.of());
        }
    }

    /** Makes an intake of a set as it is now; its number. */
    @Transactional
    public long compare(long person, long id) {
        return compare(person, id, rows.hold(id).version());
    }

    /** Makes an intake of a set, which takes the place of one that was made of it before and is still open; its number. */
    @Transactional
    long compare(long person, long id, int version) {
        SetRow set = standing.mine(person, rows.hold(id));
        requireVersion(set, version);
        AssetSetOptions options = set.options();
        Optional<TableInfo> table = Optional.ofNullable(options.table()).map(tables::find);
        NamedAssets named = new NamedAssets(rows.files(id), options.read(), standing.source(options, table));
        standing.blocked(named, options).ifPresent(why -> {
            throw Refusal.unacceptable("set-blocked", why);
        });
        if (set.intake() != null) {
            intakes.leaveOpen(person, set.intake());
        }
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try {
            new LedgerFormat().write(named.list(), out);
        } catch (IOException impossible) {
            throw new UncheckedIOException(impossible);
        }
        String path = "pictures and sounds/"
                + table.map(TableInfo::slug).orElseGet(() -> Objects.requireNonNull(options.newTable())
                        .replaceAll("[/\\\\\\p{Cntrl}]", " "))
                + ".ledger.json";
        long intake = intakes.bring(person, path, out.toByteArray());
        intakes.decide(
                person,
                intake,
                options.table(),
                options.table() == null ? options.newTable() : null,
                options.arrival());
        rows.madeInto(id, intake);
        return intake;
    }
}
