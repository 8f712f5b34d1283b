package mellow.server.find;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import mellow.core.language.LanguageTag;
import mellow.core.text.Folding;
import mellow.server.language.LanguageService;
import mellow.server.people.PeopleService;
import mellow.server.people.Reading;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * One look over everything that has words. Accents and case make no difference. Trigram indexes answer rare words; for a common one the first few rows
 * that a scan meets are enough, and the planner chooses between the two by its statistics.
 */
@Service
class FindService {

    private static final int MOST_ENTRIES = 12;
    private static final int MOST_TEXTS = 12;
    private static final int MOST_PEOPLE = 4;
    /** Fewer letters have no trigram and would read every text. */
    private static final int SHORTEST_IN_TEXTS = 3;

    /** Who types a whole key means it, so it comes first. Rows that wait for the index are read as they are. */
    private static final String ENTRIES =
            """
            with found as (
                (select e.id, 0 place from entry e where e.key = :words and e.removed_at is null limit :most)
                union all
                (select e.id, 1 from entry e
                where not e.unindexed and e.key <> :words and e.key || E'\\n' || coalesce(e.source_folded, e.source) || E'\\n' || coalesce(e.note_folded, e.note) ilike :like
                  and e.removed_at is null limit :most)
                union all
                (select e.id, 2 from entry e
                where e.unindexed and e.key <> :words and e.key || E'\\n' || coalesce(e.source_folded, e.source) || E'\\n' || coalesce(e.note_folded, e.note) ilike :like
                  and e.removed_at is null limit :most)
            )
            select e.id, t.slug, t.name, e.key, e.source
            from found f join entry e on e.id = f.id join ledger_table t on t.id = e.table_id and t.removed_at is null
            order by f.place, e.table_id, e.position limit :most
            """;

    private static final String TEXTS =
            """
            with found as (
                (select c.entry_id, c.language_id, c.text from cell c where not c.unindexed and coalesce(c.folded, c.text) ilike :like limit :most)
                union all
                (select c.entry_id, c.language_id, c.text from cell c where c.unindexed and coalesce(c.folded, c.text) ilike :like limit :most)
            )
            select e.id, t.slug, t.name, e.key, f.language_id, f.text
            from found f join entry e on e.id = f.entry_id and e.removed_at is null
            join ledger_table t on t.id = e.table_id and t.removed_at is null
            limit :most
            """;

    private final JdbcClient jdbc;
    private final LanguageService languages;
    private final PeopleService people;
    private final Reading reading;

    FindService(JdbcClient jdbc, LanguageService languages, PeopleService people, Reading reading) {
        this.jdbc = jdbc;
        this.languages = languages;
        this.people = people;
        this.reading = reading;
    }

    /** What {@code words} may mean; nothing for no words. */
    @Transactional(readOnly = true)
    public FoundReply find(String words) {
        String folded = Folding.fold(words.strip());
        if (folded.isEmpty()) {
            return new FoundReply(List.of(), List.of());
        }
        String like = "%" + folded.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_") + "%";
        List<FoundEntry> found = new ArrayList<>(jdbc.sql(ENTRIES)
                .param("words", words.strip())
                .param("like", like)
                .param("most", MOST_ENTRIES)
                .query((row, n) -> new FoundEntry(
                        row.getLong("id"),
                        row.getString("slug"),
                        row.getString("name"),
                        row.getString("key"),
                        row.getString("source"),
                        null))
                .list());
        if (searchable(folded)) {
            jdbc
                    .sql(TEXTS)
                    .param("like", like)
                    .param("most", MOST_TEXTS)
                    .query((row, n) -> new FoundEntry(
                            row.getLong("id"),
                            row.getString("slug"),
                            row.getString("name"),
                            row.getString("key"),
                            row.getString("text"),
                            languages.tag(row.getInt("language_id")).value()))
                    .list()
                    .stream()
                    .filter(one -> one.language() == null || reading.reads(new LanguageTag(one.language())))
                    .forEach(found::add);
        }
        String lower = folded.toLowerCase(Locale.ROOT);
        List<FoundPerson> named = people.names().entrySet().stream()
                .filter(person ->
                        Folding.fold(person.getValue()).toLowerCase(Locale.ROOT).contains(lower))
                .limit(MOST_PEOPLE)
                .map(person -> new FoundPerson(person.getKey(), person.getValue()))
                .toList();
        return new FoundReply(found, named);
    }

    /** Scripts without spaces say in two signs what others say in a word. */
    private static boolean searchable(String words) {
        int letters = words.codePointCount(0, words.length());
        boolean dense = words.codePoints().anyMatch(Character::isIdeographic);
        return letters >= SHORTEST_IN_TEXTS || (dense && letters >= 2);
    }

    /**
     * What was found.
     *
     * @param entries entries, those whose key, source or note has the words first
     * @param people people of that name
     */
    record FoundReply(List<FoundEntry> entries, List<FoundPerson> people) {}

    /**
     * An entry that was found.
     *
     * @param table its table's name in addresses
     * @param words the source, or the text that has the words
     * @param language the text's language, null for the source
     */
    record FoundEntry(
            long entry, String table, String tableName, String key, String words, @Nullable String language) {}

    /** A person that was found. */
    record FoundPerson(long id, String name) {}
}
