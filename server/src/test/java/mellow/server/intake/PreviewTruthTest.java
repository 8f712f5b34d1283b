package mellow.server.intake;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.format.registry.Formats;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.intake.PreviewReply.Group;
import mellow.server.intake.Previews.ChoiceRequest;
import mellow.server.run.RunService.Progress;
import mellow.server.support.ServerTest;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;

/** For any file, any ledger and any choices: the groups of a preview, their sums, the report and what is true afterwards say the same. */
class PreviewTruthTest extends ServerTest {

    private static final LanguageTag ENGLISH = new LanguageTag("en");
    private static final LanguageTag GERMAN = new LanguageTag("de");

    /** Texts for an older meaning, whatever covers it: an offer that waits shows first. */
    private static final String STALE =
            "select count(*) from cell c join entry e on e.id = c.entry_id where c.standing <> 0 and c.based_on < e.meaning_revision";

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

    private static byte[] file(String format, List<FileEntry> entries) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        FileFormat known = Formats.named(format).orElseThrow();
        known.write(EntryList.of(Optional.of(ENGLISH), List.of(ENGLISH, GERMAN), entries), out);
        return out.toByteArray();
    }

    private static FileEntry entry(String key, String source, String german, String note, boolean unsure) {
        FileText text = FileText.plain(german);
        return FileEntry.of(key)
                .note(note)
                .texts(List.of(
                        FileText.plain(source),
                        german.isEmpty() ? text : text.in(unsure ? FileState.PENCILLED : FileState.SETTLED)))
                .build();
    }

    private static List<FileEntry> first() {
        List<FileEntry> entries = new ArrayList<>();
        for (int i = 0; i < 14; i++) {
            String german = i % 5 == 4 ? "" : "Rampe Nummer " + i + (i % 3 == 0 ? " {0}" : "");
            entries.add(entry(
                    "ramp." + i,
                    "Ramp number " + i + (i % 3 == 0 ? " {0}" : ""),
                    german,
                    i % 4 == 0 ? "Note " + i : "",
                    false));
        }
        return entries;
    }

    private static List<FileEntry> changed(List<FileEntry> entries, Random random) {
        List<FileEntry> changed = new ArrayList<>();
        for (FileEntry one : entries) {
            String source = one.text(0);
            String german = one.text(1);
            switch (random.nextInt(11)) {
                case 0 -> {}
                case 1 -> changed.add(entry(one.key() + ".new", source, german, one.note(), false));
                case 2 -> changed.add(entry(one.key() + ".re", source + " again", german, one.note(), false));
                case 3 -> changed.add(entry(one.key(), source + " rewritten", german, one.note(), false));
                case 4 -> changed.add(entry(one.key(), source + " too", german + " neu", one.note(), false));
                case 5 -> changed.add(entry(one.key(), source, german.replace("{0}", "ohne") + "!", one.note(), false));
                case 6 -> changed.add(entry(one.key(), source, "", one.note(), false));
                case 7 -> changed.add(entry(one.key(), source, german, "Another note", false));
                case 8 -> changed.add(entry(one.key(), source, german, one.note(), true));
                default -> changed.add(one);
            }
            if (random.nextInt(7) == 0) {
                changed.add(entry("more." + one.key(), "More of " + one.key(), "Mehr", "", false));
            }
        }
        return changed;
    }

    private PreviewReply preview(long mara, long intake) {
        comparing.compare(mara, intake, Progress.UNWATCHED);
        return Objects.requireNonNull(previews.preview(mara, intake, false).preview());
    }

    private static Map<ChangeKind, Map<Choice, Integer>> done(PreviewReply reply) {
        Map<ChangeKind, Map<Choice, Integer>> done = new EnumMap<>(ChangeKind.class);
        reply.groups().forEach(group -> done.put(group.kind(), group.chosen()));
        // Texts that come along with an entry are counted in its line, and by themselves in the report.
        done.remove(ChangeKind.TEXTS_ADDED);
        return done;
    }

    /** What the record says of every entry that is there, with its version left out. */
    private Map<Long, String> record() {
        Map<Long, String> record = new HashMap<>();
        jdbc.sql(
                        """
                        select e.id, concat_ws('|', e.key, e.source, e.note, e.reference, e.section, e.max_length, e.removed_at is null,
                            (select string_agg(concat_ws(':', c.language_id, c.text, c.standing, c.open_offers), ',' order by c.language_id) from cell c where c.entry_id = e.id)) said
                        from entry e where e.removed_at is null
                        """)
                .query((RowCallbackHandler) row -> record.put(row.getLong(1), row.getString(2)));
        return record;
    }

    private int ask(String sql) {
        return ledger.ask(Integer.class, sql);
    }

    @ParameterizedTest
    @CsvSource({
        "csv,1",
        "csv,2",
        "po,3",
        "po,4",
        "xliff-1.2,5",
        "xliff-2,6",
        "po,7",
        "csv,8",
        "xliff-1.2,9",
        "po,10",
        "xliff-2,11",
        "csv,12",
        "po,13",
        "xliff-1.2,14",
        "po,15"
    })
    void theyAgree(String format, long seed) throws IOException {
        Random random = new Random(seed);
        long mara = ledger.coordinator("mara");
        List<FileEntry> was = first();
        String name = "Ramp." + (format.startsWith("xliff") ? "xlf" : format);
        ledger.takeIn(mara, "Ramp", name, file(format, was), Arrival.SETTLED);
        ledger.allowOwn("Ramp", "de");
        for (int i = 0; i < 5; i++) {
            int at = random.nextInt(was.size());
            ledger.change(
                    mara,
                    was.get(at).key(),
                    "de",
                    CellChange.text(
                            Action.PUT_FORWARD,
                            ask(
                                    "select coalesce(max(c.version), 0) from cell c join entry e on e.id = c.entry_id where e.key = '"
                                            + was.get(at).key()
                                            + "' and c.language_id = (select id from language where tag = 'de')"),
                            "Hier " + i + (at % 3 == 0 ? " {0}" : "")));
        }
        List<FileEntry> now = changed(was, random);
        long intake = intakes.upload(mara, name, file(format, now));
        PreviewReply seen = preview(mara, intake);
        for (int i = 0; i < 6 && !seen.groups().isEmpty(); i++) {
            Group group = seen.groups().get(random.nextInt(seen.groups().size()));
            Choice choice = group.choices().get(random.nextInt(group.choices().size()));
            List<Integer> lines = random.nextBoolean() ? null : List.of(random.nextInt(group.count()));
            previews.choose(mara, intake, new ChoiceRequest(group.kind(), choice, lines, null));
            seen = preview(mara, intake);
        }
        Map<Long, String> before = record();
        int offers = ask("select count(*) from offer where answer = 0");
        intakes.apply(mara, intake, Progress.UNWATCHED);
        PreviewReply report =
                Objects.requireNonNull(replies.reply(mara, intake).done().report());
        assertThat(done(report)).isEqualTo(done(seen));
        assertThat(report.arrivals().settled())
                .as("settled")
                .isEqualTo(seen.arrivals().settled());
        assertThat(report.arrivals().offered())
                .as("offered")
                .isEqualTo(seen.arrivals().offered());
        assertThat(report.arrivals().pencilled())
                .as("pencilled")
                .isEqualTo(seen.arrivals().pencilled());
        assertThat(report.stale()).as("stale").isEqualTo(seen.stale());
        assertThat(seen.unchanged()).as("unchanged").isBetween(0, report.unchanged());
        Map<Long, String> after = record();
        Set<String> inFile = new HashSet<>();
        now.forEach(entry -> inFile.add(entry.key()));
        long same = before.entrySet().stream()
                .filter(entry -> entry.getValue().equals(after.get(entry.getKey()))
                        && inFile.contains(
                                entry.getValue().substring(0, entry.getValue().indexOf('|'))))
                .count();
        assertThat((long) report.unchanged()).as("unchanged in truth").isEqualTo(same);
        // An offer of one's own that was open gives way to the newer one.
        assertThat(ask("select count(*) from offer where intake_id = " + intake))
                .isEqualTo(report.arrivals().offered());
        assertThat(ask("select count(*) from offer where answer = 0") - offers)
                .isLessThanOrEqualTo(report.arrivals().offered());
        int stale = report.stale().values().stream().mapToInt(Integer::intValue).sum();
        assertThat(ask(STALE)).isGreaterThanOrEqualTo(stale);
        assertThat(replies.reply(mara, intakes.upload(mara, name, file(format, now)))
                        .reading())
                .isNotNull();
    }
}
