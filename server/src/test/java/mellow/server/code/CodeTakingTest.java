package mellow.server.code;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import mellow.core.merge.Arrival;
import mellow.core.scan.Habit;
import mellow.server.code.CodeLists.Asked;
import mellow.server.code.CodeReplies.MissingKey;
import mellow.server.code.CodeReplies.TextWithoutKey;
import mellow.server.code.CodeSettings.CodeHabit;
import mellow.server.code.CodeTaking.Taken;
import mellow.server.code.CodeTaking.TakenKey;
import mellow.server.code.CodeTaking.TakenText;
import mellow.server.common.Refusal;
import mellow.server.entry.EntryUndo;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Missing keys and texts without keys become entries, as one change; decisions stay when code moves; the patch says what the programmer changes. */
class CodeTakingTest extends CodeCase {

    @Autowired
    EntryUndo undoing;

    private int position(String text) {
        return List.of("open", "later", "ignored", "taken").stream()
                .flatMap(decision -> texts(decision).stream())
                .filter(one -> one.text().equals(text))
                .map(TextWithoutKey::position)
                .findFirst()
                .orElseThrow();
    }

    @Test
    void aMissingKeyBecomesAnEntryWithWhatTheCodeSaysOfIt() {
        long scan = look().id();
        Taken taken = taking.keys(
                mara,
                "site",
                scan,
                "booking",
                "Menus",
                List.of(new TakenKey("menu.finish", "", "menu.finish", "Finish")));
        assertThat(taken.made()).isEqualTo(1);
        assertThat(
                        ledger.ask(
                                String.class,
                                "select source || '|' || section || '|' || note || '|' || reference from entry where key = 'menu.finish'"))
                .isEqualTo("Finish|Menus|at the very end|src/menu.ts:4\nsrc/menu.ts:7");
        assertThat(missing()).isEmpty();
        assertThat(entries("used")).contains("menu.finish");
        undoing.undo(mara, taken.change());
        assertThat(missing()).containsExactly("menu.finish");
        assertThat(entries("used")).doesNotContain("menu.finish");
    }

    @Test
    void aKeyIsMissingInTheContextThatTheCodeAsksForItIn() {
        settings.change(
                mara,
                "site",
                new CodeSettings(
                        0,
                        List.of(
                                CodeHabit.of(new Habit.Call(List.of("t"), 0, 0, -1, -1)),
                                CodeHabit.of(new Habit.Call(List.of("tc"), 1, 1, 0, -1))),
                        List.of()));
        ledger.takeIn(mara, "Booking", "Key,Context,en\nOpen,door,Open\nShut,,Shut\n", Arrival.SETTLED);
        code.clear();
        code.put(
                "src/menu.ts",
                """
                t('Open');
                tc('door', 'Open');
                tc('shop', 'Open');
                tc('ticket', 'Open');
                tc('shop', 'Open');
                tc('', 'Shut');
                tc('shop', 'Shut');
                """);
        long scan = look().id();
        assertThat(lists.missing("site", Asked.FIRST))
                .extracting(MissingKey::context, MissingKey::key, MissingKey::places, MissingKey::line)
                .containsExactly(
                        tuple("shop", "Open", 2, 3), tuple("ticket", "Open", 1, 4), tuple("shop", "Shut", 1, 7));
        assertThat(lists.missing("site", new Asked("Open", "shop")))
                .as("the page after one")
                .extracting(MissingKey::context)
                .containsExactly("ticket", "shop");
        assertThat(lists.overview("site").missing()).isEqualTo(3);
        assertThatThrownBy(() -> taking.keys(
                        mara, "site", scan, "booking", "", List.of(new TakenKey("Open", "door", "Open", "Open"))))
                .isInstanceOf(Refusal.class);
        taking.keys(
                mara,
                "site",
                scan,
                "booking",
                "",
                List.of(
                        new TakenKey("Open", "shop", "Open", "Open"),
                        new TakenKey("Open", "ticket", "Open", "Not used yet")));
        assertThat(
                        ledger.ask(
                                String.class,
                                "select string_agg(context || ':' || source || ':' || reference, '|' order by context) from entry where key = 'Open'"))
                .isEqualTo("door:Open:|shop:Open:menu.ts:3\nmenu.ts:5|ticket:Not used yet:menu.ts:4");
        assertThat(missing()).containsExactly("Shut");
        look();
        assertThat(missing()).containsExactly("Shut");
        assertThat(entries("used")).containsExactly("Open", "Open", "Open", "Shut");
        code.put("src/menu.ts", "tc('shop', 'Open');\ntc('dock', 'Open');\n");
        assertThat(look().keysNew()).as("Open, on a dock").isEqualTo(1);
    }

    @Test
    void anEntryThatTheCodeWouldNotFindIsRefused() {
        long scan = look().id();
        assertThatThrownBy(() -> taking.keys(
                        mara, "site", scan, "booking", "", List.of(new TakenKey("menu.finish", "", "menu.end", "x"))))
                .isInstanceOf(Refusal.class)
                .hasMessageContaining("would not answer");
        assertThatThrownBy(() -> taking.keys(
                        mara, "site", scan, "booking", "", List.of(new TakenKey("menu.title", "", "menu.title", "x"))))
                .isInstanceOf(Refusal.class)
                .hasMessageContaining("not missing any more");
        assertThatThrownBy(() -> taking.keys(
                        mara,
                        "site",
                        scan,
                        "nowhere",
                        "",
                        List.of(new TakenKey("menu.finish", "", "menu.finish", "x"))))
                .isInstanceOf(Refusal.class)
                .hasMessageContaining("does not use this table");
        assertThat(missing()).containsExactly("menu.finish");
    }

