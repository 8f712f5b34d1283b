package mellow.server.people;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import mellow.core.merge.Arrival;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.web.bind.annotation.RequestMethod;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;

/**
 * Who may read what: every endpoint that hands something out, tried by somebody without a right, a reader and a reviewer of Polish and a coordinator. An endpoint
 * without a line in this table fails the test.
 */
class ReadRightsTest extends ServerTest {

    private enum For {
        COORDINATOR,
        REVIEWER,
        READER,
        /** Before signing in; tested with the door. */
        STRANGERS,
        /** A stream that never ends by itself; tested with the door. */
        STREAM
    }

    private record ReadRule(For least, String path) {}

    @Autowired
    private Http http;

    @Autowired
    private RequestMappingHandlerMapping mappings;

    private long mara;
    private long reader;
    private long reviewer;
    private long nobody;
    private long intake;

    @BeforeEach
    void aLedger() {
        mara = ledger.coordinator("mara");
        reader = ledger.person("ria", "pl", Level.READER);
        reviewer = ledger.person("wanda", "pl", Level.REVIEWER);
        nobody = ledger.person("noor", "pl", Level.READER);
        ledger.run("delete from person_right where person_id = " + nobody);
        intake = ledger.takeIn(mara, "Ramp", "key,en,pl\nup,Ramp up,Rampa w górę\n", Arrival.SETTLED);
    }

