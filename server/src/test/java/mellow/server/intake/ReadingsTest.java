package mellow.server.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.anyLong;
import static org.mockito.Mockito.clearInvocations;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import mellow.core.format.KeyHabit;
import mellow.core.format.SiblingHabit;
import mellow.core.merge.Arrival;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.server.cell.CellChange;
import mellow.server.file.FileStore;
import mellow.server.intake.Previews.ChoiceRequest;
import mellow.server.run.RunService.Progress;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.context.bean.override.mockito.MockitoSpyBean;

/** A file is read once for every way to read it, whatever is asked about it; how it was understood is remembered with its path and its like. */
class ReadingsTest extends ServerTest {

    private static final String FIRST = "key,en,de\nup,Up,Rauf\ndown,Down,Runter\n";

    @MockitoSpyBean
    private FileStore files;

    @Autowired
    private IntakeService intakes;

    @Autowired
    private IntakeReplies replies;

    @Autowired
    private Previews previews;

    @Autowired
    private Comparing comparing;

    private long mara;

    @BeforeEach
    void someone() {
        mara = ledger.coordinator("mara");
    }

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    @Test
    void aSecondEditionIsReadOnce() {
        ledger.takeIn(mara, "Ramp", FIRST, Arrival.SETTLED);
        clearInvocations(files);
        long intake = intakes.upload(mara, "Ramp.csv", bytes(FIRST.replace("Up,Rauf", "Up again,Rauf")));
        replies.reply(mara, intake);
        comparing.compare(mara, intake, Progress.UNWATCHED);
        previews.choose(mara, intake, new ChoiceRequest(ChangeKind.SOURCES_REWRITTEN, Choice.FIX, null, null));
        replies.reply(mara, intake);
        intakes.apply(mara, intake, Progress.UNWATCHED);
        replies.reply(mara, intake);
        // The base, of which only the bytes are kept: as it was uploaded it had been read without knowing its columns.
        verify(files, times(1)).load(anyLong());
        clearInvocations(files);
        replies.reply(mara, intake);
        verify(files, never()).load(anyLong());
    }

    @Test
    void aFileThatIsGoneIsNotRemembered() {
        long intake = intakes.upload(mara, "Ramp.csv", bytes(FIRST));
        ledger.run("delete from stored_file_part");
        assertThat(Assertions.catchThrowable(() -> intakes.apply(mara, intake, Progress.UNWATCHED)))
                .hasMessageContaining("not kept any more");
    }

    @Test
    void aHabitIsRememberedWithItsPathAndItsLike() {
        String catalogue =
                "msgid \"\"\nmsgstr \"Language: %s\\n\"\n\nmsgctxt \"menu.open\"\nmsgid \"Open\"\nmsgstr \"%s\"\n";
        long german = intakes.upload(mara, "menu/de.po", bytes(catalogue.formatted("de", "Auf")));
        IntakeOptions options = replies.reply(mara, german).options();
        assertThat(replies.reply(mara, german).reading().told().keys()).isEqualTo(KeyHabit.CONTEXT);
        intakes.decide(
                mara,
                german,
                new IntakeOptions(
                        options.how().understood(KeyHabit.SOURCE, null),
                        options.where().into(null, "Menu", Arrival.SETTLED)));
        assertThat(replies.reply(mara, german).reading().shown().rows().get(1).get(0))
                .isEqualTo("Open");
        intakes.apply(mara, german, Progress.UNWATCHED);
        long again = intakes.upload(mara, "menu/de.po", bytes(catalogue.formatted("de", "Öffnen")));
        assertThat(replies.reply(mara, again).options().how().keys()).isEqualTo(KeyHabit.SOURCE);
        long finnish = intakes.upload(mara, "menu.po", bytes(catalogue.formatted("fi", "Avaa")));
        assertThat(replies.reply(mara, finnish).into().tableName()).isEqualTo("Menu");
        assertThat(replies.reply(mara, finnish).options().how().keys()).isEqualTo(KeyHabit.SOURCE);
        assertThat(replies.reply(mara, finnish).reading().shown().rows().get(1).get(0))
                .isEqualTo("Open");
    }

    @Test
    void siblingsAreWhatSomebodySaidTheyAre() {
        String labels = "{\"deck_one\": \"Deck one\", \"deck_other\": \"Other deck\"}";
        long intake = intakes.upload(mara, "deck.json", bytes(labels));
        IntakeOptions options = replies.reply(mara, intake).options();
        assertThat(replies.reply(mara, intake).reading().told().siblings()).isEqualTo(SiblingHabit.LABELS);
        assertThat(replies.reply(mara, intake).reading().told().evidence()).hasSize(1);
        intakes.decide(
                mara,
                intake,
                new IntakeOptions(
                        options.how().in("en").understood(null, SiblingHabit.FORMS),
                        options.where().into(null, "Deck", Arrival.SETTLED)));
        assertThat(replies.reply(mara, intake).reading().held().entries()).isEqualTo(1);
        intakes.apply(mara, intake, Progress.UNWATCHED);
        long again = intakes.upload(mara, "deck.json", bytes(labels.replace("Other", "Another")));
        assertThat(replies.reply(mara, again).options().how().siblings()).isEqualTo(SiblingHabit.FORMS);
    }

    @Autowired
    private Drops drops;

