package mellow.core.format.po;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;
import mellow.core.format.FileEntry;
import mellow.core.format.FileReading;
import mellow.core.format.ReadOptions;
import mellow.core.format.UnreadableFileException;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.TestFactory;

/** Compiled catalogues byte by byte, as the gettext manual describes them (The Format of GNU MO Files). */
class MoFormatTest {

    private static final String HEADER = "Language: pl\nContent-Type: text/plain; charset=%s\n"
            + "Plural-Forms: nplurals=3; plural=(n==1 ? 0 : n%%10>=2 && n%%10<=4 && (n%%100<12 || n%%100>14) ? 1 : 2);\n";

    /** A file of messages: id, text, id, text, … */
    private record Mo(ByteOrder order, int version, Charset charset, int gap, String... texts) {

        Mo(String... texts) {
            this(ByteOrder.LITTLE_ENDIAN, 0, StandardCharsets.UTF_8, 0, texts);
        }

        byte[] bytes() {
            int count = texts.length / 2;
            int table = 28 + gap;
            ByteBuffer data = ByteBuffer.allocate(1 << 14).order(order);
            data.putInt(0x950412DE).putInt(version).putInt(count).putInt(table).putInt(table + 8 * count);
            data.putInt(0).putInt(0);
            int place = table + 16 * count;
            for (int part = 0; part < 2; part++) {
                for (int i = 0; i < count; i++) {
                    byte[] text = texts[2 * i + part].getBytes(charset);
                    data.putInt(table + 8 * (part * count + i), text.length);
                    data.putInt(table + 8 * (part * count + i) + 4, place);
                    data.position(place);
                    data.put(text).put((byte) 0);
                    place = data.position();
                }
            }
            return Arrays.copyOf(data.array(), place);
        }
    }

    private static String header(String charset) {
        return String.format(HEADER, charset);
    }

    private static Mo messages(String... texts) {
        String[] all =
                Stream.concat(Stream.of("", header("UTF-8")), Stream.of(texts)).toArray(String[]::new);
        return new Mo(all);
    }

    private static byte[] changed(byte[] file, int place, int value) {
        ByteBuffer.wrap(file).order(ByteOrder.LITTLE_ENDIAN).putInt(place, value);
        return file;
    }

    private static FileReading read(byte[] file) {
        return new MoFormat().read("app.mo", file, ReadOptions.AUTOMATIC);
    }

    private static String shown(FileEntry entry) {
        String context = entry.context().isEmpty() ? "" : " @" + entry.context();
        return entry.key() + context + " = " + entry.texts().get(1).forms();
    }

    private static DynamicTest reads(String rule, byte[] file, String... entries) {
        return DynamicTest.dynamicTest(rule, () -> {
            FileReading reading = read(file);
            List<String> shown = Stream.iterate(0, i -> i + 1)
                    .limit(reading.size())
                    .map(i -> shown(reading.entry(i)))
                    .toList();
            assertThat(shown).containsExactly(entries);
        });
    }

    private static DynamicTest refuses(String rule, byte[] file, String why) {
        return DynamicTest.dynamicTest(rule, () -> assertThatThrownBy(() -> read(file))
                .isInstanceOf(UnreadableFileException.class)
                .hasMessageContaining(why));
    }

