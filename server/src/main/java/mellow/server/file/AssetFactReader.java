package mellow.server.file;

import java.util.Collection;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import mellow.core.asset.AssetFacts;
import mellow.core.asset.AssetKind;
import mellow.core.text.Shape;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Reads what stored pictures and sounds are. */
public final class AssetFactReader {

    private static final int LONGEST_NUMBER = 18;

    private final JdbcClient jdbc;

    /** Reads from {@code jdbc}. */
    public AssetFactReader(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** What files are, by number; those of other kinds, and those that nobody looked at, are absent. */
    public Map<Long, AssetFacts> of(Collection<Long> files) {
        Map<Long, AssetFacts> facts = new HashMap<>();
        if (!files.isEmpty()) {
            jdbc.sql(
                            """
                            select a.*, f.bytes from asset_fact a join stored_file f on f.id = a.file_id where a.file_id = any(:files) and a.kind is not null
                            """)
                    .param("files", files.toArray(Long[]::new))
                    .query((RowCallbackHandler) row -> {
                        AssetKind kind = AssetKind.of(row.getString("kind")).orElseThrow();
                        facts.put(
                                row.getLong("file_id"),
                                new AssetFacts(
                                        kind,
                                        row.getLong("bytes"),
                                        row.getInt("width"),
                                        row.getInt("height"),
                                        row.getLong("milliseconds")));
                    });
        }
        return facts;
    }

    /** The number of the file that a text of shape asset names; empty for one that names none. */
    public static Optional<Long> file(Map<String, String> forms) {
        String file = forms.get(Shape.FILE);
        boolean number = file != null && file.length() <= LONGEST_NUMBER && file.matches("[0-9]+");
        return number ? Optional.of(Long.parseLong(file)) : Optional.empty();
    }
}
