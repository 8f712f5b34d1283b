package mellow.server.delivery;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.DigestOutputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import mellow.core.delivery.FilePattern;
import mellow.core.language.LanguageTag;
import mellow.server.common.TempFiles;
import org.jspecify.annotations.Nullable;

/** The files of a delivery while they are made. They lie in the temporary folder until {@link #close}. */
final class Made implements AutoCloseable {

    private final List<FileMade> files = new ArrayList<>();
    private final FilePattern.Names names = new FilePattern.Names();
    private final Map<LanguageTag, TextsMade> texts = new TreeMap<>();
    private final List<Path> all = new ArrayList<>();

    /**
     * A file.
     *
     * @param language null for one of several
     */
    record FileMade(String path, long recipe, @Nullable LanguageTag language, Path content, byte[] hash, long bytes) {}

    /**
     * What is in force in a language.
     *
     * @param content null for what is kept already
     */
    record TextsMade(int texts, @Nullable Path content, byte[] hash) {}

    /** Writes a file. */
    @FunctionalInterface
    interface Writing {
        void to(OutputStream out) throws IOException;
    }

    /** Makes a file of a recipe. */
    void add(String path, long recipe, @Nullable LanguageTag language, Writing writing) {
        names.take(path);
        Hashed hashed = new Hashed();
        hashed.write(writing);
        files.add(new FileMade(path, recipe, language, hashed.content, hashed.hash(), hashed.bytes()));
    }

    /** Keeps what is in force in a language. */
    void texts(LanguageTag language, TextsMade made) {
        texts.put(language, made);
    }

    /** The files by their paths. */
    List<FileMade> files() {
        return files.stream().sorted(Comparator.comparing(FileMade::path)).toList();
    }

    Map<LanguageTag, TextsMade> texts() {
        return texts;
    }

    /** SHA-256 over all paths and hashes, in order. */
    byte[] contents() {
        MessageDigest digest = sha256();
        for (FileMade file : files()) {
            digest.update(file.path.getBytes(StandardCharsets.UTF_8));
            digest.update((byte) 0);
            digest.update(file.hash);
        }
        return digest.digest();
    }

    long bytes() {
        return files.stream().mapToLong(FileMade::bytes).sum();
    }

    static MessageDigest sha256() {
        try {
            return MessageDigest.getInstance("SHA-256");
        } catch (NoSuchAlgorithmException everyJavaHasIt) {
            throw new IllegalStateException(everyJavaHasIt);
        }
    }

    @Override
    public void close() {
        for (Path one : all) {
            try {
                Files.deleteIfExists(one);
            } catch (IOException failed) {
                throw new UncheckedIOException(failed);
            }
        }
    }

    /** A temporary file that knows its hash. */
    final class Hashed {
        private final MessageDigest digest = sha256();
        private final Path content;

        Hashed() {
            try {
                content = TempFiles.create(".made");
            } catch (IOException failed) {
                throw new UncheckedIOException(failed);
            }
            all.add(content);
        }

        /** A stream into it; closed by whoever asks. */
        OutputStream open() throws IOException {
            return new BufferedOutputStream(new DigestOutputStream(Files.newOutputStream(content), digest));
        }

        void write(Writing writing) {
            try (OutputStream out = open()) {
                writing.to(out);
            } catch (IOException failed) {
                throw new UncheckedIOException(failed);
            }
        }

        Path content() {
            return content;
        }

        /** To be asked once, when all is written. */
        byte[] hash() {
            return digest.digest();
        }

        long bytes() {
            try {
                return Files.size(content);
            } catch (IOException failed) {
                throw new UncheckedIOException(failed);
            }
        }
    }
}
