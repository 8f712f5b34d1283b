package mellow.server.rehearsal;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import mellow.core.format.Limits;
import mellow.core.format.Problems;
import mellow.core.format.archive.Archive;
import mellow.core.scene.ScenePicture;
import mellow.server.common.Refusal;
import mellow.server.file.Pictures;
import mellow.server.file.Pictures.Picture;

/**
 * A scene as it comes in.
 *
 * @param name what it is called
 * @param drawing SVG
 */
record SceneFile(String name, byte[] drawing) {

    private static final int LONGEST_NAME = 200;
    private static final int MOST_SCENES = 200;
    private static final Pattern ENDING = Pattern.compile("(?i)\\.(?:svg|png|jpe?g|webp)$");
    private static final Limits ARCHIVE = new Limits(100L * 1024 * 1024, 1, 1, 1);

    /** The name in small letters, which no two scenes of a product share. */
    String lower() {
        return SceneService.lower(name);
    }

    /**
     * The scenes in a file.
     *
     * @param name of the file, or what its one scene is called
     * @param file a drawing, a picture, or an archive of them
     */
    static List<SceneFile> in(String name, byte[] file) {
        if (!startsWith(file, "PK\3\4")) {
            return List.of(of(name, file));
        }
        Archive archive = Archive.read(file, ARCHIVE, new Problems(name));
        List<SceneFile> scenes = new ArrayList<>();
        Set<String> names = new HashSet<>();
        for (String path : archive.names()) {
            if (path.endsWith("/") || Archive.beside(path)) {
                continue;
            }
            if (!ENDING.matcher(path).find()) {
                throw Refusal.unacceptable(
                        "no-scene",
                        "The archive has {file}, which is neither a drawing (SVG) nor a picture (PNG, JPEG, WebP); take it out.",
                        Map.of("file", path));
            }
            SceneFile one = of(
                    path.substring(path.lastIndexOf('/') + 1),
                    archive.part(path).orElseThrow());
            if (!names.add(one.lower())) {
                throw Refusal.unacceptable(
                        "scene-twice",
                        "The archive has two files for the scene “{name}”; give one of them another name.",
                        Map.of("name", one.name));
            }
            scenes.add(one);
        }
        if (scenes.isEmpty() || scenes.size() > MOST_SCENES) {
            throw Refusal.unacceptable(
                    "no-scenes",
                    "An archive of scenes has 1 to {most} drawings or pictures; this one has {n}.",
                    Map.of("most", MOST_SCENES, "n", scenes.size()));
        }
        return scenes;
    }

    private static SceneFile of(String file, byte[] content) {
        String name = ENDING.matcher(file.strip()).replaceFirst("").strip();
        if (name.isEmpty() || name.length() > LONGEST_NAME || name.indexOf('\0') >= 0) {
            throw Refusal.unacceptable(
                    "bad-scene-name", "A scene has a name of 1 to 200 characters.", Map.of("field", "name"));
        }
        if (content.length > SceneService.LARGEST_BYTES) {
            throw Refusal.tooLarge("scene-too-large", "A scene may have at most 4 MB; make its pictures smaller.");
        }
        return new SceneFile(name, drawn(content));
    }

    private static byte[] drawn(byte[] content) {
        if (!startsWith(content, "\u0089PNG")
                && !startsWith(content, "\u00FF\u00D8\u00FF")
                && !startsWith(content, "RIFF")) {
            return content;
        }
        Picture picture = Pictures.of(content);
        return ScenePicture.drawing(content, picture.mediaType(), picture.width(), picture.height());
    }

    private static boolean startsWith(byte[] content, String letters) {
        byte[] wanted = letters.getBytes(StandardCharsets.ISO_8859_1);
        for (int i = 0; i < wanted.length; i++) {
            if (i >= content.length || content[i] != wanted[i]) {
                return false;
            }
        }
        return true;
    }
}
