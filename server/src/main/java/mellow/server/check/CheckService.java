package mellow.server.check;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import mellow.core.check.Finding;
import mellow.core.check.Measure;
import mellow.core.language.LanguageTag;
import mellow.core.placeholder.IcuMessage;
import mellow.core.text.Shape;
import mellow.server.common.Refusal;
import mellow.server.common.TextColumns;
import mellow.server.wordbook.WordbookService;
import mellow.server.wordbook.WordbookService.TermHit;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Looks at a text of a cell as it is being typed: core's checks, and the wordbook's words to avoid. Changes nothing. */
@Service
public class CheckService {

    private static final String ENTRY =
            """
            select e.source, e.source_forms, e.shape, e.max_length, e.max_lines, l.tag from entry e
            join ledger_table t on t.id = e.table_id join language l on l.id = t.source_language_id where e.id = :entry
            """;

    private final WordbookService wordbook;
    private final Inspector inspector;
    private final JdbcClient jdbc;

    CheckService(WordbookService wordbook, Inspector inspector, JdbcClient jdbc) {
        this.wordbook = wordbook;
        this.inspector = inspector;
        this.jdbc = jdbc;
    }

    /**
     * Something found.
     *
     * @param severity blocker or warning
     * @param form the form it is in
     * @param start where it begins in UTF-16 units, -1 when it has no place
     */
    public record FindingReply(String code, String severity, String form, String sentence, int start, int end) {

        static FindingReply of(Finding finding) {
            return new FindingReply(
                    finding.code(),
                    finding.severity().name().toLowerCase(Locale.ROOT),
                    finding.form(),
                    finding.sentence(),
                    finding.start(),
                    finding.end());
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

    private record Entry(Measure measure, String source, LanguageTag language) {}

    /** What there is to say about {@code text} in the cell. */
    @Transactional(readOnly = true)
    public CheckReply check(long entryId, LanguageTag tag, Map<String, String> text) {
        Entry entry = jdbc.sql(ENTRY)
                .param("entry", entryId)
                .query((row, n) -> new Entry(
                        new Measure(
                                Shape.of(row.getString("shape")).orElseThrow(),
                                TextColumns.allForms(row.getString("source"), row.getString("source_forms")),
                                row.getInt("max_length"),
                                row.getInt("max_lines")),
                        row.getString("source"),
                        new LanguageTag(row.getString("tag"))))
                .optional()
                .orElseThrow(Refusal::noSuchEntry);
        SortedMap<String, String> forms = new TreeMap<>(text);
        forms.values().removeIf(String::isEmpty);
        List<FindingReply> findings = inspector.look().at(entry.measure(), entry.language(), tag, forms).stream()
                .map(FindingReply::of)
                .toList();
        List<TermHit> terms =
                wordbook.in(String.join("\n", entry.measure().source().values()), entry.language(), tag);
        List<ArgumentReply> message = new ArrayList<>();
        forms.values().forEach(form -> {
            IcuMessage parsed = IcuMessage.parse(form);
            if (parsed.typed() || IcuMessage.parse(entry.source()).typed()) {
                parsed.arguments()
                        .forEach(one -> message.add(new ArgumentReply(one.name(), one.type(), one.selectors())));
            }
        });
        return new CheckReply(findings, terms, message);
    }
}
