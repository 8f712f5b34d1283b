package mellow.server.coverage;

import java.util.SortedMap;
import mellow.server.coverage.CoverageService.Count;

/** What tables keep of themselves: how many entries and words for translation they have. Implemented where tables are. */
public interface TableTotals {

    /** Adds to several, in the order of their numbers; what went is negative. */
    void add(SortedMap<Long, Count> moved);

    /** Counts one anew. */
    void recount(long table);
}
