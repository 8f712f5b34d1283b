package mellow.server.record;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Arrays;
import java.util.Locale;
import java.util.stream.Collectors;
import mellow.server.common.TempFiles;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyIn;

/**
 * Rows on their way into a database table by COPY, in its binary format (PostgreSQL, COPY, "Binary Format"): the database then parses neither numbers nor
 * times. They wait in a temporary file, because one connection cannot read a cursor and receive a COPY at the same time, and memory would not hold a
 * million of them.
 */
public final class CopyFile implements AutoCloseable {

    private static final int BUFFER = 1 << 16;
    /** The longest that one character takes in UTF-8. */
    private static final int UTF8_MOST = 3;

    private static final byte[] HEADER = {
        'P', 'G', 'C', 'O', 'P', 'Y', '\n', (byte) 0xFF, '\r', '\n', 0, 0, 0, 0, 0, 0, 0, 0, 0
    };
    private static final byte[] TRAILER = {(byte) 0xFF, (byte) 0xFF};
    /** Times are microseconds from this day on. */
    private static final long DAY_ZERO = Instant.parse("2000-01-01T00:00:00Z").getEpochSecond();

    private final String statement;
    private final Type[] types;
    private final Path path;
    private final OutputStream out;
    /** Where rows go: the file, or straight into the database. */
    private OutputStream current;

    private @Nullable CopyIn live;
    private ByteBuffer row = ByteBuffer.allocate(1 << 12);
    private long rows;

    /** How a column's values are written; named as PostgreSQL names them. */
    private enum Type {
        INT2,
        INT4,
        INT8,
        FLOAT8,
        BOOL,
        TEXT,
        TIMESTAMPTZ
    }

    /**
     * An empty file for rows.
     *
     * @param table the table's name
     * @param columns names and types, such as {@code "entry_id int8, text text"}
     */
    public CopyFile(String table, String columns) {
        String[] described = columns.strip().split("\\s*,\\s*");
        this.types = Arrays.stream(described)
                .map(column ->
                        Type.valueOf(column.substring(column.indexOf(' ') + 1).toUpperCase(Locale.ROOT)))
                .toArray(Type[]::new);
        this.statement = Arrays.stream(described)
                .map(column -> column.substring(0, column.indexOf(' ')))
                .collect(Collectors.joining(", ", "copy " + table + " (", ") from stdin (format binary)"));
        try {
            this.path = TempFiles.create(".copy");
            this.out = new BufferedOutputStream(Files.newOutputStream(path), BUFFER);
            this.current = out;
            out.write(HEADER);
        } catch (IOException cannotWrite) {
            throw new UncheckedIOException(cannotWrite);
        }
    }

    /** Adds a row: a value per column, of its type or null. */
    public void add(@Nullable Object... values) {
        if (values.length != types.length) {
            throw new IllegalArgumentException(values.length + " values for " + types.length + " columns");
        }
        row.clear();
        row.putShort((short) values.length);
        for (int i = 0; i < values.length; i++) {
            append(types[i], values[i]);
        }
        try {
            current.write(row.array(), 0, row.position());
        } catch (IOException cannotWrite) {
            throw new UncheckedIOException(cannotWrite);
        }
        rows++;
    }

    private void append(Type type, @Nullable Object value) {
        room(Integer.BYTES + Long.BYTES);
        if (value == null) {
            row.putInt(-1);
            return;
        }
        switch (type) {
            case INT2 -> row.putInt(Short.BYTES).putShort(((Number) value).shortValue());
            case INT4 -> row.putInt(Integer.BYTES).putInt(((Number) value).intValue());
            case INT8 -> row.putInt(Long.BYTES).putLong(((Number) value).longValue());
            case FLOAT8 -> row.putInt(Double.BYTES).putDouble(((Number) value).doubleValue());
            case BOOL -> row.putInt(1).put((byte) ((Boolean) value ? 1 : 0));
            case TIMESTAMPTZ -> row.putInt(Long.BYTES).putLong(microseconds((Instant) value));
            case TEXT -> text((String) value);
        }
    }

    private static long microseconds(Instant instant) {
        return (instant.getEpochSecond() - DAY_ZERO) * 1_000_000 + instant.getNano() / 1_000;
    }

    private void text(String text) {
        room(Integer.BYTES + UTF8_MOST * text.length());
        int length = row.position();
        row.putInt(0);
        int at = length + Integer.BYTES;
        byte[] bytes = row.array();
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c < 0x80) {
                bytes[at++] = (byte) c;
            } else if (c < 0x800) {
                bytes[at++] = (byte) (0xC0 | c >> 6);
                bytes[at++] = (byte) (0x80 | c & 0x3F);
            } else if (Character.isSurrogate(c)) {
                byte[] rest = text.substring(i).getBytes(StandardCharsets.UTF_8);
                System.arraycopy(rest, 0, bytes, at, rest.length);
                at += rest.length;
                break;
            } else {
                bytes[at++] = (byte) (0xE0 | c >> 12);
                bytes[at++] = (byte) (0x80 | c >> 6 & 0x3F);
                bytes[at++] = (byte) (0x80 | c & 0x3F);
            }
        }
        row.putInt(length, at - length - Integer.BYTES);
        row.position(at);
    }

    private void room(int bytes) {
        if (row.remaining() < bytes) {
            row = ByteBuffer.allocate(Math.max(2 * row.capacity(), row.position() + bytes))
                    .put(row.flip());
        }
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
        CopyIn copy = connection.unwrap(PGConnection.class).getCopyAPI().copyIn(statement);
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
            if (rows > 0 || live != null) {
                current.write(TRAILER);
            }
            current.flush();
            CopyIn copy = live;
            if (copy != null) {
                live = null;
                copy.endCopy();
            } else if (rows > 0) {
                try (InputStream in = Files.newInputStream(path)) {
                    connection.unwrap(PGConnection.class).getCopyAPI().copyIn(statement, in, BUFFER);
                }
            }
        } catch (IOException cannotRead) {
            throw new UncheckedIOException(cannotRead);
        }
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
