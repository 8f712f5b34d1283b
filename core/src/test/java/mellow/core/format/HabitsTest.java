package mellow.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import mellow.core.format.registry.Formats;
import mellow.core.language.LanguageTag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What files do not say about themselves: which of their parts is the key, and what siblings by suffix are. */
class HabitsTest {

    private static final LanguageTag ENGLISH = new LanguageTag("en");

    private static FileReading read(String name, String content) {
        return read(name, content, ReadOptions.AUTOMATIC);
    }

    private static FileReading read(String name, String content, ReadOptions options) {
        return Formats.read(name, content.getBytes(StandardCharsets.UTF_8), options);
    }

    /** A catalogue of "context | msgid | msgstr" per line; no context where it is empty. */
    private static String po(String language, String... lines) {
        StringBuilder po = new StringBuilder("msgid \"\"\nmsgstr \"Content-Type: text/plain; charset=UTF-8\\n\"\n");
        po.append("\"Language: ").append(language).append("\\n\"\n");
        for (String line : lines) {
            String[] parts = line.split("\\|", -1);
            String context = parts[0].strip();
            po.append(context.isEmpty() ? "\n" : "\nmsgctxt \"" + context + "\"\n");
            po.append("msgid \"").append(parts[1].strip()).append("\"\nmsgstr \"");
            po.append(parts[2].strip()).append("\"\n");
        }
        return po.toString();
    }

    private static String xliff(String from, String to, String... lines) {
        StringBuilder xliff = new StringBuilder("<xliff version=\"1.2\"><file original=\"a\" datatype=\"plaintext\""
                + " source-language=\"" + from + "\" target-language=\"" + to + "\"><body>\n");
        for (int i = 0; i < lines.length; i++) {
            String[] parts = lines[i].split("\\|", -1);
            xliff.append("<trans-unit id=\"")
                    .append(i + 1)
                    .append("\"><source>")
                    .append(parts[0].strip());
            xliff.append("</source><target>").append(parts[1].strip()).append("</target></trans-unit>\n");
        }
        return xliff.append("</body></file></xliff>\n").toString();
    }

    private static List<String> said(FileReading file) {
        return IntStream.range(0, file.size())
                .mapToObj(file::entry)
                .map(entry -> entry.key() + " = "
                        + String.join(
                                " / ",
                                entry.texts().stream().map(FileText::main).toList()))
                .toList();
    }

    @Test
    void aMsgctxtThatIsTheKeyIsRecognised() {
        FileReading file = read("de.po", po("de", "menu.open | Open | Öffnen", "menu.save | Save as… | Sichern"));
        assertThat(file.habits().key()).contains(KeyHabit.CONTEXT);
        assertThat(file.habits().evidence()).anyMatch(why -> why.contains("menu.open"));
        assertThat(said(file)).containsExactly("menu.open = Open / Öffnen", "menu.save = Save as… / Sichern");
        assertThat(file.entry(0).context()).isEmpty();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = ';',
            value = {
                "the same context twice; menu.open | Open | a; menu.open | Close | b",
                "a context that is a sentence; Button on deck | Open | a; Title | Close | b",
                "one without a context; menu.open | Open | a; | Close | b"
            })
    void aMsgctxtThatTellsMeaningsApartIsNoKey(String why, String one, String other) {
        FileReading file = read("de.po", po("de", one, other));
        assertThat(file.habits().key()).as(why).contains(KeyHabit.SOURCE);
        assertThat(file.entry(0).key()).isEqualTo("Open");
    }

    @Test
    void aHabitThatSomebodyChoseCountsMoreThanEvidence() {
        String content = po("de", "menu.open | Open | Öffnen");
        FileReading file = read("de.po", content, ReadOptions.AUTOMATIC.by(KeyHabit.SOURCE));
        assertThat(file.entry(0).id()).isEqualTo(new EntryId("Open", "menu.open"));
        assertThat(file.habits().keys()).containsExactly(KeyHabit.values());
    }

    @Test
    void aPreviousMsgidIsTheFormerSource() {
        FileReading file = read(
                "de.po",
                "#, fuzzy\n#| msgctxt \"x\"\n#| msgid \"\"\n#| \"Open \"\n#| \"file\"\n#| msgid_plural \"no\"\nmsgid \"Open the file\"\nmsgstr \"Öffnen\"\n");
        assertThat(file.entry(0).former()).isEqualTo("Open file");
        assertThat(file.entry(0).texts().get(1).older()).isTrue();
    }

    @Test
    void aCatalogueOfItsOwnLanguageWithKeysHoldsTheSources() {
        for (String name : List.of("en.po", "en.xlf")) {
            String content = name.endsWith("po")
                    ? po("en", "| title | Night ferry", "| greeting | Welcome aboard", "| bye | See you ashore")
                    : xliff("en", "en", "title | Night ferry", "greeting | Welcome aboard", "bye | See you ashore");
            FileReading file = read(name, content, ReadOptions.AUTOMATIC.from(ENGLISH));
            assertThat(file.habits().key()).as(name).contains(KeyHabit.KEY);
            assertThat(file.languages()).containsExactly(ENGLISH);
            assertThat(file.sourceColumn(ENGLISH)).isZero();
            assertThat(said(file))
                    .containsExactly("title = Night ferry", "greeting = Welcome aboard", "bye = See you ashore");
        }
    }

