package mellow.core.merge;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import mellow.core.cell.Standing;
import mellow.core.check.Ground;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.format.FormRows;
import mellow.core.format.KeyHabit;
import mellow.core.format.ReadOptions;
import mellow.core.format.StandardRules;
import mellow.core.format.WholeRecord;
import mellow.core.format.registry.Formats;
import mellow.core.format.registry.Losses;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Intake of the ledger's own unchanged exports, of other languages' files and of the same file again, in any order, changes nothing. */
class HistoriesTest {

    private static final List<String> FORMATS =
            Formats.all().stream().map(FileFormat::name).toList();
    private static final List<LanguageTag> LANGUAGES =
            WholeRecord.LANGUAGES.stream().map(LanguageTag::new).toList();

    /** Everything that the record says, in all languages. */
    private final List<RecordEntry> record = record();

    private static List<RecordEntry> record() {
        Map<LanguageTag, List<FileEntry>> files = new LinkedHashMap<>();
        LANGUAGES.forEach(tag -> files.put(tag, new WholeRecord(tag).entries()));
        List<RecordEntry> record = new ArrayList<>();
        List<FileEntry> first = files.get(LANGUAGES.get(0));
        for (int i = 0; i < first.size(); i++) {
            FileEntry entry = first.get(i);
            Map<LanguageTag, RecordCell> cells = new HashMap<>();
            int at = i;
            files.forEach((tag, entries) -> {
                FileText text = entries.get(at).texts().get(1);
                boolean pencilled =
                        text.state().filter(FileState.PENCILLED::equals).isPresent();
                if (!text.isEmpty()) {
                    cells.put(
                            tag,
                            new RecordCell(
                                    FileText.of(text.forms()),
                                    pencilled ? Standing.PENCILLED : Standing.SETTLED,
                                    1,
                                    false,
                                    at % 11 == 6,
                                    new RecordCell.Waiting(0, FileText.NONE)));
                }
            });
            record.add(new RecordEntry(
                    i + 1,
                    i + 1,
                    entry.id(),
                    new RecordEntry.Source(
                            entry.shape(), FileText.of(entry.texts().get(0).forms()), new Revisions(1, 1), 1),
                    new RecordEntry.About(
                            entry.note(),
                            entry.reference(),
                            entry.section(),
                            entry.maxLength(),
                            0,
                            entry.translatable()),
                    cells));
        }
        return record;
    }

    private EntryList export(LanguageTag tag) {
        List<FileEntry> entries = new ArrayList<>();
        for (RecordEntry entry : record) {
            RecordCell cell = entry.cell(tag);
            // As texts are sent out: what went stale is no more sure than what nobody settled.
            FileState state =
                    cell.standing() == Standing.PENCILLED || cell.stale() ? FileState.PENCILLED : FileState.SETTLED;
            entries.add(FileEntry.of(entry.entryId().key())
                    .context(entry.entryId().context())
                    .shape(entry.shape())
                    .note(entry.note())
                    .reference(entry.reference())
                    .section(entry.section())
                    .maxLength(entry.maxLength())
                    .translatable(entry.translatable())
                    .texts(List.of(
                            entry.source(),
                            cell.text().isEmpty() ? FileText.NONE : cell.text().in(state)))
                    .build());
        }
        return EntryList.of(Optional.of(WholeRecord.ENGLISH), List.of(WholeRecord.ENGLISH, tag), entries);
    }

    private FileReading file(String name, LanguageTag tag) throws IOException {
        FileFormat format = Formats.named(name).orElseThrow();
        EntryList all = export(tag);
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        format.write(Losses.writable(format, all), out);
        StandardRules.check(name, out.toByteArray());
        return FormRows.of(
                format.read(
                        "t",
                        out.toByteArray(),
                        ReadOptions.AUTOMATIC.from(WholeRecord.ENGLISH).in(tag)),
                WholeRecord.formed(all));
    }

    private List<Change> compare(FileReading now, FileReading before) {
        Map<LanguageTag, Arrival> arrivals =
                LANGUAGES.stream().collect(Collectors.toMap(tag -> tag, tag -> Arrival.SETTLED));
        Terms terms = new Terms(
                WholeRecord.ENGLISH,
                arrivals,
                new Terms.May(Set.of(), Set.copyOf(LANGUAGES), true),
                // Files without what nobody translated, or without what the format refuses, cover a part.
                false,
                Set.of(),
                Choices.NONE,
                tag -> Ground.of(WholeRecord.ENGLISH, tag));
        Comparison comparison = new Comparison(now, before, terms);
        List<Change> told = new ArrayList<>();
        record.forEach(entry -> comparison.compare(entry, told::add));
        comparison.rest(told::add);
        return told;
    }

