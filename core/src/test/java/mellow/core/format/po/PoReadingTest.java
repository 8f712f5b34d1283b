package mellow.core.format.po;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import mellow.core.format.Aspect;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.FileReading.Field;
import mellow.core.format.FileState;
import mellow.core.format.KeyHabit;
import mellow.core.format.Limits;
import mellow.core.format.Problem;
import mellow.core.format.ReadOptions;
import mellow.core.format.UnreadableFileException;
import mellow.core.language.LanguageTag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Where the grammar of PO (gettext manual, “The Format of PO Files”) begins and ends, and what a catalogue is found to be. */
class PoReadingTest {
    private static final LanguageTag ENGLISH = new LanguageTag("en");
    private static final LanguageTag GERMAN = new LanguageTag("de");
    private static final LanguageTag POLISH = new LanguageTag("pl");
    private static final String HEADER =
            "msgid \"\"\nmsgstr \"\"\n\"Language: de\\n\"\n\"Plural-Forms: nplurals=2; plural=(n != 1);\\n\"\n";

    private static PoReading read(String content) {
        return (PoReading)
                new PoFormat().read("deck.po", content.getBytes(StandardCharsets.UTF_8), ReadOptions.AUTOMATIC);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '^',
            value = {
                "a|\"a\"",
                "a\\nb|\"\"⏎\"a\\n\"⏎\"b\"",
                "a\\n|\"a\\n\"",
                "a\\nb\\n|\"\"⏎\"a\\n\"⏎\"b\\n\"",
                "\\n\\n|\"\"⏎\"\\n\"⏎\"\\n\"",
                "\\u001F\\u007F\\u0080|\"\\037\\177\u0080\"",
                "\\u0020\\t\\r|\" \\t\\r\"",
                "say \"a\\b\"|\"say \\\"a\\\\b\\\"\""
            })
    void textsAreQuotedLineByLine(String text, String quoted) {
        String raw = text.replace("\\n", "\n")
                .replace("\\t", "\t")
                .replace("\\r", "\r")
                .replace("\\u001F", "\u001F")
                .replace("\\u007F", "\u007F")
                .replace("\\u0080", "\u0080")
                .replace("\\u0020", " ");
        assertThat(PoStrings.quote(raw, "⏎")).isEqualTo(quoted);
        assertThat(read("msgid \"A b\"\nmsgstr " + PoStrings.quote(raw, "\n") + "\n")
                        .entry(0)
                        .text(1))
                .isEqualTo(raw);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '^',
            ignoreLeadingAndTrailingWhitespace = false,
            value = {
                "\\x41|A",
                "\\x4z|\u0004z",
                "\\x412|A2",
                "\\101|A",
                "\\1018|A8",
                "\\78|\u00078",
                "\\7|\u0007",
                "\\a\\b\\f\\v|\u0007\b\f\u000B",
                "\\?\\'|?'"
            })
    void escapesAreThoseOfC(String spelled, String text) {
        assertThat(read("msgid \"A b\"\nmsgstr \"" + spelled + "\"\n").entry(0).text(1))
                .isEqualTo(text);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '^',
            value = {
                "msgid \"a\"⏎msgstr \"\\x\"|line 2, column 8: “\\x”, which is no escape",
                "msgid \"a\"⏎msgstr \"\\q\"|“\\q”, which is no escape",
                "msgid \"a\"⏎msgstr \"\\8\"|“\\8”, which is no escape",
                "msgid \"a\"⏎msgstr \"b|line 2, column 8: a text without its closing quote",
                "msgid \"a\"⏎msgstr \"b\\|a text without its closing quote",
                "msgid \"a\"⏎msgstr \"b\" c|“c” after a text",
                "msgid \"a\"⏎msgstr|“msgstr” without a text in line 2",
                "msgid \"a\"⏎msgid \"b\"|line 2: “msgid” in this place",
                "msgctxt \"a\"⏎msgctxt \"b\"|“msgctxt” in this place",
                "msgctxt \"a\"|line 1: a message without “msgid”",
                "msgid \"a\"|a message without “msgstr”",
                "msgstr \"a\"|“msgstr” in this place",
                "msgid_plural \"a\"|“msgid_plural” in this place",
                "msgid \"a\"⏎msgid_plural \"b\"⏎msgid_plural \"c\"|“msgid_plural” in this place",
                "msgid \"a\"⏎msgstr \"b\"⏎msgid_plural \"c\"|“msgid_plural” in this place",
                "msgid \"a\"⏎msgid_plural \"b\"⏎msgstr \"c\"|“msgstr” in a message with “msgid_plural”",
                "msgid \"a\"⏎msgstr[0] \"c\"|“msgstr[…]” in a message without “msgid_plural”",
                "msgid \"a\"⏎msgid_plural \"b\"⏎msgstr[1] \"c\"|“msgstr[1]”",
                "msgid \"a\"⏎msgid_plural \"b\"⏎msgstr[0 \"c\"|“msgstr[]”",
                "msgid \"a\"⏎msgid_plural \"b\"⏎msgstr[0000] \"c\"|“msgstr[]”",
                "msgid \"a\"⏎msgstr \"b\"⏎msgstr \"c\"|line 3: “msgstr” in this place",
                "msgid \"a\"⏎# why⏎msgstr \"b\"|a comment inside a message",
                "msgctxt \"a\"⏎# why⏎msgid \"b\"|the message, which begins in line 1",
                "words \"a\"|the word “words”",
                "🚢|“🚢” at the start of a line",
                "# nothing|there are no messages in the file"
            })
    void whatIsNoCatalogueIsRefused(String content, String sentence) {
        assertThatThrownBy(() -> read(content.replace("⏎", "\n")))
                .isInstanceOf(UnreadableFileException.class)
                .hasMessageContaining(sentence);
    }

