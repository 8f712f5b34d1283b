package mellow.server.fill;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import mellow.core.language.LanguageTag;
import mellow.core.text.WordCount;
import mellow.server.fill.Untranslated.Empty;
import mellow.server.memory.MemoryHit;
import mellow.server.memory.MemoryService;
import mellow.server.memory.MemoryService.Wanted;
import mellow.server.people.Reading;
import mellow.server.sheet.SheetService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** WorkCounts how much work the untranslated texts of a scope are: what is new, and what is like something that was settled before. */
@Service
public class CountService {

    private static final int AT_ONCE = 500;
    /** A few seconds with a large memory; whoever asks goes on from there. */
    private static final int MOST_LOOKED_AT = 5_000;

    /** Of one source that stands several times in a scope the first is work, in the scope's order. */
    private static final String TWICE =
            """
            select id from (
                select e.id, row_number() over (partition by e.source, t.source_language_id order by i.at) turn
                from unnest(:ids::bigint[]) with ordinality i(id, at) join entry e on e.id = i.id join ledger_table t on t.id = e.table_id
                join table_language k on k.table_id = t.id and k.language_id = (select id from language where tag = :tag)
                left join cell c on c.entry_id = e.id and c.language_id = k.language_id
                where e.translatable and e.shape = 'plain' and e.source <> '' and c.text is null) s
            where turn > 1
            """;

    private final SheetService sheet;
    private final MemoryService memory;
    private final Untranslated untranslated;
    private final Reading reading;
    private final JdbcClient jdbc;

    CountService(
            SheetService sheet, MemoryService memory, Untranslated untranslated, Reading reading, JdbcClient jdbc) {
        this.sheet = sheet;
        this.memory = memory;
        this.untranslated = untranslated;
        this.reading = reading;
        this.jdbc = jdbc;
    }

    /** How much of a text is known already, by the most alike source that is settled. */
    public enum Band {
        /** Settled word for word elsewhere. */
        ELSEWHERE(100),
        /** Stands in the scope before, so it is work once. */
        TWICE(101),
        NEARLY(95),
        SIMILAR(85),
        FAR(75),
        NEW(0);

        private final int least;

        Band(int least) {
            this.least = least;
        }

        private static Band of(int percent) {
            for (Band band : List.of(ELSEWHERE, NEARLY, SIMILAR, FAR)) {
                if (percent >= band.least) {
                    return band;
                }
            }
            return NEW;
        }
    }

    /** How much is in a band; words and characters of the sources. */
    public record WorkCounted(Band band, int entries, long words, long characters) {}

    /**
     * What a part of a scope is.
     *
     * @param looked entries of the scope that were looked at
     * @param of entries in the scope
     * @param next where to go on; null at its end
     */
    public record WorkCounts(List<WorkCounted> bands, int looked, int of, @Nullable Integer next) {}

    private static final class Sum {
        private int entries;
        private long words;
        private long characters;
    }

    /** WorkCounts a scope from {@code first} on. */
    @Transactional(readOnly = true)
    public WorkCounts count(String scope, LanguageTag language, int first) {
        reading.require(language);
        List<Long> ids = sheet.entries(scope);
        Set<Long> twice = new HashSet<>(jdbc.sql(TWICE)
                .param("ids", ids.toArray(Long[]::new))
                .param("tag", language.value())
                .query(Long.class)
                .list());
        Map<Band, Sum> sums = new EnumMap<>(Band.class);
        for (Band band : Band.values()) {
            sums.put(band, new Sum());
        }
        int looked = 0;
        Integer next = null;
        int from = first;
        for (; from < ids.size(); from += AT_ONCE) {
            if (looked >= MOST_LOOKED_AT) {
                next = from;
                break;
            }
            looked += some(ids.subList(from, Math.min(ids.size(), from + AT_ONCE)), language, twice, sums);
        }
        List<WorkCounted> bands = new ArrayList<>();
        sums.forEach((band, sum) -> bands.add(new WorkCounted(band, sum.entries, sum.words, sum.characters)));
        return new WorkCounts(bands, Math.min(from, ids.size()) - first, ids.size(), next);
    }

    private int some(List<Long> ids, LanguageTag language, Set<Long> twice, Map<Band, Sum> sums) {
        Map<Long, Empty> empty = untranslated.of(ids, language);
        Map<Long, MemoryHit> best = memory.best(
                empty.values().stream()
                        .filter(one -> !twice.contains(one.id()))
                        .map(one -> new Wanted(one.id(), one.sourceLanguage(), one.source()))
                        .toList(),
                language,
                Band.FAR.least);
        for (Empty one : empty.values()) {
            MemoryHit hit = best.get(one.id());
            Band band = twice.contains(one.id()) ? Band.TWICE : Band.of(hit == null ? 0 : hit.percent());
            Sum sum = Objects.requireNonNull(sums.get(band));
            sum.entries++;
            sum.words += WordCount.of(one.source());
            sum.characters += one.source().codePointCount(0, one.source().length());
        }
        return empty.size();
    }
}
