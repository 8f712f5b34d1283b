package mellow.core.merge;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What holds for any file and any record. */
class MergePropertiesTest {

    private static final List<String> TEXTS = List.of("", "A", "B", "C");
    private static final int ROUNDS = 400;

    private static final Choices RENAMING = (kind, id, language) -> kind == ChangeKind.RENAMED ? Choice.RENAME : null;

    private static String line(Random random, int key, int sources) {
        return "k" + key + " | Source " + random.nextInt(sources) + " of " + key + " | "
                + TEXTS.get(random.nextInt(TEXTS.size()));
    }

    /** Some of the keys from {@code from} on, half of them at least. */
    private static List<String> lines(Random random, int from, int count) {
        List<String> lines = new ArrayList<>();
        for (int key = from; key < from + count; key++) {
            if (random.nextInt(4) > 0) {
                lines.add(line(random, key, 2));
            }
        }
        return lines;
    }

    @Test
    void whoMovedIsSeenFromBothSides() {
        for (String base : TEXTS) {
            for (String mine : TEXTS) {
                for (String theirs : TEXTS) {
                    FileText b = FileText.plain(base);
                    FileText m = FileText.plain(mine);
                    FileText t = FileText.plain(theirs);
                    TextDecision one = TextDecision.decide(b, m, t);
                    TextDecision other = TextDecision.decide(b, t, m);
                    assertThat(one == TextDecision.CONFLICT && !mine.isEmpty())
                            .as("%s %s %s", base, mine, theirs)
                            .isEqualTo(other == TextDecision.CONFLICT && !theirs.isEmpty() && !mine.isEmpty());
                    if (one == TextDecision.TAKE) {
                        assertThat(other).isIn(TextDecision.NOTHING_NEW, TextDecision.SAME);
                    }
                    if (one == TextDecision.SAME) {
                        assertThat(mine).isEqualTo(theirs);
                    }
                }
            }
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"csv", "po", "xliff-1.2"})
    void theSameFileTwiceChangesNothingTheSecondTime(String format) {
        Random random = new Random(5);
        for (int round = 0; round < ROUNDS; round++) {
            FileReading before = MergeFiles.file(format, lines(random, 0, 6));
            FileReading now = MergeFiles.file(format, lines(random, 0, 7));
            MergeRecord record = MergeRecord.of(lines(random, 0, 6));
            record.take(now, random.nextBoolean() ? before : null, random.nextBoolean() ? RENAMING : Choices.NONE);
            var said = record.said();
            assertThat(record.take(now, now, Choices.NONE))
                    .as("round %s", round)
                    .isEmpty();
            assertThat(record.said()).isEqualTo(said);
        }
    }

    @Test
    void independentFilesCanComeInAnyOrder() {
        Random random = new Random(6);
        for (int round = 0; round < ROUNDS; round++) {
            List<String> record = lines(random, 0, 12);
            FileReading[] before = {
                MergeFiles.file("csv", lines(random, 0, 6)), MergeFiles.file("csv", lines(random, 6, 6))
            };
            FileReading[] now = {
                MergeFiles.file("csv", lines(random, 0, 6)), MergeFiles.file("csv", lines(random, 6, 6))
            };
            MergeRecord one = MergeRecord.of(record);
            one.take(now[0], before[0], Choices.NONE);
            one.take(now[1], before[1], Choices.NONE);
            MergeRecord other = MergeRecord.of(record);
            other.take(now[1], before[1], Choices.NONE);
            other.take(now[0], before[0], Choices.NONE);
            assertThat(other.said()).as("round %s", round).isEqualTo(one.said());
        }
    }

    @Test
    void noSettledTextIsReplacedByWhatBothChangedOrNothingTells() {
        Random random = new Random(7);
        for (int round = 0; round < ROUNDS; round++) {
            FileReading before = random.nextBoolean() ? MergeFiles.file("csv", lines(random, 0, 6)) : null;
            FileReading now = MergeFiles.file("csv", lines(random, 0, 6));
            MergeRecord record = MergeRecord.of(lines(random, 0, 6));
            record.take(now, before, Choices.NONE).forEach(change -> {
                boolean puts = change.arrives() == Arrival.SETTLED || change.arrives() == Arrival.PENCILLED;
                if (puts && !change.before().isEmpty()) {
                    assertThat(change.kind()).isEqualTo(ChangeKind.TEXTS_REPLACED);
                    assertThat(before)
                            .as("a settled text gives way only to a file that alone moved on")
                            .isNotNull();
                }
            });
        }
    }
}
