package mellow.server.intake;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import mellow.server.common.Refusal;

/** Paths of files that come in. They name masters for ever and go out again in archives, so none may lead anywhere else. */
final class Paths {

    private static final int LONGEST = 800;
    private static final int DELETE = 0x7f;

    private Paths() {}

    /**
     * The path that {@code name} is, with slashes, relative.
     *
     * @throws Refusal when it leads out of its folder or has characters that no file's name should have
     */
    static String checked(String name) {
        String path = name.strip().replace('\\', '/').replaceFirst("^/+", "");
        boolean outside = List.of(path.split("/")).contains("..");
        if (path.isEmpty()
                || path.length() > LONGEST
                || outside
                || path.chars().anyMatch(c -> c < ' ' || c == DELETE)
                || !StandardCharsets.UTF_8.newEncoder().canEncode(path)) {
            throw Refusal.unacceptable(
                    "bad-name",
                    "A file needs a path of 1 to {most} ordinary characters, and none out of its folder.",
                    Map.of("field", "name", "most", LONGEST));
        }
        return path;
    }
}
