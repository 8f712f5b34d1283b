package mellow.server.intake;

import java.lang.ref.SoftReference;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import mellow.core.format.EntryId;
import mellow.core.format.FileReading;
import mellow.core.format.Habits;
import mellow.core.format.Limits;
import mellow.core.format.Problem;
import mellow.core.format.SiblingHabit;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.registry.Formats;
import mellow.core.language.LanguageTag;
import mellow.core.set.SetReading;
import mellow.core.text.Shape;
import mellow.server.common.Refusal;
import mellow.server.file.FileStore;
import mellow.server.intake.IntakeFile.Facts;
import mellow.server.intake.IntakeRead.Member;
import mellow.server.master.FileRead;
import mellow.server.master.ReadingChoice;
import mellow.server.run.RunService.Progress;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Reads the files of a set as one. Needs a transaction around it. */
@Component
class SetReader {

    private static final int SHOWN_PROBLEMS = 50;

    /** As many as the largest single file may have. */
    private static final long MOST_TEXTS = Limits.DEFAULT.entries();

    private final FileStore files;
    private volatile SoftReference<Remembered> last = new SoftReference<>(null);

    SetReader(FileStore files) {
        this.files = files;
    }

    /** What a look at the files of a set found: how they read together, and what to tell about each. */
    record Look(IntakeRead read, List<IntakeFile> files) {}

    /** What a look depends on; files never change once they are stored. */
    private record Asked(List<OneFile> files, LanguageTag source, Map<EntryId, Shape> formed) {}

    private record OneFile(long file, @Nullable ReadingChoice reading, boolean source, boolean leftOut, String path) {}

    private record Remembered(Asked asked, Look look) {}

    /**
     * Reads the files of a set that are not left out. The last set that was read is remembered as long as there is memory to spare: it is looked at, compared
     * and taken in one after the other, and each time would be read anew.
     *
     * @param source the source language
     * @param formed the table's entries that have forms
     */
    Look read(List<IntakeFile> all, LanguageTag source, Map<EntryId, Shape> formed, Progress progress) {
        Asked asked = asked(all, source, formed);
        Remembered before = last.get();
        if (before != null && before.asked().equals(asked)) {
            progress.at(all.size(), all.size());
            return before.look();
        }
        Look look = readAnew(all, source, formed, Map.of(), progress);
        last = new SoftReference<>(new Remembered(asked, look));
        return look;
    }

    /** The same, from files that have just been read by themselves where they need not be read anew. */
    Look read(List<IntakeFile> all, LanguageTag source, Map<EntryId, Shape> formed, Map<String, FileRead> just) {
        Look look = readAnew(all, source, formed, just, Progress.UNWATCHED);
        last = new SoftReference<>(new Remembered(asked(all, source, formed), look));
        return look;
    }

    private static Asked asked(List<IntakeFile> all, LanguageTag source, Map<EntryId, Shape> formed) {
        return new Asked(
                all.stream()
                        .map(file ->
                                new OneFile(file.file(), file.reading(), file.source(), file.leftOut(), file.path()))
                        .toList(),
                source,
                Map.copyOf(formed));
    }

