package mellow.server.wordbook;

import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import mellow.core.language.LanguageTag;
import mellow.core.wordbook.AgreedTerm;
import mellow.core.wordbook.TermFinder;
import mellow.server.common.Refusal;
import mellow.server.language.LanguageService;
import mellow.server.people.PeopleService;
import mellow.server.people.Rights;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Keeps the wordbook and finds its terms in sources. */
@Service
public class WordbookService {

    private static final String OF_LANGUAGES =
            """
            select t.text term, t.note, coalesce(x.text, '') text, coalesce(x.avoid, '{}') avoid, coalesce(x.forms, '{}') forms, t.forms term_forms
            from term t left join term_text x on x.term_id = t.id and x.language_id = :target
            where t.removed_at is null and t.status = 'agreed' and t.language_id = :source
              and (:table = 0 or t.products = '{}' or exists (select 1 from product_table u where u.table_id = :table and u.product_id = any(t.products)))
              and (:words = '' or t.begins is null or exists (select 1 from unnest(t.begins) b where position(b in :words) > 0))
            order by length(t.text) desc, t.text
            """;
    private static final String ADD =
            """
            insert into term (language_id, text, note, part, products, status, forms, begins, proposed_by, changed_at, changed_by)
            values (:language, :text, :note, :part, :products, :status, :forms, :begins, case when :status = 'proposed' then :person::bigint end, :now, :person) returning id
            """;
    private static final String CHANGE =
            """
            update term set text = :text, note = :note, part = :part, products = :products, status = :status, forms = :forms, begins = :begins, version = version + 1, changed_at = :now, changed_by = :person
            where id = :id and version = :version and removed_at is null
            """;
    private static final String PUT_TEXT =
            """
            insert into term_text (term_id, language_id, text, avoid, forms) values (:term, :language, :text, :avoid, :forms)
            on conflict (term_id, language_id) do update set text = excluded.text, avoid = excluded.avoid, forms = excluded.forms,
                proposal = case when excluded.text = term_text.proposal then null else term_text.proposal end
            """;

    private static final String PROPOSE =
            """
            insert into term_text (term_id, language_id, text, avoid, proposal, proposed_by, proposed_at)
            select id, :language, '', '{}', :proposal, :person, :now from term where id = :term and removed_at is null
            on conflict (term_id, language_id) do update set proposal = excluded.proposal, proposed_by = excluded.proposed_by, proposed_at = excluded.proposed_at
            """;
    private final TermRows rows;
    private final LanguageService languages;
    private final PeopleService people;
    private final TermNews news;
    private final JdbcClient jdbc;
    private final Clock clock;

