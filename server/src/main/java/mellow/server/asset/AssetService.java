package mellow.server.asset;

import java.util.Map;
import java.util.Objects;
import mellow.core.asset.AssetFacts;
import mellow.core.asset.AssetKind;
import mellow.server.common.Refusal;
import mellow.server.file.AssetFiles;
import mellow.server.file.FileStore;
import mellow.server.people.PeopleService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/** Keeps the files that entries of shape asset have per language. */
@Service
class AssetService {

    private static final int LONGEST_NAME = 200;

    private final FileStore files;
    private final AssetFiles assets;
    private final PeopleService people;
    private final JdbcClient jdbc;
    private final TransactionTemplate transaction;

    AssetService(
            FileStore files,
            AssetFiles assets,
            PeopleService people,
            JdbcClient jdbc,
            TransactionTemplate transaction) {
        this.files = files;
        this.assets = assets;
        this.people = people;
        this.jdbc = jdbc;
        this.transaction = transaction;
    }

    /**
     * An asset.
     *
     * @param mediaType what it is when a browser may show or play it, empty otherwise
     */
    record Asset(String name, byte[] content, String mediaType) {}

    /** What came of storing a file: its number, what it is and what was taken out of it. */
    record Stored(long file, AssetFiles.Looked looked) {

        @Nullable
        AssetFacts facts() {
            return looked.facts();
        }
    }

    /** Refuses whoever may not offer files, before anything is sent; the name without folders otherwise. */
    String requireMay(long person, String name) {
        people.rights(person).requireAny("offer files");
        String bare = name.replaceAll("^.*[/\\\\]", "").strip();
        if (bare.isEmpty() || bare.length() > LONGEST_NAME || bare.indexOf('\0') >= 0) {
            throw Refusal.unacceptable(
                    "bad-name",
                    "A file needs a name of 1 to {most} characters.",
                    Map.of("field", "name", "most", LONGEST_NAME));
        }
        return bare;
    }

    /** Looks a file through and stores it. */
    Stored store(long person, String name, byte[] content) {
        AssetFiles.Looked looked = AssetFiles.look(name, content);
        return Objects.requireNonNull(transaction.execute(
                status -> new Stored(assets.store(person, requireMay(person, name), looked), looked)));
    }

    /** A stored file; one that waits to be taken in only for who brought it and for coordinators. */
    @Transactional(readOnly = true)
    Asset load(long person, long file) {
        boolean coordinator = people.rights(person).coordinator();
        return jdbc.sql(
                        """
                        select f.name, coalesce(a.kind, '') kind from stored_file f left join asset_fact a on a.file_id = f.id
                        where f.id = :file and (f.kind = 'asset' or a.file_id is not null and f.kind is null and (f.person_id = :person or :coordinator))
                        """)
                .param("file", file)
                .param("person", person)
                .param("coordinator", coordinator)
                .query((row, n) -> new Asset(
                        row.getString("name").replaceAll("^.*/", ""),
                        files.load(file),
                        AssetKind.of(row.getString("kind"))
                                .map(AssetKind::mediaType)
                                .orElse("")))
                .optional()
                .orElseThrow(() -> Refusal.notFound("no-such-asset", "There is no such file."));
    }
}
