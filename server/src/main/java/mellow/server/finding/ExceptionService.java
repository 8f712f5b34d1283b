package mellow.server.finding;

import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import mellow.core.check.Kind;
import mellow.core.check.Measure;
import mellow.core.language.LanguageTag;
import mellow.server.check.Exceptions;
import mellow.server.check.MaskKeeper;
import mellow.server.check.MeasureColumns;
import mellow.server.common.Refusal;
import mellow.server.common.TextColumns;
import mellow.server.language.LanguageService;
import mellow.server.live.LiveChange;
import mellow.server.live.LiveService;
import mellow.server.people.PeopleService;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** "This is right": a reviewer says of a text beside its source that what was found in it is meant. It ends by itself when source or text changes. */
@Service
public class ExceptionService {

    private static final String CELL =
            """
            select e.table_id, %s, t.source_language_id, c.text, c.forms from entry e
            join ledger_table t on t.id = e.table_id and t.removed_at is null
            left join cell c on c.entry_id = e.id and c.language_id = :language
            where e.id = :entry and e.removed_at is null for no key update of e
            """
                    .formatted(MeasureColumns.OF_ENTRY);

    private final PeopleService people;
    private final LanguageService languages;
    private final TableService tables;
    private final MaskKeeper masks;
    private final LiveService live;
    private final JdbcClient jdbc;
    private final Clock clock;

    ExceptionService(
            PeopleService people,
            LanguageService languages,
            TableService tables,
            MaskKeeper masks,
            LiveService live,
            JdbcClient jdbc,
            Clock clock) {
        this.people = people;
        this.languages = languages;
        this.tables = tables;
        this.masks = masks;
        this.live = live;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    private record Held(long table, int sourceLanguage, Measure measure, SortedMap<String, String> text) {}

    /**
     * Says that a kind of finding is right.
     *
     * @param text the text that was looked at, an offered one or the one of the cell; null for the cell's
     * @param reason why, for those who come after
     */
    @Transactional
    public void say(
            long person, long entry, LanguageTag tag, String kind, @Nullable Map<String, String> text, String reason) {
        Kind known = FindingService.kind(kind);
        if (reason.isBlank()) {
            throw Refusal.unacceptable(
                    "reason-missing", "Say why it is right, for those who come after you.", Map.of("field", "reason"));
        }
        int language = require(person, tag);
        Held held = hold(entry, language);
        boolean ofSource = held.sourceLanguage() == language;
        if (ofSource) {
            people.rights(person).requireCoordinator("say that a source is right");
        }
        SortedMap<String, String> looked =
                text == null || ofSource ? ofSource ? held.measure().source() : held.text() : new TreeMap<>(text);
        if (looked.isEmpty()) {
            throw Refusal.unacceptable("no-text", "There is no text here that could be right.", Map.of());
        }
        new Exceptions(jdbc)
                .put(
                        entry,
                        language,
                        known,
                        held.measure().source(),
                        looked,
                        new Exceptions.Saying(person, reason.strip(), clock.instant()));
        follow(held, entry, language, tag);
    }

    /** Takes such a word back. */
    @Transactional
    public void takeBack(long person, long entry, LanguageTag tag, String kind) {
        Kind known = FindingService.kind(kind);
        int language = require(person, tag);
        Held held = hold(entry, language);
        new Exceptions(jdbc).remove(entry, language, known);
        follow(held, entry, language, tag);
    }

    private int require(long person, LanguageTag tag) {
        if (!people.rights(person).reviews(tag)) {
            throw Refusal.forbidden(
                    "no-right-to-except", "Only a reviewer of this language can say that a finding is right.");
        }
        return languages
                .known(tag)
                .orElseThrow(
                        () -> Refusal.unacceptable("language-not-kept", "The table is not kept in this language."));
    }

    private Held hold(long entry, int language) {
        long table = jdbc.sql("select table_id from entry where id = :entry")
                .param("entry", entry)
                .query(Long.class)
                .optional()
                .orElseThrow(Refusal::noSuchEntry);
        tables.holdForChange(table);
        return jdbc.sql(CELL)
                .param("entry", entry)
                .param("language", language)
                .query((row, n) -> new Held(
                        row.getLong("table_id"),
                        row.getInt("source_language_id"),
                        MeasureColumns.read(row),
                        TextColumns.allForms(row.getString("text"), row.getString("forms"))))
                .optional()
                .orElseThrow(Refusal::noSuchEntry);
    }

    private void follow(Held held, long entry, int language, LanguageTag tag) {
        if (held.sourceLanguage() == language) {
            masks.ofEntries(List.of(entry));
        } else {
            masks.ofTexts(List.of(entry), List.of(language));
        }
        live.tell(new LiveChange(held.table(), List.of(entry), List.of(tag.value())));
    }
}
