package mellow.core.format.csv;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.CharsetEncoder;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.StringJoiner;
import java.util.TreeMap;
import mellow.core.format.FileEntry;
import mellow.core.format.FilePatch;
import mellow.core.format.FileText;
import mellow.core.format.UnwritableTextException;

/** Changes to a file of separated text. Changed cells keep their quotes; bare ones get quotes only when the new text needs them. */
final class CsvPatch implements FilePatch {

    private final CsvReading reading;
    private final CsvRecords records;
    private final CharsetEncoder encoder;
    private final byte[] lineEnd;
    private final byte[] delimiter;

    /** Replacements by the offset where they begin. */
    private final TreeMap<Integer, Replacement> replacements = new TreeMap<>();
    /** Texts for cells that too short a row does not have, by record and column. */
    private final TreeMap<Integer, TreeMap<Integer, byte[]>> missing = new TreeMap<>();
    /** Rows to add by the offset where they go. */
    private final TreeMap<Integer, List<byte[]>> insertions = new TreeMap<>();

    private record Replacement(int end, byte[] bytes) {}

    CsvPatch(CsvReading reading) {
        this.reading = reading;
        this.records = reading.records();
        this.encoder = records.encoding.charset().newEncoder();
        this.lineEnd = DialectDetector.lineEnd(records.bytes, records.encoding);
        this.delimiter = String.valueOf(records.dialect.delimiter()).getBytes(records.encoding.charset());
    }

    @Override
    public void set(int entry, int language, FileText text) {
        int record = reading.row(entry);
        int column = reading.textColumn(language);
        String key = reading.id(entry).key();
        if (text.forms().size() > 1) {
            throw new UnwritableTextException(
                    "A cell of a table has no place for the forms of " + key + "; export it in another format.");
        }
        String value = guarded(CsvWriter.broken(text.main()));
        if (column >= records.width(record)) {
            missing.computeIfAbsent(record, r -> new TreeMap<>()).put(column, encode(cell(value, false), key));
            return;
        }
        int from = records.outerFrom(record, column);
        int to = records.outerTo(record, column);
        if (value.indexOf('\n') >= 0 && rawHasCarriageReturn(from, to)) {
            value = value.replace("\n", "\r\n");
        }
        boolean quoted = records.kind(record, column) != CsvRecords.BARE;
        replacements.put(from, new Replacement(to, encode(cell(value, quoted), key)));
    }

    private boolean rawHasCarriageReturn(int from, int to) {
        return new String(records.bytes, from, to - from, records.encoding.charset()).indexOf('\r') >= 0;
    }

    @Override
    public void remove(int entry) {
        int record = reading.row(entry);
        replacements
                .subMap(records.start(record), true, records.end(record), false)
                .clear();
        missing.remove(record);
        replacements.put(records.start(record), new Replacement(records.end(record), new byte[0]));
    }

    @Override
    public void insert(int after, FileEntry added) {
        int offset = after < 0 ? records.bytes.length : records.end(reading.row(after));
        StringJoiner row = new StringJoiner(String.valueOf(records.dialect.delimiter()));
        for (String value : reading.cellsOf(added)) {
            row.add(cell(guarded(CsvWriter.broken(value)), false));
        }
        insertions.computeIfAbsent(offset, o -> new ArrayList<>()).add(encode(row.toString(), added.key()));
    }

    @Override
    public void writeTo(OutputStream out) throws IOException {
        padShortRows();
        int copied = 0;
        for (Map.Entry<Integer, Replacement> change : replacements.entrySet()) {
            // What is appended to the last line goes before the rows that follow it.
            boolean appended = change.getKey() == change.getValue().end();
            copied = insertUpTo(appended ? change.getKey() - 1 : change.getKey(), copied, out);
            out.write(records.bytes, copied, change.getKey() - copied);
            out.write(change.getValue().bytes());
            copied = change.getValue().end();
        }
        copied = insertUpTo(records.bytes.length, copied, out);
        out.write(records.bytes, copied, records.bytes.length - copied);
    }

    /** Writes the rows that go at or before {@code offset}, and the bytes before them. */
    private int insertUpTo(int offset, int copiedSoFar, OutputStream out) throws IOException {
        int copied = copiedSoFar;
        for (Map.Entry<Integer, List<byte[]>> place :
                insertions.subMap(copied, true, offset, true).entrySet()) {
            out.write(records.bytes, copied, place.getKey() - copied);
            copied = place.getKey();
            boolean openLine = place.getKey() == records.bytes.length && !endsWithLineEnd();
            for (byte[] row : place.getValue()) {
                if (openLine) {
                    out.write(lineEnd);
                }
                out.write(row);
                if (!openLine) {
                    out.write(lineEnd);
                }
            }
        }
        insertions.subMap(0, true, copied, true).clear();
        return copied;
    }

    private boolean endsWithLineEnd() {
        int last = records.size() - 1;
        return records.end(last) > records.contentEnd(last) || records.end(last) < records.bytes.length;
    }

    private void padShortRows() throws IOException {
        for (Map.Entry<Integer, TreeMap<Integer, byte[]>> row : missing.entrySet()) {
            int record = row.getKey();
            ByteArrayOutputStream tail = new ByteArrayOutputStream();
            for (int column = records.width(record); column <= row.getValue().lastKey(); column++) {
                tail.write(delimiter);
                tail.write(row.getValue().getOrDefault(column, new byte[0]));
            }
            int end = records.contentEnd(record);
            int lastCell = records.outerFrom(record, records.width(record) - 1);
            Replacement inLastCell = replacements.get(lastCell);
            if (inLastCell != null && inLastCell.end() == end) {
                ByteArrayOutputStream both = new ByteArrayOutputStream();
                both.write(inLastCell.bytes());
                both.write(tail.toByteArray());
                replacements.put(lastCell, new Replacement(end, both.toByteArray()));
            } else {
                replacements.put(end, new Replacement(end, tail.toByteArray()));
            }
        }
        missing.clear();
    }

    /** In a file without guards a text that looks guarded gets one, or reading would take its own apostrophe for a guard. */
    private String guarded(String text) {
        return reading.guarded() || FormulaGuard.guarded(text) ? FormulaGuard.guard(text) : text;
    }

    private String cell(String value, boolean quoted) {
        return CsvWriter.cell(value, records.dialect, quoted);
    }

    private byte[] encode(String value, String key) {
        try {
            ByteBuffer encoded = encoder.encode(CharBuffer.wrap(value));
            byte[] bytes = new byte[encoded.remaining()];
            encoded.get(bytes);
            return bytes;
        } catch (CharacterCodingException unspellable) {
            CharsetEncoder fresh = records.encoding.charset().newEncoder();
            String first = value.codePoints()
                    .mapToObj(Character::toString)
                    .filter(character -> !fresh.canEncode(character))
                    .findFirst()
                    .orElse("?");
            throw new UnwritableTextException(
                    key, first, records.encoding.charset().name());
        }
    }
}