    @TestFactory
    Stream<DynamicTest> whatTheFormatSays() {
        byte[] plain = messages("Open", "Otwórz").bytes();
        String cars = "%d car\0%d cars";
        return Stream.of(
                reads("a message", plain, "Open = {other=Otwórz}"),
                reads("least significant byte first", messages("a", "b").bytes(), "a = {other=b}"),
                reads(
                        "most significant byte first",
                        new Mo(ByteOrder.BIG_ENDIAN, 0, StandardCharsets.UTF_8, 0, "", header("UTF-8"), "a", "b")
                                .bytes(),
                        "a = {other=b}"),
                reads(
                        "a minor revision",
                        new Mo(ByteOrder.LITTLE_ENDIAN, 1, StandardCharsets.UTF_8, 0, "", header("UTF-8"), "a", "b")
                                .bytes(),
                        "a = {other=b}"),
                reads(
                        "major revision 1",
                        new Mo(
                                        ByteOrder.LITTLE_ENDIAN,
                                        1 << 16,
                                        StandardCharsets.UTF_8,
                                        0,
                                        "",
                                        header("UTF-8"),
                                        "a",
                                        "b")
                                .bytes(),
                        "a = {other=b}"),
                reads(
                        "tables anywhere in the file",
                        new Mo(ByteOrder.LITTLE_ENDIAN, 0, StandardCharsets.UTF_8, 40, "", header("UTF-8"), "a", "b")
                                .bytes(),
                        "a = {other=b}"),
                reads("a hash table is passed over", changed(messages("a", "b").bytes(), 20, 7), "a = {other=b}"),
                reads(
                        "messages keep their order",
                        messages("b", "1", "a", "2").bytes(),
                        "b = {other=1}",
                        "a = {other=2}"),
                reads(
                        "a context before the id",
                        messages("menu\4Open", "Otwórz").bytes(),
                        "Open @menu = {other=Otwórz}"),
                reads(
                        "one id in two contexts",
                        messages("a\4Open", "1", "b\4Open", "2").bytes(),
                        "Open @a = {other=1}",
                        "Open @b = {other=2}"),
                reads("an empty context is one", messages("\4Open", "x").bytes(), "Open = {other=x}"),
                reads(
                        "plural forms behind each other",
                        messages(cars, "%d auto\0%d auta\0%d aut").bytes(),
                        "%d car = {few=%d auta, many=%d aut, one=%d auto}"),
                reads(
                        "a plural with a context",
                        messages("deck\4" + cars, "1\0" + "2\0" + "3").bytes(),
                        "%d car @deck = {few=2, many=3, one=1}"),
                reads("an empty text is none", messages("a", "").bytes(), "a = {}"),
                reads("line breaks", messages("a\nb", "c\nd\n").bytes(), "a\nb = {other=c\nd\n}"),
                reads("quotes and backslashes", messages("\"a\"\\", "\\n\"").bytes(), "\"a\"\\ = {other=\\n\"}"),
                reads(
                        "tabs and control characters",
                        messages("a\tb", "c\u0007d").bytes(),
                        "a\tb = {other=c\u0007d}"),
                reads("characters beyond the first plane", messages("😀", "船😀").bytes(), "😀 = {other=船😀}"),
                reads(
                        "the character set of the header",
                        new Mo(
                                        ByteOrder.LITTLE_ENDIAN,
                                        0,
                                        Charset.forName("ISO-8859-2"),
                                        0,
                                        "",
                                        header("ISO-8859-2"),
                                        "Open",
                                        "Otwórz łódź")
                                .bytes(),
                        "Open = {other=Otwórz łódź}"),
                reads("only a header", messages().bytes()),
                reads("no header at all", new Mo("a", "b").bytes(), "a = {other=b}"),
                refuses("no messages", new Mo().bytes(), "the file is empty"),
                reads("a long text", messages("a", "x".repeat(9_000)).bytes(), "a = {other=" + "x".repeat(9_000) + "}"),
                DynamicTest.dynamicTest(
                        "the language of the header",
                        () -> assertThat(read(plain).languages().get(1).value()).isEqualTo("pl")),
                DynamicTest.dynamicTest("is only written fresh", () -> assertThatThrownBy(
                                () -> read(plain).patch())
                        .hasMessageContaining("cannot be changed in place")),
                refuses(
                        "another beginning",
                        "no catalogue, but words enough for a header".getBytes(StandardCharsets.UTF_8),
                        "950412DE"),
                refuses("shorter than its header", Arrays.copyOf(plain, 20), "no compiled catalogue"),
                refuses("an unknown major revision", changed(plain.clone(), 4, 2 << 16), "an unknown version"),
                refuses("more messages than the file holds", changed(plain.clone(), 8, 5_000), "this one is cut off"),
                refuses("a negative number of messages", changed(plain.clone(), 8, -1), "-1 messages"),
                refuses("more messages than anybody reads", changed(plain.clone(), 8, 2_000_000), "at most 1000000"),
                refuses("a table beyond the end", changed(plain.clone(), 12, 1 << 20), "ends early"),
                refuses("a table far beyond the end", changed(plain.clone(), 16, -8), "ends early"),
                refuses("a text beyond the end", changed(plain.clone(), 28 + 8, 1 << 20), "beyond the end"),
                refuses("a text of more than four gigabytes", changed(plain.clone(), 28 + 8, -1), "beyond the end"),
                refuses("cut off in its texts", Arrays.copyOf(plain, plain.length - 6), "cut off"));
    }
}
