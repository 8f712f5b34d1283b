package mellow.server.draft;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.atomic.AtomicInteger;
import mellow.server.draft.DraftServices.DraftSettings;
import mellow.server.fill.Filling.FillReply;
import mellow.server.support.Receiver;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Services draft over HTTP what nobody has written, with all placeholders or not at all, however they answer. */
class DraftingTest extends DraftCase {

    @Test
    void isSentWhatTheProtocolSays() {
        ledger.run("update entry set note = 'On the board', context = 'board', max_length = 20 where key = 'wait'");
        ledger.run(
                "insert into term (language_id, text, note, changed_at, changed_by) values ((select id from language where tag = 'en'), 'deck', '', now(), "
                        + mara + ")");
        ledger.run(
                "insert into term_text (term_id, language_id, text, avoid) select id, (select id from language where tag = 'de'), 'Deck', '{Stock}' from term");
        services.add(mara, Drafter.settings("Draft house"), "hush-hush");
        fill(services.choices(GERMAN).get(0).id());
        assertThat(Receiver.heard()).singleElement().satisfies(word -> {
            assertThat(word.header("Authorization")).isEqualTo("Bearer hush-hush");
            JsonNode told = JsonMapper.shared().readTree(word.body());
            assertThat(told.path("from").asString() + told.path("to").asString())
                    .isEqualTo("ende");
            Map<String, JsonNode> texts = new TreeMap<>();
            told.path("texts").forEach(text -> texts.put(text.path("text").asString(), text));
            assertThat(texts).containsOnlyKeys("Deck ⟦1⟧ is closed", "Please wait");
            assertThat(texts.get("Deck ⟦1⟧ is closed").path("marks").toString()).isEqualTo("[\"⟦1⟧\"]");
            assertThat(texts.get("Deck ⟦1⟧ is closed").path("terms").toString())
                    .isEqualTo("[{\"term\":\"deck\",\"text\":\"Deck\",\"avoid\":[\"Stock\"]}]");
            JsonNode wait = texts.get("Please wait");
            assertThat(wait.path("note").asString()
                            + wait.path("context").asString()
                            + wait.path("maxLength").asInt())
                    .isEqualTo("On the boardboard20");
        });
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
            Das Deck ist geschlossen | The mark ⟦1⟧ got lost.
            Deck ⟦1⟧ ⟦1⟧             | The mark ⟦1⟧ is there twice.
            Deck ⟦1⟧ ⟦2⟧             | The mark ⟦2⟧ was not in the text.
            !too hard                | too hard
            ' '                      | Its draft is empty.
            """)
    void aDraftThatIsNotWholeIsNotTakenAndListed(String draft, String why) {
        Drafter.drafts(text -> text.startsWith("Deck") ? draft : "Bitte warten");
        FillReply done = fill(service());
        assertThat(failures(done)).containsEntry("closed", why);
        assertThat(text("closed")).isEmpty();
        assertThat(text("wait")).isEqualTo("Bitte warten draft");
    }

    @Test
    void halfAnAnswerIsTakenForWhatItIs() {
        Drafter.drafts(text -> text.startsWith("Deck") ? null : "Bitte warten");
        assertThat(failures(fill(service()))).containsEntry("closed", "It gave no answer for this text.");
        assertThat(text("wait")).isEqualTo("Bitte warten draft");
    }

    @Test
    void aTextThatCannotBeKeptIsRefusedByItself() {
        Drafter.drafts(text -> text.startsWith("Deck") ? "a\u0000⟦1⟧" : "Bitte warten");
        assertThat(failures(fill(service()))).containsKey("closed");
        assertThat(text("closed")).isEmpty();
        assertThat(text("wait")).isEqualTo("Bitte warten draft");
        assertThat(ledger.ask(Integer.class, "select count(*)::int from draft"))
                .as("what did not become a text is no draft")
                .isEqualTo(1);
    }

    @Test
    void aBusyServiceIsAskedAgainAndWhatItDidNotDoIsNotCounted() {
        AtomicInteger asked = new AtomicInteger();
        Receiver.answer(exchange -> {
            if (asked.incrementAndGet() < 3) {
                Drafter.reply(exchange, asked.get() == 1 ? 503 : 429, "");
            } else {
                Drafter.answering(text -> "de:" + text).handle(exchange);
            }
        });
        long service = service();
        assertThat(fill(service).drafted()).isEqualTo(2);
        assertThat(services.all(mara).services().get(0).today()).isEqualTo(29);
        Receiver.answer(Receiver.status(503));
        undoLast();
        assertThat(failures(fill(service))).containsEntry("wait", "It is too busy.");
        assertThat(services.all(mara).services().get(0).today()).isEqualTo(29);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
            500 |              | It answered with the status 500.                  | 29
            404 |              | It answered with the status 404.                  | 0
            302 |              | It answered with the status 302.                  | 29
            200 | no JSON      | Its answer is not what the protocol says.         | 29
            200 | {"drafts":1} | Its answer is not what the protocol says.         | 29
            200 | {}           | Its answer is not what the protocol says.         | 29
            """)
    void whatGoesWrongIsSaidForEachText(int status, String body, String why, int counted) {
        Receiver.answer(exchange -> Drafter.reply(exchange, status, body == null ? "" : body));
        FillReply done = fill(service());
        assertThat(done.status()).isEqualTo("done");
        assertThat(failures(done)).containsEntry("wait", why).containsEntry("closed", why);
        assertThat(text("known")).as("what the memory has comes all the same").isEqualTo("Rampe oben memory");
        assertThat(services.all(mara).services().get(0).today()).isEqualTo(counted);
    }

    @Test
    void anAnswerThatIsLateOrTooMuchIsBrokenOff() {
        DraftSettings usual = Drafter.settings("Slow house");
        DraftSettings quick =
                new DraftSettings(usual.name(), usual.address(), List.of(), List.of(), 1_000_000, 1_000_000, 10, 1, 1);
        long service = services.add(mara, quick, null);
        Receiver.answer(exchange -> {
            exchange.sendResponseHeaders(200, 0);
            // Drips for longer than it may take.
            for (int i = 0; i < 40; i++) {
                exchange.getResponseBody().write(' ');
                exchange.getResponseBody().flush();
                await(100);
            }
            exchange.close();
        });
        assertThat(failures(fill(service))).containsEntry("wait", "It did not answer within 1 seconds.");
        Receiver.answer(exchange -> {
            exchange.sendResponseHeaders(200, 0);
            byte[] spaces = " ".repeat(1_000_000).getBytes(java.nio.charset.StandardCharsets.US_ASCII);
            for (int i = 0; i < 20; i++) {
                exchange.getResponseBody().write(spaces);
            }
            exchange.close();
        });
        assertThat(failures(fill(service))).containsEntry("wait", "It broke its answer off, or answered too much.");
    }

    @Test
    void oneThatIsGoneCostsNothing() {
        long service = service();
        ledger.run("update draft_service set address = 'http://127.0.0.1:1/'");
        assertThat(failures(fill(service))).containsEntry("wait", "It could not be reached.");
        assertThat(text("known")).isEqualTo("Rampe oben memory");
        assertThat(services.all(mara).services().get(0).today()).isZero();
        undoLast();
        ledger.run("update draft_service set address = 'http://127.0.0.1:2/'");
        assertThatThrownBy(() -> fill(service))
                .as("a host that is not named any more")
                .hasMessageContaining("does not let 127.0.0.1:2 be spoken to");
    }
}