    private Look readAnew(
            List<IntakeFile> all,
            LanguageTag source,
            Map<EntryId, Shape> formed,
            Map<String, FileRead> just,
            Progress progress) {
        Map<EntryId, Shape> known = new HashMap<>(formed);
        List<Member> members = new ArrayList<>();
        List<SetReading.Part> parts = new ArrayList<>();
        Map<String, String> refused = new HashMap<>();
        int done = 0;
        long texts = 0;
        FileRead leads = null;
        for (IntakeFile file : all) {
            FileRead read = null;
            if (!file.leftOut()) {
                try {
                    // Every text of a set is held at once, several hundred bytes each.
                    if (texts > MOST_TEXTS) {
                        throw Refusal.tooLarge(
                                "set-too-large",
                                "The files of this set have more than {most} texts together; bring it in parts, fewer languages at a time.",
                                Map.of("most", MOST_TEXTS));
                    }
                    read = read(file, source, known, just.get(file.path()), leads);
                    parts.add(new SetReading.Part(file.path(), read.reading(), file.source()));
                } catch (UnreadableFileException | Refusal unreadable) {
                    refused.put(file.path(), String.valueOf(unreadable.getMessage()));
                }
            }
            texts += read == null ? 0 : read.reading().size();
            if (file.source() && read != null) {
                plurals(read.reading(), known);
            }
            if (read != null && leads == null) {
                leads = read;
            }
            members.add(new Member(file, read));
            progress.at(++done, all.size());
        }
        SetReading together = new SetReading(source, parts);
        List<IntakeFile> found = new ArrayList<>();
        String blocked = null;
        int part = 0;
        for (Member member : members) {
            Facts facts = member.read() == null
                    ? unread(member.file(), refused.get(member.file().path()))
                    : facts(member, together, part++, source);
            found.add(member.file().found(facts));
            boolean stops = facts.blocked() != null && !member.file().leftOut();
            blocked = blocked == null && stops ? facts.blocked() : blocked;
        }
        if (blocked == null && together.languages().isEmpty()) {
            blocked = "Every file is left out, so nothing would come in.";
        }
        return new Look(new IntakeRead(members, together, blocked), found);
    }

    /** {@code leads}: the file of the sources, or the first, when it has been read: the others of a set are understood as it is. */
    private FileRead read(
            IntakeFile file,
            LanguageTag source,
            Map<EntryId, Shape> known,
            @Nullable FileRead just,
            @Nullable FileRead leads) {
        ReadingChoice said = file.reading() == null ? ReadingChoice.UNDECIDED : file.reading();
        Habits habits = leads == null ? Habits.NONE : leads.raw().habits();
        boolean labels = habits.siblings().equals(Optional.of(SiblingHabit.LABELS));
        ReadingChoice options = said.understood(
                said.keys() == null ? habits.key().orElse(null) : said.keys(),
                said.siblings() == null && labels ? SiblingHabit.LABELS : said.siblings());
        return Optional.ofNullable(just)
                .flatMap(read -> read.as(options, source, known))
                .orElseGet(() -> FileRead.ofMember(file.path(), files.load(file.file()), options, source, known));
    }

    private static void plurals(FileReading reading, Map<EntryId, Shape> known) {
        for (int i = 0; i < reading.size(); i++) {
            Shape shape = reading.entry(i).shape();
            if (shape == Shape.PLURAL || shape == Shape.STATES) {
                known.put(reading.id(i), shape);
            }
        }
    }

    private static Facts unread(IntakeFile file, @Nullable String why) {
        Facts before = file.facts();
        if (why == null && before != null) {
            return before;
        }
        String format = Formats.forNew(file.path()).map(one -> one.name()).orElse("csv");
        return new Facts(format, "", null, IntakeFile.Counts.NONE, ProblemList.NONE, why);
    }

    private static Facts facts(Member member, SetReading set, int part, LanguageTag source) {
        FileRead read = Objects.requireNonNull(member.read());
        List<Problem> problems = new ArrayList<>(read.reading().problems());
        List<Problem> misshapen = set.misshapen(part);
        problems.addAll(misshapen);
        int otherwise = set.otherwiseIn(part);
        String blocked = read.blocked().orElse(null);
        if (blocked == null && otherwise > 0) {
            blocked = member.file().path() + " is in " + source + " like the file of the sources, and says " + otherwise
                    + (otherwise == 1 ? " text" : " texts") + " otherwise; choose its language, or leave it out.";
        }
        return new Facts(
                read.format().name(),
                read.reading().charset(),
                read.reading().languages().stream()
                        .filter(tag -> !tag.equals(LanguageTag.UNDETERMINED))
                        .reduce((one, other) -> other)
                        .map(LanguageTag::value)
                        .orElse(null),
                new IntakeFile.Counts(set.textsIn(part), set.missingIn(part), set.unknownIn(part)),
                new ProblemList(
                        problems.stream()
                                .limit(SHOWN_PROBLEMS)
                                .map(Problem::sentence)
                                .toList(),
                        read.problemCount() + misshapen.size()),
                blocked);
    }
}
