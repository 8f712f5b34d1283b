package mellow.core.merge;

/**
 * Where an entry's source stands when texts of a file arrive beside it.
 *
 * @param revision the revision it is at
 * @param meaning the revision at which its meaning last changed
 */
public record Revisions(int revision, int meaning) {

    /** Of an entry that comes with the file. */
    public static final Revisions NEW = new Revisions(1, 1);

    /** Of an entry that the file leaves as it is. */
    public static Revisions of(RecordEntry entry) {
        return entry.said().at();
    }

    /** Once the source has been rewritten. */
    public Revisions rewritten(boolean meaningChanged) {
        return new Revisions(revision + 1, meaningChanged ? revision + 1 : meaning);
    }

    /**
     * Which revision an arriving text is made from: this one; where the file says that it is for an older source, the last before the meaning changed, so that
     * it is stale; else, where it was made for the source as it was before this file, the one before.
     */
    public int basedOn(Change text) {
        if (text.current()) {
            return revision;
        }
        return text.after().older() ? meaning - 1 : Math.max(1, revision - 1);
    }
}
