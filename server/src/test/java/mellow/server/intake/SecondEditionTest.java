package mellow.server.intake;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.format.KeyHabit;
import mellow.core.format.registry.Formats;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.core.merge.ChangeKind;
import mellow.server.run.RunService.Progress;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;

/** The next edition of a large product: what went stale is exactly what its makers rewrote and nobody translated anew. */
class SecondEditionTest extends ServerTest {

    private static final int LARGE = 50_000;

    /** Every so many sources are rewritten; German follows for every second of them, Finnish marks its text as unsure, Polish has none. */
    private static final int REWRITTEN = 25;

    private static final LanguageTag ENGLISH = new LanguageTag("en");
    private static final List<LanguageTag> TARGETS =
            List.of(new LanguageTag("de"), new LanguageTag("fi"), new LanguageTag("pl"));

    @Autowired
    private IntakeService intakes;

    @Autowired
    private IntakeReplies replies;

    @Autowired
    private Previews previews;

    @Autowired
    private Comparing comparing;

    @Autowired
    private JdbcClient jdbc;

    private static boolean rewritten(int i) {
        return i % REWRITTEN == 7;
    }

    private static String source(int i, boolean second) {
        return "Door " + i + " on deck " + i % 14 + (second && rewritten(i) ? " is locked now" : " is locked");
    }

    private static FileText text(int i, LanguageTag tag, boolean second) {
        FileText old = FileText.plain(tag.value() + " " + i);
        if (!second || !rewritten(i)) {
            return old.in(FileState.SETTLED);
        }
        boolean follows = tag.value().equals("de") && i / REWRITTEN % 2 == 0;
        return switch (tag.value()) {
            case "fi" -> old.in(FileState.PENCILLED);
            case "pl" -> FileText.NONE;
            default ->
                (follows ? FileText.plain("neu " + i) : old).in(follows ? FileState.SETTLED : FileState.PENCILLED);
        };
    }

    private static byte[] file(String kind, int size, List<LanguageTag> targets, boolean second) throws IOException {
        List<LanguageTag> languages = new ArrayList<>(List.of(ENGLISH));
        languages.addAll(targets);
        List<FileEntry> entries = new ArrayList<>(size);
        for (int i = 0; i < size; i++) {
            List<FileText> texts = new ArrayList<>(List.of(FileText.plain(source(i, second))));
            for (LanguageTag tag : targets) {
                texts.add(text(i, tag, second));
            }
            String key = kind.equals("po by source") ? source(i, second) : "door.d" + i + ".state";
            entries.add(FileEntry.of(key).texts(texts).build());
        }
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        Formats.named(kind.split(" ")[0])
                .orElseThrow()
                .write(EntryList.of(Optional.of(ENGLISH), languages, entries), out);
        // As others write it: nothing in the file says which of its parts is the key.
        return out.toString(StandardCharsets.UTF_8)
                .replace("\"X-Mellow-Key: msgctxt\\n\"\n", "")
                .replace("\"X-Source-Language: en\\n\"\n", "")
                .getBytes(StandardCharsets.UTF_8);
    }

    private Map<String, Integer> stale() {
        Map<String, Integer> stale = new LinkedHashMap<>();
        jdbc.sql(
                        "select l.tag, count(*) from cell c join language l on l.id = c.language_id where c.state = 2 group by 1 order by 1")
                .query((RowCallbackHandler) row -> stale.put(row.getString(1), row.getInt(2)));
        return stale;
    }

