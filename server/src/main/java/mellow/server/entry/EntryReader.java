package mellow.server.entry;

import java.util.List;
import mellow.server.common.Refusal;
import mellow.server.entry.EntryController.EntryReply;
import mellow.server.entry.EntryStory.EntryLine;
import mellow.server.table.TableService;
import org.springframework.data.domain.Limit;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Reads entries for screens. */
@Service
class EntryReader {

    private static final int MOST_REMOVED = 500;

    private final EntryRepository entries;
    private final EntryStory story;
    private final TableService tables;

    EntryReader(EntryRepository entries, EntryStory story, TableService tables) {
        this.entries = entries;
        this.story = story;
        this.tables = tables;
    }

    @Transactional(readOnly = true)
    public EntryReply entry(long id) {
        Entry entry = entries.findById(id).orElseThrow(Refusal::noSuchEntry);
        return reply(entry, tables.find(entry.tableId()).slug());
    }

    @Transactional(readOnly = true)
    public List<EntryReply> removed(String slug) {
        return entries
                .findByTableIdAndRemovedAtNotNullOrderByRemovedAtDesc(
                        tables.find(slug).id(), Limit.of(MOST_REMOVED))
                .stream()
                .map(entry -> reply(entry, slug))
                .toList();
    }

    @Transactional(readOnly = true)
    public List<EntryLine> story(long id) {
        return story.lines(id);
    }

    private static EntryReply reply(Entry entry, String table) {
        return new EntryReply(
                entry.id(),
                table,
                entry.shape().word(),
                entry.description(),
                entry.sourceText().forms(),
                entry.sourceRevision(),
                entry.meaningRevision(),
                entry.pictureId(),
                entry.version(),
                entry.removed());
    }
}
