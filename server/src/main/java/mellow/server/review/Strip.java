package mellow.server.review;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import mellow.server.check.CheckService.FindingReply;
import org.jspecify.annotations.Nullable;

/**
 * An offer with what it is judged by.
 *
 * @param offer the offer's number
 * @param version the cell's version, to be sent back with an answer
 * @param sourceThen the source that the offer was made for, null when that is the source as it reads now
 * @param note for translators
 * @param usedBy names of the products that use its table
 * @param inForce the text in force, null for none
 * @param said what its author says to the reviewer, empty for nothing
 * @param byMachine whether a machine's or the memory's text was put forward as it was
 * @param offers number of open offers for this cell
 * @param blockers what keeps it from being settled
 * @param warnings what else the checks found
 */
public record Strip(
        long offer,
        long entry,
        int version,
        String table,
        String tableName,
        String key,
        String context,
        String shape,
        String source,
        @Nullable Map<String, String> sourceForms,
        @Nullable String sourceThen,
        String note,
        String reference,
        List<String> usedBy,
        @Nullable Long picture,
        @Nullable String inForce,
        @Nullable Map<String, String> inForceForms,
        boolean settled,
        String text,
        @Nullable Map<String, String> forms,
        String said,
        boolean byMachine,
        long authorId,
        String author,
        Instant at,
        int offers,
        int maxLength,
        List<FindingReply> blockers,
        List<FindingReply> warnings) {}