    private static FileReading within(String content, int messages, int textBytes) {
        return new PoFormat()
                .read(
                        "deck.po",
                        content.getBytes(StandardCharsets.UTF_8),
                        ReadOptions.AUTOMATIC.within(new Limits(10_000, messages, textBytes, 400)));
    }

    @Test
    void aLimitIsTheLastThatMayBe() {
        String content = HEADER + "\nmsgid \"A b\"\nmsgstr \"" + "x".repeat(98) + "\"\n";
        assertThat(within(content, 1, 100).size()).isEqualTo(1);
        assertThatThrownBy(() -> within(content, 0, 100)).hasMessageContaining("more than 0");
        assertThatThrownBy(() -> within(content, 1, 99)).hasMessageContaining("line 7");
    }

    @Test
    void commentsSayWhatTheySay() {
        PoReading reading = read(
                HEADER
                        + """

                domain "deck"
                #
                #  said by Jorun \s
                #.said by the yard
                #: a.c:1  \u2068b c.c:2\u2069
                #= no-wrap
                #, fuzzy,, c-format
                #| msgctxt "x"
                #| msgid "Old "
                #| "text"
                #| msgid_plural "Old texts"
                msgid "New text"
                msgstr "Neu"
                # of what is gone
                #~ msgid "Gone"
                #, fuzzy
                #| msgid "\\q"
                msgid "C d"
                msgstr "x"

                #, fuzzy
                #| msgctxt "only this"
                msgid "E f"
                msgstr "y"
                """);
        FileEntry entry = reading.entry(0);
        assertThat(entry.notes()).containsExactly("said by Jorun", "said by the yard");
        assertThat(entry.references()).containsExactly("a.c:1", "b c.c:2");
        assertThat(entry.flags()).containsExactly("no-wrap", "fuzzy", "c-format");
        assertThat(entry.former()).isEqualTo("Old text");
        assertThat(entry.texts().get(1).older()).isTrue();
        assertThat(reading.entry(1).notes()).isEmpty();
        assertThat(reading.entry(1).former()).isEmpty();
        assertThat(reading.entry(1).texts().get(1).older()).isTrue();
        assertThat(reading.entry(2).texts().get(1).older()).isFalse();
        assertThat(reading.entry(2).texts().get(1).state()).contains(FileState.PENCILLED);
    }

    @Test
    void whatACatalogueIsFoundToBe() {
        PoReading template = read("msgid \"Open up\"\nmsgstr \"\"\n");
        assertThat(template.languages()).containsExactly(ENGLISH);
        assertThat(template.translation()).isEqualTo(-1);
        assertThat(template.bilingual()).isTrue();
        PoReading keys = read(HEADER + "\nmsgid \"ramp.open\"\nmsgstr \"Auf\"\n\nmsgid \"ramp.shut\"\nmsgstr \"Zu\"\n");
        assertThat(keys.languages()).containsExactly(GERMAN);
        assertThat(keys.habits().key()).contains(KeyHabit.KEY);
        assertThat(keys.translation()).isZero();
        assertThat(keys.bilingual()).isFalse();
        assertThat(keys.isSource(0)).isFalse();
        assertThat(keys.sourceLanguage()).isEmpty();
        assertThat(keys.has(Field.NOTE)).isTrue();
        assertThat(keys.has(Field.LIMIT)).isFalse();
        PoReading second = read(HEADER + "\n" + HEADER + "\nmsgid \"A b\"\nmsgstr \"\"\n");
        assertThat(second.problems())
                .extracting(Problem::sentence)
                .singleElement()
                .asString()
                .contains("line 6", "a second header");
        PoReading odd = read(HEADER.replace("(n != 1)", "n)")
                + "\nmsgid \"boat\"\nmsgid_plural \"boats\"\nmsgstr[0] \"a\"\nmsgstr[1] \"b\"\nmsgstr[2] \"c\"\n");
        assertThat(odd.problems())
                .extracting(Problem::sentence)
                .hasSize(2)
                .anyMatch(one -> one.contains("cannot be evaluated"))
                .anyMatch(one -> one.contains("line 10") && one.contains("the plural form 2"));
        assertThat(odd.entry(0).texts().get(1).forms()).containsOnlyKeys("one", "other");
        PoReading sourced = read(
                "msgid \"\"\nmsgstr \"Language: de\\nX-Source-Language: fi\\n\"\n\nmsgid \"Avaa ovi\"\nmsgstr \"\"\n");
        assertThat(sourced.languages()).containsExactly(new LanguageTag("fi"), GERMAN);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '^',
            value = {
                "a.po|x|60",
                "a.pot|x|60",
                "a.po|msgid  \"\"⏎|100",
                "a.txt|msgid \"\"⏎msgstr \"\"|90",
                "a.txt|# c⏎msgctxt \"\"⏎msgstr|90",
                "a.txt|msgid \"\"⏎|0",
                "a.txt|msgstr⏎|0"
            })
    void howLikelyAFileIsACatalogue(String name, String content, int likelihood) {
        String text = content.replace("⏎", "\n");
        assertThat(new PoFormat()
                        .likelihood(new FileFormat.Sample(name, name, text.getBytes(StandardCharsets.UTF_8), text)))
                .isEqualTo(likelihood);
        assertThat(new PoFormat().keeps())
                .contains(Aspect.CONTEXT, Aspect.STATE)
                .doesNotContain(Aspect.LIMIT);
    }
}
