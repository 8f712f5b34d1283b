package mellow.server.language;

import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import mellow.core.language.Language;
import mellow.core.language.LanguageTag;
import mellow.server.common.Refusal;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;

/** Gives each language tag a small number, for ever. Numbers never change, so they may be remembered. */
@Service
public class LanguageService {

    private static final String FIND_OR_ADD =
            """
            with added as (insert into language (tag) values (:tag) on conflict do nothing returning id)
            select id from added union all select id from language where tag = :tag limit 1
            """;

    private final JdbcClient jdbc;
    private final Map<String, Short> numbers = new ConcurrentHashMap<>();
    private final Map<Short, LanguageTag> tags = new ConcurrentHashMap<>();
    private final Map<LanguageTag, Language> described = new ConcurrentHashMap<>();

    LanguageService(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** The number of {@code tag}, given now if it has none. */
    public short number(LanguageTag tag) {
        Short known = numbers.get(tag.value());
        return known != null
                ? known
                : jdbc.sql(FIND_OR_ADD)
                        .param("tag", tag.value())
                        .query(Short.class)
                        .single();
    }

    /** The number of {@code tag}, if any table or person has ever used it. */
    public java.util.Optional<Short> known(LanguageTag tag) {
        Short remembered = numbers.get(tag.value());
        return remembered != null
                ? java.util.Optional.of(remembered)
                : jdbc.sql("select id from language where tag = :tag")
                        .param("tag", tag.value())
                        .query(Short.class)
                        .optional();
    }

    /** Every language that any table or person has ever used. */
    public List<LanguageTag> all() {
        return jdbc.sql("select tag from language order by tag")
                .query((row, n) -> new LanguageTag(row.getString(1)))
                .list();
    }

    /** The tag of a number. */
    public LanguageTag tag(short number) {
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
                        "\u201c" + spelling + "\u201d is no language tag; expected one such as de or pt-BR."));
    }

    /** Reads tags that a request carries. */
    public List<LanguageTag> parse(List<String> spellings) {
        return spellings.stream().map(this::parse).toList();
    }
}
