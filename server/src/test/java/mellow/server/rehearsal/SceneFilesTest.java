package mellow.server.rehearsal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import javax.imageio.ImageIO;
import mellow.core.format.Limits;
import mellow.core.format.Problems;
import mellow.core.scene.Scene;
import mellow.core.scene.SceneReader;
import org.junit.jupiter.api.Test;

/** What counts as a scene among the files that people bring. */
class SceneFilesTest {

    private static final String DRAWING =
            "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 9 9\"><text x=\"1\" y=\"8\">#a#</text></svg>";

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    private static byte[] picture(String format) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        ImageIO.write(new BufferedImage(40, 30, BufferedImage.TYPE_INT_RGB), format, out);
        return out.toByteArray();
    }

    private static byte[] zip(Map<String, byte[]> files) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            for (Map.Entry<String, byte[]> file : files.entrySet()) {
                zip.putNextEntry(new ZipEntry(file.getKey()));
                zip.write(file.getValue());
            }
        }
        return out.toByteArray();
    }

    private static Scene read(SceneFile file) {
        return SceneReader.read(file.drawing(), Limits.DEFAULT, new Problems(file.name()));
    }

    @Test
    void aPictureIsADrawingOfItsSizeOnWhichPlacesCanBeMarked() throws IOException {
        for (String format : List.of("png", "jpg")) {
            SceneFile file = SceneFile.in("Map view." + format, picture(format)).get(0);
            assertThat(file.name()).isEqualTo("Map view");
            Scene scene = read(file);
            assertThat(scene.picture()).isTrue();
            assertThat(scene.width()).isEqualTo(40);
            assertThat(scene.height()).isEqualTo(30);
            assertThat(scene.drawing()).contains("data-picture=\"marked\"").contains("href=\"data:image/");
        }
    }

    @Test
    void anArchiveHasAsManyScenesAsFilesWithoutTheirFolders() throws IOException {
        Map<String, byte[]> files = new LinkedHashMap<>();
        files.put("panel/", new byte[0]);
        files.put("panel/Bow ramp.svg", bytes(DRAWING));
        files.put("panel/Stern.PNG", picture("png"));
        files.put("__MACOSX/panel/._Stern.PNG", bytes("x"));
        files.put(".DS_Store", bytes("x"));
        assertThat(SceneFile.in("scenes.zip", zip(files)))
                .extracting(SceneFile::name)
                .containsExactly("Bow ramp", "Stern");
    }

    @Test
    void whatIsNoSceneStopsTheWholeArchive() throws IOException {
        Map<String, Map<String, byte[]>> refused = Map.of(
                "notes.txt", Map.of("a.svg", bytes(DRAWING), "notes.txt", bytes("hello")),
                "two files for the scene", Map.of("x/A.svg", bytes(DRAWING), "y/a.svg", bytes(DRAWING)),
                "names inside the archive", Map.of("../a.svg", bytes(DRAWING)),
                "1 to 200 characters", Map.of("x/.svg", bytes(DRAWING)));
        for (Map.Entry<String, Map<String, byte[]>> one : refused.entrySet()) {
            assertThatThrownBy(() -> SceneFile.in("scenes.zip", zip(one.getValue())))
                    .as(one.getKey())
                    .hasMessageContaining(one.getKey());
        }
        assertThatThrownBy(() -> SceneFile.in("scenes.zip", zip(Map.of("x/", new byte[0]))))
                .hasMessageContaining("has 1 to 200 drawings");
        byte[] cut = zip(Map.of("a.svg", bytes(DRAWING)));
        assertThatThrownBy(() -> SceneFile.in("scenes.zip", Arrays.copyOf(cut, cut.length / 2)))
                .hasMessageContaining("damaged or cut off");
    }

    @Test
    void aPictureThatIsBrokenOrTooLargeIsRefused() throws IOException {
        byte[] whole = picture("png");
        byte[] broken = Arrays.copyOf(whole, 20);
        assertThatThrownBy(() -> SceneFile.in("a.png", broken)).hasMessageContaining("broken");
        assertThatThrownBy(() -> SceneFile.in("a.svg", new byte[SceneService.LARGEST_BYTES + 1]))
                .hasMessageContaining("4 MB");
        for (String name : List.of(" ", ".png", "x".repeat(201), "a\0b")) {
            assertThatThrownBy(() -> SceneFile.in(name, bytes(DRAWING))).hasMessageContaining("1 to 200 characters");
        }
    }
}
