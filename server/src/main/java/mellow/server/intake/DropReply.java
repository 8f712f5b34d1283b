package mellow.server.intake;

import java.util.List;

/**
 * What came of several files at once.
 *
 * @param intakes those that can be read, each an intake now
 * @param refused those that cannot
 */
record DropReply(List<IntakeReply.Listed> intakes, List<Refused> refused) {

    /**
     * A file that is not kept.
     *
     * @param file its path in the archive
     * @param why one sentence
     */
    record Refused(String file, String why) {}
}
