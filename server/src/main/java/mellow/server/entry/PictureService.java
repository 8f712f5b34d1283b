package mellow.server.entry;

import java.util.Objects;
import mellow.server.common.Refusal;
import mellow.server.entry.EntryService.Changed;
import mellow.server.file.FileStore;
import mellow.server.file.Pictures;
import mellow.server.people.PeopleService;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/** Keeps the pictures that show where entries are used. */
@Service
class PictureService {

    private final FileStore files;
    private final EntryService entries;
    private final PeopleService people;
    private final TransactionTemplate transaction;

    PictureService(FileStore files, EntryService entries, PeopleService people, TransactionTemplate transaction) {
        this.files = files;
        this.entries = entries;
        this.people = people;
        this.transaction = transaction;
    }

    /** Looks the picture through, and only then asks for a connection. */
    Changed set(long person, long entry, byte[] content) {
        String type = Pictures.of(content).mediaType();
        String name = "picture." + type.substring("image/".length());
        return Objects.requireNonNull(transaction.execute(status -> {
            requireMay(person);
            return entries.picture(person, entry, files.store(person, name, content, "picture", type));
        }));
    }

    /** Refuses whoever must not change pictures, before anything is sent. */
    void requireMay(long person) {
        people.rights(person).requireCoordinator("change pictures");
    }

    /** A picture's content and what it was found to be. */
    record Shown(byte[] content, String mediaType) {}

    /** A picture; other stored files are none. It was looked through when it was stored. */
    @Transactional(readOnly = true)
    public Shown load(long picture) {
        FileStore.Kept kept = files.kept(picture, "picture")
                .filter(one -> one.mediaType() != null)
                .orElseThrow(() -> Refusal.notFound("no-such-picture", "There is no such picture."));
        return new Shown(files.load(picture), Objects.requireNonNull(kept.mediaType()));
    }
}
