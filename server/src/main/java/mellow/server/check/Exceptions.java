package mellow.server.check;

import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import mellow.core.check.Finding;
import mellow.core.check.Kind;
import mellow.server.common.Hashes;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.core.simple.JdbcClient.StatementSpec;

/** What reviewers found right although the checks do not. An exception is of a source and a text: it ends by itself when either changes. */
public final class Exceptions {

    private static final String OF_ENTRIES =
            "select entry_id, language_id, kind, said from check_exception where entry_id = any(:entries)";
    private static final String PUT =
            """
            insert into check_exception (entry_id, language_id, kind, said, reason, person_id, at) values (:entry, :language, :kind, :said, :reason, :person, :at)
            on conflict (entry_id, language_id, kind) do update set said = excluded.said, reason = excluded.reason, person_id = excluded.person_id, at = excluded.at
            """;

    private static final String OF_LANGUAGE =
            "select entry_id, language_id, kind, said from check_exception where language_id = :language";

    private final JdbcClient jdbc;

    /** Reads from and writes to {@code jdbc}. */
    public Exceptions(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private record Cell(long entry, int language) {}

    /** Exceptions of some entries, read once. */
    public static final class Allowed {
        /** Nobody said anything. */
        static final Allowed NONE = new Allowed();

        private final Map<Cell, Map<String, String>> saidByKind = new HashMap<>();

        Allowed() {}

        /** Takes over what is said of an entry: language, kind and hash with spaces between. */
        void note(long entry, String[] said) {
            for (String one : said) {
                String[] parts = one.split(" ");
                saidByKind
                        .computeIfAbsent(new Cell(entry, Integer.parseInt(parts[0])), cell -> new HashMap<>())
                        .put(parts[1], parts[2]);
            }
        }

        /** Those of {@code findings} about which nobody said that they are right. */
        public List<Finding> without(
                List<Finding> findings,
                long entry,
                int language,
                SortedMap<String, String> source,
                SortedMap<String, String> text) {
            Map<String, String> kinds =
                    findings.isEmpty() || saidByKind.isEmpty() ? null : saidByKind.get(new Cell(entry, language));
            if (kinds == null) {
                return findings;
            }
            String now = said(source, text);
            return findings.stream()
                    .filter(finding -> !now.equals(kinds.get(finding.kind().word())))
                    .toList();
        }

        /** Whether an exception of a kind holds. */
        public boolean holds(
                Kind kind, long entry, int language, SortedMap<String, String> source, SortedMap<String, String> text) {
            Map<String, String> kinds = saidByKind.get(new Cell(entry, language));
            return kinds != null && said(source, text).equals(kinds.get(kind.word()));
        }
    }

    /** The exceptions of entries. */
    public Allowed of(Long[] entries) {
        return read(jdbc.sql(OF_ENTRIES).param("entries", entries));
    }

    /** The exceptions of a language. */
    public Allowed ofLanguage(int language) {
        return read(jdbc.sql(OF_LANGUAGE).param("language", language));
    }

    private static Allowed read(StatementSpec sql) {
        Allowed allowed = new Allowed();
        sql.query((RowCallbackHandler) row -> allowed.saidByKind
                .computeIfAbsent(new Cell(row.getLong("entry_id"), row.getInt("language_id")), cell -> new HashMap<>())
                .put(row.getString("kind"), row.getString("said")));
        return allowed;
    }

    /** Who says why that something is right. */
    public record Saying(long person, String reason, Instant at) {}

    /** Says that a kind of finding is right in a text beside its source. */
    public void put(
            long entry,
            int language,
            Kind kind,
            SortedMap<String, String> source,
            SortedMap<String, String> text,
            Saying saying) {
        jdbc.sql(PUT)
                .param("entry", entry)
                .param("language", language)
                .param("kind", kind.word())
                .param("said", said(source, text))
                .param("reason", saying.reason())
                .param("person", saying.person())
                .param("at", saying.at().atOffset(ZoneOffset.UTC))
                .update();
    }

    /** Takes such a word back. */
    public void remove(long entry, int language, Kind kind) {
        jdbc.sql("delete from check_exception where entry_id = :entry and language_id = :language and kind = :kind")
                .param("entry", entry)
                .param("language", language)
                .param("kind", kind.word())
                .update();
    }

    /** Hash of source and text by form; a character that no text has stands between. */
    static String said(SortedMap<String, String> source, SortedMap<String, String> text) {
        StringBuilder all = new StringBuilder();
        source.forEach(
                (form, words) -> all.append(form).append('\u0000').append(words).append('\u0000'));
        all.append('\u0001');
        text.forEach(
                (form, words) -> all.append(form).append('\u0000').append(words).append('\u0000'));
        return HexFormat.of().formatHex(Hashes.sha256(all.toString().getBytes(StandardCharsets.UTF_8)));
    }
}
