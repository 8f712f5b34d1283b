package mellow.server.architecture;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.MatchResult;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Every table of the database is written by one package; reading across is fine. */
class OwnersTest {

    private static final Path CODE = Path.of("src/main/java/mellow/server");
    private static final Path MIGRATIONS = Path.of("src/main/resources/db/migration");

    private static final Pattern MADE = Pattern.compile("create (?:unlogged )?table (?:if not exists )?(\\w+)");
    private static final Pattern GONE = Pattern.compile("drop table (?:if exists )?(\\w+)");
    private static final Pattern WRITTEN = Pattern.compile(
            "(?:insert into|update|delete from|merge into|truncate(?: table)?|CopyFile\\(\\s*\")\\s*\"?\\s*(\\w+)");
    private static final Pattern ENTITY =
            Pattern.compile("@Entity\\s(?:@(?!Immutable)\\w+(?:\\([^)]*\\))?\\s)*(?:final )?class (\\w+)");
    private static final Pattern NAMED = Pattern.compile("@Table\\(name = \"(\\w+)\"\\)");

    /** Bulk changes and stories are the record's own; single edits of cells and entries go through entities, with optimistic versions, where these are. */
    private static final Map<String, String> ENTITIES_ELSEWHERE =
            Map.of("cell", "cell", "offer", "cell", "entry", "entry");

    private final Map<String, Set<String>> bySql = new TreeMap<>();
    private final Map<String, Set<String>> byEntity = new TreeMap<>();

    OwnersTest() throws IOException {
        Set<String> tables = tables();
        for (Path file : files(CODE, ".java")) {
            String code = Files.readString(file);
            String feature = CODE.relativize(file).getName(0).toString();
            Matcher written = WRITTEN.matcher(code);
            while (written.find()) {
                if (tables.contains(written.group(1))) {
                    bySql.computeIfAbsent(written.group(1), table -> new TreeSet<>())
                            .add(feature);
                }
            }
            Matcher entity = ENTITY.matcher(code);
            if (entity.find()) {
                Matcher named = NAMED.matcher(code);
                String table = named.find()
                        ? named.group(1)
                        : entity.group(1).replaceAll("(?<=[a-z])(?=[A-Z])", "_").toLowerCase(Locale.ROOT);
                byEntity.computeIfAbsent(table, any -> new TreeSet<>()).add(feature);
            }
        }
    }

    private static Set<String> tables() throws IOException {
        Set<String> tables = new TreeSet<>();
        for (Path file : files(MIGRATIONS, ".sql")) {
            String sql = Files.readString(file);
            MADE.matcher(sql).results().forEach(made -> tables.add(made.group(1)));
            GONE.matcher(sql).results().forEach(gone -> tables.remove(gone.group(1)));
        }
        return tables;
    }

    private static List<Path> files(Path in, String ending) throws IOException {
        try (Stream<Path> all = Files.walk(in)) {
            return all.filter(path -> path.toString().endsWith(ending)).sorted().toList();
        }
    }

    @Test
    void sqlOfOnePackageWritesATable() {
        assertThat(bySql).isNotEmpty().allSatisfy((table, features) -> assertThat(features)
                .as("packages whose SQL writes %s", table)
                .hasSize(1));
    }

    @Test
    void entitiesLieWhereTheirTablesAreWritten() {
        assertThat(byEntity).isNotEmpty().allSatisfy((table, features) -> {
            assertThat(features).as("packages with an entity of %s", table).hasSize(1);
            assertThat(features.iterator().next())
                    .as("the entity of %s", table)
                    .isEqualTo(ENTITIES_ELSEWHERE.getOrDefault(
                            table,
                            bySql.getOrDefault(table, features).iterator().next()));
        });
    }

    @Test
    void theRecordAloneWritesCellsEntriesAndStories() {
        for (String table : List.of(
                "cell",
                "entry",
                "offer",
                "cell_story",
                "entry_story",
                "intake_entry",
                "intake_cell_was",
                "intake_entry_was")) {
            assertThat(bySql.get(table)).as(table).containsExactly("record");
        }
    }

    /** Numbers of coded columns are said by name; only the audit, which trusts nobody, says them by itself. */
    @Test
    void codesAreSaidByName() throws IOException {
        Pattern digits = Pattern.compile("\\b(state|standing|answer)\\s*(=|<>|in|not in)\\s*\\(?[0-9]");
        for (Path file : files(CODE, ".java")) {
            if (!file.startsWith(CODE.resolve("audit"))) {
                assertThat(digits.matcher(Files.readString(file)).results().map(MatchResult::group))
                        .as(file.toString())
                        .isEmpty();
            }
        }
    }
}
