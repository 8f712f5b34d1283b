package mellow.server.asset;

import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import mellow.core.asset.AssetFacts;
import mellow.core.language.LanguageTag;
import mellow.server.asset.AssetSetReply.AssetFileReply;
import mellow.server.asset.AssetSetReply.AssetLanguageReply;
import mellow.server.asset.AssetSetRows.FileRow;
import mellow.server.asset.AssetSetRows.SetRow;
import mellow.server.common.Refusal;
import mellow.server.file.AssetFactReader;
import mellow.server.file.FactsReply;
import mellow.server.intake.IntakeService;
import mellow.server.language.LanguageService;
import mellow.server.people.PeopleService;
import mellow.server.run.RunService;
import mellow.server.run.RunService.RunReply;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** How sets of pictures and sounds stand: what their names tell, what a table will have of each language, and what is in the way of comparing them with it. */
@Component
class AssetSetStanding {

    /** The run that looks through what came. */
    static final String RUN = "assets";

    private static final int LISTED = 20;

    private static final String THERE =
            """
            select e.key, l.tag from entry e join cell c on c.entry_id = e.id and c.text is not null join language l on l.id = c.language_id
            where e.table_id = :table and e.removed_at is null and e.context = '' and e.key = any(:keys)
            union all
            select e.key, :source from entry e where e.table_id = :table and e.removed_at is null and e.context = '' and e.key = any(:keys) and e.source <> ''
            """;

    private final AssetSetRows rows;
    private final IntakeService intakes;
    private final TableService tables;
    private final LanguageService languages;
    private final PeopleService people;
    private final RunService runs;
    private final JdbcClient jdbc;

    AssetSetStanding(
            AssetSetRows rows,
            IntakeService intakes,
            TableService tables,
            LanguageService languages,
            PeopleService people,
            RunService runs,
            JdbcClient jdbc) {
        this.rows = rows;
        this.intakes = intakes;
        this.tables = tables;
        this.languages = languages;
        this.people = people;
        this.runs = runs;
        this.jdbc = jdbc;
    }

    /** A set that is this person's to see. */
    SetRow mine(long person, SetRow set) {
        if (set.person() != person && !people.rights(person).coordinator()) {
            throw Refusal.forbidden(
                    "not-your-files", "Only the person who brought these files, or a coordinator, can see them.");
        }
        return set;
    }

    /** How a set stands. */
    @Transactional(readOnly = true)
    AssetSetReply reply(long person, long id) {
        // Before what it writes: a run that is done has written all that is read after.
        RunReply run = runs.latest(RUN, id).orElse(null);
        SetRow set = mine(person, rows.find(id));
        List<FileRow> all = rows.files(id);
        Optional<TableInfo> table = Optional.ofNullable(set.options().table()).map(tables::find);
        LanguageTag source = source(set.options(), table);
        NamedAssets named = new NamedAssets(all, set.options().read(), source);
        Map<Long, AssetFacts> facts = new AssetFactReader(jdbc)
                .of(all.stream().map(FileRow::file).filter(Objects::nonNull).toList());
        return new AssetSetReply(
                id,
                set.version(),
                set.options(),
                set.proposed(),
                table.map(TableInfo::name).orElse(null),
                named.files().stream().map(one -> told(one, facts)).toList(),
                named.entries().size(),
                languages(named, table),
                blocked(named, set.options()).orElse(null),
                run,
                set.intake(),
                set.intake() != null && rows.taken(set.intake()));
    }

    private static AssetFileReply told(NamedAssets.One one, Map<Long, AssetFacts> facts) {
        FileRow row = one.row();
        LanguageTag language = one.language();
        return new AssetFileReply(
                row.position(),
                row.path(),
                row.file(),
                row.file() == null ? null : FactsReply.of(facts.get(row.file())),
                one.key(),
                language == null ? null : language.value(),
                row.key() != null || row.language() != null,
                one.leftOut(),
                one.why(),
                row.gone());
    }

    /** How much there is of each language once the files are in, the source first. */
    private List<AssetLanguageReply> languages(NamedAssets named, Optional<TableInfo> table) {
        Map<String, Map<LanguageTag, NamedAssets.One>> entries = named.entries();
        Set<LanguageTag> all = new LinkedHashSet<>(named.languages());
        table.ifPresent(one -> one.languages().forEach(kept -> all.add(kept.tag())));
        Map<String, Set<String>> there = new HashMap<>();
        table.ifPresent(one -> jdbc.sql(THERE)
                .param("table", one.id())
                .param("source", one.source().value())
                .param("keys", entries.keySet().toArray(String[]::new))
                .query((RowCallbackHandler) row -> there.computeIfAbsent(row.getString(1), any -> new HashSet<>())
                        .add(row.getString(2))));
        return all.stream()
                .map(tag -> {
                    List<String> missing = entries.entrySet().stream()
                            .filter(one -> !one.getValue().containsKey(tag)
                                    && !there.getOrDefault(one.getKey(), Set.of())
                                            .contains(tag.value()))
                            .map(Map.Entry::getKey)
                            .toList();
                    return new AssetLanguageReply(
                            tag.value(),
                            entries.size() - missing.size(),
                            missing.subList(0, Math.min(LISTED, missing.size())));
                })
                .toList();
    }

    /** What stands against comparing a set with its table, in a sentence. */
    Optional<String> blocked(NamedAssets named, AssetSetOptions options) {
        if (named.entries().isEmpty()) {
            return Optional.of(
                    named.files().isEmpty()
                            ? "These files have not been looked through yet."
                            : "No name tells an entry and a language; say how the names are made.");
        }
        if (options.table() == null
                && Objects.requireNonNullElse(options.newTable(), "").isBlank()) {
            return Optional.of("Say which table they go into.");
        }
        return intakes.nameTaken(options.table(), options.newTable()).or(named::blocked);
    }

    /** The language that the others follow. */
    LanguageTag source(AssetSetOptions options, Optional<TableInfo> table) {
        return table.map(TableInfo::source).orElseGet(() -> languages.parse(options.source()));
    }
}
