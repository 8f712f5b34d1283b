package mellow.server.common;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** What is refused, in words that a client can say in another language. */
class RefusalTest {

    /** A sentence of words and values put together in the code: a client that says it otherwise would lack the values. */
    private static final Pattern PUT_TOGETHER =
            Pattern.compile("Refusal\\s*\\.\\w+\\(\\s*\"[\\w-]+\",\\s*\"[^\"]*\"\\s*\\+\\s*[a-zA-Z(]");

    @Test
    void aSentenceIsFilledByItsDetails() {
        Refusal refusal =
                Refusal.notFound("no-such-table", "There is no table “{table}”.", Map.of("table", "Bridge {table}"));
        assertThat(refusal).hasMessage("There is no table “Bridge {table}”.");
        assertThat(refusal.details()).containsEntry("table", "Bridge {table}");
    }

    @Test
    void noSentenceHasItsValuesInTheWords() throws IOException {
        List<String> found = new ArrayList<>();
        try (Stream<Path> files = Files.walk(Path.of("src/main/java"))) {
            for (Path file :
                    files.filter(one -> one.toString().endsWith(".java")).toList()) {
                Matcher refusal = PUT_TOGETHER.matcher(Files.readString(file));
                while (refusal.find()) {
                    found.add(file.getFileName() + ": " + refusal.group());
                }
            }
        }
        // Where an endpoint says what only a coordinator can do, the code alone says enough.
        assertThat(found).allMatch(one -> one.matches("(?s)(Rights|Reading|JsonTexts|TextRules)\\.java.*"));
    }
}
