package mellow.server.cell;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mellow.core.cell.CellState;
import mellow.core.cell.Standing;
import mellow.core.check.Kind;
import mellow.server.cell.CellView.OfferView;
import mellow.server.common.Coded;
import mellow.server.common.TextColumns;
import mellow.server.language.LanguageService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Reads cells for screens, many at a time: one query for cells and one for what waits in them. */
@Component
public class CellReader {

    private static final String CELLS =
            """
            select c.*, p.name author, coalesce(m.stops, 0) stops
            from cell c join person p on p.id = c.author_id
            left join finding_mask m on m.entry_id = c.entry_id and m.language_id = c.language_id
            where c.entry_id = any(:entries) and c.language_id = any(:languages)
            """;
    /** Open offers, and the newest returned one of cells that show it. */
    private static final String OFFERS = Coded.sql(
            """
            select o.*, p.name author
            from cell c
            join offer o on o.entry_id = c.entry_id and o.language_id = c.language_id
            join person p on p.id = o.author_id
            where c.entry_id = any(:entries) and c.language_id = any(:languages)
              and (o.answer = {answer.open} or (o.answer = {answer.returned} and c.state = {state.returned}))
            order by o.opened_version, o.id
            """);

    private final JdbcClient jdbc;
    private final LanguageService languages;

    CellReader(JdbcClient jdbc, LanguageService languages) {
        this.jdbc = jdbc;
        this.languages = languages;
    }

    /** The cells of {@code entries} in {@code numbers}, by entry; cells without a row are absent. */
    @Transactional(readOnly = true)
    public Map<Long, List<CellView>> read(Collection<Long> entries, Collection<Integer> numbers) {
        Long[] entryArray = entries.toArray(Long[]::new);
        Integer[] languageArray = numbers.toArray(Integer[]::new);
        Map<CellKey, List<OfferView>> offers = new HashMap<>();
        Map<CellKey, String> returned = new HashMap<>();
        jdbc.sql(OFFERS)
                .param("entries", entryArray)
                .param("languages", languageArray)
                .query(row -> {
                    CellKey key = new CellKey(row.getLong("entry_id"), row.getInt("language_id"));
                    if (row.getInt("answer") == 0) {
                        offers.computeIfAbsent(key, k -> new ArrayList<>())
                                .add(new OfferView(
                                        row.getLong("id"),
                                        row.getString("text"),
                                        TextColumns.shown(row.getString("forms")),
                                        row.getString("author"),
                                        row.getLong("author_id"),
                                        row.getTimestamp("offered_time").toInstant(),
                                        row.getInt("based_on"),
                                        row.getString("note")));
                    } else {
                        returned.put(key, row.getString("reason"));
                    }
                });
        Map<Long, List<CellView>> cells = new HashMap<>();
        jdbc.sql(CELLS)
                .param("entries", entryArray)
                .param("languages", languageArray)
                .query(row -> {
                    CellKey key = new CellKey(row.getLong("entry_id"), row.getInt("language_id"));
                    cells.computeIfAbsent(key.entryId(), k -> new ArrayList<>())
                            .add(view(row, key, offers.getOrDefault(key, List.of()), returned));
                });
        return cells;
    }

    /** One cell; an untouched one when there is no row. */
    CellView one(long entry, int number) {
        return read(List.of(entry), List.of(number)).getOrDefault(entry, List.of()).stream()
                .findFirst()
                .orElseGet(() -> new CellView(
                        languages.tag(number).value(),
                        CellState.UNTRANSLATED.word(),
                        null,
                        null,
                        false,
                        0,
                        0,
                        null,
                        null,
                        null,
                        List.of(),
                        null,
                        null));
    }

    private CellView view(ResultSet row, CellKey key, List<OfferView> offers, Map<CellKey, String> returned)
            throws SQLException {
        return new CellView(
                languages.tag(key.languageId()).value(),
                CellState.values()[row.getInt("state")].word(),
                row.getString("text"),
                TextColumns.shown(row.getString("forms")),
                row.getInt("standing") == Standing.SETTLED.ordinal(),
                row.getInt("version"),
                row.getInt("based_on"),
                row.getString("origin"),
                row.getString("author"),
                row.getTimestamp("changed_at").toInstant(),
                offers,
                stops(row.getLong("stops")),
                returned.get(key));
    }

    private static @Nullable List<String> stops(long bits) {
        return bits == 0
                ? null
                : Arrays.stream(Kind.values())
                        .filter(kind -> (bits & kind.bit()) != 0)
                        .map(Kind::word)
                        .toList();
    }
}
