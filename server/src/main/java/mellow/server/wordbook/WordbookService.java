package mellow.server.wordbook;

import java.time.Clock;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import mellow.core.language.LanguageTag;
import mellow.core.wordbook.AgreedTerm;
import mellow.core.wordbook.WordFinder;
import mellow.server.common.Refusal;
import mellow.server.language.LanguageService;
import mellow.server.people.PeopleService;
import mellow.server.people.Reading;
import mellow.server.people.Rights;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Keeps the wordbook and finds its terms in sources. */
@Service
public class WordbookService {

    private static final String ALL =
            """
            select t.id, s.tag source, t.text term, t.note, t.version, l.tag language, x.text, x.avoid
            from term t join language s on s.id = t.language_id
            left join term_text x on x.term_id = t.id left join language l on l.id = x.language_id
            where t.removed_at is null order by lower(t.text), t.id, l.tag
            """;
    private static final String OF_LANGUAGES =
            """
            select t.text term, t.note, coalesce(x.text, '') text, coalesce(x.avoid, '{}') avoid
            from term t left join term_text x on x.term_id = t.id and x.language_id = :target
            where t.removed_at is null and t.language_id = :source order by length(t.text) desc, t.text
            """;
    private static final String ADD =
            """
            insert into term (language_id, text, note, changed_at, changed_by) values (:language, :text, :note, :now, :person) returning id
            """;
    private static final String CHANGE =
            """
            update term set text = :text, note = :note, version = version + 1, changed_at = :now, changed_by = :person
            where id = :id and version = :version and removed_at is null
            """;
    private static final String PUT_TEXT =
            """
            insert into term_text (term_id, language_id, text, avoid) values (:term, :language, :text, :avoid)
            on conflict (term_id, language_id) do update set text = excluded.text, avoid = excluded.avoid
            """;

    private final LanguageService languages;
    private final PeopleService people;
    private final Reading reading;
    private final ApplicationEventPublisher events;
    private final JdbcClient jdbc;
    private final Clock clock;

