package mellow.server.common;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyIn;

/**
 * Rows on their way into a database table by COPY (text format). They wait in a temporary file, because one connection cannot read a cursor and
 * receive a COPY at the same time, and memory would not hold a million of them.
 */
public final class CopyFile implements AutoCloseable {

    private static final int BUFFER = 1 << 16;

    private final String target;
    private final Path path;
    private final OutputStream out;
    /** Where rows go: the file, or straight into the database. */
    private OutputStream current;

    private @Nullable CopyIn live;
    private final StringBuilder row = new StringBuilder(256);
    private Instant lastInstant = Instant.EPOCH;
    private String lastSpelled = Instant.EPOCH.toString();
    private long rows;

    /**
     * An empty file for rows.
     *
     * @param target table and columns, such as {@code "cell (entry_id, text)"}
     */
    public CopyFile(String target) {
        this.target = target;
        try {
            this.path = Files.createTempFile("mellow-", ".copy");
            this.out = new BufferedOutputStream(Files.newOutputStream(path), BUFFER);
            this.current = out;
        } catch (IOException cannotWrite) {
            throw new UncheckedIOException(cannotWrite);
        }
    }

    /** Adds a row; nulls, numbers, booleans, instants and strings are written as PostgreSQL reads them. */
    public void add(@Nullable Object... values) {
        row.setLength(0);
        for (int i = 0; i < values.length; i++) {
            if (i > 0) {
                row.append('\t');
            }
            append(values[i]);
        }
        row.append('\n');
        try {
            current.write(row.toString().getBytes(StandardCharsets.UTF_8));
        } catch (IOException cannotWrite) {
            throw new UncheckedIOException(cannotWrite);
        }
        rows++;
    }

    private void append(@Nullable Object value) {
        if (value == null) {
            row.append("\\N");
        } else if (value instanceof String text) {
            escape(text);
        } else if (value instanceof Number) {
            row.append(value);
        } else if (value instanceof Instant instant) {
            row.append(spelled(instant));
        } else if (value instanceof Boolean flag) {
            row.append(flag ? 't' : 'f');
        } else {
            throw new IllegalArgumentException("cannot copy a " + value.getClass());
        }
    }

    /** Most rows of a bulk change carry the same instant, and spelling one costs more than all else in the row. */
    private String spelled(Instant instant) {
        if (!instant.equals(lastInstant)) {
            lastInstant = instant;
            lastSpelled = instant.toString();
        }
        return lastSpelled;
    }

    private void escape(String text) {
        if (isPlain(text)) {
            row.append(text);
            return;
        }

        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            switch (c) {
                case '\\' -> row.append("\\\\");
                case '\n' -> row.append("\\n");
                case '\r' -> row.append("\\r");
                case '\t' -> row.append("\\t");
                default -> row.append(c);
            }
        }
    }

    private static boolean isPlain(String text) {
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c < ' ' || c == '\\') {
                return false;
            }
        }
        return true;
    }

    /** Number of rows added. */
    public long rows() {
        return rows;
    }

    /**
     * From now on rows go straight into the database, which takes them in while the next are being made. Until {@link #send} nothing else can be done
     * with {@code connection}.
     */
    public void goLive(Connection connection) throws SQLException {
        CopyIn copy = connection.unwrap(PGConnection.class).getCopyAPI().copyIn(statement());
        live = copy;
        try {
            out.flush();
            current = new BufferedOutputStream(new CopyStream(copy), BUFFER);
            Files.copy(path, current);
        } catch (IOException cannotRead) {
            throw new UncheckedIOException(cannotRead);
        }
    }

    /** Sends all rows, within the transaction of {@code connection}. */
    public void send(Connection connection) throws SQLException {
        try {
            current.flush();
            CopyIn copy = live;
            if (copy != null) {
                live = null;
                copy.endCopy();
            } else if (rows > 0) {
                try (InputStream in = Files.newInputStream(path)) {
                    connection.unwrap(PGConnection.class).getCopyAPI().copyIn(statement(), in, BUFFER);
                }
            }
        } catch (IOException cannotRead) {
            throw new UncheckedIOException(cannotRead);
        }
    }

    private String statement() {
        return "copy " + target + " from stdin";
    }

    /** Writes into a COPY that is under way. */
    private static final class CopyStream extends OutputStream {
        private final CopyIn copy;

        CopyStream(CopyIn copy) {
            this.copy = copy;
        }

        @Override
        public void write(int b) throws IOException {
            write(new byte[] {(byte) b}, 0, 1);
        }

        @Override
        public void write(byte[] bytes, int from, int length) throws IOException {
            try {
                copy.writeToCopy(bytes, from, length);
            } catch (SQLException refused) {
                throw new IOException(refused);
            }
        }
    }

    @Override
    public void close() {
        try {
            if (live != null && live.isActive()) {
                // Only after a failure; the transaction is about to be rolled back.
                live.cancelCopy();
            }
            out.close();
            Files.deleteIfExists(path);
        } catch (SQLException alreadyBroken) {
            throw new IllegalStateException("cannot cancel a COPY", alreadyBroken);
        } catch (IOException cannotDelete) {
            throw new UncheckedIOException(cannotDelete);
        }
    }
}
