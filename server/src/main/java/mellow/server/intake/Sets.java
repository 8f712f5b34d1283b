package mellow.server.intake;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import mellow.core.format.EntryId;
import mellow.core.format.LanguagePart;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.core.set.FileSet;
import mellow.core.set.KnownFile;
import mellow.core.text.Shape;
import mellow.server.common.Refusal;
import mellow.server.master.FileRead;
import mellow.server.master.MasterFiles;
import mellow.server.master.ReadingChoice;
import mellow.server.people.PeopleService;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Intakes of sets: many files that are one table. Needs a transaction around it. */
@Component
class Sets {

    private static final int MOST_FILES = 2_000;

    private final IntakeRepository intakes;
    private final IntakeFiles members;
    private final MasterFiles masters;
    private final SetReader reader;
    private final Planner planner;
    private final TableService tables;
    private final PeopleService people;
    private final JsonMapper json;
    private final Clock clock;

    Sets(
            IntakeRepository intakes,
            IntakeFiles members,
            MasterFiles masters,
            SetReader reader,
            Planner planner,
            TableService tables,
            PeopleService people,
            JsonMapper json,
            Clock clock) {
        this.intakes = intakes;
        this.members = members;
        this.masters = masters;
        this.reader = reader;
        this.planner = planner;
        this.tables = tables;
        this.people = people;
        this.json = json;
        this.clock = clock;
    }

    /**
     * What a person says about a set; a file that is not named stays as it is.
     *
     * @param options where it goes, its source language, how its texts arrive
     */
    record SetChoice(@Valid IntakeOptions options, @Valid @Size(max = MOST_FILES) List<FileChoice> files) {}

    /**
     * What a person says about a file of a set; null is "find it out".
     *
     * @param source whether it holds the sources
     */
    record FileChoice(
            String path,
            @Nullable @Size(max = 60) String language,
            boolean source,
            boolean leftOut,
            @Nullable @Size(max = 40) String format,
            @Nullable @Size(max = 40) String charset) {}

    /**
     * A set as the screen shows it.
     *
     * @param pattern the paths of its files with {@code {}} where the language stands
     * @param evidence what told its source language
     * @param files its files, that of the sources first
     * @param absent files that the table was fed from and that did not come this time
     * @param blocked why it cannot be taken in before something is corrected, null when it can
     * @param waiting files that cannot go in as they are
     */
    record SetReply(
            String pattern,
            String evidence,
            List<FileReply> files,
            List<AbsentReply> absent,
            @Nullable String blocked,
            int waiting) {}

    /** A file of a set: what was decided about it, and what was found in it; without facts when nobody looked yet. */
    record FileReply(
            String path,
            @Nullable String language,
            boolean source,
            boolean leftOut,
            IntakeFile.@Nullable Facts facts) {}

    /** A file that did not come this time; its texts stay as they are. */
    record AbsentReply(String path, @Nullable String language) {}

    /**
     * Keeps a set as an intake of its own.
     *
     * @param stored the numbers of the stored files, by path
     * @param name the name of a table to be made
     * @param just files that have just been read by themselves, by path
     */
    long make(long person, FileSet set, Map<String, Long> stored, String name, Map<String, FileRead> just) {
        Arrival arrival = people.rights(person).coordinator() ? Arrival.SETTLED : Arrival.OFFERED;
        Optional<TableInfo> table = Optional.ofNullable(set.table()).map(tables::find);
        String source = set.source().language().equals(LanguageTag.UNDETERMINED)
                ? "en"
                : set.source().language().value();
        IntakeOptions options = IntakeOptions.UNDECIDED.going(Destination.UNDECIDED
                .into(table.map(TableInfo::slug).orElse(null), table.isEmpty() ? name : null, arrival)
                .from(source));
        Intake intake = new Intake(
                person,
                set.pattern().replace(LanguagePart.PLACE, "*"),
                json.writeValueAsString(options),
                clock.instant());
        intake.ofSet(set.pattern(), set.source().evidence().name());
        long id = intakes.saveAndFlush(intake).id();
        Map<String, ReadingChoice> before =
                table.map(known -> masters.options(known.id())).orElse(Map.of());
        ReadingChoice alike = before.values().stream()
                .filter(how -> how.keys() != null || how.siblings() != null)
                .findFirst()
                .orElse(ReadingChoice.UNDECIDED);
        List<IntakeFile> all = new ArrayList<>();
        for (FileSet.Member member : set.members()) {
            boolean leads = set.source().path().equals(Optional.of(member.path()));
            ReadingChoice reading = Optional.ofNullable(before.get(member.path()))
                    .orElseGet(() -> member.language()
                            .map(tag -> ReadingChoice.UNDECIDED.in(tag.value()))
                            .orElse(ReadingChoice.UNDECIDED)
                            .understood(alike.keys(), alike.siblings()));
            all.add(new IntakeFile(
                    new IntakeFile.Place(all.size(), member.path(), Objects.requireNonNull(stored.get(member.path()))),
                    reading,
                    leads,
                    false,
                    null));
        }
        keep(intake, options, all, just);
        return id;
    }

    /** Looks at the files as they are to be read now, and keeps what was found. */
    private void keep(Intake intake, IntakeOptions options, List<IntakeFile> all, Map<String, FileRead> just) {
        Optional<TableInfo> table = Optional.ofNullable(options.where().table()).map(tables::find);
        LanguageTag source = planner.source(table, options.where());
        Map<EntryId, Shape> formed =
                table.map(known -> masters.formed(known.id())).orElse(Map.of());
        members.decide(intake.id(), reader.read(all, source, formed, just).files());
        intake.decide(json.writeValueAsString(options), table.map(TableInfo::id).orElse(null));
    }

