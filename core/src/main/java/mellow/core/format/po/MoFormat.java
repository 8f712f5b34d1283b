package mellow.core.format.po;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import mellow.core.format.Aspect;
import mellow.core.format.EntryList;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.FreshOnly;
import mellow.core.format.Position;
import mellow.core.format.Problems;
import mellow.core.format.ReadOptions;
import mellow.core.format.Traits;
import mellow.core.format.Traits.Languages;
import mellow.core.format.source.SourceText;
import mellow.core.language.LanguageTag;
import mellow.core.text.Text;
import org.jspecify.annotations.Nullable;

/**
 * MO, the compiled catalogue (gettext manual, "The Format of GNU MO Files"): read as the catalogue it was made of, written fresh only. Untranslated
 * messages are left out, so that a program falls back to their ids.
 */
public final class MoFormat implements FileFormat {

    private static final Traits TRAITS = Traits.of("mo", "mo", "application/octet-stream")
            .knownBy("gmo")
            .in(Languages.PAIR)
            .onlyFresh()
            .spellingItself();

    private static final int MAGIC = 0x950412de;
    private static final int HEADER = 28;

    @Override
    public Traits traits() {
        return TRAITS;
    }

    @Override
    public Set<Aspect> keeps() {
        return EnumSet.of(Aspect.STATE, Aspect.CONTEXT, Aspect.PLURAL_FORMS, Aspect.LINE_BREAKS);
    }

    @Override
    public Optional<Set<String>> forms(LanguageTag language, boolean source) {
        return Optional.of(
                source
                        ? Set.of("one", Text.OTHER)
                        : Set.copyOf(PluralForms.of(Optional.of(language)).categories()));
    }

    @Override
    public int likelihood(Sample sample) {
        return sample.bytes().length >= 4 && order(sample.bytes()) != null ? 100 : 0;
    }

