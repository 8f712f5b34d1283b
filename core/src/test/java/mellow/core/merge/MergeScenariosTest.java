package mellow.core.merge;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import mellow.core.format.EntryId;
import mellow.core.format.FileReading;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.TestFactory;

/** The tables of record.md as stories of a file, each told in CSV, PO and XLIFF. */
class MergeScenariosTest {

    private static final List<String> FORMATS = List.of("csv", "po", "xliff-1.2");

    @TestFactory
    Stream<DynamicTest> scenarios() throws IOException {
        return read().stream().flatMap(scenario -> FORMATS.stream()
                .filter(scenario::in)
                .map(format -> DynamicTest.dynamicTest(format + ": " + scenario.name, () -> scenario.run(format))));
    }

    private static List<Scenario> read() throws IOException {
        List<Scenario> all = new ArrayList<>();
        try (InputStream in = MergeScenariosTest.class.getResourceAsStream("scenarios.txt")) {
            String text = new String(in.readAllBytes(), StandardCharsets.UTF_8);
            for (String block : text.split("\n\n+")) {
                Scenario scenario = new Scenario();
                block.lines().filter(line -> !line.startsWith("#")).forEach(scenario::line);
                if (!scenario.name.isEmpty()) {
                    all.add(scenario);
                }
            }
        }
        return all;
    }

    private static final class Scenario {
        private String name = "";
        private String only = "";
        private boolean hasBase = true;
        private final Map<Character, List<String>> sides = new LinkedHashMap<>();
        private final List<String> expected = new ArrayList<>();

        void line(String line) {
            if (name.isEmpty()) {
                name = line;
            } else if (line.startsWith("only ")) {
                only = line;
            } else if (line.equals("B -")) {
                hasBase = false;
            } else if (line.startsWith("= ")) {
                expected.add(line.substring(2));
            } else {
                sides.computeIfAbsent(line.charAt(0), side -> new ArrayList<>()).add(line.substring(2));
            }
        }

        boolean in(String format) {
            return only.isEmpty() || only.contains(format.substring(0, Math.min(2, format.length())));
        }

        void run(String format) {
            List<String> base = sides.getOrDefault('B', List.of());
            FileReading before = hasBase ? MergeFiles.file(format, base) : null;
            FileReading now = MergeFiles.file(format, sides.getOrDefault('T', List.of()));
            MergeRecord record = MergeRecord.of(sides.getOrDefault('M', base));
            assertThat(found(before, now, record)).isEqualTo(expected);
        }

        private static List<String> found(@Nullable FileReading before, FileReading now, MergeRecord record) {
            Set<EntryId> removed = new HashSet<>();
            if (before != null) {
                for (int i = 0; i < before.size(); i++) {
                    removed.add(before.id(i));
                }
                record.entries().forEach(entry -> removed.remove(entry.entryId()));
            }
            List<String> told = new ArrayList<>();
            record.compare(now, before, removed, Choices.NONE, change -> told.add(told(change)));
            return told;
        }

        private static String told(Change change) {
            String words = change.kind() + " " + change.id().key() + " " + change.choice();
            if (change.arrives() != null) {
                words += " " + change.arrives();
            }
            boolean moved = change.entry() != null
                    && change.file() != null
                    && !change.file().texts().get(0).says(change.entry().source());
            return change.arrives() != null && moved ? words + (change.current() ? " current" : " older") : words;
        }
    }
}
