package mellow.e2e;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Objects;
import java.util.stream.Stream;

/** The compiler of TypeScript that the client is built with. */
final class ClientCompiler {

    private ClientCompiler() {}

    /** Where it is: these tests may run in a copy of the tree inside of it, which has no packages of its own. */
    static Path path() {
        return Stream.iterate(Path.of("").toAbsolutePath(), Objects::nonNull, Path::getParent)
                .map(folder -> folder.resolve("web/node_modules/typescript/bin/tsc"))
                .filter(Files::exists)
                .findFirst()
                .orElseThrow();
    }
}
