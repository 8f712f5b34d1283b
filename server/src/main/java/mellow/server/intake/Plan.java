package mellow.server.intake;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import mellow.core.format.EntryId;
import mellow.core.format.FileReading;
import mellow.core.language.LanguageTag;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Comparison;
import mellow.core.merge.Terms;
import mellow.server.common.Refusal;
import mellow.server.master.MasterFiles;
import mellow.server.master.ReadingChoice;
import mellow.server.people.Rights;
import mellow.server.table.TableInfo;
import org.jspecify.annotations.Nullable;

/**
 * Everything that taking a file in depends on.
 *
 * @param base what the file's path held when it was last taken in
 * @param table where it goes, empty for a new table
 * @param ground what is decided about it
 */
record Plan(
        IntakeOptions options,
        Rights rights,
        IntakeRead file,
        @Nullable FileReading base,
        Optional<TableInfo> table,
        Ground ground) {

    /**
     * What is decided about a file.
     *
     * @param terms how it is compared
     * @param removed numbers of the entries that were removed from the table
     */
    record Ground(Terms terms, Decisions decisions, Map<EntryId, Long> removed) {}

    Terms terms() {
        return ground.terms();
    }

    Decisions decisions() {
        return ground.decisions();
    }

    Map<EntryId, Long> removed() {
        return ground.removed();
    }

    /** Refuses to go on while something has to be corrected first. */
    void requireReady() {
        file.blockedBy().ifPresent(why -> {
            throw Refusal.unacceptable("file-blocked", why);
        });
        if (table.isEmpty()) {
            rights.requireCoordinator("make a new table");
            if (file.reading().sourceColumn(terms().source()) < 0) {
                throw Refusal.unacceptable(
                        "no-source-column",
                        "The file has no texts in {language}, the source language of the new table; choose another source language, or the table it goes into.",
                        Map.of("language", terms().source()));
            }
        }
    }

    /** The file's languages without the source and those it says nothing about. */
    List<LanguageTag> targets() {
        int source = file.reading().sourceColumn(terms().source());
        List<LanguageTag> languages = file.reading().languages();
        return languages.stream()
                .filter(tag -> !tag.equals(LanguageTag.UNDETERMINED)
                        && languages.indexOf(tag) != source
                        && !tag.equals(terms().source()))
                .toList();
    }

    /** The files that come in, with every guess about how they are read written down. */
    List<MasterFiles.Held> exact() {
        List<MasterFiles.Held> exact = new ArrayList<>();
        for (IntakeRead.Member member : file.members()) {
            ReadingChoice own = member.file().reading();
            if (member.read() != null) {
                ReadingChoice said = own == null ? options.how() : own;
                exact.add(new MasterFiles.Held(
                        member.file().path(),
                        member.file().file(),
                        member.read().exact(said)));
            }
        }
        return exact;
    }

    /**
     * Whether the person may change all that the file covers, so that what its paths hold becomes the base of later comparisons and what goes out in place:
     * a coordinator; a reviewer of every language of a file that brought nothing but texts.
     *
     * @param done what was done with it
     */
    boolean becomesBase(Tally done) {
        boolean allTargets = !targets().isEmpty()
                && targets().stream()
                        .allMatch(tag -> rights.reviews(tag)
                                && table.flatMap(known -> known.language(tag)).isPresent());
        return rights.coordinator()
                || (allTargets
                        && !done.met(ChangeKind.NO_RIGHT)
                        && !done.met(ChangeKind.GONE_FROM_FILE)
                        && !done.met(ChangeKind.WITHOUT_SOURCE));
    }

    Comparison comparison() {
        return new Comparison(file.reading(), base, terms());
    }
}
