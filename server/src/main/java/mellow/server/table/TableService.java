package mellow.server.table;

import java.text.Normalizer;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import mellow.core.language.LanguageTag;
import mellow.server.common.Refusal;
import mellow.server.language.LanguageService;
import mellow.server.live.LiveChange;
import mellow.server.live.LiveService;
import mellow.server.people.PeopleService;
import mellow.server.people.Reading;
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
            "select table_id, language_id, settles_own, settles_drafts from table_language where archived_at is null order by table_id, position";
    private static final String LANGUAGES_OF =
            "select table_id, language_id, settles_own, settles_drafts from table_language where table_id = :table and archived_at is null order by position";
    private static final String ADD_LANGUAGE =
            """
            insert into table_language (table_id, language_id, position, settles_own)
            select :table, :language, coalesce(max(position), 0) + 1, :own from table_language where table_id = :table
            on conflict (table_id, language_id) do update set archived_at = null where table_language.archived_at is not null
            """;
    private static final String ARCHIVE =
            "update table_language set archived_at = :at where table_id = :table and archived_at is null and not language_id = any(:kept)";
    private static final String PLACE =
            "update table_language set position = :position, settles_own = :own, settles_drafts = :drafts where table_id = :table and language_id = :language";

    private final TableRepository tables;
    private final LanguageService languages;
    private final PeopleService people;
    private final JdbcClient jdbc;
    private final LiveService live;
    private final Reading reading;
    private final Clock clock;

    TableService(
            TableRepository tables,
            LanguageService languages,
            PeopleService people,
            JdbcClient jdbc,
            LiveService live,
            Reading reading,
            Clock clock) {
        this.tables = tables;
        this.languages = languages;
        this.people = people;
        this.jdbc = jdbc;
        this.live = live;
        this.reading = reading;
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
    public TableInfo create(long person, String name, LanguageTag source, List<LanguageTag> kept, boolean settlesOwn) {
        people.rights(person).requireCoordinator("make tables");
        String shown = checked(name);
        String slug = slug(shown);
        if (tables.findBySlug(slug).isPresent() || tables.findByName(shown).isPresent()) {
            throw nameTaken(shown);
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

    private static String checked(String name) {
        String shown = name.strip();
        if (shown.isEmpty() || shown.length() > LONGEST_NAME) {
            throw Refusal.unacceptable(
                    "bad-name",
                    "A table needs a name of 1 to {most} characters.",
                    Map.of("field", "name", "most", LONGEST_NAME));
        }
        return shown;
    }

    private static Refusal nameTaken(String shown) {
        return Refusal.conflict(
                "name-taken",
                "There is a table called \u201c{name}\u201d already; choose another name, or take the file into that table.",
                Map.of("field", "name", "name", shown));
    }

    /**
     * Changes a table's name and languages. A language that is left out is archived: its texts stay in the record and come back with it.
     *
     * @param version the version that was seen
     * @param kept the languages in order; {@code number} is not looked at
     */
    @Transactional
    public TableInfo edit(long person, String slug, int version, String name, List<Kept> kept) {
        people.rights(person).requireCoordinator("change tables");
        LedgerTable table = bySlug(slug);
        if (table.version() != version) {
            throw Refusal.conflict(
                    "table-moved-on", "Someone changed this table meanwhile; look at it again.", Map.of());
        }
        String shown = checked(name);
        tables.findByName(shown).filter(other -> other.id() != table.id()).ifPresent(other -> {
            throw nameTaken(shown);
        });
        int source = table.sourceLanguage();
        if (kept.stream().anyMatch(one -> languages.number(one.tag()) == source)) {
            throw Refusal.unacceptable(
                    "source-language",
                    "The source language of a table is not one that it is translated into.",
                    Map.of("field", "languages"));
        }
        holdAlone(table.id());
        table.rename(shown);
        Integer[] numbers =
                kept.stream().map(one -> languages.number(one.tag())).toArray(Integer[]::new);
        jdbc.sql(ARCHIVE)
                .param("at", clock.instant().atOffset(ZoneOffset.UTC))
                .param("table", table.id())
                .param("kept", numbers)
                .update();
        addLanguages(table.id(), kept.stream().map(Kept::tag).toList(), false);
        int position = 1;
        for (Kept one : kept) {
            jdbc.sql(PLACE)
                    .param("position", position++)
                    .param("own", one.settlesOwn())
                    .param("drafts", one.settlesDrafts())
                    .param("table", table.id())
                    .param("language", languages.number(one.tag()))
                    .update();
        }
        tables.flush();
        live.tell(new LiveChange(table.id(), List.of(), List.of()));
        return info(table, languagesOf(table.id()));
    }

    /** Takes a table out of sight; it keeps everything and can be put back. */
    @Transactional
    public void remove(long person, String slug) {
        people.rights(person).requireCoordinator("remove tables");
        remove(bySlug(slug));
    }

    private void remove(LedgerTable table) {
        holdAlone(table.id());
        table.remove(clock.instant());
        live.tell(new LiveChange(table.id(), List.of(), List.of()));
    }

    /** Takes a table out of sight if it has no entries; whether it had none. */
    @Transactional
    public boolean removeEmpty(long id) {
        boolean empty = jdbc.sql(
                        "select not exists (select 1 from entry where table_id = :table and removed_at is null)")
                .param("table", id)
                .query(Boolean.class)
                .single();
        if (empty) {
            remove(bySlug(find(id).slug()));
        }
        return empty;
    }

    /** Puts a removed table back. */
    @Transactional
    public TableInfo putBack(long person, long id) {
        people.rights(person).requireCoordinator("put tables back");
        LedgerTable table = tables.findById(id)
                .filter(LedgerTable::removed)
                .orElseThrow(() -> Refusal.notFound("no-such-table", "No removed table has this number."));
        if (tables.findBySlug(table.slug()).isPresent()
                || tables.findByName(table.name()).isPresent()) {
            throw Refusal.conflict(
                    "name-taken",
                    "Another table is called \u201c{table}\u201d now; rename that one first.",
                    Map.of("table", table.name()));
        }
        table.putBack();
        live.tell(new LiveChange(id, List.of(), List.of()));
        return info(table, languagesOf(id));
    }

    /** Removed tables, the last one first. */
    @Transactional(readOnly = true)
    public List<Removed> removed() {
        return tables.findByRemovedAtNotNullOrderByRemovedAtDesc().stream()
                .map(table -> new Removed(
                        table.id(), table.name(), table.entries(), Objects.requireNonNull(table.removedAt())))
                .toList();
    }

    private LedgerTable bySlug(String slug) {
        return tables.findBySlug(slug)
                .orElseThrow(() -> Refusal.notFound(
                        "no-such-table", "There is no table \u201c{table}\u201d.", Map.of("table", slug)));
    }

    /** The table with that name in addresses. */
    @Transactional(readOnly = true)
    public TableInfo find(String slug) {
        LedgerTable table = bySlug(slug);
        return info(table, languagesOf(table.id()));
    }

    /** The table with that number. */
    @Transactional(readOnly = true)
    public TableInfo find(long id) {
        return there(id).orElseThrow(() -> Refusal.notFound("no-such-table", "This table does not exist any more."));
    }

    /** The same, empty when it was removed. */
    @Transactional(readOnly = true)
    public Optional<TableInfo> there(long id) {
        return tables.findById(id).filter(found -> !found.removed()).map(found -> info(found, languagesOf(id)));
    }

    /** All tables with their totals, by name. */
    @Transactional(readOnly = true)
    public List<Listed> all() {
        Map<Long, List<Kept>> kept = new HashMap<>();
        jdbc.sql(LANGUAGES).query(row -> {
            kept.computeIfAbsent(row.getLong("table_id"), t -> new ArrayList<>())
                    .add(kept(
                            row.getInt("language_id"),
                            row.getBoolean("settles_own"),
                            row.getBoolean("settles_drafts")));
        });
        kept.values().forEach(all -> all.removeIf(one -> !reading.reads(one.tag())));
        return tables.findByRemovedAtNullOrderByNameAsc().stream()
                .sorted(Comparator.comparing(LedgerTable::name, String.CASE_INSENSITIVE_ORDER))
                .map(table -> new Listed(
                        info(table, kept.getOrDefault(table.id(), List.of())),
                        table.entries(),
                        table.words(),
                        table.version()))
                .toList();
    }

    /** Holds the table against an intake until this transaction ends; single changes of cells do not wait for each other. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void holdForChange(long table) {
        // The limit for waiting is set by the statement that waits: one round trip less in every save.
        jdbc.sql(
                        "select id from ledger_table where id = :table and set_config('lock_timeout', '5s', true) is not null for key share")
                .param("table", table)
                .query(Long.class)
                .single();
    }

    /** Keeps every other change of the table waiting until this transaction ends; waits itself as long as {@link #holdForChange} does. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void holdAlone(long table) {
        jdbc.sql(
                        "select id from ledger_table where id = :table and set_config('lock_timeout', '5s', true) is not null for update")
                .param("table", table)
                .query(Long.class)
                .single();
    }

    /** The same for work that nobody waits for in front of a screen: it waits until it is its turn. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void awaitAlone(long table) {
        jdbc.sql("select id from ledger_table where id = :table for update")
                .param("table", table)
                .query(Long.class)
                .single();
    }

    /** Those that whoever asks may read. */
    private List<Kept> languagesOf(long table) {
        return jdbc
                .sql(LANGUAGES_OF)
                .param("table", table)
                .query((row, n) -> kept(
                        row.getInt("language_id"), row.getBoolean("settles_own"), row.getBoolean("settles_drafts")))
                .list()
                .stream()
                .filter(one -> reading.reads(one.tag()))
                .toList();
    }

    private Kept kept(int number, boolean settlesOwn, boolean settlesDrafts) {
        return new Kept(languages.tag(number), number, settlesOwn, settlesDrafts);
    }

    private TableInfo info(LedgerTable table, List<Kept> kept) {
        return new TableInfo(table.id(), table.slug(), table.name(), languages.tag(table.sourceLanguage()), kept);
    }

    /** The name in addresses that a name of people becomes. */
    public static String slug(String name) {
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
     * @param version to be sent back with a change of the table
     */
    public record Listed(TableInfo table, int entries, long words, int version) {}

    /** A removed table. */
    public record Removed(long id, String name, int entries, Instant removedAt) {}
}
