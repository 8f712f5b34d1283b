package mellow.server.replace;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import mellow.core.replace.Replacement;
import mellow.core.replace.Replacement.BadPatternException;
import mellow.core.replace.Replacement.Wanted;
import mellow.server.common.Refusal;
import mellow.server.common.TextColumns;
import mellow.server.language.LanguageService;
import mellow.server.sheet.SheetService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Finds the texts of a scope in which words would be replaced. What is ticked then goes through the same doors as any other change. */
@Service
public class ReplaceService {

    /** More would not be looked through; the number of all is told. */
    private static final int MOST_HITS = 2_000;

    /** Characters of a reply; what would not be read need not be sent. */
    private static final int MOST_CHARACTERS = 4_000_000;

    private static final int AT_ONCE = 500;
    private static final String SOURCES =
            """
            select id, key, source text, source_forms forms, version, 0 standing from entry
            where id = any(:ids) and removed_at is null and shape <> 'asset'
            """;
    private static final String TEXTS =
            """
            select e.id, e.key, c.text, c.forms, c.version, c.standing from entry e join cell c on c.entry_id = e.id and c.language_id = :language
            where e.id = any(:ids) and e.removed_at is null and e.translatable and e.shape <> 'asset' and c.text is not null
            """;

    private final SheetService sheet;
    private final LanguageService languages;
    private final JdbcClient jdbc;

    ReplaceService(SheetService sheet, LanguageService languages, JdbcClient jdbc) {
        this.sheet = sheet;
        this.languages = languages;
        this.jdbc = jdbc;
    }

    /**
     * A text that would change.
     *
     * @param version of the entry for a source, of the cell for a text
     * @param settled whether the text is settled
     * @param before its forms now
     * @param after its forms then
     */
    public record Hit(
            long entry,
            String key,
            int version,
            boolean settled,
            Map<String, String> before,
            Map<String, String> after) {}

    /**
     * What was found.
     *
     * @param hits the first {@value #MOST_HITS} or fewer long ones, in the order of the scope
     * @param all number of all
     */
    public record Found(List<Hit> hits, int all) {}

    /**
     * Looks through a scope.
     *
     * @param scope the scope's query string
     * @param language the language to look through, null for the sources
     */
    @Transactional(readOnly = true)
    public Found find(String scope, @Nullable String language, Wanted wanted) {
        Replacement replacement;
        try {
            replacement = Replacement.of(wanted);
        } catch (BadPatternException wrong) {
            throw bad(wrong);
        }
        List<Long> ids = sheet.entries(scope);
        List<Hit> hits = new ArrayList<>();
        int[] all = new int[1];
        int[] characters = new int[1];
        for (int from = 0; from < ids.size(); from += AT_ONCE) {
            List<Long> some = ids.subList(from, Math.min(ids.size(), from + AT_ONCE));
            Map<Long, Hit> found = new HashMap<>();
            RowCallbackHandler look = row -> {
                SortedMap<String, String> before = TextColumns.read(row.getString("text"), row.getString("forms"))
                        .orElseThrow()
                        .forms();
                SortedMap<String, String> after = new TreeMap<>(before);
                after.replaceAll((form, text) -> replacement.in(text));
                if (!after.equals(before)) {
                    found.put(
                            row.getLong("id"),
                            new Hit(
                                    row.getLong("id"),
                                    row.getString("key"),
                                    row.getInt("version"),
                                    row.getInt("standing") == 2,
                                    before,
                                    after));
                }
            };
            try {
                JdbcClient.StatementSpec query =
                        jdbc.sql(language == null ? SOURCES : TEXTS).param("ids", some.toArray(Long[]::new));
                (language == null ? query : query.param("language", languages.numberOrNone(languages.parse(language))))
                        .query(look);
            } catch (BadPatternException endless) {
                throw bad(endless);
            }
            all[0] += found.size();
            for (Long id : some) {
                Hit hit = found.get(id);
                if (hit != null && hits.size() < MOST_HITS && characters[0] < MOST_CHARACTERS) {
                    hits.add(hit);
                    characters[0] += length(hit.before()) + length(hit.after());
                }
            }
        }
        return new Found(hits, all[0]);
    }

    private static int length(Map<String, String> forms) {
        return forms.values().stream().mapToInt(String::length).sum();
    }

    private static Refusal bad(BadPatternException wrong) {
        return Refusal.unacceptable("bad-pattern", String.valueOf(wrong.getMessage()), Map.of("field", "find"));
    }
}