    private List<IntakeReply.Listed> drop(Map<String, String> files) {
        long drop = drops.begin(mara);
        files.forEach((name, content) -> drops.add(mara, drop, name, bytes(content)));
        drops.sort(mara, drop, Progress.UNWATCHED);
        return Objects.requireNonNull(drops.reply(mara, drop).intakes());
    }

    @Test
    void aDropGoesWhereItsPathsWentAlthoughSomebodyReadThemOtherwise() {
        String catalogue =
                "msgid \"\"\nmsgstr \"Language: %s\\n\"\n\nmsgctxt \"menu.open\"\nmsgid \"Open\"\nmsgstr \"%s\"\n";
        long german = intakes.upload(mara, "menu/de.po", bytes(catalogue.formatted("de", "Auf")));
        IntakeOptions options = replies.reply(mara, german).options();
        intakes.decide(
                mara,
                german,
                new IntakeOptions(
                        options.how().understood(KeyHabit.SOURCE, null),
                        options.where().into(null, "Menu", Arrival.SETTLED)));
        intakes.apply(mara, german, Progress.UNWATCHED);
        assertThat(drop(Map.of("menu/de.po", catalogue.formatted("de", "Los"))))
                .extracting(IntakeReply.Listed::tableName)
                .containsExactly("Menu");
        assertThat(drop(Map.of(
                        "menu/de.po",
                        catalogue.formatted("de", "Los"),
                        "menu/fi.po",
                        catalogue.formatted("fi", "Avaa"))))
                .extracting(IntakeReply.Listed::tableName)
                .containsExactly("Menu");
    }

    @Test
    void theFilesOfASetAreUnderstoodAlike() {
        // The words of one language may look like something else than those of another.
        List<IntakeReply.Listed> made = drop(Map.of(
                "l/en.json", "{\"deck_one\": \"Deck one\", \"deck_other\": \"Other deck\", \"a\": \"A\"}",
                "l/de.json", "{\"deck_one\": \"Deck {n}\", \"deck_other\": \"Anderes Deck\", \"a\": \"A\"}"));
        intakes.apply(mara, made.get(0).about().id(), Progress.UNWATCHED);
        assertThat(ledger.ask(
                        String.class, "select string_agg(shape || ' ' || key, ', ' order by position) from entry"))
                .isEqualTo("plain deck_one, plain deck_other, plain a");
        assertThat(ledger.cell("deck_one", "de")).isEqualTo("pencilled Deck {n}");
    }

    private static String xliff(String to, String... pairs) {
        StringBuilder file = new StringBuilder(
                "<xliff version=\"1.2\" xmlns=\"urn:oasis:names:tc:xliff:document:1.2\"><file original=\"messages\" datatype=\"plaintext\" source-language=\"en\" target-language=\""
                        + to + "\"><body>\n");
        for (int i = 0; i < pairs.length; i += 2) {
            file.append("<trans-unit id=\"h").append(i).append("\"><source>").append(pairs[i]);
            file.append("</source><target>").append(pairs[i + 1]).append("</target></trans-unit>\n");
        }
        return file.append("</body></file></xliff>\n").toString();
    }

    @Test
    void aProductWhoseSourcesAreKeysComesInWithItsRealSourceTexts() throws Exception {
        Map<String, String> files = Map.of(
                "l/messages.en.xlf", xliff("en", "login.title", "Welcome aboard", "login.button", "Sign in"),
                "l/messages.fi.xlf", xliff("fi", "login.title", "Tervetuloa laivaan", "login.button", "Kirjaudu"),
                "l/messages.de.xlf", xliff("de", "login.title", "Willkommen an Bord", "login.button", "Anmelden"));
        List<IntakeReply.Listed> made = drop(files);
        assertThat(made).hasSize(1);
        intakes.apply(mara, made.get(0).about().id(), Progress.UNWATCHED);
        assertThat(ledger.ask(
                        String.class, "select string_agg(key || '=' || source, ', ' order by position) from entry"))
                .isEqualTo("login.title=Welcome aboard, login.button=Sign in");
        assertThat(ledger.cell("login.title", "fi")).isEqualTo("settled Tervetuloa laivaan");
        assertThat(ledger.ask(String.class, "select string_agg(distinct options ->> 'keys', ',') from master_file"))
                .isEqualTo("KEY");
        ledger.allowOwn("Messages", "fi");
        ledger.change(mara, "login.title", "fi", CellChange.text(CellChange.Action.PUT_FORWARD, 1, "Tervetuloa"));
        byte[] out = http.get(mara, "/api/tables/messages/export/in-place?file=l/messages.fi.xlf")
                .bytes();
        assertThat(new String(out, StandardCharsets.UTF_8).replace(" state=\"final\"", ""))
                .isEqualTo(files.get("l/messages.fi.xlf")
                        .replace("Tervetuloa laivaan", "Tervetuloa")
                        .replace("<trans-unit id=\"h0\">", "<trans-unit approved=\"yes\" id=\"h0\">"));
        byte[] same = http.get(mara, "/api/tables/messages/export/in-place?file=l/messages.en.xlf")
                .bytes();
        assertThat(new String(same, StandardCharsets.UTF_8)).isEqualTo(files.get("l/messages.en.xlf"));
    }

    @Autowired
    private Http http;
}
