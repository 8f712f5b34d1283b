package mellow.core.memory;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.locks.ReadWriteLock;
import java.util.concurrent.locks.ReentrantReadWriteLock;
import org.jspecify.annotations.Nullable;

/**
 * Finds units with the same or a similar source among millions, in memory. It keeps no texts: of a source its symbols, packed, and the marks by which most
 * sources are put aside without being compared. Units that come are gathered; some hundreds become a {@link Part}, and parts of about one size are put
 * together by {@link #tidy}, which may run beside searches. May be used by several threads at once.
 */
public final class MemoryIndex {

    /** As many units wait before they become a part. */
    private static final int GATHERED = 512;
    /** What one that waits takes, with what it becomes. */
    private static final int GATHERED_BYTES = 500;
    /** As many parts of about one size are put together. */
    private static final int TOGETHER = 4;

    private final ReadWriteLock lock = new ReentrantReadWriteLock();
    private final Map<Integer, Space> spaces = new HashMap<>();

    /**
     * A text that was settled for a source.
     *
     * @param space units of other spaces are never found; a language of sources, say
     * @param language of the text, a number below 65,536
     */
    public record Unit(long id, int space, int language, String source) {}

    /**
     * A unit that was found.
     *
     * @param percent as {@link Similarity#percent}
     */
    public record Hit(long unit, int percent) {}

    /**
     * How large it is.
     *
     * @param sources different ones; some may be counted in several parts
     * @param bytes of heap, roughly
     */
    public record Size(int units, int sources, int parts, long bytes) {}

    private static final class Space {
        private final List<Part> parts = new ArrayList<>();
        private final Map<Long, Unit> gathered = new LinkedHashMap<>();
        /** What was gathered as a part, until something is gathered again. */
        private @Nullable Part fresh;

        private boolean remove(long id) {
            if (gathered.remove(id) != null) {
                fresh = null;
                return true;
            }
            return parts.stream().anyMatch(part -> part.remove(id));
        }

        private void close() {
            if (!gathered.isEmpty()) {
                parts.add(freshly());
                gathered.clear();
                fresh = null;
            }
        }

        private Part freshly() {
            Part.Builder builder = new Part.Builder();
            gathered.values().forEach(builder::add);
            return builder.part();
        }
    }

    /** Adds units, in the place of those with their ids. Many at once are quicker than one by one. */
    public void put(List<Unit> units) {
        Map<Integer, Part.Builder> large = new HashMap<>();
        if (units.size() >= GATHERED) {
            Map<Long, Unit> last = new LinkedHashMap<>();
            units.forEach(unit -> last.put(unit.id(), unit));
            last.values().forEach(unit -> large.computeIfAbsent(unit.space(), of -> new Part.Builder())
                    .add(unit));
        }
        Map<Integer, Part> built = new HashMap<>();
        large.forEach((space, builder) -> built.put(space, builder.part()));
        lock.writeLock().lock();
        try {
            if (!built.isEmpty()) {
                units.forEach(unit -> removed(unit.id()));
                built.forEach((space, part) -> space(space).parts.add(part));
            } else {
                for (Unit unit : units) {
                    removed(unit.id());
                    Space space = space(unit.space());
                    space.gathered.put(unit.id(), unit);
                    space.fresh = null;
                    if (space.gathered.size() >= GATHERED) {
                        space.close();
                    }
                }
            }
        } finally {
            lock.writeLock().unlock();
        }
    }

    /** Takes units out; those that are not there are none. */
    public void remove(List<Long> ids) {
        lock.writeLock().lock();
        try {
            ids.forEach(this::removed);
        } finally {
            lock.writeLock().unlock();
        }
    }

    /** Takes everything out. */
    public void clear() {
        lock.writeLock().lock();
        try {
            spaces.clear();
        } finally {
            lock.writeLock().unlock();
        }
    }

    private Space space(int number) {
        return spaces.computeIfAbsent(number, of -> new Space());
    }

    private void removed(long id) {
        for (Space space : spaces.values()) {
            if (space.remove(id)) {
                return;
            }
        }
    }

    /**
     * The units with the most similar sources, the most alike first.
     *
     * @param least how alike they must be, in percent
     * @param most how many sources at most
     */
    public List<Hit> search(int space, int language, String source, int least, int most) {
        Search search = new Search(source, language, least);
        prepare(space);
        lock.readLock().lock();
        try {
            Space in = spaces.get(space);
            if (in == null) {
                return List.of();
            }
            in.parts.forEach(search::in);
            if (in.fresh != null) {
                search.in(in.fresh);
            }
            return search.hits(most);
        } finally {
            lock.readLock().unlock();
        }
    }

    /** What was gathered since the last search becomes searchable, as a part that is made anew until it is large enough. */
    private void prepare(int number) {
        lock.readLock().lock();
        try {
            Space space = spaces.get(number);
            if (space == null || space.fresh != null || space.gathered.isEmpty()) {
                return;
            }
        } finally {
            lock.readLock().unlock();
        }
        lock.writeLock().lock();
        try {
            Space space = spaces.get(number);
            if (space != null && space.fresh == null && !space.gathered.isEmpty()) {
                space.fresh = space.freshly();
            }
        } finally {
            lock.writeLock().unlock();
        }
    }

    /**
     * Puts parts of about one size together, and those of which half was taken out in order.
     *
     * @return whether there may be more to do
     */
    public boolean tidy() {
        List<Part> old = List.of();
        List<BitSet> gone = new ArrayList<>();
        Space of = null;
        lock.readLock().lock();
        try {
            for (Space space : spaces.values()) {
                old = untidy(space.parts);
                if (!old.isEmpty()) {
                    of = space;
                    old.forEach(part -> gone.add(part.gone()));
                    break;
                }
            }
        } finally {
            lock.readLock().unlock();
        }
        if (of == null) {
            return false;
        }
        Part.Builder builder = new Part.Builder();
        for (int i = 0; i < old.size(); i++) {
            builder.add(old.get(i), gone.get(i));
        }
        Part together = builder.part();
        lock.writeLock().lock();
        try {
            if (of.parts.containsAll(old)) {
                for (int i = 0; i < old.size(); i++) {
                    old.get(i).goneSince(gone.get(i)).forEach(together::remove);
                }
                of.parts.removeAll(old);
                if (together.living() > 0) {
                    of.parts.add(together);
                }
            }
        } finally {
            lock.writeLock().unlock();
        }
        return true;
    }

    private static List<Part> untidy(List<Part> parts) {
        Map<Integer, List<Part>> steps = new HashMap<>();
        for (Part part : parts) {
            if (part.living() * 2 < part.size()) {
                return List.of(part);
            }
            List<Part> alike = steps.computeIfAbsent(part.step(), of -> new ArrayList<>());
            alike.add(part);
            if (alike.size() == TOGETHER) {
                return alike;
            }
        }
        return List.of();
    }

    /** How large it is now. */
    public Size size() {
        lock.readLock().lock();
        try {
            int units = 0;
            int sources = 0;
            int parts = 0;
            long bytes = 0;
            for (Space space : spaces.values()) {
                units += space.gathered.size();
                bytes += (long) GATHERED_BYTES * space.gathered.size();
                for (Part part : space.parts) {
                    units += part.living();
                    sources += part.sources();
                    bytes += part.bytes();
                    parts++;
                }
            }
            return new Size(units, sources, parts, bytes);
        } finally {
            lock.readLock().unlock();
        }
    }
}
