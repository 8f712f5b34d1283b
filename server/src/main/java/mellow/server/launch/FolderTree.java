package mellow.server.launch;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import mellow.core.scan.IgnoreRules;

/** The files of a source tree in the order of their names, without those that its ignore files leave out. Links are not followed: they may lead out of it. */
final class FolderTree {

    private static final int LARGEST_RULES = 1 << 20;
    private static final int DEEPEST = 200;

    private final Path root;
    private final List<Path> files = new ArrayList<>();
    private int ignored;

    FolderTree(Path root) throws IOException {
        this.root = root;
        walk(root, IgnoreRules.none(), 0);
    }

    List<Path> files() {
        return files;
    }

    /** How many files and folders were left out. */
    int ignored() {
        return ignored;
    }

    private void walk(Path folder, IgnoreRules outer, int depth) throws IOException {
        if (depth > DEEPEST || !Files.isReadable(folder)) {
            return;
        }
        List<Path> inside = new ArrayList<>();
        try (DirectoryStream<Path> all = Files.newDirectoryStream(folder)) {
            all.forEach(inside::add);
        }
        inside.sort(null);
        IgnoreRules rules = outer;
        for (String name : IgnoreRules.FILES.stream().sorted().toList()) {
            Path file = folder.resolve(name);
            if (Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)) {
                rules = rules.with(below(folder), new String(content(file, LARGEST_RULES), StandardCharsets.UTF_8));
            }
        }
        for (Path one : inside) {
            boolean isFolder = Files.isDirectory(one, LinkOption.NOFOLLOW_LINKS);
            if (rules.ignores(below(one), isFolder)) {
                ignored++;
            } else if (isFolder) {
                walk(one, rules, depth + 1);
            } else if (Files.isRegularFile(one, LinkOption.NOFOLLOW_LINKS) && Files.isReadable(one)) {
                files.add(one);
            }
        }
    }

    private String below(Path path) {
        return root.relativize(path).toString().replace('\\', '/');
    }

    /** At most the first {@code most} bytes of a file; none when it went meanwhile. */
    static byte[] content(Path file, int most) {
        try (InputStream in = Files.newInputStream(file)) {
            return in.readNBytes(most);
        } catch (NoSuchFileException gone) {
            return new byte[0];
        } catch (IOException unreadable) {
            throw new UncheckedIOException(unreadable);
        }
    }
}
