package mellow.server.entry;

import java.io.IOException;
import java.io.InputStream;
import mellow.server.common.Refusal;
import mellow.server.entry.EntryService.Changed;
import mellow.server.file.FileStore;
import mellow.server.people.PeopleService;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Keeps the pictures that show where entries are used. */
@Service
class PictureService {

    private final FileStore files;
    private final EntryService entries;
    private final PeopleService people;

    PictureService(FileStore files, EntryService entries, PeopleService people) {
        this.files = files;
        this.entries = entries;
        this.people = people;
    }

    @Transactional
    public Changed set(long person, long entry, InputStream body) throws IOException {
        people.rights(person).requireCoordinator("change pictures");
        byte[] content = FileStore.read(body, Pictures.LARGEST_BYTES);
        String type = Pictures.mediaType(content);
        return entries.picture(
                person, entry, files.store("picture." + type.substring("image/".length()), content, "picture"));
    }

    /** The content of a picture; other stored files are none. */
    @Transactional(readOnly = true)
    public byte[] load(long picture) {
        files.named(picture, "picture")
                .orElseThrow(() -> Refusal.notFound("no-such-picture", "There is no such picture."));
        return files.load(picture);
    }
}