    WordbookService(
            TermRows rows,
            LanguageService languages,
            PeopleService people,
            TermNews news,
            JdbcClient jdbc,
            Clock clock) {
        this.rows = rows;
        this.news = news;
        this.languages = languages;
        this.people = people;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /**
     * What a term is called in a language.
     *
     * @param text the agreed word, empty when only words to avoid are known
     * @param avoid words that are not to be used for it
     * @param forms what may be said as well, and forms that no rule reaches; null for none
     * @param proposal what a contributor proposes to say instead, null for nothing
     * @param proposedBy whose proposal it is
     */
    public record TermText(
            @NotNull @Size(max = 200) String text,
            @NotNull @Size(max = 50) List<@NotNull @Size(max = 200) String> avoid,
            @Nullable @Size(max = 50) List<@NotNull @Size(max = 200) String> forms,
            @Nullable String proposal,
            @Nullable String proposedBy) {

        /** An agreed word and what to avoid. */
        public TermText(String text, List<String> avoid) {
            this(text, avoid, List.of(), null, null);
        }
    }

    /**
     * What a term is, apart from what it is called elsewhere.
     *
     * @param part of speech: noun, verb, adjective, adverb, name, phrase, or empty
     * @param products slugs of those that it belongs to; none for all
     * @param status agreed, proposed, or avoid for a word that sources should not have
     * @param forms how it reads in sources as well
     */
    public record TermSense(String part, List<String> products, String status, List<String> forms) {

        /** An agreed term for all products. */
        public static final TermSense AGREED = new TermSense("", List.of(), "agreed", List.of());
    }

    /**
     * A term.
     *
     * @param source tag of the language it is a word of
     * @param texts its translations by tag
     * @param proposedBy who proposed it, null for who agreed on it at once
     * @param version to be sent back with a change
     */
    public record Term(
            long id,
            String source,
            String term,
            String note,
            TermSense sense,
            Map<String, TermText> texts,
            @Nullable String proposedBy,
            int version) {}

    /**
     * A term that stands in a source.
     *
     * @param text what to say, empty when nothing was agreed
     * @param avoid what not to say
     */
    public record TermHit(String term, String note, String text, List<String> avoid) {}

    private record Known(String note, AgreedTerm agreed) {}

    /** All terms in the order of their words. */
    @Transactional(readOnly = true)
    public List<Term> all() {
        return rows.all();
    }

    /** The agreed terms of a language that stand in {@code source}, with what they are called in another; none that stands only within a longer one. */
    @Transactional(readOnly = true)
    public List<TermHit> in(String source, long table, LanguageTag from, LanguageTag to) {
        Locale locale = Locale.forLanguageTag(from.value());
        Map<AgreedTerm, String> notes = new LinkedHashMap<>();
        terms(from, to, table, source.toLowerCase(locale)).forEach(one -> notes.put(one.agreed, one.note));
        return TermFinder.of(notes.keySet(), locale).in(source).stream()
                .map(term -> new TermHit(term.term(), notes.getOrDefault(term, ""), term.text(), term.avoid()))
                .toList();
    }

    /** What was agreed for all terms of a language in another. */
    @Transactional(readOnly = true)
    public List<AgreedTerm> agreed(LanguageTag from, LanguageTag to) {
        return terms(from, to, 0, "").stream().map(Known::agreed).toList();
    }

    private List<Known> terms(LanguageTag from, LanguageTag to, long table, String words) {
        return jdbc.sql(OF_LANGUAGES)
                .param("source", languages.numberOrNone(from))
                .param("target", languages.numberOrNone(to))
                .param("table", table)
                .param("words", words)
                .query((row, n) -> new Known(
                        row.getString("note"),
                        new AgreedTerm(
                                row.getString("term"),
                                row.getString("text"),
                                TermRows.strings(row, "avoid"),
                                TermRows.strings(row, "forms"),
                                TermRows.strings(row, "term_forms"))))
                .list();
    }

    /** Adds an agreed term; its number. */
    @Transactional
    public long add(long person, String source, String text, String note, Map<String, TermText> texts) {
        return add(person, source, text, note, TermSense.AGREED, texts);
    }

    /** Adds a term; its number. Who is no coordinator proposes it, with what it is called in languages of their own. */
    @Transactional
    public long add(
            long person, String source, String text, String note, TermSense sense, Map<String, TermText> texts) {
        Rights rights = people.rights(person);
        if (!rights.coordinator()) {
            rights.requireAny("propose terms");
            texts.keySet().forEach(tag -> {
                if (!rights.contributes(languages.parse(tag))) {
                    throw notYours(tag);
                }
            });
        }
        LanguageTag of = languages.parse(source);
        int language = rights.coordinator() ? languages.number(of) : kept(of);
        String status = rights.coordinator() ? sense.status() : "proposed";
        try {
            long id = jdbc.sql(ADD)
                    .param("language", language)
                    .param("text", text.strip())
                    .param("note", note.strip())
                    .param("part", sense.part())
                    .param("products", products(sense))
                    .param("status", status)
                    .param("forms", TermRows.cleaned(sense.forms()))
                    .param("begins", news.beginnings(language, spellings(text, sense)))
                    .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                    .param("person", person)
                    .query(Long.class)
                    .single();
            put(id, texts);
            news.tell(person, language, spellings(text, sense), languages.numbers(texts.keySet()));
            return id;
        } catch (DuplicateKeyException twice) {
            throw there(text);
        }
    }

    /** The number of a language that something is kept in: who proposes makes no languages. */
    private int kept(LanguageTag tag) {
        return languages
                .known(tag)
                .orElseThrow(() -> Refusal.unacceptable(
                        "language-not-kept", "No table is kept in {language}.", Map.of("language", tag.value())));
    }

    private Long[] products(TermSense sense) {
        Long[] found = jdbc.sql("select id from product where slug = any(:slugs) and removed_at is null order by id")
                .param("slugs", sense.products().toArray(String[]::new))
                .query(Long.class)
                .list()
                .toArray(Long[]::new);
        if (found.length < sense.products().stream().distinct().count()) {
            throw Refusal.notFound("no-such-product", "One of the term's products does not exist any more.");
        }
        return found;
    }

    private static Refusal notYours(String tag) {
        return Refusal.forbidden(
                "not-your-language",
                "Only a reviewer of {language} or a coordinator can change this.",
                Map.of("language", tag));
    }

    /** Changes an agreed term and its translations; a language that is not named keeps what it has. */
    @Transactional
    public void change(long person, long id, int version, String text, String note, Map<String, TermText> texts) {
        change(person, id, version, text, note, TermSense.AGREED, texts);
    }

    /** Changes a term and its translations; a language that is not named keeps what it has. */
    @Transactional
    public void change(
            long person, long id, int version, String text, String note, TermSense sense, Map<String, TermText> texts) {
        Rights rights = people.rights(person);
        if (!rights.coordinator()) {
            if (texts.isEmpty()) {
                rights.requireCoordinator("change a term itself");
            }
            texts.keySet().forEach(tag -> {
                if (!rights.reviews(languages.parse(tag))) {
                    throw notYours(tag);
                }
            });
        }
        int source = sourceOf(id);
        Set<String> words = new HashSet<>(words(id));
        if (rights.coordinator()) {
            words.addAll(spellings(text, sense));
        }
        try {
            int changed = rights.coordinator()
                    ? jdbc.sql(CHANGE)
                            .param("text", text.strip())
                            .param("note", note.strip())
                            .param("part", sense.part())
                            .param("products", products(sense))
                            .param("status", sense.status())
                            .param("forms", TermRows.cleaned(sense.forms()))
                            .param("begins", news.beginnings(source, spellings(text, sense)))
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
        Set<Integer> concerned = new TreeSet<>(languages.numbers(texts.keySet()));
        if (rights.coordinator()) {
            // A term that is another now concerns every language that it is agreed on in.
            concerned.addAll(agreed(id));
        }
        put(id, texts);
        news.tell(person, source, words, concerned);
    }

    /**
     * Proposes what a term should be called in a language, or takes a proposal away.
     *
     * @param text empty takes it away: one's own, or any for who reviews the language
     */
    @Transactional
    public void propose(long person, long id, LanguageTag language, String text) {
        Rights rights = people.rights(person);
        if (!rights.contributes(language)) {
            throw notYours(language.value());
        }
        int number = kept(language);
        String said = text.strip();
        int changed = said.isEmpty()
                ? jdbc.sql(
                                "update term_text set proposal = null, proposed_by = null where term_id = :term and language_id = :language and proposal is not null and (proposed_by = :person or :reviews)")
                        .param("term", id)
                        .param("language", number)
                        .param("person", person)
                        .param("reviews", rights.reviews(language))
                        .update()
                : jdbc.sql(PROPOSE)
                        .param("term", id)
                        .param("language", number)
                        .param("proposal", said)
                        .param("person", person)
                        .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                        .update();
        if (changed == 0) {
            throw Refusal.notFound("no-such-term", "There is no such term or proposal any more.");
        }
    }

    private List<String> words(long id) {
        return jdbc.sql("select unnest(text || forms) from term where id = :id")
                .param("id", id)
                .query(String.class)
                .list();
    }

    private static Set<String> spellings(String text, TermSense sense) {
        Set<String> spellings = new LinkedHashSet<>(List.of(text.strip()));
        spellings.addAll(List.of(TermRows.cleaned(sense.forms())));
        return spellings;
    }

    private int sourceOf(long id) {
        return jdbc.sql("select language_id from term where id = :id")
                .param("id", id)
                .query(Integer.class)
                .optional()
                .orElseThrow(() -> Refusal.notFound("no-such-term", "There is no such term or proposal any more."));
    }

    /** Numbers of the languages in which something is agreed for a term. */
    private List<Integer> agreed(long id) {
        return jdbc.sql("select language_id from term_text where term_id = :id")
                .param("id", id)
                .query(Integer.class)
                .list();
    }

    /** Takes a term out of the wordbook. */
    @Transactional
    public void remove(long person, long id) {
        people.rights(person).requireCoordinator("remove terms");
        news.tell(person, sourceOf(id), Set.copyOf(words(id)), agreed(id));
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
            String[] forms = TermRows.cleaned(Objects.requireNonNullElse(text.forms(), List.of()));
            if (text.text().isBlank() && avoid.isEmpty() && forms.length == 0) {
                jdbc.sql("delete from term_text where term_id = :term and language_id = :language and proposal is null")
                        .param("term", term)
                        .param("language", language)
                        .update();
            } else {
                jdbc.sql(PUT_TEXT)
                        .param("term", term)
                        .param("language", language)
                        .param("text", text.text().strip())
                        .param("avoid", avoid.toArray(String[]::new))
                        .param("forms", forms)
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