    private Map<String, ReadRule> rules() {
        Map<String, ReadRule> rules = new LinkedHashMap<>();
        rules.put("/api/session", new ReadRule(For.STRANGERS, ""));
        rules.put("/api/invitations/{token}", new ReadRule(For.STRANGERS, ""));
        // Products ask these, with tokens of their own.
        rules.put("/api/bundles/{product}", new ReadRule(For.STRANGERS, ""));
        rules.put("/api/bundles/{product}/{asked}", new ReadRule(For.STRANGERS, ""));
        rules.put("/api/bundles/{product}/{asked}/events", new ReadRule(For.STRANGERS, ""));
        rules.put("/api/shown/{product}/{asked}.svg", new ReadRule(For.STRANGERS, ""));
        rules.put("/api/shown/{product}/table", new ReadRule(For.STRANGERS, ""));
        rules.put("/api/live", new ReadRule(For.STREAM, ""));
        for (String open : new String[] {
            "/api/board/news",
            "/api/board/left",
            "/api/scope",
            "/api/scope/parts",
            "/api/rows?ids={entry}&in=pl",
            "/api/tables",
            "/api/tables/removed",
            "/api/products",
            "/api/products/{slug}=/api/products/nothing",
            "/api/products/removed",
            "/api/languages?like=pol",
            "/api/formats",
            "/api/people",
            "/api/terms",
            "/api/terms/{id}/use=/api/terms/0/use",
            "/api/terms/suggested?table=ramp",
            "/api/terms/file/{format}=/api/terms/file/csv",
            "/api/find?words=ramp",
            "/api/bell",
            "/api/drafts",
            "/api/scopes",
            "/api/standing",
            "/api/entries/{id}=/api/entries/{entry}",
            "/api/entries/{id}/story=/api/entries/{entry}/story",
            "/api/entries/{id}/going-stale=/api/entries/{entry}/going-stale",
            "/api/entries/{entry}/questions",
            "/api/findings/counts?scope=table=ramp",
            "/api/findings?scope=table=ramp&kind=length",
            "/api/findings/mends?scope=table=ramp&kind=space",
            "/api/tables/{slug}/checks=/api/tables/ramp/checks",
            "/api/products/{slug}/delivery=/api/products/nothing/delivery",
            "/api/products/{slug}/deliveries=/api/products/nothing/deliveries",
            "/api/products/{slug}/deliveries/run=/api/products/nothing/deliveries/run",
            "/api/products/{slug}/deliveries/{number}/files=/api/products/nothing/deliveries/1/files",
            "/api/products/{slug}/deliveries/{number}/file=/api/products/nothing/deliveries/1/file?path=x",
            "/api/products/{slug}/deliveries/{number}/archive=/api/products/nothing/deliveries/1/archive",
            "/api/products/{slug}/deliveries/compare=/api/products/nothing/deliveries/compare?from=1&to=2",
            "/api/products/{slug}/answer=/api/products/nothing/answer?how=tag&asked=pl",
            "/api/products/{product}/code=/api/products/nothing/code",
            "/api/products/{product}/code/settings=/api/products/nothing/code/settings",
            "/api/products/{product}/code/keys=/api/products/nothing/code/keys",
            "/api/products/{product}/code/scans/{scan}=/api/products/nothing/code/scans/0",
            "/api/products/{product}/code/missing=/api/products/nothing/code/missing",
            "/api/products/{product}/code/entries=/api/products/nothing/code/entries?how=unused",
            "/api/products/{product}/code/differing=/api/products/nothing/code/differing",
            "/api/products/{product}/code/misfits=/api/products/nothing/code/misfits",
            "/api/products/{product}/code/texts=/api/products/nothing/code/texts?scan=0",
            "/api/products/{product}/code/patch=/api/products/nothing/code/patch",
            "/api/entries/{id}/code=/api/entries/{entry}/code",
            "/api/products/{slug}/borrowed=/api/products/nothing/borrowed",
            "/api/products/{slug}/warnings=/api/products/nothing/warnings",
            "/api/deliveries",
            "/api/products/{slug}/checks=/api/products/nothing/checks",
            "/api/products/{slug}/fonts=/api/products/nothing/fonts",
            "/api/products/{slug}/fonts/{font}/file=/api/products/nothing/fonts/0/file",
            "/api/products/{slug}/scenes=/api/products/nothing/scenes",
            "/api/products/{slug}/scenes/findings=/api/products/nothing/scenes/findings",
            "/api/products/{slug}/scenes/{scene}=/api/products/nothing/scenes/0",
            "/api/entries/{entry}/scenes=/api/entries/{entry}/scenes",
            "/api/products/{slug}/letters=/api/products/nothing/letters?in=pl",
            "/api/products/{slug}/letters.txt=/api/products/nothing/letters.txt?in=pl",
            "/api/entries/{entry}/cells/{language}/story=/api/entries/{entry}/cells/pl/story",
            "/api/entries/{entry}/cells/{language}/memory=/api/entries/{entry}/cells/pl/memory",
            "/api/entries/{entry}/cells/{language}/same=/api/entries/{entry}/cells/pl/same",
            "/api/memory/units?from=en&to=pl&side=SOURCE&words=ramp",
            "/api/drafting/choices?language=pl",
            "/api/fill",
            "/api/fill/{change}=/api/fill/0",
            "/api/fill/counts?scope=table=ramp&language=pl",
            "/api/tables/{table}/removed-entries=/api/tables/ramp/removed-entries",
            "/api/pictures/{picture}=/api/pictures/0",
            "/api/assets/{file}=/api/assets/0",
            "/api/tables/{table}/export/files=/api/tables/ramp/export/files",
            "/api/tables/{table}/export/fresh=/api/tables/ramp/export/fresh?format=csv",
            "/api/tables/{table}/export/losses=/api/tables/ramp/export/losses?format=po",
            "/api/tables/{table}/export/in-place=/api/tables/ramp/export/in-place?file=Ramp.csv",
            "/api/tables/{table}/export/set-files=/api/tables/ramp/export/set-files",
            "/api/tables/{table}/export/set=/api/tables/ramp/export/set",
            "/api/intakes",
            "/api/drops/{id}=/api/drops/0",
            "/api/asset-sets/{id}=/api/asset-sets/0",
            "/api/review/answers/{change}=/api/review/answers/0",
            "/api/people/{id}/offers=/api/people/{me}/offers"
        }) {
            put(rules, For.READER, open);
        }
        put(rules, For.READER, "/api/review?in=pl");
        put(rules, For.REVIEWER, "/api/contributions?in=pl");
        put(rules, For.REVIEWER, "/api/contributions.csv?in=pl");
        put(rules, For.REVIEWER, "/api/reports/{language}=/api/reports/pl");
        put(rules, For.REVIEWER, "/api/reports/{language}/csv=/api/reports/pl/csv");
        put(rules, For.COORDINATOR, "/api/tokens");
        put(rules, For.COORDINATOR, "/api/memory");
        put(rules, For.COORDINATOR, "/api/memory/shelves");
        put(rules, For.COORDINATOR, "/api/memory/shelves/{id}/tmx=/api/memory/shelves/0/tmx");
        put(rules, For.COORDINATOR, "/api/drafting/services");
        put(rules, For.COORDINATOR, "/api/drafting/worth");
        put(rules, For.COORDINATOR, "/api/products/{slug}/bundles=/api/products/nothing/bundles");
        put(rules, For.COORDINATOR, "/api/products/{slug}/bundles/use=/api/products/nothing/bundles/use");
        put(rules, For.COORDINATOR, "/api/products/{slug}/webhooks=/api/products/nothing/webhooks");
        put(rules, For.COORDINATOR, "/api/products/{slug}/deliveries/ahead=/api/products/nothing/deliveries/ahead");
        put(rules, For.COORDINATOR, "/api/products/{slug}/deliveries/try=/api/products/nothing/deliveries/try");
        put(rules, For.COORDINATOR, "/api/intakes/{id}=/api/intakes/{intake}");
        put(rules, For.COORDINATOR, "/api/intakes/{id}/preview=/api/intakes/{intake}/preview");
        put(rules, For.COORDINATOR, "/api/intakes/{id}/lines=/api/intakes/{intake}/lines?kind=NEW_ENTRIES");
        put(rules, For.COORDINATOR, "/api/intakes/{id}/undo=/api/intakes/{intake}/undo");
        return rules;
    }

