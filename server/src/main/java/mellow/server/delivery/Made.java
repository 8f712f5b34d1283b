package mellow.server.delivery;

import java.io.BufferedOutputStream;
import java.io.Closeable;
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
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import mellow.core.delivery.FilePattern;
import mellow.core.language.LanguageTag;
import mellow.server.common.TempFiles;
import org.jspecify.annotations.Nullable;

/** The files of a delivery while they are made. They lie in the temporary folder until {@link #close}. */
final class Made implements AutoCloseable {

    private static final int BUFFER = 1 << 16;

    private final List<FileMade> files = new ArrayList<>();
    private final FilePattern.Names names = new FilePattern.Names();
    private final Map<LanguageTag, TextsMade> texts = new TreeMap<>();
    private final List<Path> all = new ArrayList<>();
    private final Set<OutputStream> opened = new HashSet<>();

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
        try (Begun file = begin(path, recipe, language)) {
            writing.to(file.out);
            file.finish();
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    /** Begins a file of a recipe, which is one of the delivery when it was finished. */
    Begun begin(String path, long recipe, @Nullable LanguageTag language) {
        names.take(path);
        return new Begun(path, recipe, language);
    }

    /** A file that is being written. */
    final class Begun implements Closeable {
        private final String path;
        private final long recipe;
        private final @Nullable LanguageTag language;
        private final Hashed hashed = new Hashed();
        private final OutputStream out = hashed.open();

        private Begun(String path, long recipe, @Nullable LanguageTag language) {
            this.path = path;
            this.recipe = recipe;
            this.language = language;
        }

        OutputStream out() {
            return out;
        }

        void finish() throws IOException {
            out.close();
            files.add(new FileMade(path, recipe, language, hashed.content, hashed.hash(), hashed.bytes()));
        }

        @Override
        public void close() throws IOException {
            opened.remove(out);
            out.close();
        }
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
        List<IOException> failures = new ArrayList<>();
        for (OutputStream one : opened) {
            try {
                one.close();
            } catch (IOException failed) {
                failures.add(failed);
            }
        }
        for (Path one : all) {
            try {
                Files.deleteIfExists(one);
            } catch (IOException failed) {
                failures.add(failed);
            }
        }
        if (!failures.isEmpty()) {
            throw new UncheckedIOException(failures.get(0));
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

        /** A stream into it; closed by whoever asks, at the latest with all of it. */
        OutputStream open() {
            try {
                OutputStream out = new BufferedOutputStream(
                        new DigestOutputStream(Files.newOutputStream(content), digest), BUFFER);
                opened.add(out);
                return out;
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
