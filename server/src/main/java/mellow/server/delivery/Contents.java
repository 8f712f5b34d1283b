package mellow.server.delivery;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.SequenceInputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Enumeration;
import java.util.NoSuchElementException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Contents of deliveries by their SHA-256, each kept once, in parts of a megabyte so that none is ever held whole. */
@Component
class Contents {

    private static final int PART = 1 << 20;

    private final JdbcClient jdbc;

    Contents(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Keeps a file's content unless it is kept already, in the transaction under way. */
    void keep(byte[] hash, Path file) {
        try {
            boolean added =
                    jdbc.sql("insert into delivered (hash, bytes) values (:hash, :bytes) on conflict do nothing")
                                    .param("hash", hash)
                                    .param("bytes", Files.size(file))
                                    .update()
                            > 0;
            if (!added) {
                return;
            }
            try (InputStream in = Files.newInputStream(file)) {
                int part = 0;
                for (byte[] some = in.readNBytes(PART); some.length > 0; some = in.readNBytes(PART)) {
                    jdbc.sql("insert into delivered_part (hash, part, content) values (:hash, :part, :content)")
                            .param("hash", hash)
                            .param("part", part++)
                            .param("content", some)
                            .update();
                }
            }
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    /** Number of bytes of a content. */
    long size(byte[] hash) {
        return jdbc.sql("select bytes from delivered where hash = :hash")
                .param("hash", hash)
                .query(Long.class)
                .single();
    }

    /** Reads a content, part by part. */
    InputStream open(byte[] hash) {
        long size = size(hash);
        int parts = (int) ((size + PART - 1) / PART);
        Enumeration<InputStream> all = new Enumeration<>() {
            private int next;

            @Override
            public boolean hasMoreElements() {
                return next < parts;
            }

            @Override
            public InputStream nextElement() {
                if (!hasMoreElements()) {
                    throw new NoSuchElementException();
                }
                return new ByteArrayInputStream(
                        jdbc.sql("select content from delivered_part where hash = :hash and part = :part")
                                .param("hash", hash)
                                .param("part", next++)
                                .query(byte[].class)
                                .single());
            }
        };
        return parts == 0 ? InputStream.nullInputStream() : new SequenceInputStream(all);
    }
}
