package mellow.server.intake;

import java.util.List;
import mellow.server.run.RunService.RunReply;
import org.jspecify.annotations.Nullable;

/**
 * Files that came together.
 *
 * @param id its number
 * @param files how many have come so far
 * @param intakes what they were sorted into: sets, and files by themselves; null until they are sorted
 * @param refused those that are part of nothing, and why
 * @param assets how many pictures and sounds came along, which become a set of their own when somebody wants that
 * @param run how sorting stands, null when it never started
 */
record DropReply(
        long id,
        int files,
        @Nullable List<IntakeReply.Listed> intakes,
        List<NotTaken> refused,
        int assets,
        @Nullable RunReply run) {

    /**
     * A file that became no intake.
     *
     * @param file its path
     * @param why one sentence
     * @param readable whether it can be taken in by itself if somebody wants that
     */
    record NotTaken(String file, String why, boolean readable) {}
}
