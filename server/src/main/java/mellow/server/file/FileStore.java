package mellow.server.file;

import java.time.Clock;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.Map;
import java.util.Optional;
import mellow.server.common.Refusal;
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

    /** Stores all of {@code content} for who brought it; the file's number. */
    @Transactional(propagation = Propagation.MANDATORY)
    public long store(long person, String name, byte[] content) {
        return store(person, name, content, null, null);
    }

    /**
     * The same for a file that belongs to the record: a picture or an asset.
     *
     * @param mediaType what it was found to be, if a browser may show it
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public long store(long person, String name, byte[] content, @Nullable String kind, @Nullable String mediaType) {
        long id = jdbc.sql(
                        """
                        insert into stored_file (person_id, name, bytes, kind, media_type, created_at) values (:person, :name, :bytes, :kind, :type, :at) returning id
                        """)
                .param("person", person)
                .param("type", mediaType)
                .param("name", name)
                .param("bytes", content.length)
                .param("kind", kind)
                .param("at", clock.instant().atOffset(ZoneOffset.UTC))
                .query(Long.class)
                .single();
        for (int from = 0, part = 0; from < content.length; from += PART, part++) {
            byte[] bytes = Arrays.copyOfRange(content, from, Math.min(content.length, from + PART));
            jdbc.sql("insert into stored_file_part (file_id, part, content) values (:id, :part, :bytes)")
                    .param("id", id)
                    .param("part", part)
                    .param("bytes", bytes)
                    .update();
        }
        return id;
    }

    /**
     * What is known of a file of the record.
     *
     * @param mediaType what it was found to be when it was stored, null when no browser shows it
     */
    public record Kept(String name, @Nullable String mediaType) {}

    /** A stored file of that kind; empty for others. */
    @Transactional(readOnly = true)
    public Optional<Kept> kept(long id, String kind) {
        return jdbc.sql("select name, media_type from stored_file where id = :id and kind = :kind")
                .param("id", id)
                .param("kind", kind)
                .query((row, n) -> new Kept(row.getString(1), row.getString(2)))
                .optional();
    }

    /** Notes what a file of the record was found to be. */
    @Transactional
    public void found(long id, String mediaType) {
        jdbc.sql("update stored_file set media_type = :type where id = :id")
                .param("type", mediaType)
                .param("id", id)
                .update();
    }

    /**
     * Looks whether all of a file is still kept, for those who remember what was in it.
     *
     * @throws Refusal when it is not
     */
    @Transactional(readOnly = true)
    public void requireKept(long id) {
        boolean whole = jdbc.sql(
                        """
                        select (f.bytes + :part - 1) / :part = (select count(*) from stored_file_part p where p.file_id = f.id) from stored_file f where f.id = :id
                        """)
                .param("id", id)
                .param("part", PART)
                .query(Boolean.class)
                .optional()
                .orElse(false);
        if (!whole) {
            throw gone();
        }
    }

    /**
     * The content of a stored file.
     *
     * @throws Refusal when it is not kept any more: what needs it is refused and does not go on with less
     */
    @Transactional(readOnly = true)
    public byte[] load(long id) {
        int size = jdbc.sql("select bytes from stored_file where id = :id")
                .param("id", id)
                .query(Integer.class)
                .optional()
                .orElseThrow(FileStore::gone);
        byte[] content = new byte[size];
        int parts = (size + PART - 1) / PART;
        for (int part = 0; part < parts; part++) {
            byte[] bytes = jdbc.sql("select content from stored_file_part where file_id = :id and part = :part")
                    .param("id", id)
                    .param("part", part)
                    .query(byte[].class)
                    .optional()
                    .orElseThrow(FileStore::gone);
            System.arraycopy(bytes, 0, content, part * PART, bytes.length);
        }
        return content;
    }

    private static Refusal gone() {
        return Refusal.conflict("file-gone", "The file is not kept any more; bring it again.", Map.of());
    }
}
