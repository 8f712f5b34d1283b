package mellow.core.merge;

import mellow.core.format.FileEntry;
import mellow.core.format.FileText;
import org.jspecify.annotations.Nullable;

/**
 * An entry in the record and in the file.
 *
 * @param pair the entry as each of them has it
 * @param source the source that texts are for afterwards
 * @param current whether the file's texts are for that source
 * @param reworded whether the file gave it another key with another source
 * @param limit the limit of its texts afterwards
 * @param described what the file brings beside texts
 */
record Meeting(
        Pair pair, FileText source, boolean current, boolean reworded, int limit, Description.Decided described) {

    /**
     * An entry as the record and the file have it.
     *
     * @param index its place in the file
     * @param then the entry in the base, null when it had none
     */
    record Pair(RecordEntry entry, FileEntry now, int index, @Nullable FileEntry then) {

        Change.At at() {
            return new Change.At(now.id(), entry, now, index, null);
        }
    }

    RecordEntry entry() {
        return pair.entry();
    }

    FileEntry now() {
        return pair.now();
    }

    int index() {
        return pair.index();
    }

    @Nullable
    FileEntry then() {
        return pair.then();
    }
}
