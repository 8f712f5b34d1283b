package mellow.core.set;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import mellow.core.language.LanguageTag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Which files are one table: the cases of {@code sets.cases}, and what the ledger knows from before. */
class FileSetsTest {

    record Case(String rule, List<String> files, List<String> expected) {
        @Override
        public String toString() {
            return rule;
        }
    }

    static List<Case> cases() throws IOException {
        try (InputStream in = FileSetsTest.class.getResourceAsStream("sets.cases")) {
            String text = new String(in.readAllBytes(), StandardCharsets.UTF_8);
            List<Case> cases = new ArrayList<>();
            for (String one : text.split("(?m)^== ")) {
                if (!one.startsWith("#")) {
                    List<String> lines =
                            one.lines().filter(line -> !line.isBlank()).toList();
                    int arrow = lines.indexOf("->");
                    cases.add(new Case(lines.get(0), lines.subList(1, arrow), lines.subList(arrow + 1, lines.size())));
                }
            }
            return cases;
        }
    }

    @ParameterizedTest
    @MethodSource("cases")
    void filesAreSorted(Case one) {
        List<FileFacts> facts = one.files.stream().map(SetFiles::facts).toList();
        assertThat(said(FileSets.of(facts, List.of(), (path, table) -> true))).isEqualTo(one.expected);
    }

    @ParameterizedTest
    @MethodSource("cases")
    void theOrderInWhichFilesComeDoesNotMatter(Case one) {
        List<FileFacts> facts =
                new ArrayList<>(one.files.stream().map(SetFiles::facts).toList());
        Collections.reverse(facts);
        assertThat(said(FileSets.of(facts, List.of(), (path, table) -> true))).isEqualTo(one.expected);
    }

    private static List<String> said(FileSets.Sorted sorted) {
        List<String> said = new ArrayList<>();
        for (FileSet set : sorted.sets()) {
            said.add(set.pattern() + " | " + set.name() + " | " + set.source().language() + ", "
                    + set.source().evidence() + " | "
                    + set.members().stream()
                            .map(member ->
                                    member.language().map(LanguageTag::value).orElse("?") + "=" + member.path())
                            .collect(Collectors.joining(" ")));
        }
        sorted.apart().forEach(file -> said.add("apart " + file.path() + " " + file.why()));
        return said;
    }

    private static KnownFile known(String path, long table, String language) {
        return new KnownFile(path, table, new LanguageTag("en"), Optional.of(new LanguageTag(language)));
    }

    private static FileSets.Sorted sort(List<KnownFile> before, FileSets.Belonging belonging, String... files) {
        return FileSets.of(List.of(files).stream().map(SetFiles::facts).toList(), before, belonging);
    }

    private static final List<KnownFile> LOCALES = List.of(known("l/en.yml", 7, "en"), known("l/de.yml", 7, "de"));

    @Test
    void newEditionsGoWhereTheirPathsWent() {
        FileSet set = sort(LOCALES, (path, table) -> true, "l/en.yml yaml lang=en a..d", "l/de.yml yaml lang=de a..d")
                .sets()
                .get(0);
        assertThat(set.table()).isEqualTo(7);
        assertThat(set.source())
                .isEqualTo(new FileSet.Source(new LanguageTag("en"), Optional.of("l/en.yml"), FileSet.Evidence.TABLE));
    }

    @Test
    void aLanguageMoreJoinsTheTableOfItsSiblings() {
        FileSet set = sort(LOCALES, (path, table) -> true, "l/cy.yml yaml lang=cy a..d")
                .sets()
                .get(0);
        assertThat(set.table()).isEqualTo(7);
        assertThat(set.members())
                .containsExactly(new FileSet.Member("l/cy.yml", Optional.of(new LanguageTag("cy")), "cy"));
    }

    @Test
    void anotherProductsPathOfTheSameNameIsAnotherTable() {
        FileSet set = sort(LOCALES, (path, table) -> false, "l/en.yml yaml lang=en p..t", "l/de.yml yaml lang=de p..t")
                .sets()
                .get(0);
        assertThat(set.table()).isNull();
    }

    @Test
    void ofTwoTablesFedFromTheSamePathsTheOneWithTheKeysIsMeant() {
        List<KnownFile> both = new ArrayList<>(LOCALES);
        both.add(known("l/en.yml", 8, "en"));
        both.add(known("l/de.yml", 8, "de"));
        assertThat(sort(both, (path, table) -> table == 7, "l/de.yml yaml lang=de a..d")
                        .sets()
                        .get(0)
                        .table())
                .isEqualTo(7);
    }

    @Test
    void aFileWithoutALanguageThatWasTakenInBeforeIsNoStranger() {
        FileSets.Sorted sorted = sort(
                List.of(new KnownFile("deck.json", 3, new LanguageTag("en"), Optional.of(new LanguageTag("en")))),
                (path, table) -> true,
                "deck.json json a..d",
                "other.json json p..t");
        assertThat(sorted.sets()).extracting(FileSet::table).containsExactly(3L);
        assertThat(sorted.apart()).extracting(Apart::path).containsExactly("other.json");
    }
}
