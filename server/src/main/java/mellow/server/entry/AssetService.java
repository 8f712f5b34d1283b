package mellow.server.entry;

import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import mellow.server.common.Refusal;
import mellow.server.file.FileStore;
import mellow.server.file.Pictures;
import mellow.server.people.PeopleService;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/** Keeps the files that entries of shape asset have per language. */
@Service
class AssetService {

    private static final int LARGEST_BYTES = 20 * 1024 * 1024;
    private static final int LONGEST_NAME = 200;
    private static final String KIND = "asset";
    /** Looked through, and nothing that a browser shows. */
    private static final String NOTHING_TO_SHOW = "";

    private final FileStore files;
    private final PeopleService people;
    private final TransactionTemplate transaction;

    AssetService(FileStore files, PeopleService people, TransactionTemplate transaction) {
        this.files = files;
        this.people = people;
        this.transaction = transaction;
    }

    /** An asset: its name, its content, and the media type if a browser may show it. */
    record Asset(String name, byte[] content, Optional<String> shown) {}

    /** Refuses by size alone. */
    static void requireSize(long bytes) {
        if (bytes > LARGEST_BYTES) {
            throw Refusal.tooLarge("asset-too-large", "An asset may have at most 20 MB; make it smaller.");
        }
    }

    /** Refuses whoever may not offer files, before anything is sent; the name without folders otherwise. */
    String requireMay(long person, String name) {
        people.rights(person).requireAny("offer files");
        String bare = name.replaceAll("^.*[/\\\\]", "").strip();
        if (bare.isEmpty() || bare.length() > LONGEST_NAME) {
            throw Refusal.unacceptable(
                    "bad-name",
                    "A file needs a name of 1 to {most} characters.",
                    Map.of("field", "name", "most", LONGEST_NAME));
        }
        return bare;
    }

    /** Looks a file through and stores it; its number. */
    long store(long person, String name, byte[] content) {
        String mediaType = Pictures.shown(content).orElse(NOTHING_TO_SHOW);
        return Objects.requireNonNull(transaction.execute(status -> {
            String bare = requireMay(person, name);
            return files.store(person, bare, content, KIND, mediaType);
        }));
    }

    /** A stored file. One that was stored before files were looked through is looked through now, once. */
    Asset load(long file) {
        FileStore.Kept kept =
                files.kept(file, KIND).orElseThrow(() -> Refusal.notFound("no-such-asset", "There is no such file."));
        byte[] content = files.load(file);
        String known = kept.mediaType();
        if (known == null) {
            known = Pictures.shown(content).orElse(NOTHING_TO_SHOW);
            files.found(file, known);
        }
        return new Asset(kept.name(), content, Optional.of(known).filter(type -> !type.isEmpty()));
    }
}
