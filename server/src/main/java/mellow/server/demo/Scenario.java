package mellow.server.demo;

import java.util.List;
import java.util.Map;
import mellow.core.merge.TextEffect.Arrival;
import mellow.server.cell.CellChange.Action;
import org.jspecify.annotations.Nullable;

/**
 * The demo's story, as demo/scenario.json tells it.
 *
 * @param password everybody's password
 * @param people who there is
 * @param steps what they did, in order
 */
record Scenario(String password, List<Person> people, List<Step> steps) {

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
     * @param arrival how its texts arrived
     * @param settlesOwn languages in which reviewers may settle their own texts
     * @param answers changes of single cells, after the file
     */
    record Step(
            int hoursAgo,
            String by,
            String table,
            @Nullable String file,
            Arrival arrival,
            List<String> settlesOwn,
            List<Answer> answers) {

        Step {
            arrival = arrival == null ? Arrival.SETTLED : arrival;
            settlesOwn = settlesOwn == null ? List.of() : settlesOwn;
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
