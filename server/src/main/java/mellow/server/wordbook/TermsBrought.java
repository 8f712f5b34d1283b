package mellow.server.wordbook;

import java.time.Clock;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import mellow.core.language.LanguageTag;
import mellow.server.common.Refusal;
import mellow.server.language.LanguageService;
import mellow.server.people.PeopleService;
import mellow.server.wordbook.WordbookService.TermText;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** Puts the terms of a file into the wordbook. */
@Component
class TermsBrought {

    private static final String ADD_MANY =
            """
            insert into term (language_id, text, note, begins, changed_at, changed_by)
            select :language, t.text, t.note, array[t.begins], :now, :person from unnest(:texts::text[], :notes::text[], :begins::text[]) t(text, note, begins)
            returning id, text
            """;
    /** What may be said as well stays, and proposals that are not what is said now. */
    private static final String PUT_MANY =
            """
            insert into term_text (term_id, language_id, text, avoid)
            select x.term, x.language, x.text, array(select jsonb_array_elements_text(x.avoid::jsonb))
            from unnest(:terms::bigint[], :languages::int[], :texts::text[], :avoid::text[]) x(term, language, text, avoid)
            on conflict (term_id, language_id) do update set text = excluded.text, avoid = excluded.avoid,
                proposal = case when excluded.text = term_text.proposal then null else term_text.proposal end
            """;

    private static final int AT_ONCE = 500;

    private static final JsonMapper JSON = JsonMapper.shared();

    private final PeopleService people;
    private final LanguageService languages;
    private final TermNews news;
    private final JdbcClient jdbc;
    private final Clock clock;

    TermsBrought(PeopleService people, LanguageService languages, TermNews news, JdbcClient jdbc, Clock clock) {
        this.people = people;
        this.languages = languages;
        this.news = news;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /**
     * A term of a file.
     *
     * @param id of the term that is there, null for a new one
     * @param texts what is said of it now, in languages in which that changes
     */
    record Brought(@Nullable Long id, String term, String note, Map<String, TermText> texts) {}

    /** Adds terms, and says more of others, as one change; a few statements for five hundred. */
    @Transactional
    void bring(long person, LanguageTag from, List<Brought> brought) {
        people.rights(person).requireCoordinator("take wordbooks in");
        int source = languages.number(from);
        Set<String> words = new HashSet<>();
        Set<String> tags = new TreeSet<>();
        for (int at = 0; at < brought.size(); at += AT_ONCE) {
            List<Brought> some = brought.subList(at, Math.min(brought.size(), at + AT_ONCE));
            try {
                bringSome(person, source, some);
            } catch (DuplicateKeyException twice) {
                throw Refusal.conflict(
                        "term-there",
                        "Two terms of the file differ in their case only, or somebody added one of them meanwhile; nothing of it was taken in.",
                        Map.of());
            }
            some.forEach(one -> {
                words.add(one.term);
                tags.addAll(one.texts.keySet());
            });
        }
        news.tell(person, source, words, languages.numbers(tags));
    }

    private void bringSome(long person, int source, List<Brought> some) {
        List<Brought> fresh = some.stream().filter(one -> one.id == null).toList();
        Map<String, Long> ids = new HashMap<>();
        jdbc.sql(ADD_MANY)
                .param("language", source)
                .param("texts", fresh.stream().map(Brought::term).toArray(String[]::new))
                .param("notes", fresh.stream().map(Brought::note).toArray(String[]::new))
                .param(
                        "begins",
                        fresh.stream()
                                .map(one -> news.beginnings(source, Set.of(one.term))[0])
                                .toArray(String[]::new))
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .param("person", person)
                .query((RowCallbackHandler) row -> ids.put(row.getString(2), row.getLong(1)));
        List<Long> terms = new ArrayList<>();
        List<Integer> numbers = new ArrayList<>();
        List<String> texts = new ArrayList<>();
        List<String> avoid = new ArrayList<>();
        for (Brought one : some) {
            long id = one.id == null ? Objects.requireNonNull(ids.get(one.term)) : one.id;
            one.texts.forEach((tag, text) -> {
                terms.add(id);
                numbers.add(languages.number(languages.parse(tag)));
                texts.add(text.text());
                avoid.add(JSON.writeValueAsString(text.avoid()));
            });
        }
        jdbc.sql(PUT_MANY)
                .param("terms", terms.toArray(Long[]::new))
                .param("languages", numbers.toArray(Integer[]::new))
                .param("texts", texts.toArray(String[]::new))
                .param("avoid", avoid.toArray(String[]::new))
                .update();
        jdbc.sql("update term set version = version + 1 where id = any(:ids)")
                .param(
                        "ids",
                        some.stream().map(Brought::id).filter(Objects::nonNull).toArray(Long[]::new))
                .update();
    }
}
