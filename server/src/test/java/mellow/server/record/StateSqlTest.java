package mellow.server.record;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import mellow.core.cell.CellState;
import mellow.core.cell.Offer.Answer;
import mellow.core.cell.Standing;
import mellow.core.merge.Arrival;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.server.common.Coded;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;

/** SQL and core say the same about states, and stored numbers mean for ever what they meant. */
class StateSqlTest extends ServerTest {

    @Autowired
    private JdbcClient jdbc;

    private record Case(
            int openOffers, Answer newest, int textAt, int answeredAt, Standing standing, int basedOn, int meaning) {

        CellState expected() {
            boolean returned = newest == Answer.RETURNED && textAt < answeredAt;
            return CellState.of(openOffers > 0, returned, standing, basedOn, meaning);
        }
    }

    private static List<Case> all() {
        List<Case> cases = new ArrayList<>();
        List<Answer> answers = new ArrayList<>(Arrays.asList(Answer.values()));
        answers.add(null);
        for (Answer newest : answers) {
            for (Standing standing : Standing.values()) {
                for (int bits = 0; bits < 54; bits++) {
                    cases.add(new Case(bits % 2, newest, bits / 2 % 3, bits / 6 % 3, standing, bits / 18, 1));
                }
            }
        }
        return cases;
    }

    @Test
    void sqlSaysWhatCoreSays() {
        for (Case one : all()) {
            String newest = one.newest() == null
                    ? "(select null::smallint answer, null::int answered_version)"
                    : "(select " + one.newest().ordinal() + "::smallint answer, " + one.answeredAt()
                            + " answered_version)";
            String cell = "(select " + one.openOffers() + " open_offers, " + one.textAt() + " text_version, "
                    + one.standing().ordinal() + " standing, " + one.basedOn() + " based_on)";
            int state = jdbc.sql("select " + StateSql.of("c", String.valueOf(one.meaning()), "n") + " from " + cell
                            + " c, " + newest + " n")
                    .query(Integer.class)
                    .single();
            assertThat(CellState.values()[state]).as(one.toString()).isEqualTo(one.expected());
        }
    }

    @Test
    void storedNumbersStayWhatTheyAre() {
        assertThat(CellState.values())
                .containsExactly(
                        CellState.OFFERED,
                        CellState.RETURNED,
                        CellState.STALE,
                        CellState.SETTLED,
                        CellState.PENCILLED,
                        CellState.UNTRANSLATED);
        assertThat(Standing.values()).containsExactly(Standing.NONE, Standing.PENCILLED, Standing.SETTLED);
        assertThat(Answer.values())
                .containsExactly(
                        Answer.OPEN,
                        Answer.SETTLED,
                        Answer.AMENDED,
                        Answer.RETURNED,
                        Answer.SET_ASIDE,
                        Answer.WITHDRAWN);
        assertThat(names(Arrival.values())).isEqualTo("SETTLED OFFERED PENCILLED");
        assertThat(names(ChangeKind.values()))
                .isEqualTo(
                        "NEW_ENTRIES RENAMED REWORDED SOURCES_REWRITTEN SOURCE_CONFLICTS TEXTS_ADDED TEXTS_REPLACED CONFLICTS DIFFER_FROM_SETTLED STOPPED HIGHER_STANDING DOUBTED DESCRIPTIONS DESCRIPTION_CONFLICTS GONE_FROM_FILE REMOVED_HERE EMPTIED_IN_FILE EDITED_HERE OTHER_SHAPE WITHOUT_SOURCE NO_RIGHT");
        assertThat(names(Choice.values()))
                .isEqualTo("TAKE OFFER KEEP CHANGED FIX RENAME BOTH REPLACE REMOVE PUT_BACK CLEAR PENCIL");
    }

    private static String names(Enum<?>... values) {
        return String.join(" ", Arrays.stream(values).map(Enum::name).toList());
    }

    @Test
    void aNameThatIsNoneIsAnError() {
        assertThat(Coded.sql("c.state in ({state.stale}, {state.settled}) and x = '{}'"))
                .isEqualTo("c.state in (2, 3) and x = '{}'");
        assertThatThrownBy(() -> Coded.sql("c.state = {state.setled}")).hasMessage("no state is called setled");
    }
}
