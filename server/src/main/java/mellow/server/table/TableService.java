package mellow.server.table;

import java.text.Normalizer;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import mellow.core.language.LanguageTag;
import mellow.server.common.Refusal;
import mellow.server.language.LanguageService;
import mellow.server.table.TableInfo.Kept;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Tables and the languages they are kept in. */
@Service
public class TableService {

    private static final int LONGEST_NAME = 120;
    private static final String LANGUAGES =
            "select table_id, language_id, settles_own from table_language order by table_id, position";
    private static final String LANGUAGES_OF =
            "select table_id, language_id, settles_own from table_language where table_id = :table order by position";
    private static final String ADD_LANGUAGE =
            """
            insert into table_language (table_id, language_id, position, settles_own)
            select :table, :language, coalesce(max(position), 0) + 1, :own from table_language where table_id = :table
            on conflict do nothing
            """;

    private final TableRepository tables;
    private final LanguageService languages;
    private final JdbcClient jdbc;
    private final Clock clock;

    TableService(TableRepository tables, LanguageService languages, JdbcClient jdbc, Clock clock) {
        this.tables = tables;
        this.languages = languages;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /**
     * Makes a table without entries.
     *
     * @param kept the languages it is kept in, in order, without the source language
     * @param settlesOwn whether reviewers may settle their own texts in all of them
     * @throws Refusal when the name is taken or no name at all
     */
    @Transactional
    public TableInfo create(String name, LanguageTag source, List<LanguageTag> kept, boolean settlesOwn) {
        String shown = name.strip();
        if (shown.isEmpty() || shown.length() > LONGEST_NAME) {
            throw Refusal.unacceptable(
                    "bad-name",
                    "A table needs a name of 1 to " + LONGEST_NAME + " characters.",
                    Map.of("field", "name"));
        }
        String slug = slug(shown);
        if (tables.findBySlug(slug).isPresent()) {
            throw Refusal.conflict(
                    "name-taken",
                    "There is a table called \u201c" + shown
                            + "\u201d already; choose another name, or take the file into that table.",
                    Map.of("field", "name"));
        }
        LedgerTable table =
                tables.saveAndFlush(new LedgerTable(slug, shown, languages.number(source), clock.instant()));
        addLanguages(
                table.id(), kept.stream().filter(tag -> !tag.equals(source)).toList(), settlesOwn);
        return info(table, languagesOf(table.id()));
    }

    /** Adds languages at the end; those it has already stay as they are. */
    @Transactional
    public void addLanguages(long table, List<LanguageTag> added, boolean settlesOwn) {
        for (LanguageTag tag : added) {
            jdbc.sql(ADD_LANGUAGE)
                    .param("table", table)
                    .param("language", languages.number(tag))
                    .param("own", settlesOwn)
                    .update();
        }
    }

    /** The table with that name in addresses. */
    @Transactional(readOnly = true)
    public TableInfo find(String slug) {
        LedgerTable table = tables.findBySlug(slug)
                .orElseThrow(() -> Refusal.notFound("no-such-table", "There is no table \u201c" + slug + "\u201d."));
        return info(table, languagesOf(table.id()));
    }

    /** The table with that number. */
    @Transactional(readOnly = true)
    public TableInfo find(long id) {
        LedgerTable table =
                tables.findById(id).orElseThrow(() -> Refusal.notFound("no-such-table", "This table does not exist."));
        return info(table, languagesOf(id));
    }

    /** All tables with their totals, by name. */
    @Transactional(readOnly = true)
    public List<Listed> all() {
        Map<Long, List<Kept>> kept = new HashMap<>();
        jdbc.sql(LANGUAGES).query(row -> {
            kept.computeIfAbsent(row.getLong("table_id"), t -> new ArrayList<>())
                    .add(kept(row.getShort("language_id"), row.getBoolean("settles_own")));
        });
        return tables.findAll().stream()
                .sorted(java.util.Comparator.comparing(LedgerTable::name, String.CASE_INSENSITIVE_ORDER))
                .map(table -> new Listed(
                        info(table, kept.getOrDefault(table.id(), List.of())), table.entries(), table.words()))
                .toList();
    }

    /** Holds the table against an intake until this transaction ends; single changes of cells do not wait for each other. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void holdForChange(long table) {
        jdbc.sql("select set_config('lock_timeout', '5s', true)")
                .query(String.class)
                .single();
        jdbc.sql("select id from ledger_table where id = :table for key share")
                .param("table", table)
                .query(Long.class)
                .single();
    }

    /** Keeps every other change of the table waiting until this transaction ends. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void holdAlone(long table) {
        jdbc.sql("select id from ledger_table where id = :table for update")
                .param("table", table)
                .query(Long.class)
                .single();
    }

    private List<Kept> languagesOf(long table) {
        return jdbc.sql(LANGUAGES_OF)
                .param("table", table)
                .query((row, n) -> kept(row.getShort("language_id"), row.getBoolean("settles_own")))
                .list();
    }

    private Kept kept(short number, boolean settlesOwn) {
        return new Kept(languages.tag(number), number, settlesOwn);
    }

    private TableInfo info(LedgerTable table, List<Kept> kept) {
        return new TableInfo(table.id(), table.slug(), table.name(), languages.tag(table.sourceLanguage()), kept);
    }

    static String slug(String name) {
        String plain = Normalizer.normalize(name, Normalizer.Form.NFD)
                .replaceAll("\\p{M}|['\u2019]", "")
                .toLowerCase(Locale.ROOT);
        String slug = plain.replaceAll("[^\\p{L}\\p{N}]+", "-").replaceAll("^-|-$", "");
        return slug.isEmpty() ? "table" : slug;
    }

    /**
     * A table with its totals.
     *
     * @param table the table
     * @param entries entries to translate
     * @param words source words in them
     */
    public record Listed(TableInfo table, int entries, long words) {}
}
