package mellow.server.file;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.time.Clock;
import java.time.ZoneOffset;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Keeps files in the database in parts of one megabyte, so that any server has them and none holds more than a part at once while storing. */
@Service
public class FileStore {

    private static final int PART = 1 << 20;

    private final JdbcClient jdbc;
    private final Clock clock;

    FileStore(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** Stores all of {@code content}; the file's number. */
    @Transactional(propagation = Propagation.MANDATORY)
    public long store(String name, byte[] content) {
        return store(name, content, null);
    }

    /** The same for a file that belongs to the record: a picture or an asset. */
    @Transactional(propagation = Propagation.MANDATORY)
    public long store(String name, byte[] content, @Nullable String kind) {
        long id = jdbc.sql(
                        "insert into stored_file (name, bytes, kind, created_at) values (:name, :bytes, :kind, :at) returning id")
                .param("name", name)
                .param("bytes", content.length)
                .param("kind", kind)
                .param("at", clock.instant().atOffset(ZoneOffset.UTC))
                .query(Long.class)
                .single();
        for (int from = 0, part = 0; from < content.length; from += PART, part++) {
            byte[] bytes = java.util.Arrays.copyOfRange(content, from, Math.min(content.length, from + PART));
            jdbc.sql("insert into stored_file_part (file_id, part, content) values (:id, :part, :bytes)")
                    .param("id", id)
                    .param("part", part)
                    .param("bytes", bytes)
                    .update();
        }
        return id;
    }

    /** The name of a stored file of that kind; empty for others. */
    @Transactional(readOnly = true)
    public java.util.Optional<String> named(long id, String kind) {
        return jdbc.sql("select name from stored_file where id = :id and kind = :kind")
                .param("id", id)
                .param("kind", kind)
                .query(String.class)
                .optional();
    }

    /** The content of a stored file. */
    @Transactional(readOnly = true)
    public byte[] load(long id) {
        int size = jdbc.sql("select bytes from stored_file where id = :id")
                .param("id", id)
                .query(Integer.class)
                .single();
        byte[] content = new byte[size];
        int parts = (size + PART - 1) / PART;
        for (int part = 0; part < parts; part++) {
            byte[] bytes = jdbc.sql("select content from stored_file_part where file_id = :id and part = :part")
                    .param("id", id)
                    .param("part", part)
                    .query(byte[].class)
                    .single();
            System.arraycopy(bytes, 0, content, part * PART, bytes.length);
        }
        return content;
    }

    /**
     * Reads a request's body.
     *
     * @return the bytes, or one more than {@code limit} of them when there are more
     */
    public static byte[] read(InputStream in, long limit) throws IOException {
        ByteArrayOutputStream all = new ByteArrayOutputStream(PART);
        byte[] buffer = new byte[PART];
        for (int n = in.read(buffer); n >= 0 && all.size() <= limit; n = in.read(buffer)) {
            all.write(buffer, 0, n);
        }
        return all.toByteArray();
    }
}
