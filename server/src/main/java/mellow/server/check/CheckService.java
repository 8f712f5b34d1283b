package mellow.server.check;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import mellow.core.check.Finding;
import mellow.core.check.Measure;
import mellow.core.check.Mend;
import mellow.core.language.LanguageTag;
import mellow.core.placeholder.IcuMessage;
import mellow.server.common.Refusal;
import mellow.server.language.LanguageService;
import mellow.server.wordbook.WordbookService;
import mellow.server.wordbook.WordbookService.TermHit;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Looks at a text of a cell as it is being typed: core's checks, and the wordbook's words to avoid. Changes nothing. */
@Service
public class CheckService {

    private static final String ENTRY =
            """
            select e.table_id, %s, l.tag from entry e
            join ledger_table t on t.id = e.table_id join language l on l.id = t.source_language_id where e.id = :entry
            """
                    .formatted(MeasureColumns.OF_ENTRY);

    private final WordbookService wordbook;
    private final LanguageService languages;
    private final Inspector inspector;
    private final JdbcClient jdbc;

    CheckService(WordbookService wordbook, LanguageService languages, Inspector inspector, JdbcClient jdbc) {
        this.languages = languages;
        this.wordbook = wordbook;
        this.inspector = inspector;
        this.jdbc = jdbc;
    }

    /**
     * Something found.
     *
     * @param kind what people switch on and off
     * @param severity blocker or warning
     * @param form the form it is in
     * @param values numbers and words that stand in the sentence, by name
     * @param start where it begins in UTF-16 units, -1 when it has no place
     * @param mend what the one sure way to mend it does, null when there is none
     * @param mended the form as it is then
     */
    public record FindingReply(
            String kind,
            String code,
            String severity,
            String form,
            String sentence,
            Map<String, Object> values,
            int start,
            int end,
            @Nullable String mend,
            @Nullable String mended) {

        /** A finding as it is told. */
        public static FindingReply of(Finding finding) {
            Mend mend = finding.mend();
            return new FindingReply(
                    finding.kind().word(),
                    finding.code(),
                    finding.severity().name().toLowerCase(Locale.ROOT),
                    finding.form(),
                    finding.sentence(),
                    finding.values(),
                    finding.start(),
                    finding.end(),
                    mend == null ? null : mend.label(),
                    mend == null ? null : mend.text());
        }
    }

    /**
     * An argument of an ICU message.
     *
     * @param type such as plural or number, empty for none
     * @param branches the names of its branches
     */
    public record ArgumentReply(String name, String type, List<String> branches) {}

    /**
     * What was found.
     *
     * @param terms agreed terms that stand in the source
     * @param message the structure of an ICU message, empty for other texts
     */
    public record CheckReply(List<FindingReply> findings, List<TermHit> terms, List<ArgumentReply> message) {}

    private record Entry(long table, Measure measure, LanguageTag language) {}

    /** What there is to say about {@code text} in the cell. */
    @Transactional(readOnly = true)
    public CheckReply check(long entryId, LanguageTag tag, Map<String, String> text) {
        Entry entry = jdbc.sql(ENTRY)
                .param("entry", entryId)
                .query((row, n) -> new Entry(
                        row.getLong("table_id"), MeasureColumns.read(row), new LanguageTag(row.getString("tag"))))
                .optional()
                .orElseThrow(Refusal::noSuchEntry);
        SortedMap<String, String> forms = new TreeMap<>(text);
        forms.values().removeIf(String::isEmpty);
        int language = languages
                .known(tag)
                .orElseThrow(
                        () -> Refusal.unacceptable("language-not-kept", "The table is not kept in this language."));
        Inspector.Place place = new Inspector.Place(entryId, entry.table(), language);
        List<FindingReply> findings =
                inspector.look().about(List.of(entryId)).at(place, entry.measure(), forms).stream()
                        .map(FindingReply::of)
                        .toList();
        List<TermHit> terms =
                wordbook.in(String.join("\n", entry.measure().source().values()), entry.table(), entry.language(), tag);
        List<ArgumentReply> message = new ArrayList<>();
        boolean typed = entry.measure().source().values().stream()
                .anyMatch(source -> IcuMessage.parse(source).typed());
        forms.values().forEach(form -> {
            IcuMessage parsed = IcuMessage.parse(form);
            if (parsed.typed() || typed) {
                parsed.arguments()
                        .forEach(one -> message.add(new ArgumentReply(one.name(), one.type(), one.selectors())));
            }
        });
        return new CheckReply(findings, terms, message);
    }
}
