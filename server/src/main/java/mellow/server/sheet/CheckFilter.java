package mellow.server.sheet;

import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mellow.core.check.Finding.Severity;
import mellow.core.check.Measure;
import mellow.core.text.Shape;
import mellow.server.check.Inspector;
import mellow.server.common.Refusal;
import mellow.server.common.TextColumns;
import mellow.server.language.LanguageService;
import mellow.server.sheet.Scope.Check;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Finds the entries in whose texts the checks find something. Looks at the texts in force as they are now; nothing about it is stored. */
@Component
class CheckFilter {

    /** More texts would take longer than people wait for a scope to open. */
    private static final int MOST_TEXTS = 400_000;

    private static final int AT_ONCE = 5_000;
    private static final String TEXTS =
            """
            select e.id, e.source, e.source_forms, e.shape, e.max_length, e.max_lines, c.language_id, c.text, c.forms, t.source_language_id
            from entry e join cell c on c.entry_id = e.id join ledger_table t on t.id = e.table_id
            where e.id = any(:ids) and c.language_id = any(:languages) and c.text is not null and e.translatable and e.shape <> 'asset'
            """;

    private final Inspector inspector;
    private final LanguageService languages;
    private final JdbcClient jdbc;

    CheckFilter(Inspector inspector, LanguageService languages, JdbcClient jdbc) {
        this.inspector = inspector;
        this.languages = languages;
        this.jdbc = jdbc;
    }

    /** Those of {@code ids} where a text in one of the languages has a finding. */
    Set<Long> in(List<Long> ids, Set<Integer> numbers, Check check) {
        if ((long) ids.size() * numbers.size() > MOST_TEXTS) {
            throw Refusal.unacceptable(
                    "scope-too-large",
                    "Checks look at " + MOST_TEXTS
                            + " texts at most in one go; choose fewer languages, a section or a state first.",
                    Map.of("field", "check"));
        }
        Inspector.Look look = inspector.look();
        Set<Long> found = new HashSet<>();
        RowCallbackHandler each = row -> {
            Measure measure = new Measure(
                    Shape.of(row.getString("shape")).orElseThrow(),
                    TextColumns.allForms(row.getString("source"), row.getString("source_forms")),
                    row.getInt("max_length"),
                    row.getInt("max_lines"));
            boolean has = look
                    .at(
                            measure,
                            languages.tag(row.getInt("source_language_id")),
                            languages.tag(row.getInt("language_id")),
                            TextColumns.allForms(row.getString("text"), row.getString("forms")))
                    .stream()
                    .anyMatch(finding -> check == Check.ANY || finding.severity() == Severity.BLOCKER);
            if (has) {
                found.add(row.getLong("id"));
            }
        };
        for (int from = 0; from < ids.size(); from += AT_ONCE) {
            jdbc.sql(TEXTS)
                    .param(
                            "ids",
                            ids.subList(from, Math.min(ids.size(), from + AT_ONCE))
                                    .toArray(Long[]::new))
                    .param("languages", numbers.toArray(Integer[]::new))
                    .query(each);
        }
        return found;
    }
}