    /** The same files, of which only one in the source language holds the sources: the table may be written in another than was guessed. */
    private static List<IntakeFile> withSource(List<IntakeFile> files, LanguageTag source) {
        boolean fits = files.stream().filter(IntakeFile::source).allMatch(file -> speaks(file, source, true));
        if (fits) {
            return files;
        }
        Optional<IntakeFile> leads = files.stream()
                .filter(file -> !file.leftOut() && speaks(file, source, false))
                .findFirst();
        return files.stream()
                .map(file ->
                        file.decided(file.reading(), leads.equals(Optional.of(file)), file.leftOut(), file.facts()))
                .sorted(Comparator.comparing((IntakeFile file) -> !file.source())
                        .thenComparing(IntakeFile::position))
                .toList();
    }

    private static boolean speaks(IntakeFile file, LanguageTag source, boolean unknown) {
        String language = file.reading() == null ? null : file.reading().language();
        return language == null ? unknown : language.equals(source.value());
    }

    /** Changes what was decided about a set. */
    void decide(Intake intake, SetChoice choice) {
        Map<String, FileChoice> chosen = new HashMap<>();
        choice.files().forEach(file -> chosen.put(file.path(), file));
        if (choice.files().stream().filter(FileChoice::source).count() > 1) {
            throw Refusal.unacceptable("two-sources", "Only one file of a set holds its sources.");
        }
        List<IntakeFile> all = new ArrayList<>();
        Set<String> unknown = new HashSet<>(chosen.keySet());
        for (IntakeFile file : members.of(intake.id())) {
            FileChoice one = chosen.get(file.path());
            unknown.remove(file.path());
            all.add(one == null ? file : decided(file, one));
        }
        if (!unknown.isEmpty()) {
            throw Refusal.unacceptable(
                    "no-such-file",
                    "The set has no file “{path}”.",
                    Map.of("field", "files", "path", unknown.iterator().next()));
        }
        all.sort(Comparator.comparing((IntakeFile file) -> !file.source()).thenComparing(IntakeFile::position));
        // What was decided about changes stays with the intake.
        IntakeOptions options = choice.options()
                .going(choice.options()
                        .where()
                        .choosing(planner.options(intake).where().decisions()));
        keep(intake, options, all, Map.of());
    }

    private static IntakeFile decided(IntakeFile file, FileChoice one) {
        ReadingChoice before = file.reading() == null ? ReadingChoice.UNDECIDED : file.reading();
        boolean same = Objects.equals(before.language(), one.language())
                && Objects.equals(before.format(), one.format())
                && Objects.equals(before.charset(), one.charset());
        if (one.language() != null) {
            ReadingChoice.tag(one.language(), " for " + one.path());
        }
        // Another format has other columns; what was known of them goes with it.
        ReadingChoice reading = same
                ? before
                : ReadingChoice.UNDECIDED
                        .spelled(one.format(), one.charset(), one.language())
                        .understood(before.keys(), before.siblings());
        return file.decided(reading, one.source(), one.leftOut(), file.facts());
    }

    /** Refuses to begin while something has to be corrected first; what the files hold was found when they were decided about. */
    void requireReady(long person, Intake intake) {
        reply(intake).map(SetReply::blocked).ifPresent(why -> {
            throw Refusal.unacceptable("file-blocked", why);
        });
        if (intake.table().isEmpty()) {
            people.rights(person).requireCoordinator("make a new table");
        }
    }

    /** The set as its screen shows it; empty for an intake of one file. */
    Optional<SetReply> reply(Intake intake) {
        return intake.pattern().map(pattern -> {
            List<FileReply> files = members.of(intake.id()).stream()
                    .map(file -> new FileReply(
                            file.path(),
                            file.reading() == null ? null : file.reading().language(),
                            file.source(),
                            file.leftOut(),
                            file.facts()))
                    .toList();
            List<String> waiting = files.stream()
                    .filter(file -> !file.leftOut())
                    .map(FileReply::facts)
                    .filter(Objects::nonNull)
                    .map(IntakeFile.Facts::blocked)
                    .filter(Objects::nonNull)
                    .toList();
            boolean none = files.stream().allMatch(FileReply::leftOut);
            String blocked = none
                    ? "Every file is left out, so nothing would come in."
                    : waiting.isEmpty()
                            ? planner.nameTaken(planner.options(intake).where()).orElse(null)
                            : waiting.get(0);
            return new SetReply(
                    pattern,
                    intake.evidence().orElse(""),
                    files,
                    absent(intake, pattern, files),
                    blocked,
                    waiting.size());
        });
    }

    private List<AbsentReply> absent(Intake intake, String pattern, List<FileReply> files) {
        if (intake.table().isEmpty() || !intake.open()) {
            return List.of();
        }
        Set<String> here = new HashSet<>();
        files.forEach(file -> here.add(file.path()));
        List<AbsentReply> absent = new ArrayList<>();
        for (KnownFile file : masters.of(intake.table().get())) {
            boolean sibling = LanguagePart.of(file.path()).stream()
                    .anyMatch(part -> part.pattern().equals(pattern));
            if (sibling && !here.contains(file.path())) {
                absent.add(new AbsentReply(
                        file.path(), file.language().map(LanguageTag::value).orElse(null)));
            }
        }
        return absent;
    }
}