    private static String shown(Change change) {
        return change.kind() + " " + change.id().key() + " " + change.before().forms() + " -> "
                + change.after().forms();
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4})
    void nothingIsChanged(long seed) throws IOException {
        Random random = new Random(seed);
        Map<String, FileReading> bases = new HashMap<>();
        for (int round = 0; round < 60; round++) {
            String format = FORMATS.get(random.nextInt(FORMATS.size()));
            LanguageTag tag = LANGUAGES.get(random.nextInt(LANGUAGES.size()));
            // The same path may hold another format or another language the next time, as when people name files alike.
            String path = random.nextInt(3) == 0 ? "texts" : format + " " + tag;
            FileReading now = file(format, tag);
            List<Change> changes = compare(now, bases.get(path));
            changes.removeIf(change -> change.choice() == Choice.KEEP);
            assertThat(changes.stream().map(HistoriesTest::shown))
                    .as("%s %s after %s", format, tag, path)
                    .isEmpty();
            bases.put(path, now);
            assertThat(compare(now, now).stream().map(HistoriesTest::shown))
                    .as("%s %s again", format, tag)
                    .isEmpty();
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"csv", "xlsx", "ods", "tmx", "tbx", "xliff-1.2", "xliff-2", "ledger-json"})
    void thePathOfAnAssetIsNoNewEntry(String format) throws IOException {
        RecordEntry mine = record.get(0);
        RecordEntry asset = new RecordEntry(
                mine.id(),
                1,
                mine.entryId(),
                new RecordEntry.Source(Shape.ASSET, FileText.plain("harbour.svg"), new Revisions(1, 1), 1),
                new RecordEntry.About("", "", "", 0, 0, true),
                Map.of());
        record.clear();
        record.add(asset);
        assertThat(compare(file(format, LANGUAGES.get(0)), null).stream().map(HistoriesTest::shown))
                .isEmpty();
    }

    @ParameterizedTest
    @ValueSource(strings = {"note", "limit", "section", "reference"})
    void aFieldIsTakenKeptOrShown(String field) throws IOException {
        FileReading before = described(field, "1");
        RecordEntry mine = record.get(0);
        record.set(0, with(mine, field, "1"));
        assertThat(kinds(described(field, "2"), before)).containsExactly(ChangeKind.DESCRIPTIONS);
        assertThat(kinds(described(field, ""), before)).containsExactly(ChangeKind.DESCRIPTIONS);
        record.set(0, with(mine, field, "3"));
        assertThat(kinds(before, before)).isEmpty();
        assertThat(kinds(described(field, "2"), before)).containsExactly(ChangeKind.DESCRIPTION_CONFLICTS);
        assertThat(kinds(described(field, "3"), before)).isEmpty();
        assertThat(kinds(described(field, ""), null)).as("never had it").isEmpty();
        assertThat(kinds(described(field, "2"), null)).containsExactly(ChangeKind.DESCRIPTION_CONFLICTS);
        record.set(0, with(mine, field, ""));
        assertThat(kinds(described(field, "2"), null)).containsExactly(ChangeKind.DESCRIPTIONS);
        assertThat(kinds(file("json", LANGUAGES.get(0)), before))
                .as("a format that holds none")
                .doesNotContain(ChangeKind.DESCRIPTIONS, ChangeKind.DESCRIPTION_CONFLICTS);
    }

    private List<ChangeKind> kinds(FileReading now, FileReading before) {
        return compare(now, before).stream().map(Change::kind).toList();
    }

    private static RecordEntry with(RecordEntry entry, String field, String value) {
        return new RecordEntry(
                entry.id(),
                entry.position(),
                entry.entryId(),
                new RecordEntry.Source(entry.shape(), entry.source(), new Revisions(1, 1), 1),
                new RecordEntry.About(
                        field.equals("note") ? value : "",
                        field.equals("reference") ? value : "",
                        field.equals("section") ? value : "",
                        field.equals("limit") && !value.isEmpty() ? 100 + Integer.parseInt(value) : 0,
                        0,
                        true),
                entry.cells());
    }

    private FileReading described(String field, String value) throws IOException {
        RecordEntry only = with(record.get(0), field, value);
        RecordCell cell = only.cell(LANGUAGES.get(0));
        FileEntry entry = FileEntry.of(only.entryId().key())
                .note(only.note())
                .reference(only.reference())
                .section(only.section())
                .maxLength(only.maxLength())
                .texts(List.of(only.source(), cell.text().in(FileState.PENCILLED)))
                .build();
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        FileFormat format = Formats.named("xliff-1.2").orElseThrow();
        format.write(
                EntryList.of(
                        Optional.of(WholeRecord.ENGLISH),
                        List.of(WholeRecord.ENGLISH, LANGUAGES.get(0)),
                        List.of(entry)),
                out);
        return format.read("t", out.toByteArray(), ReadOptions.AUTOMATIC.by(KeyHabit.CONTEXT));
    }
}
