package mellow.server.demo;

import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange.Action;
import mellow.server.code.CodeSettings;
import mellow.server.finding.SettingsService.CheckSettings;
import mellow.server.product.ProductService;
import mellow.server.wordbook.WordbookService.TermText;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/**
 * The demo's story, as demo/scenario.json tells it.
 *
 * @param password everybody's password
 * @param people who there is
 * @param translators who offers texts of shaped entries, by language
 * @param steps what they did, in order
 * @param products what uses the tables
 * @param wordbook a file of terms
 * @param shelves files of units by the names of their shelves
 * @param questions what people asked about entries
 * @param checks what counts as wrong, by table
 * @param served products that anybody may ask for their texts
 * @param scenes what products look like
 * @param fonts what products show their texts with
 * @param recipes what products get
 * @param code source trees of products that are looked through
 */
record Scenario(
        String password,
        List<Person> people,
        Map<String, String> translators,
        List<Step> steps,
        List<ProductService.Definition> products,
        String wordbook,
        Map<String, String> shelves,
        List<Asked> questions,
        Map<String, CheckSettings> checks,
        List<String> served,
        List<Drawn> scenes,
        List<Font> fonts,
        List<Cooked> recipes,
        List<Looked> code) {

    /** A product's source tree, a folder of the demo's code; how it names keys, null for what is ready for its kind. */
    record Looked(String product, String folder, @Nullable CodeSettings settings) {}

    /** A recipe of a product, with its settings as the programs' interface writes them. */
    record Cooked(String product, String name, JsonNode settings) {}

    /** A scene of a product: a drawing or a picture in the folder of scenes, whose name it has. */
    record Drawn(String product, String file) {}

    /** A product's font for all its languages: a file of the demo, in pixels per em. */
    record Font(String product, String file, double size) {}

    /** A term of English with its translations by tag. */
    record Word(String term, String note, Map<String, TermText> texts) {}

    /**
     * A question, an hour before its answer.
     *
     * @param answer null while it is open
     */
    record Asked(
            int hoursAgo,
            String by,
            String table,
            String key,
            String text,
            @Nullable String answeredBy,
            @Nullable String answer) {}

    /**
     * An entry that is not plain, with its texts.
     *
     * @param source its source by form
     * @param texts its texts by language and form
     */
    record Shaped(
            String key,
            String section,
            String shape,
            String note,
            TreeMap<String, String> source,
            Map<String, TreeMap<String, String>> texts) {}

    /**
     * Someone made up.
     *
     * @param role what the launcher says about them
     * @param shown whether the launcher names them
     * @param rights levels by language
     */
    record Person(
            String signIn, String name, String role, boolean shown, boolean coordinator, Map<String, String> rights) {}

    /**
     * Something that someone did.
     *
     * @param hoursAgo how long ago
     * @param by who, by sign-in
     * @param table the table's name; made when there is none
     * @param file a file they took in, null for none
     * @param as the path that the file is known by, null for its own name
     * @param folder a folder of files, one per language, that they dropped and that waits for a decision, null for none
     * @param files the names of the files in it
     * @param open whether the file still waits for a decision
     * @param shaped a file of entries that are not plain, which they made, null for none
     * @param media a folder of pictures and sounds that they brought, null for none
     * @param lines the table whose lines the sounds among them speak, null for none
     * @param arrival how its texts arrived
     * @param settlesOwn languages in which reviewers may settle their own texts
     * @param deliver names in addresses of the products that the first of the people delivered afterwards
     * @param every how many hours later products go out by themselves from then on, by their names
     * @param answers changes of single cells, after the file
     */
    record Step(
            int hoursAgo,
            String by,
            String table,
            @Nullable String file,
            @Nullable String as,
            @Nullable String folder,
            @Nullable List<String> files,
            @Nullable Boolean open,
            @Nullable Boolean withoutSource,
            @Nullable String shaped,
            @Nullable String media,
            @Nullable String lines,
            Arrival arrival,
            List<String> settlesOwn,
            List<String> deliver,
            @Nullable Map<String, Integer> every,
            List<Answer> answers) {

        Step {
            open = open != null && open;
            withoutSource = withoutSource != null && withoutSource;
            arrival = arrival == null ? Arrival.SETTLED : arrival;
            settlesOwn = settlesOwn == null ? List.of() : settlesOwn;
            deliver = deliver == null ? List.of() : deliver;
            answers = answers == null ? List.of() : answers;
        }
    }

    /**
     * A change of one cell.
     *
     * @param reason why an offer went back
     */
    record Answer(String key, String language, Action action, @Nullable String text, @Nullable String reason) {}
}
