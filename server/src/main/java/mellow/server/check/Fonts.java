package mellow.server.check;

import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import mellow.core.fit.FontFile;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Font files as they were read, by the number of their stored file, which never changes what it holds. The last used ones are kept. */
final class Fonts {

    private static final int KEPT = 32;
    private static final Map<Long, FontFile> READ = Collections.synchronizedMap(new LinkedHashMap<>(KEPT, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<Long, FontFile> eldest) {
            return size() > KEPT;
        }
    });

    private Fonts() {}

    /** The font in a stored file, which was looked at when it came. */
    static FontFile file(JdbcClient jdbc, long file) {
        FontFile read = READ.get(file);
        if (read == null) {
            read = read(jdbc, file);
            READ.put(file, read);
        }
        return read;
    }

    private static FontFile read(JdbcClient jdbc, long file) {
        List<byte[]> parts =
                new ArrayList<>(jdbc.sql("select content from stored_file_part where file_id = :file order by part")
                        .param("file", file)
                        .query(byte[].class)
                        .list());
        byte[] all = new byte[parts.stream().mapToInt(part -> part.length).sum()];
        int at = 0;
        for (byte[] part : parts) {
            System.arraycopy(part, 0, all, at, part.length);
            at += part.length;
        }
        try {
            return FontFile.read(all);
        } catch (FontFile.NoFont damaged) {
            throw new IllegalStateException("a font that was read once cannot be read: file " + file, damaged);
        }
    }
}