    /** Where many rows were and few were left, the database believes in few, and any plan is as good to it as another: one took minutes. */
    @Test
    void theFirstLargeFileOfALedgerThatWasEmptied() throws IOException {
        jdbc.sql(
                        """
                        insert into entry (id, table_id, position, key, source, words, changed_at)
                        select -i, -1, i, 'k' || i, 'Door', 1, now() from generate_series(1, 20000) i
                        """)
                .update();
        jdbc.sql(
                        """
                        insert into cell (entry_id, language_id, text, standing, state, based_on, text_version, version, origin, author_id, changed_at)
                        select -i, 1, 'Tür', 2, 3, 1, 1, 1, 'file', 1, now() from generate_series(1, 20000) i
                        """)
                .update();
        jdbc.sql("delete from cell where entry_id < -5").update();
        jdbc.sql("delete from entry where id < -5").update();
        jdbc.sql("analyze entry, cell").update();
        jdbc.sql("delete from cell").update();
        jdbc.sql("delete from entry").update();
        ledger.takeIn(
                ledger.coordinator("mara"), "Doors", "Doors.csv", file("csv", LARGE, TARGETS, false), Arrival.SETTLED);
        assertThat(ledger.ask(Integer.class, "select sum(entries) from coverage where state = 3"))
                .isEqualTo(3 * LARGE);
    }

    @ParameterizedTest
    @CsvSource({
        "csv all together, 50000",
        "po by source, 10000",
        "po by context, 10000",
        "xliff-1.2 one per language, 10000"
    })
    void whatIsStaleIsWhatWasRewrittenAndNotTranslatedAnew(String kind, int size) throws IOException {
        long mara = ledger.coordinator("mara");
        String ending = kind.startsWith("xliff") ? "xlf" : kind.substring(0, Math.max(2, kind.indexOf(' ')));
        boolean together = kind.startsWith("csv");
        Map<String, List<LanguageTag>> files = new LinkedHashMap<>();
        if (together) {
            files.put("Doors.csv", TARGETS);
        } else {
            TARGETS.forEach(tag -> files.put("doors/" + tag + "." + ending, List.of(tag)));
        }
        for (Map.Entry<String, List<LanguageTag>> one : files.entrySet()) {
            ledger.takeIn(mara, "Doors", one.getKey(), file(kind, size, one.getValue(), false), Arrival.SETTLED);
        }
        assertThat(ledger.ask(Integer.class, "select count(*) from cell where state = 3"))
                .isEqualTo(3 * size);
        int changed = size / REWRITTEN;
        Map<String, Integer> truth = Map.of("de", changed / 2, "fi", changed, "pl", changed);
        boolean first = true;
        for (Map.Entry<String, List<LanguageTag>> one : files.entrySet()) {
            long intake = intakes.upload(mara, one.getKey(), file(kind, size, one.getValue(), true));
            comparing.compare(mara, intake, Progress.UNWATCHED);
            PreviewReply seen =
                    Objects.requireNonNull(previews.preview(mara, intake, false).preview());
            assertThat(seen.stale()).as(one.getKey()).isEqualTo(first ? truth : Map.of());
            assertThat(seen.groups())
                    .extracting(PreviewReply.Group::kind)
                    .doesNotContain(ChangeKind.NEW_ENTRIES, ChangeKind.GONE_FROM_FILE, ChangeKind.CONFLICTS);
            intakes.apply(mara, intake, Progress.UNWATCHED);
            assertThat(Objects.requireNonNull(replies.reply(mara, intake).done().report())
                            .stale())
                    .isEqualTo(seen.stale());
            assertThat(stale()).as(one.getKey()).isEqualTo(truth);
            first = false;
        }
        assertThat(ledger.ask(Integer.class, "select count(*) from entry")).isEqualTo(size);
        assertThat(ledger.ask(Integer.class, "select count(*) from offer")).isZero();
        assertThat(ledger.ask(
                        Integer.class,
                        "select count(*) from entry where source like '%is locked now' and removed_at is null"))
                .isEqualTo(changed);
        if (kind.startsWith("po")) {
            KeyHabit habit = kind.endsWith("source") ? KeyHabit.SOURCE : KeyHabit.CONTEXT;
            assertThat(ledger.ask(String.class, "select string_agg(distinct options ->> 'keys', ',') from master_file"))
                    .as("how the paths were understood is remembered")
                    .isEqualTo(habit.name());
        }
    }
}
