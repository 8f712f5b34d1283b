package mellow.server.fill;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import mellow.core.language.LanguageTag;
import mellow.core.memory.Adaptation.Substitution;
import mellow.server.draft.Drafting;
import mellow.server.draft.Drafting.DraftPlan;
import mellow.server.fill.Untranslated.Empty;
import mellow.server.memory.MemoryHit;
import mellow.server.memory.MemoryService;
import mellow.server.memory.MemoryService.Wanted;
import mellow.server.people.Reading;
import mellow.server.sheet.SheetService;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Finds texts for the untranslated cells of a scope. What is ticked then goes through the same doors as any other change. */
@Service
public class FillService {

    /** More would not be looked through by anybody. */
    private static final int MOST_HITS = 2_000;
    /** A few seconds with a large memory. */
    private static final int MOST_LOOKED_AT = 5_000;

    private static final int AT_ONCE = 500;
    private final SheetService sheet;
    private final MemoryService memory;
    private final Untranslated untranslated;
    private final Drafting drafting;
    private final Reading reading;

    FillService(
            SheetService sheet, MemoryService memory, Untranslated untranslated, Drafting drafting, Reading reading) {
        this.sheet = sheet;
        this.memory = memory;
        this.untranslated = untranslated;
        this.drafting = drafting;
        this.reading = reading;
    }

    /**
     * A text for an untranslated cell.
     *
     * @param version of the cell
     * @param percent how alike the source is that it was settled for
     * @param from the key of the entry that has it, or the context of the unit
     * @param table the name of that entry's table, or of the unit's shelf
     * @param fromEntry that entry, 0 for a unit of a shelf
     * @param fromUnit that unit, 0 for an entry
     * @param otherSource what it was settled for
     * @param adapted the placeholders and numbers that were put in the place of others
     */
    public record FillHit(
            long entry,
            String key,
            int version,
            String source,
            String text,
            int percent,
            String from,
            String table,
            long fromEntry,
            long fromUnit,
            String otherSource,
            List<Substitution> adapted) {}

    /**
     * What would be filled.
     *
     * @param hits in the order of the scope
     * @param untranslated how many untranslated texts were looked at
     * @param next where in the scope to go on, as only so many are looked at at once; null at its end
     * @param rest what nothing was found for, for a service to draft
     * @param plan what having them drafted would be; null when no service is named
     */
    public record Fill(
            List<FillHit> hits, int untranslated, @Nullable Integer next, List<Rest> rest, @Nullable DraftPlan plan) {}

    /**
     * A text that nothing was found for.
     *
     * @param version of its cell
     */
    public record Rest(long entry, int version) {}

    /**
     * Looks through a scope.
     *
     * @param scope the scope's query string
     * @param least how alike a source must be, in percent; 100 for the same
     * @param first where in the scope to begin, 0 for its beginning
     * @param service the number of the one that would draft what nothing is found for; null for none
     */
    @Transactional(readOnly = true)
    public Fill find(String scope, LanguageTag language, int least, int first, @Nullable Long service) {
        reading.require(language);
        if (service != null) {
            drafting.require(service, language);
        }
        List<Long> ids = sheet.entries(scope);
        List<FillHit> hits = new ArrayList<>();
        List<Empty> rest = new ArrayList<>();
        int looked = 0;
        Integer next = null;
        for (int from = first; from < ids.size(); from += AT_ONCE) {
            if (hits.size() >= MOST_HITS || looked >= MOST_LOOKED_AT) {
                next = from;
                break;
            }
            List<Long> some = ids.subList(from, Math.min(ids.size(), from + AT_ONCE));
            Map<Long, Empty> empty = untranslated.of(some, language);
            looked += empty.size();
            Map<Long, MemoryHit> best = memory.best(
                    empty.values().stream()
                            .map(one -> new Wanted(one.id(), one.sourceLanguage(), one.source()))
                            .toList(),
                    language,
                    least);
            for (Long id : some) {
                Empty one = empty.get(id);
                MemoryHit hit = best.get(id);
                if (one != null && hit != null) {
                    hits.add(hit(one, hit));
                } else if (one != null) {
                    rest.add(one);
                }
            }
        }
        return new Fill(
                hits,
                looked,
                next,
                rest.stream().map(one -> new Rest(one.id(), one.version())).toList(),
                service == null ? null : drafting.plan(service, untranslated.toDraft(rest)));
    }

    private static FillHit hit(Empty one, MemoryHit hit) {
        return new FillHit(
                one.id(),
                one.key(),
                one.version(),
                one.source(),
                hit.text(),
                hit.percent(),
                hit.key(),
                hit.table(),
                hit.entry(),
                hit.unit(),
                hit.source(),
                hit.adapted());
    }
}
