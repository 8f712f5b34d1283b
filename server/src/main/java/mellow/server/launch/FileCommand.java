package mellow.server.launch;

import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.function.Function;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.KeyHabit;
import mellow.core.format.Limits;
import mellow.core.format.Position;
import mellow.core.format.Problem;
import mellow.core.format.ReadOptions;
import mellow.core.format.SiblingHabit;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.registry.Formats;
import mellow.core.language.LanguageTag;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

/** What the commands on files have in common: options that say what a file does not. They touch no database and no record. */
abstract class FileCommand {

    @Option(names = "--lang", paramLabel = "TAG", description = "the language of the texts")
    private @Nullable String language;

    @Option(names = "--source-lang", paramLabel = "TAG", description = "the language that they are translated from")
    private @Nullable String source;

    @Option(names = "--format", paramLabel = "NAME", description = "the format of the file")
    private @Nullable String format;

    @Option(names = "--encoding", paramLabel = "NAME", description = "the character set of the file")
    private @Nullable String encoding;

    @Option(
            names = "--keys",
            paramLabel = "HABIT",
            description = "what tells entries of a bilingual file apart: source, key or context")
    private @Nullable String keys;

    @Option(
            names = "--siblings",
            paramLabel = "HABIT",
            description = "what keys such as x_one and x_other are in JSON and YAML: forms or labels")
    private @Nullable String siblings;

    /** A file with the format it was read in. */
    record Read(FileFormat format, FileReading reading) {}

    /**
     * Reads a file.
     *
     * @throws UnreadableFileException saying why it cannot be read
     */
    Read read(Path file) {
        ReadOptions options = options();
        byte[] bytes = bytes(file);
        FileFormat known = format == null
                ? Formats.detect(file.toString(), bytes).orElseThrow(() -> Formats.unknown(file.toString()))
                : Formats.named(format).orElseThrow(() -> new LaunchException("There is no format " + format + "."));
        return new Read(known, known.read(file.toString(), bytes, options));
    }

    private static byte[] bytes(Path file) {
        try {
            if (Files.size(file) > Limits.DEFAULT.bytes()) {
                throw refusal(
                        file,
                        "the file has " + Files.size(file) / (1024 * 1024) + " MB",
                        "at most " + Limits.DEFAULT.bytes() / (1024 * 1024) + " MB; split it into smaller files");
            }
            return Files.readAllBytes(file);
        } catch (IOException cannot) {
            throw refusal(file, "the file cannot be read", "a file: " + cannot.getMessage());
        }
    }

    private static UnreadableFileException refusal(Path file, String found, String expected) {
        return new UnreadableFileException(Problem.error(file.toString(), Position.WHOLE_FILE, found, expected));
    }

    private ReadOptions options() {
        try {
            return new ReadOptions(
                    Optional.ofNullable(encoding).map(Charset::forName),
                    tag(language),
                    tag(source),
                    habit(keys, KeyHabit::named),
                    habit(siblings, SiblingHabit::named),
                    Limits.DEFAULT);
        } catch (IllegalArgumentException unknown) {
            throw new LaunchException("There is no character set " + encoding + ".");
        }
    }

    private static <T> Optional<T> habit(@Nullable String word, Function<String, Optional<T>> named) {
        return Optional.ofNullable(word).map(given -> named.apply(given)
                .orElseThrow(() -> new LaunchException("There is no habit “" + given + "”.")));
    }

    static Optional<LanguageTag> tag(@Nullable String spelling) {
        return Optional.ofNullable(spelling).map(given -> LanguageTag.parse(given)
                .orElseThrow(() -> new LaunchException("“" + given + "” is no language tag.")));
    }

    /** The language that was asked for. */
    Optional<LanguageTag> language() {
        return tag(language);
    }
}
