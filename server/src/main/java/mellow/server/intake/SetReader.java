package mellow.server.intake;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mellow.core.format.EntryId;
import mellow.core.format.FileReading;
import mellow.core.format.Problem;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.registry.Formats;
import mellow.core.language.LanguageTag;
import mellow.core.set.SetReading;
import mellow.core.text.Shape;
import mellow.server.common.Refusal;
import mellow.server.file.FileStore;
import mellow.server.intake.IntakeFile.Facts;
import mellow.server.intake.IntakeRead.Member;
import mellow.server.run.RunService.Progress;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Reads the files of a set as one. Needs a transaction around it. */
@Component
class SetReader {

    private static final int SHOWN_PROBLEMS = 50;

    private final FileStore files;

    SetReader(FileStore files) {
        this.files = files;
    }

    /** What a look at the files of a set found: how they read together, and what to tell about each. */
    record Look(IntakeRead read, List<IntakeFile> files) {}

    /**
     * Reads the files of a set that are not left out.
     *
     * @param source the source language
     * @param formed the table's entries that have forms
     */
    Look read(List<IntakeFile> all, LanguageTag source, Map<EntryId, Shape> formed, Progress progress) {
        Map<EntryId, Shape> known = new HashMap<>(formed);
        List<Member> members = new ArrayList<>();
        List<SetReading.Part> parts = new ArrayList<>();
        Map<String, String> refused = new HashMap<>();
        int done = 0;
        for (IntakeFile file : all) {
            FileRead read = null;
            if (!file.leftOut()) {
                try {
                    read = read(file, source, known);
                    parts.add(new SetReading.Part(file.path(), read.reading(), file.source()));
                } catch (UnreadableFileException | Refusal unreadable) {
                    refused.put(file.path(), String.valueOf(unreadable.getMessage()));
                }
            }
            if (file.source() && read != null) {
                plurals(read.reading(), known);
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

    private FileRead read(IntakeFile file, LanguageTag source, Map<EntryId, Shape> known) {
        IntakeOptions options = file.reading() == null ? IntakeOptions.UNDECIDED : file.reading();
        return FileRead.ofMember(file.path(), files.load(file.file()), options, source, known);
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
        return new Facts(format, "", null, 0, 0, 0, List.of(), 0, why);
    }

    private static Facts facts(Member member, SetReading set, int part, LanguageTag source) {
        FileRead read = java.util.Objects.requireNonNull(member.read());
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
                set.textsIn(part),
                set.missingIn(part),
                set.unknownIn(part),
                problems.stream().limit(SHOWN_PROBLEMS).map(Problem::sentence).toList(),
                read.problemCount() + misshapen.size(),
                blocked);
    }
}
