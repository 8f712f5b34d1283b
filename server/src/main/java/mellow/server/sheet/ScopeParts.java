package mellow.server.sheet;

import java.util.List;
import mellow.server.table.TableInfo;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What a scope can be narrowed to. */
@Component
class ScopeParts {

    private static final String SECTIONS =
            """
            select section, count(*) from entry where table_id = any(:tables) and removed_at is null and section <> ''
            group by section order by min(position), section limit 500
            """;
    private static final String TAGS =
            """
            select tag, count(*) from entry, unnest(tags) tag where table_id = any(:tables) and removed_at is null
            group by tag order by tag limit 500
            """;
    private static final String PEOPLE = "select id, name from person order by name limit 500";
    private static final String ASKED =
            """
            select count(distinct q.entry_id) from question q join entry e on e.id = q.entry_id
            where q.answer is null and e.table_id = any(:tables) and e.removed_at is null
            """;

    private final SheetService sheet;
    private final JdbcClient jdbc;

    ScopeParts(SheetService sheet, JdbcClient jdbc) {
        this.sheet = sheet;
        this.jdbc = jdbc;
    }

    /** A section or a tag with how many entries it has. */
    record Part(String name, int entries) {}

    record PersonPart(long id, String name) {}

    /**
     * What there is.
     *
     * @param sections in the order of the tables
     * @param asked entries with an open question
     */
    record PartsReply(List<Part> sections, List<Part> tags, List<PersonPart> people, int asked) {}

    @Transactional(readOnly = true)
    public PartsReply of(List<String> tables, @Nullable String product) {
        Long[] numbers =
                sheet.tablesOf(tables, product).stream().map(TableInfo::id).toArray(Long[]::new);
        return new PartsReply(
                parts(SECTIONS, numbers),
                parts(TAGS, numbers),
                jdbc.sql(PEOPLE)
                        .query((row, n) -> new PersonPart(row.getLong(1), row.getString(2)))
                        .list(),
                jdbc.sql(ASKED).param("tables", numbers).query(Integer.class).single());
    }

    private List<Part> parts(String sql, Long[] tables) {
        return jdbc.sql(sql)
                .param("tables", tables)
                .query((row, n) -> new Part(row.getString(1), row.getInt(2)))
                .list();
    }
}
