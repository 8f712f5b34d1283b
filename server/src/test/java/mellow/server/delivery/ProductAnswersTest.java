package mellow.server.delivery;

import static org.assertj.core.api.Assertions.assertThat;

import mellow.core.check.Kind;
import mellow.server.check.MaskKeeper;
import mellow.server.product.StepReply;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.transaction.support.TransactionTemplate;

/** What a product answers, and what it warns of. */
class ProductAnswersTest extends PanelCase {

    @Autowired
    private ProductAnswers answers;

    @Autowired
    private MaskKeeper masks;

    @Autowired
    private JdbcClient jdbc;

    @Autowired
    private TransactionTemplate transactions;

    @Test
    void anEntryWithoutASourceStopsEveryDelivery() {
        recipes.add(mara, "panel", "Texts", texts("csv", "each", "{tag}.csv"));
        ledger.run("update entry set source = '' where key = 'tank.full'");
        assertThat(deliver().message())
                .isEqualTo("Ramp has an entry without a source text, which stops every delivery.");
        assertThat(answers.warnings("panel"))
                .extracting(ProductAnswers.ProductWarning::code)
                .contains("base-not-whole");
        ledger.run("update entry set source = 'Tank full, stop' where key = 'tank.full'");
    }

    @Test
    void lettersThatAFontLacksAreWarnedOf() {
        assertThat(answers.warnings("panel")).isEmpty();
        ledger.run("delete from finding_mask");
        ledger.run(
                "insert into finding_mask (entry_id, language_id, table_id, stops, minds) select e.id, l.id, e.table_id, case when e.key = 'ramp.up' then "
                        + Kind.LETTERS.bit() + " else 0 end, " + (Kind.LETTERS.bit() | Kind.TERM.bit())
                        + " from entry e, language l where l.tag = 'pl'");
        assertThat(answers.warnings("panel")).singleElement().satisfies(one -> {
            assertThat(one.code()).isEqualTo("letters-lacking");
            assertThat(one.language()).isEqualTo("pl");
            assertThat(one.sentence()).endsWith("texts in Polish have letters that a font or a character set lacks.");
        });
        ledger.run("delete from finding_mask where stops = " + Kind.LETTERS.bit());
        ledger.run("update finding_mask set minds = " + Kind.TERM.bit());
        assertThat(answers.warnings("panel")).isEmpty();
        ledger.run("delete from finding_mask");
        recheck();
    }

    /** What a test did to what was found is made good. */
    private void recheck() {
        transactions.executeWithoutResult(status -> masks.ofEntries(
                jdbc.sql("select id from entry").query(Long.class).list()));
    }

    @Test
    void whoIsAskedWhatAndWhatPeopleSeeInAnotherLanguage() {
        ProductAnswers.AnswerReply answer = answers.answer("panel", "number", "2", "ramp.down");
        assertThat(answer.language()).isEqualTo("et");
        assertThat(answer.borrowed()).isTrue();
        assertThat(answer.text()).containsEntry("other", "Ramppi alas");
        assertThat(answer.textSteps()).extracting(StepReply::said).containsExactly("et has none", "fi: Ramppi alas");
        assertThat(answers.answer("panel", "number", "7", "").language()).isEqualTo("fi");
        ProductAnswers.AnswerReply none = answers.answer("panel", "tag", "et", "nothing");
        assertThat(none.text()).isNull();
        assertThat(none.textSteps())
                .extracting(StepReply::said)
                .containsExactly("No table of Panel has an entry “nothing”.");
        ProductAnswers.BorrowedPage page = answers.borrowed("panel", "", "", 0);
        assertThat(page.texts())
                .extracting(one -> one.key() + " " + one.language() + " " + one.from())
                .containsExactly("ramp.down et fi", "ramp.blocked pl fi");
        assertThat(answers.borrowed("panel", "pl", "blocked", 0).texts()).hasSize(1);
        assertThat(answers.borrowed("panel", "de", "", 0).texts()).isEmpty();
    }
}