    WordbookService(
            LanguageService languages,
            PeopleService people,
            Reading reading,
            ApplicationEventPublisher events,
            JdbcClient jdbc,
            Clock clock) {
        this.events = events;
        this.languages = languages;
        this.people = people;
        this.reading = reading;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /**
     * What a term is called in a language.
     *
     * @param text the agreed word, empty when only words to avoid are known
     * @param avoid words that are not to be used for it
     */
    public record TermText(String text, List<String> avoid) {}

    /**
     * A term.
     *
     * @param source tag of the language it is a word of
     * @param texts its translations by tag
     * @param version to be sent back with a change
     */
    public record Term(long id, String source, String term, String note, Map<String, TermText> texts, int version) {}

    /**
     * A term that stands in a source.
     *
     * @param text what to say, empty when nothing was agreed
     * @param avoid what not to say
     */
    public record TermHit(String term, String note, String text, List<String> avoid) {

        /** The same without its note. */
        public AgreedTerm agreed() {
            return new AgreedTerm(term, text, avoid);
        }
    }

    /** All terms in the order of their words. */
    @Transactional(readOnly = true)
    public List<Term> all() {
        Map<Long, Term> terms = new LinkedHashMap<>();
        jdbc.sql(ALL).query(row -> {
            Term term = terms.get(row.getLong("id"));
            if (term == null) {
                term = new Term(
                        row.getLong("id"),
                        row.getString("source"),
                        row.getString("term"),
                        row.getString("note"),
                        new TreeMap<>(),
                        row.getInt("version"));
                terms.put(term.id(), term);
            }
            String language = row.getString("language");
            if (language != null && reading.reads(new LanguageTag(language))) {
                term.texts().put(language, new TermText(row.getString("text"), List.of((String[])
                        row.getArray("avoid").getArray())));
            }
        });
        return List.copyOf(terms.values());
    }

    /** The terms of a language that stand in {@code source}, the longest first, with what they are called in another. */
    @Transactional(readOnly = true)
    public List<TermHit> in(String source, LanguageTag from, LanguageTag to) {
        return terms(from, to).stream()
                .filter(hit -> !WordFinder.in(source, hit.term()).isEmpty())
                .toList();
    }

    /** What was agreed for all terms of a language in another. */
    @Transactional(readOnly = true)
    public List<AgreedTerm> agreed(LanguageTag from, LanguageTag to) {
        return terms(from, to).stream().map(TermHit::agreed).toList();
    }

    private List<TermHit> terms(LanguageTag from, LanguageTag to) {
        return jdbc.sql(OF_LANGUAGES)
                .param("source", languages.numberOrNone(from))
                .param("target", languages.numberOrNone(to))
                .query((row, n) -> new TermHit(
                        row.getString("term"), row.getString("note"), row.getString("text"), List.of((String[])
                                row.getArray("avoid").getArray())))
                .list();
    }

    /** Adds a term; its number. */
    @Transactional
    public long add(long person, String source, String text, String note, Map<String, TermText> texts) {
        people.rights(person).requireCoordinator("add terms");
        try {
            long id = jdbc.sql(ADD)
                    .param("language", languages.number(languages.parse(source)))
                    .param("text", text.strip())
                    .param("note", note.strip())
                    .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                    .param("person", person)
                    .query(Long.class)
                    .single();
            put(id, texts);
            tell(person, id, Set.of(text.strip()), texts);
            return id;
        } catch (DuplicateKeyException twice) {
            throw there(text);
        }
    }

    /** Changes a term and its translations; a language that is not named keeps what it has. */
    @Transactional
    public void change(long person, long id, int version, String text, String note, Map<String, TermText> texts) {
        Rights rights = people.rights(person);
        if (!rights.coordinator()) {
            if (texts.isEmpty()) {
                rights.requireCoordinator("change a term itself");
            }
            texts.keySet().forEach(tag -> {
                if (!rights.reviews(languages.parse(tag))) {
                    throw Refusal.forbidden(
                            "not-your-language",
                            "Only a reviewer of {language} or a coordinator can change this.",
                            Map.of("language", tag));
                }
            });
        }
        Set<String> words = new HashSet<>(words(id));
        if (rights.coordinator()) {
            words.add(text.strip());
        }
        try {
            int changed = rights.coordinator()
                    ? jdbc.sql(CHANGE)
                            .param("text", text.strip())
                            .param("note", note.strip())
                            .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                            .param("person", person)
                            .param("id", id)
                            .param("version", version)
                            .update()
                    : jdbc.sql(
                                    "update term set version = version + 1 where id = :id and version = :version and removed_at is null")
                            .param("id", id)
                            .param("version", version)
                            .update();
            if (changed == 0) {
                throw Refusal.conflict(
                        "term-moved-on",
                        "Someone changed this term meanwhile; look at it again, then repeat your change.",
                        Map.of());
            }
        } catch (DuplicateKeyException twice) {
            throw there(text);
        }
        put(id, texts);
        // A term that reads otherwise now concerns every language that it is agreed on in.
        tell(person, id, words, words.size() > 1 ? agreed(id) : texts);
    }

    private List<String> words(long id) {
        return jdbc.sql("select text from term where id = :id")
                .param("id", id)
                .query(String.class)
                .list();
    }

    private Map<String, TermText> agreed(long id) {
        Map<String, TermText> agreed = new TreeMap<>();
        jdbc.sql("select l.tag from term_text x join language l on l.id = x.language_id where x.term_id = :id")
                .param("id", id)
                .query((RowCallbackHandler) row -> agreed.put(row.getString("tag"), new TermText("", List.of())));
        return agreed;
    }

    private void tell(long person, long id, Set<String> words, Map<String, TermText> texts) {
        jdbc.sql("select language_id from term where id = :id")
                .param("id", id)
                .query(Integer.class)
                .optional()
                .filter(source -> !texts.isEmpty())
                .ifPresent(source -> events.publishEvent(new WordsChanged(
                        person,
                        source,
                        words,
                        texts.keySet().stream()
                                .map(tag -> languages.number(languages.parse(tag)))
                                .collect(Collectors.toSet()))));
    }

    /**
     * What was agreed on terms has changed; told in the transaction that changes it.
     *
     * @param person who changed it
     * @param source number of the language of the terms
     * @param words the terms, as they were and as they are
     * @param languages numbers of the languages in which something else is agreed now
     */
    public record WordsChanged(long person, int source, Set<String> words, Set<Integer> languages) {}

    /** Takes a term out of the wordbook. */
    @Transactional
    public void remove(long person, long id) {
        people.rights(person).requireCoordinator("remove terms");
        tell(person, id, Set.copyOf(words(id)), agreed(id));
        jdbc.sql("update term set removed_at = :now, version = version + 1 where id = :id and removed_at is null")
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .param("id", id)
                .update();
    }

    private void put(long term, Map<String, TermText> texts) {
        texts.forEach((tag, text) -> {
            List<String> avoid = new ArrayList<>();
            text.avoid().stream()
                    .map(String::strip)
                    .filter(word -> !word.isEmpty())
                    .forEach(avoid::add);
            int language = languages.number(languages.parse(tag));
            if (text.text().isBlank() && avoid.isEmpty()) {
                jdbc.sql("delete from term_text where term_id = :term and language_id = :language")
                        .param("term", term)
                        .param("language", language)
                        .update();
            } else {
                jdbc.sql(PUT_TEXT)
                        .param("term", term)
                        .param("language", language)
                        .param("text", text.text().strip())
                        .param("avoid", avoid.toArray(String[]::new))
                        .update();
            }
        });
    }

    private static Refusal there(String text) {
        return Refusal.conflict(
                "term-there",
                "The wordbook has \u201c{term}\u201d already; change it there.",
                Map.of("term", text.strip()));
    }
}