    private static @Nullable ByteOrder order(byte[] bytes) {
        int magic = ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN).getInt(0);
        return magic == MAGIC
                ? ByteOrder.LITTLE_ENDIAN
                : Integer.reverseBytes(magic) == MAGIC ? ByteOrder.BIG_ENDIAN : null;
    }

    @Override
    public FileReading read(String file, byte[] bytes, ReadOptions options) {
        Problems problems = new Problems(file);
        SourceText.checkSize(bytes, options.limits(), problems, "a compiled catalogue");
        ByteOrder order = bytes.length < HEADER ? null : order(bytes);
        if (order == null) {
            throw problems.refuse(
                    Position.WHOLE_FILE, "this is no compiled catalogue", "a file that begins with 950412DE");
        }
        ByteBuffer data = ByteBuffer.wrap(bytes).order(order);
        if (data.getInt(4) >>> 16 > 1) {
            throw problems.refuse(new Position(1, 5, 4), "an unknown version", "version 0 or 1");
        }
        int count = data.getInt(8);
        int ids = data.getInt(12);
        int texts = data.getInt(16);
        if (count < 0 || count > options.limits().entries()) {
            throw problems.refuse(
                    new Position(1, 9, 8),
                    count + " messages",
                    "at most " + options.limits().entries());
        }
        ByteArrayOutputStream catalogue = new ByteArrayOutputStream(bytes.length * 2);
        for (int i = 0; i < count; i++) {
            append(slice(data, ids, i, problems), slice(data, texts, i, problems), catalogue);
        }
        FileReading read = new PoFormat().read(file, catalogue.toByteArray(), options);
        return new FreshOnly(
                read, read.problems(), read.charset(), Set.of(FileReading.Field.CONTEXT), "A compiled catalogue");
    }

    private static byte[] slice(ByteBuffer data, int table, int index, Problems problems) {
        long place = (table & 0xFFFFFFFFL) + 8L * index;
        if (place + 8 > data.limit()) {
            throw problems.refuse(
                    Position.WHOLE_FILE, "the table of texts ends early", "a whole file; this one is cut off");
        }
        long length = data.getInt((int) place) & 0xFFFFFFFFL;
        long start = data.getInt((int) place + 4) & 0xFFFFFFFFL;
        if (start + length > data.limit()) {
            throw problems.refuse(
                    new Position(1, (int) place + 1, place),
                    "a text beyond the end of the file",
                    "a whole file; this one is cut off");
        }
        byte[] slice = new byte[(int) length];
        data.get((int) start, slice);
        return slice;
    }

    /** Writes a message as PO in the catalogue's own bytes, so that its header decides the character set. */
    private static void append(byte[] id, byte[] text, ByteArrayOutputStream to) {
        List<byte[]> ids = split(id, (byte) 0);
        List<byte[]> texts = split(text, (byte) 0);
        List<byte[]> context = split(ids.get(0), (byte) 4);
        if (context.size() > 1) {
            line("msgctxt ", context.get(0), to);
        }
        line("msgid ", context.get(context.size() - 1), to);
        if (ids.size() > 1) {
            line("msgid_plural ", ids.get(1), to);
            for (int i = 0; i < texts.size(); i++) {
                line("msgstr[" + i + "] ", texts.get(i), to);
            }
        } else {
            line("msgstr ", text, to);
        }
        to.write('\n');
    }

    private static List<byte[]> split(byte[] bytes, byte at) {
        List<byte[]> parts = new ArrayList<>();
        int start = 0;
        for (int i = 0; i <= bytes.length; i++) {
            if (i == bytes.length || bytes[i] == at) {
                parts.add(Arrays.copyOfRange(bytes, start, i));
                start = i + 1;
            }
        }
        return parts;
    }

    private static void line(String keyword, byte[] text, ByteArrayOutputStream to) {
        to.writeBytes(keyword.getBytes(StandardCharsets.US_ASCII));
        to.write('"');
        for (byte b : text) {
            if (b == '\n') {
                to.writeBytes("\\n".getBytes(StandardCharsets.US_ASCII));
            } else if (b == '"' || b == '\\') {
                to.write('\\');
                to.write(b);
            } else if (b >= 0 && b < 0x20) {
                to.writeBytes(String.format("\\%03o", b).getBytes(StandardCharsets.US_ASCII));
            } else {
                to.write(b);
            }
        }
        to.write('"');
        to.write('\n');
    }

    @Override
    public void write(EntryList entries, OutputStream out) throws IOException {
        ByteArrayOutputStream catalogue = new ByteArrayOutputStream();
        new PoWriter(entries).writeTo(catalogue);
        List<byte[][]> messages = new ArrayList<>();
        Problems problems = new Problems("catalogue");
        SourceText source = SourceText.decode(catalogue.toByteArray(), StandardCharsets.UTF_8, problems);
        PoParser.parse(source, ReadOptions.AUTOMATIC.limits(), message -> compile(message, messages));
        // Programs look ids up by binary search in the order of their bytes.
        messages.sort((a, b) -> Arrays.compareUnsigned(a[0], b[0]));
        int table = HEADER + 16 * messages.size();
        ByteBuffer head = ByteBuffer.allocate(table).order(ByteOrder.LITTLE_ENDIAN);
        head.putInt(MAGIC).putInt(0).putInt(messages.size()).putInt(HEADER).putInt(HEADER + 8 * messages.size());
        head.putInt(0).putInt(table);
        int place = table;
        for (int part = 0; part < 2; part++) {
            for (byte[][] message : messages) {
                head.putInt(message[part].length).putInt(place);
                place += message[part].length + 1;
            }
        }
        out.write(head.array());
        for (int part = 0; part < 2; part++) {
            for (byte[][] message : messages) {
                out.write(message[part]);
                out.write(0);
            }
        }
        out.flush();
    }

    private static void compile(PoMessage message, List<byte[][]> to) {
        boolean translated =
                message.texts().stream().anyMatch(text -> !text.text().isEmpty());
        if (!translated || (message.fuzzy() && !message.header())) {
            return;
        }
        String id = message.id().text();
        if (message.context().present()) {
            id = message.context().text() + '\u0004' + id;
        }
        if (message.plural().present()) {
            id += '\0' + message.plural().text();
        }
        String text = String.join(
                "\0", message.texts().stream().map(PoMessage.Value::text).toList());
        to.add(new byte[][] {id.getBytes(StandardCharsets.UTF_8), text.getBytes(StandardCharsets.UTF_8)});
    }
}
