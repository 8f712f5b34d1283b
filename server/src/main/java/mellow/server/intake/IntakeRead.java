package mellow.server.intake;

import java.util.List;
import java.util.Objects;
import java.util.Optional;
import mellow.core.format.FileReading;
import mellow.core.format.Problem;
import mellow.core.format.Problems;
import mellow.server.master.FileRead;
import org.jspecify.annotations.Nullable;

/**
 * The files of an intake, read: one by itself, or those of a set as one.
 *
 * @param members the files, that of the sources first
 * @param reading what they hold together; of a set those that are not left out
 * @param blocked why it cannot be taken in before something is corrected; null when it can
 */
record IntakeRead(List<Member> members, FileReading reading, @Nullable String blocked) {

    /**
     * A file of an intake, read.
     *
     * @param read what was read; null when it cannot be, or is left out
     */
    record Member(IntakeFile file, @Nullable FileRead read) {}

    /** One file. */
    static IntakeRead of(IntakeFile file, FileRead read) {
        return new IntakeRead(
                List.of(new Member(file, read)), read.reading(), read.blocked().orElse(null));
    }

    /** The file of an intake that is no set. */
    FileRead only() {
        return Objects.requireNonNull(members.get(0).read());
    }

    /** How many problems there are, those not kept included. */
    int problemCount() {
        return members.stream()
                .map(Member::read)
                .filter(Objects::nonNull)
                .mapToInt(FileRead::problemCount)
                .sum();
    }

    /** The first problems, as sentences. */
    List<String> problems() {
        return reading.problems().stream()
                .limit(Problems.KEPT)
                .map(Problem::sentence)
                .toList();
    }

    Optional<String> blockedBy() {
        return Optional.ofNullable(blocked);
    }
}
