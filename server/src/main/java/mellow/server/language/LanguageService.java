package mellow.server.language;

import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import mellow.core.language.Language;
import mellow.core.language.LanguageTag;
import mellow.server.common.Refusal;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;

/** Gives each language tag a small number, for ever. Numbers never change, so they may be remembered. */
@Service
public class LanguageService {

    private final JdbcClient jdbc;
    private final Map<String, Integer> numbers = new ConcurrentHashMap<>();
    private final Map<Integer, LanguageTag> tags = new ConcurrentHashMap<>();
    private final Map<LanguageTag, Language> described = new ConcurrentHashMap<>();

    private final TransactionTemplate apart;

    LanguageService(JdbcClient jdbc, PlatformTransactionManager transactions) {
        this.jdbc = jdbc;
        this.apart = new TransactionTemplate(transactions);
        this.apart.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
    }

    /** The number of no language, for questions about one that nothing is kept in. */
    public static final int NONE = 0;

    /**
     * The number of {@code tag}, given now if it has none; only what a coordinator does may ask so. Given in a transaction of its own, so that a number once told is never taken back with somebody's
     * work, and two who bring the same language at the same moment get the same number.
     */
    public int number(LanguageTag tag) {
        return known(tag).orElseGet(() -> {
            apart.executeWithoutResult(
                    status -> jdbc.sql("insert into language (tag) values (:tag) on conflict do nothing")
                            .param("tag", tag.value())
                            .update());
            return known(tag).orElseThrow();
        });
    }

    /** Our numbers of languages that were sent to us, as {@link #number} gives them. */
    public List<Integer> numbers(Collection<String> spellings) {
        return spellings.stream().map(tag -> number(parse(tag))).toList();
    }

    /** The number of {@code tag}, if any table or person has ever used it. */
    public Optional<Integer> known(LanguageTag tag) {
        Integer remembered = numbers.get(tag.value());
        return remembered != null
                ? Optional.of(remembered)
                : jdbc.sql("select id from language where tag = :tag")
                        .param("tag", tag.value())
                        .query(Integer.class)
                        .optional();
    }

    /** The same, {@link #NONE} for one that nothing has ever used: whoever reads makes no languages. */
    public int numberOrNone(LanguageTag tag) {
        return known(tag).orElse(NONE);
    }

    /** Every language that any table or person has ever used. */
    public List<LanguageTag> all() {
        return jdbc.sql("select tag from language order by tag")
                .query((row, n) -> new LanguageTag(row.getString(1)))
                .list();
    }

    /** The tag of a number. */
    public LanguageTag tag(int number) {
        return tags.computeIfAbsent(number, n -> {
            LanguageTag tag = new LanguageTag(jdbc.sql("select tag from language where id = :id")
                    .param("id", n)
                    .query(String.class)
                    .single());
            numbers.put(tag.value(), n);
            return tag;
        });
    }

    /** What CLDR says about {@code tag}. */
    public Language describe(LanguageTag tag) {
        return described.computeIfAbsent(tag, Language::of);
    }

    /**
     * Reads a tag that a request carries.
     *
     * @throws Refusal when it is none
     */
    public LanguageTag parse(String spelling) {
        return LanguageTag.parse(spelling)
                .orElseThrow(() -> Refusal.unacceptable(
                        "unknown-language",
                        "\u201c{said}\u201d is no language tag; expected one such as de or pt-BR.",
                        Map.of("said", spelling)));
    }

    /** Reads tags that a request carries. */
    public List<LanguageTag> parse(List<String> spellings) {
        return spellings.stream().map(this::parse).toList();
    }
}
