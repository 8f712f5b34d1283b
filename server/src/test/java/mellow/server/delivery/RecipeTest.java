package mellow.server.delivery;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import mellow.core.merge.Arrival;
import mellow.server.common.Refusal;
import mellow.server.product.ProductService.Definition;
import mellow.server.product.ProductService.Selected;
import org.junit.jupiter.api.Test;

/** What recipes may be, and what they refuse. */
class RecipeTest extends PanelCase {

    @Test
    void twoEntriesOfOneKeyInAFileStopItUnlessEachTableHasItsOwn() throws IOException {
        ledger.takeIn(mara, "Bow", "key,en,fi\nramp.up,Bow up,Keula ylös\n", Arrival.SETTLED);
        products.create(
                mara,
                new Definition(0, "Both", "app", List.of("ramp", "bow"), List.of(new Selected("fi", null)), "fi"));
        recipes.add(mara, "both", "Web", texts("json", "each", "{tag}.json"));
        assertThatThrownBy(() -> deliveries.tried(mara, "both", (made, said) -> made.files()))
                .hasMessage(
                        "In a file of Web two entries would be called “ramp.up”; make a file per table, or of fewer tables.");
        Recipe first = recipes.of(products.find("both").id()).get(0);
        recipes.edit(
                mara,
                "both",
                new Recipe(first.id(), "Web", texts("json", "table", "{table}/{tag}.json"), true, first.version()));
        int files = deliveries.tried(mara, "both", (made, said) -> made.files().size());
        assertThat(files).isEqualTo(2);
    }

    @Test
    void aBeginningOfKeysIsLeftOutUnlessTwoWouldBeTheSame() throws IOException {
        recipes.add(
                mara,
                "panel",
                "Texts",
                of("csv", "one", "panel.csv").prefix("ramp.").build());
        delivered(1);
        String csv = new String(content(1).get("panel.csv"), StandardCharsets.UTF_8);
        assertThat(csv).contains("\nup;", "\ntank.full;").doesNotContain("ramp.up");
        ledger.takeIn(mara, "Ramp", PANEL + "up,Bow,Just up,Ylös,,,\n", Arrival.SETTLED);
        assertThat(deliver().message()).contains("two entries would be called “up”");
    }

    @Test
    void twoFilesOfOneNameAreAnErrorBeforeAnythingIsKept() {
        recipes.add(mara, "panel", "Texts", texts("json", "each", "texts.json"));
        assertThat(deliver().message()).startsWith("Two files would be called “texts.json”");
        assertThat(ledger.ask(Integer.class, "select count(*)::int from delivered"))
                .isZero();
    }

    @Test
    void aNameThatLeadsOutOfItsFolderIsNone() {
        for (String pattern :
                List.of("../{tag}.json", "/etc/{tag}", "a/../../{tag}.json", "con.{tag}/nul", "{tag}\u0000.json")) {
            assertThatThrownBy(() -> deliveries.example("panel", texts("json", "each", pattern)))
                    .as(pattern)
                    .isInstanceOf(Refusal.class)
                    .hasMessageContaining("would be called");
        }
        Recipe.RecipeSettings java = RecipeBuilder.of("keys", "java", "Keys.java")
                .files("one")
                .namespace("org.int.words")
                .build();
        assertThatThrownBy(() -> deliveries.example("panel", java)).hasMessageStartingWith("A Java package");
    }

    @Test
    void aRecipeIsRefusedForWhatItCannotBe() {
        assertThatThrownBy(() -> recipes.add(mara, "panel", "A", texts("po", "one", "x.po")))
                .hasMessage("A file of po holds one language; choose a file per language.");
        assertThatThrownBy(() -> recipes.add(mara, "panel", "A", texts("nothing", "one", "x")))
                .hasMessage("There is no format “nothing”.");
        assertThatThrownBy(() -> recipes.add(mara, "panel", "A", texts("json", "each", "{lang}.json")))
                .hasMessageContaining("{lang}");
        recipes.add(mara, "panel", "A", texts("json", "each", "{tag}.json"));
        assertThatThrownBy(() -> recipes.add(mara, "panel", "a", texts("json", "each", "{tag}.json")))
                .hasMessage("There is a recipe called “a” already.");
        Recipe kept = recipes.of(products.find("panel").id()).get(0);
        recipes.remove(mara, "panel", kept.id(), kept.version());
        assertThatThrownBy(() -> recipes.remove(mara, "panel", kept.id(), kept.version()))
                .hasMessageContaining("meanwhile");
        assertThatThrownBy(() -> deliveries.start(mara, "panel")).hasMessageContaining("no recipe");
    }
}
