package mellow.server.architecture;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.assertj.core.api.SoftAssertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Every package says truly which others it uses, and the picture in the docs shows it. {@code -Dmellow.architecture.write=true} draws it anew. */
class ModulesTest {

    private static final Path PICTURE = Path.of("../docs/architecture.svg");

    @ParameterizedTest
    @ValueSource(strings = {"mellow.core", "mellow.server"})
    void everyPackageSaysWhatItUses(String root) {
        Modules modules = new Modules(root);
        Map<String, Set<String>> said = modules.said();
        SoftAssertions softly = new SoftAssertions();
        modules.used().forEach((name, used) -> softly.assertThat(said.get(name))
                .as("what %s.%s says it uses", root, name)
                .isEqualTo(used));
        softly.assertAll();
    }

    @Test
    void thePictureShowsThePackages() throws IOException {
        String picture = Picture.draw(new TreeMap<>(Map.of(
                "core", together(new Modules("mellow.core").used()),
                "server", together(new Modules("mellow.server").used()))));
        if (Boolean.getBoolean("mellow.architecture.write")) {
            Files.writeString(PICTURE, picture);
        }
        assertThat(Files.readString(PICTURE)).isEqualTo(picture);
    }

    /** The same with the packages of one feature as one: the formats are many and alike. */
    private static Map<String, Set<String>> together(Map<String, Set<String>> used) {
        Map<String, Set<String>> together = new TreeMap<>();
        used.forEach((from, others) -> others.forEach(to -> {
            if (!first(from).equals(first(to))) {
                together.computeIfAbsent(first(from), any -> new TreeSet<>()).add(first(to));
            }
        }));
        used.keySet().forEach(from -> together.computeIfAbsent(first(from), any -> new TreeSet<>()));
        return together;
    }

    private static String first(String name) {
        return name.split("\\.")[0];
    }
}