    private static void put(Map<String, ReadRule> rules, For least, String line) {
        String[] parts = line.split("=/", 2);
        String pattern = parts[0].replaceAll("\\?.*", "");
        rules.put(pattern, new ReadRule(least, parts.length > 1 ? "/" + parts[1] : line));
    }

    @Test
    void everyEndpointThatHandsSomethingOutHasARule() {
        TreeSet<String> there = new TreeSet<>();
        mappings.getHandlerMethods().keySet().forEach(info -> {
            if (info.getMethodsCondition().getMethods().contains(RequestMethod.GET)) {
                info.getPatternValues().stream()
                        .filter(path -> path.startsWith("/api/"))
                        .forEach(there::add);
            }
        });
        assertThat(rules().keySet()).containsAll(there);
    }

    @Test
    void isAskedEverywhere() throws Exception {
        Map<String, String> wrong = new TreeMap<>();
        for (Map.Entry<String, ReadRule> one : rules().entrySet()) {
            For least = one.getValue().least();
            if (least == For.STRANGERS || least == For.STREAM) {
                continue;
            }
            Map<String, Long> people = new LinkedHashMap<>();
            people.put("nobody", nobody);
            people.put("reader", reader);
            people.put("reviewer", reviewer);
            people.put("coordinator", mara);
            for (Map.Entry<String, Long> person : people.entrySet()) {
                boolean may =
                        switch (person.getKey()) {
                            case "nobody" -> false;
                            case "reader" -> least == For.READER;
                            case "reviewer" -> least != For.COORDINATOR;
                            default -> true;
                        };
                String path = one.getValue()
                        .path()
                        .replace("{entry}", Long.toString(ledger.entry("up")))
                        .replace("{me}", Long.toString(person.getValue()))
                        .replace("{intake}", Long.toString(intake));
                int status = http.get(person.getValue(), path).status();
                if ((status == 403) == may || status > 499 || status == 400) {
                    wrong.put(path + " by a " + person.getKey(), status + (may ? ", and may" : ", and must not"));
                }
            }
        }
        assertThat(wrong).isEmpty();
    }

    @Test
    void namesToSignInWithAreNobodysBusiness() throws Exception {
        assertThat(http.get(mara, "/api/people").body().toString()).contains("\"signIn\":\"wanda\"");
        assertThat(http.get(reader, "/api/people").body().toString())
                .contains("\"signIn\":\"ria\"")
                .contains("WANDA")
                .doesNotContain("wanda");
    }

    @Test
    void intakesOfOthersAreNotListedAndNotSeen() throws Exception {
        long own = ledger.takeIn(
                reviewer,
                "Ramp",
                "wanda.csv",
                "key,en,pl\nup,Ramp up,Rampa\n".getBytes(StandardCharsets.UTF_8),
                Arrival.OFFERED);
        assertThat(http.get(reviewer, "/api/intakes").body().size()).isEqualTo(1);
        assertThat(http.get(mara, "/api/intakes").body().size()).isEqualTo(2);
        assertThat(http.get(reader, "/api/intakes/" + own).status()).isEqualTo(403);
        assertThat(http.get(reviewer, "/api/intakes/" + intake).status()).isEqualTo(403);
    }

    @Test
    void whoseAccessEndedReadsNothing() throws Exception {
        ledger.run("update person set ended_at = now() where id = " + reviewer);
        assertThat(http.get(reviewer, "/api/tables").status()).isEqualTo(401);
        assertThat(http.get(reviewer, "/api/live").status()).isEqualTo(401);
    }
}