    @Test
    void theOtherLanguagesOfSuchAFileHaveKeysToo() {
        FileReading file = read("fi.xlf", xliff("en", "fi", "menu.open | Avaa", "menu.shut | Sulje"));
        assertThat(file.habits().key()).contains(KeyHabit.KEY);
        assertThat(said(file)).containsExactly("menu.open = Avaa", "menu.shut = Sulje");
        assertThat(file.languages()).containsExactly(new LanguageTag("fi"));
    }

    @Test
    void keysAsSourcesAreWrittenInPlace() throws IOException {
        String content = xliff("en", "en", "menu.open | Open", "menu.shut | Close");
        FilePatch patch =
                read("en.xlf", content, ReadOptions.AUTOMATIC.from(ENGLISH)).patch();
        patch.set(1, 0, "Shut");
        patch.insert(1, FileEntry.of("menu.lock").plain(List.of("Lock")).build());
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        patch.writeTo(out);
        String written = out.toString(StandardCharsets.UTF_8);
        assertThat(written).contains("<source>menu.shut</source><target>Shut</target>");
        assertThat(said(read("en.xlf", written, ReadOptions.AUTOMATIC.from(ENGLISH))))
                .containsExactly("menu.open = Open", "menu.shut = Shut", "menu.lock = Lock");
        assertThat(written.replaceAll("(?s)<trans-unit id=\"menu.lock\".*?</trans-unit>", ""))
                .doesNotContain("menu.lock");
    }

    @Test
    void aVariantOfTheSourceIsALanguageOfItsOwn() {
        FileReading file = read("en@quot.po", po("en@quot", "| Say 'yes' | Say “yes”", "| No | No"));
        assertThat(file.languages()).containsExactly(ENGLISH, new LanguageTag("en-x-quot"));
        assertThat(said(file)).containsExactly("Say 'yes' = Say 'yes' / Say “yes”", "No = No / No");
        // The header of many such files says only the language.
        assertThat(read("po/en@quot.po", po("en", "| Say 'yes' | Say “yes”")).languages())
                .isEqualTo(file.languages());
    }

    @Test
    void textsThatSayTheirSourceAgainAreNoTranslation() {
        assertThat(read("en.po", po("en", "| Open the door | Open the door", "| Shut it |"))
                        .languages())
                .containsExactly(ENGLISH);
        assertThat(read("en.xlf", xliff("en", "en", "Open the door | Open the door"))
                        .languages())
                .containsExactly(ENGLISH);
    }

    @Test
    void aVariantThatNobodyNamedHasToBeNamed() {
        List<LanguageTag> unnamed = List.of(ENGLISH, LanguageTag.UNDETERMINED);
        assertThat(read("en.po", po("en", "| Open the color map | Open the colour map"))
                        .languages())
                .isEqualTo(unnamed);
        assertThat(read("en.xlf", xliff("en", "en", "Open the color map | Open the colour map"))
                        .languages())
                .isEqualTo(unnamed);
        FileReading named = read(
                "en.po",
                po("en", "| Open the color map | Open the colour map"),
                ReadOptions.AUTOMATIC.in(new LanguageTag("en-GB")));
        assertThat(said(named)).containsExactly("Open the color map = Open the color map / Open the colour map");
    }

    @ParameterizedTest
    @CsvSource({
        "en@quot,en-x-quot",
        "en@boldquot,en-x-boldquot",
        "de@euro,de",
        "be@tarask,be-tarask",
        "ca@valencia,ca-valencia",
        "sr@latin,sr-Latn",
        "sr_RS@latin,sr-Latn-RS",
        "en_US@piglatin,en-US-x-piglatin",
        "en@verylongmodifier,en-x-verylong-modifier"
    })
    void modifiersWithoutAMeaningBecomePrivateSubtags(String spelling, String tag) {
        assertThat(LanguageTag.parse(spelling)).map(LanguageTag::value).contains(tag);
    }

    @Test
    void siblingsAreWhatSomebodySays() {
        String content = "{\"deck_one\": \"Deck one\", \"deck_other\": \"Other deck\"}";
        assertThat(read("de.json", content).habits().siblings()).contains(SiblingHabit.LABELS);
        FileReading forms = read("de.json", content, ReadOptions.AUTOMATIC.with(SiblingHabit.FORMS));
        assertThat(forms.size()).isEqualTo(1);
        assertThat(forms.habits().siblings()).contains(SiblingHabit.FORMS);
        String numbered = "{\"a_one\": \"{n} day\", \"a_other\": \"{n} days\"}";
        assertThat(read("de.json", numbered).habits().evidence()).hasSize(1);
        assertThat(read("de.json", numbered, ReadOptions.AUTOMATIC.with(SiblingHabit.LABELS))
                        .size())
                .isEqualTo(2);
        assertThat(read("de.json", "{\"a\": \"A\"}").habits()).isEqualTo(Habits.NONE);
    }

    @Test
    void aPropertiesFileWithoutTextsGrows() throws IOException {
        for (String content : List.of("", "# nothing yet\n")) {
            FileReading file = read("deck_de.properties", content);
            assertThat(file.size()).isZero();
            assertThat(file.languages()).containsExactly(new LanguageTag("de"));
            assertThat(file.problems()).hasSize(1);
            FilePatch patch = file.patch();
            patch.insert(-1, FileEntry.of("a").plain(List.of("A")).build());
            ByteArrayOutputStream out = new ByteArrayOutputStream();
            patch.writeTo(out);
            assertThat(Optional.of(out.toString(StandardCharsets.UTF_8))).contains(content + "a=A\n");
        }
    }
}