    @Test
    void textsBecomeEntriesAndOneThatIsSaidAlreadyGetsItsKey() {
        code.put("src/other.ts", "alert('Choose your cabin');\n");
        long scan = look().id();
        List<TakenText> wanted = texts("open").stream()
                .map(one -> new TakenText(one.position(), one.proposed()))
                .toList();
        Taken taken = taking.texts(mara, "site", scan, "booking", "", wanted);
        assertThat(taken.made())
                .as("Come aboard, and Choose your cabin once for two places")
                .isEqualTo(2);
        assertThat(taken.known()).as("Sun deck").isEqualTo(1);
        assertThat(texts("taken"))
                .extracting(TextWithoutKey::key)
                .containsExactly("index.come-aboard", "menu.choose-your-cabin", "deck.sun", "menu.choose-your-cabin");
        assertThat(ledger.ask(String.class, "select reference from entry where key = 'menu.choose-your-cabin'"))
                .isEqualTo("src/menu.ts:8\nsrc/other.ts:1");
        assertThat(patch.of("site"))
                .isEqualTo(
                        """
                        --- a/index.html
                        +++ b/index.html
                        @@ -2,1 +2,1 @@
                        -<p>Come aboard</p>
                        +<p><span data-text="index.come-aboard">Come aboard</span></p>
                        --- a/src/menu.ts
                        +++ b/src/menu.ts
                        @@ -8,1 +8,1 @@
                        -alert('Choose your cabin');
                        +alert(t('menu.choose-your-cabin'));
                        @@ -9,1 +9,1 @@
                        -button.label = 'Sun deck';
                        +button.label = t('deck.sun');
                        --- a/src/other.ts
                        +++ b/src/other.ts
                        @@ -1,1 +1,2 @@
                        -alert('Choose your cabin');
                        +import { t } from './texts';
                        +alert(t('menu.choose-your-cabin'));
                        """);
        undoing.undo(mara, taken.change());
        assertThat(said("open")).containsExactly("Come aboard", "Choose your cabin", "Choose your cabin");
        assertThat(said("taken")).containsExactly("Sun deck");
    }

    @Test
    void aKeyThatIsInUseGetsANumber() {
        long scan = look().id();
        taking.texts(
                mara, "site", scan, "booking", "", List.of(new TakenText(position("Choose your cabin"), "menu.title")));
        assertThat(texts("taken")).extracting(TextWithoutKey::key).containsExactly("menu.title-2");
    }

    @Test
    void whatIsIgnoredStaysIgnoredWhereverItMoves() {
        long scan = look().id();
        taking.decide(mara, "site", scan, "ignored", Set.of(position("Come aboard")));
        taking.decide(mara, "site", scan, "later", Set.of(position("Choose your cabin")));
        assertThat(said("open")).containsExactly("Sun deck");
        code.put("pages/start.html", "\n\n\n<p>Come aboard</p>\n");
        code.remove("index.html");
        code.put("src/menu.ts", "\n\n" + code.get("src/menu.ts"));
        long again = look().id();
        assertThat(said("ignored")).containsExactly("Come aboard");
        assertThat(said("later")).containsExactly("Choose your cabin");
        taking.decide(mara, "site", again, "open", Set.of(position("Come aboard")));
        assertThat(said("open").stream().collect(Collectors.toSet())).isEqualTo(Set.of("Come aboard", "Sun deck"));
    }

    @Test
    void whatMovesIsNotDecidedByItsTwinThatStays() {
        code.put("pages/other.html", "<p>Come aboard</p>\n");
        long scan = look().id();
        int staying = texts("open").stream()
                .filter(one -> one.text().equals("Come aboard") && one.path().equals("index.html"))
                .mapToInt(TextWithoutKey::position)
                .findFirst()
                .orElseThrow();
        taking.decide(mara, "site", scan, "ignored", Set.of(staying));
        code.remove("pages/other.html");
        code.put("pages/start.html", "<p>Come aboard</p>\n");
        look();
        assertThat(texts("ignored")).extracting(TextWithoutKey::path).containsExactly("index.html");
        assertThat(texts("open")).extracting(TextWithoutKey::path).contains("pages/start.html");
    }

    @Test
    void anOldListDecidesNothing() {
        long scan = look().id();
        look();
        assertThatThrownBy(() -> taking.decide(mara, "site", scan, "ignored", Set.of(1)))
                .isInstanceOf(Refusal.class)
                .hasMessageContaining("looked through again meanwhile");
        assertThatThrownBy(() -> taking.texts(mara, "site", scan, "booking", "", List.of(new TakenText(1, "a"))))
                .isInstanceOf(Refusal.class);
        assertThatThrownBy(() -> lists.texts("site", scan, "open", 0))
                .as("its numbers are those of other texts now")
                .isInstanceOf(Refusal.class);
        assertThat(said("open")).hasSize(3);
    }

    @Test
    void textsThatAreNotThereAreRefused() {
        long scan = look().id();
        assertThatThrownBy(() -> taking.texts(mara, "site", scan, "booking", "", List.of(new TakenText(99, "a"))))
                .isInstanceOf(Refusal.class);
        assertThatThrownBy(() -> taking.decide(mara, "site", scan, "maybe", Set.of(1)))
                .isInstanceOf(Refusal.class)
                .hasMessageContaining("not “maybe”");
    }

    @Test
    void whatAPatchCannotReachIsNamedInFrontOfIt() {
        code.put("src/menu.ts", "alert('Deck ' + n + ' is full');\n");
        long scan = look().id();
        taking.texts(
                mara, "site", scan, "booking", "", List.of(new TakenText(position("Deck {0} is full"), "deck.full")));
        assertThat(patch.of("site")).isEqualTo("# by hand: src/menu.ts:1 deck.full\n");
    }
}
