package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Base64;
import java.util.List;
import mellow.core.fit.Face;
import mellow.core.fit.FontFile;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.jdbc.core.simple.JdbcClient;

/** The server says of every text how wide it is as a browser draws it. */
class WidthsTest {

    /** All texts of the demo in one line each. */
    private static final String TEXTS =
            """
            select text from (select source text from entry union select text from cell) t
            where text is not null and text <> '' and text !~ '[\\n\\r\\t]' order by 1
            """;

    private static final String MEASURED =
            """
            const [font, size, texts] = arguments, done = arguments[arguments.length - 1];
            const bytes = Uint8Array.from(atob(font), (one) => one.charCodeAt(0));
            new FontFace("measured", bytes.buffer).load().then((face) => {
              document.fonts.add(face);
              const place = document.createElement("div");
              place.style.cssText = `position:absolute;white-space:pre;text-rendering:geometricPrecision;font:${size}px measured`;
              const lines = texts.map((text) => {
                const line = document.createElement("span");
                line.textContent = text;
                line.style.cssText = "position:absolute;unicode-bidi:isolate";
                return line;
              });
              place.append(...lines);
              document.body.append(place);
              const widths = lines.map((line) => line.getBoundingClientRect().width);
              place.remove();
              done(widths);
            }, (failed) => done(String(failed)));
            """;

    private final JdbcClient jdbc = DemoServer.part(JdbcClient.class);

    /** Kerned Latin letters of the demo's own font, and the joined letters and marks of a font that Debian's fontconfig brings. */
    @ParameterizedTest
    @CsvSource({
        "../demo/ramp-panel.ttf, 12, 200",
        "../demo/ramp-panel.ttf, 22.5, 200",
        "/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf, 16, 400"
    })
    void theServerAndTheBrowserAgreeWithinAPixel(String path, float size, int atLeast) throws Exception {
        byte[] bytes = Files.readAllBytes(Path.of(path));
        Face face = Face.of("measured", FontFile.read(bytes), size);
        List<String> texts = jdbc.sql(TEXTS).query(String.class).list().stream()
                .filter(text -> face.lacking(text).isEmpty())
                .toList();
        assertThat(texts).as("texts that the font has all letters of").hasSizeGreaterThan(atLeast);
        try (Browser browser = DemoServer.browse()) {
            browser.go("/");
            Object measured = browser.later(MEASURED, Base64.getEncoder().encodeToString(bytes), size, texts);
            assertThat(measured).isInstanceOf(List.class);
            List<?> widths = (List<?>) measured;
            for (int i = 0; i < texts.size(); i++) {
                assertThat(face.width(texts.get(i)))
                        .as(texts.get(i))
                        .isBetween(
                                ((Number) widths.get(i)).doubleValue() - 1, ((Number) widths.get(i)).doubleValue() + 1);
            }
        }
    }
}
