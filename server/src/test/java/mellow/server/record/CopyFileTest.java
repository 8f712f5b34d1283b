package mellow.server.record;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import mellow.server.launch.PrivateCluster;
import mellow.server.support.TestDatabase;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class CopyFileTest {

    private static final String COLUMNS =
            "n int8, small int2, whole int4, part float8, yes bool, words text, at timestamptz";

    private Connection connection;

    @BeforeEach
    void connect() throws SQLException {
        PrivateCluster.Access access = TestDatabase.access();
        connection = DriverManager.getConnection(access.url(), access.user(), access.password());
        run("create temporary table copied (" + COLUMNS + ")");
    }

    @AfterEach
    void disconnect() throws SQLException {
        connection.close();
    }

    private void run(String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }

    private List<String> rows(String columns) throws SQLException {
        try (Statement statement = connection.createStatement();
                var row = statement.executeQuery("select " + columns + " from copied order by n")) {
            List<String> rows = new ArrayList<>();
            while (row.next()) {
                rows.add(row.getString(1));
            }
            return rows;
        }
    }

    private void sendWords(String... words) throws SQLException {
        try (CopyFile file = new CopyFile("copied", "n int8, words text")) {
            for (int i = 0; i < words.length; i++) {
                file.add(i, words[i]);
            }
            assertThat(file.rows()).isEqualTo(words.length);
            file.send(connection);
        }
    }

    @Test
    void everyTypeArrivesAsItWas() throws SQLException {
        try (CopyFile file = new CopyFile("copied", COLUMNS)) {
            file.add(
                    Long.MIN_VALUE,
                    Short.MIN_VALUE,
                    Integer.MAX_VALUE,
                    -0.1,
                    true,
                    "a",
                    Instant.parse("1969-07-20T20:17:40.5Z"));
            file.add(2L, 3, 4, 1e300, false, "", Instant.parse("2026-11-26T17:33:21.123456Z"));
            file.add(3, null, null, null, null, null, null);
            file.send(connection);
        }
        run("set time zone 'UTC'");
        assertThat(rows("concat_ws(' ', n, small, whole, part, yes, words, at)"))
                .containsExactly(
                        "-9223372036854775808 -32768 2147483647 -0.1 t a 1969-07-20 20:17:40.5+00",
                        "2 3 4 1e+300 f  2026-11-26 17:33:21.123456+00",
                        "3");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "tab\tline\nreturn\r backslash \\N \\. quote \"",
                "Größe łódź",
                "سفينة",
                "船が塞がれています",
                "a 🛳️ among letters",
                "😀😀",
                "ends with 🛳",
                "\u007F\u0080\u07FF\u0800\uFFFF"
            })
    void everyTextArrivesAsItWas(String words) throws SQLException {
        sendWords(words, words.repeat(2_000), "");
        assertThat(rows("words")).containsExactly(words, words.repeat(2_000), "");
    }

    @Test
    void rowsThatCameBeforeAndAfterGoingLiveArriveInOrder() throws SQLException {
        try (CopyFile file = new CopyFile("copied", "n int8, words text")) {
            file.add(1, "before");
            file.goLive(connection);
            for (int i = 2; i <= 50_000; i++) {
                file.add(i, "after");
            }
            file.send(connection);
        }
        assertThat(rows("words")).hasSize(50_000).startsWith("before", "after");
    }

    @Test
    void noRowsAreNoCopy() throws SQLException {
        sendWords();
        try (CopyFile live = new CopyFile("copied", "n int8")) {
            live.goLive(connection);
            live.send(connection);
        }
        assertThat(rows("n")).isEmpty();
    }

    @Test
    void aRowOfOtherWidthIsRefused() {
        try (CopyFile file = new CopyFile("copied", "n int8, words text")) {
            assertThatThrownBy(() -> file.add(1)).hasMessage("1 values for 2 columns");
        }
    }

    @Test
    void closingAFileThatIsLiveLeavesNothing() throws SQLException {
        connection.setAutoCommit(false);
        try (CopyFile file = new CopyFile("copied", "n int8")) {
            file.goLive(connection);
            file.add(1);
        }
        connection.rollback();
        connection.setAutoCommit(true);
        run("create temporary table if not exists copied (" + COLUMNS + ")");
        assertThat(rows("n")).isEmpty();
    }
}
