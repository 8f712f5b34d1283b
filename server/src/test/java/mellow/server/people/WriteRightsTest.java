package mellow.server.people;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Stream;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpMethod;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;

/**
 * Who may write what: every endpoint that changes anything, tried by a reader, a contributor and a reviewer of Polish and by a coordinator. An endpoint
 * without a line in this table fails the test.
 */
class WriteRightsTest extends ServerTest {

    /** Who is let through, from the least right that is enough. */
    private enum For {
        COORDINATOR,
        REVIEWER,
        CONTRIBUTOR,
        ANYBODY,
        /** Before signing in; tested with the door. */
        STRANGERS
    }

    private record Rule(For least, String path, String body) {
        static Rule of(For least, String path, String body) {
            return new Rule(least, path, body);
        }
    }

    private static final String DEFINITION =
            "{\"signIn\":\"new-one\",\"name\":\"New One\",\"coordinator\":false,\"levels\":{}}";
    private static final String DESCRIPTION =
            "{\"key\":\"k\",\"context\":\"\",\"note\":\"\",\"reference\":\"\",\"section\":\"\",\"maxLength\":0,\"maxLines\":0,\"tags\":[],\"translatable\":true}";
    private static final String PRODUCT =
            "{\"version\":0,\"name\":\"Boat\",\"kind\":\"app\",\"tables\":[],\"languages\":[]}";
    private static final String TERM =
            "\"term\":\"ramp\",\"note\":\"\",\"texts\":{\"pl\":{\"text\":\"rampa\",\"avoid\":[]}}}";
    private static final String SETTINGS =
            "{\"version\":0,\"weights\":{},\"placeholders\":[],\"forbidden\":\"\",\"lengthFactor\":0,\"keyRule\":\"\",\"charset\":\"\"}";
    private static final String RECIPE_SETTINGS =
            "{\"kind\":\"texts\",\"format\":\"json\",\"files\":\"each\",\"pattern\":\"{tag}.json\",\"which\":\"visible\",\"languages\":[],\"texts\":\"settled\",\"hole\":\"out\",\"charset\":\"utf-8\",\"delimiter\":\"comma\",\"guard\":false,\"nested\":false,\"ascii\":false,\"prefix\":\"\",\"namespace\":\"\",\"numbers\":false}";
    private static final String RECIPE =
            "{\"name\":\"App\",\"settings\":" + RECIPE_SETTINGS + ",\"active\":true,\"version\":0}";
    private static final String PLAN =
            "{\"gates\":{\"blockers\":\"hold\",\"share\":0,\"below\":\"hold\",\"stale\":\"go\"},\"outbox\":false,\"times\":[],\"zone\":\"UTC\",\"version\":0}";
    private static final String DRAFTER =
            "{\"name\":\"House\",\"address\":\"http://drafts.example/\",\"languages\":[],\"withheld\":[],\"dayCharacters\":1,\"monthCharacters\":1,\"textsAtOnce\":1,\"requestsAtOnce\":1,\"seconds\":1,\"version\":0}";
    private static final String NO_ENTRIES = "{\"entries\":[0]";

    /** Bodies are sound as far as rights go; what they name need not exist, because the right is asked first. */
    private static final Map<String, Rule> RULES = rules();

    private static Map<String, Rule> rules() {
        Map<String, Rule> rules = new LinkedHashMap<>();
        rules.put("POST /api/session", Rule.of(For.STRANGERS, "", ""));
        rules.put("DELETE /api/session", Rule.of(For.STRANGERS, "", ""));
        rules.put("POST /api/invitations/{token}", Rule.of(For.STRANGERS, "", ""));
        rules.put("POST /api/people", Rule.of(For.COORDINATOR, "/api/people", DEFINITION));
        rules.put("PUT /api/people/{id}", Rule.of(For.COORDINATOR, "/api/people/{other}", DEFINITION));
        rules.put("POST /api/people/{id}/invitation", Rule.of(For.COORDINATOR, "/api/people/{lina}/invitation", "{}"));
        rules.put("POST /api/people/{id}/end", Rule.of(For.COORDINATOR, "/api/people/{other}/end", "{}"));
        rules.put("POST /api/people/{id}/resume", Rule.of(For.COORDINATOR, "/api/people/{other}/resume", "{}"));
        rules.put(
                "POST /api/tables",
                Rule.of(For.COORDINATOR, "/api/tables", "{\"name\":\"T\",\"source\":\"en\",\"languages\":[\"de\"]}"));
        rules.put(
                "PUT /api/tables/{slug}",
                Rule.of(
                        For.COORDINATOR,
                        "/api/tables/ramp",
                        "{\"version\":0,\"name\":\"Ramp\",\"languages\":[{\"tag\":\"pl\",\"settlesOwn\":false}]}"));
        rules.put("DELETE /api/tables/{slug}", Rule.of(For.COORDINATOR, "/api/tables/nowhere", "{}"));
        rules.put(
                "POST /api/tables/removed/{id}/put-back",
                Rule.of(For.COORDINATOR, "/api/tables/removed/0/put-back", "{}"));
        rules.put("POST /api/products", Rule.of(For.COORDINATOR, "/api/products", PRODUCT));
        rules.put("PUT /api/products/{slug}", Rule.of(For.COORDINATOR, "/api/products/nothing", PRODUCT));
        rules.put("DELETE /api/products/{slug}", Rule.of(For.COORDINATOR, "/api/products/nothing", "{}"));
        rules.put(
                "POST /api/products/removed/{id}/put-back",
                Rule.of(For.COORDINATOR, "/api/products/removed/0/put-back", "{}"));
        rules.put(
                "POST /api/tables/{table}/entries",
                Rule.of(
                        For.COORDINATOR,
                        "/api/tables/ramp/entries",
                        "{\"shape\":\"plain\",\"description\":" + DESCRIPTION + ",\"source\":{\"other\":\"x\"}}"));
        rules.put(
                "PUT /api/entries/{id}",
                Rule.of(For.COORDINATOR, "/api/entries/0", "{\"version\":0,\"description\":" + DESCRIPTION + "}"));
        rules.put(
                "POST /api/entries/{id}/source",
                Rule.of(
                        For.COORDINATOR,
                        "/api/entries/0/source",
                        "{\"version\":0,\"source\":{\"other\":\"x\"},\"meaningChanged\":true}"));
        rules.put(
                "POST /api/entries/{id}/story/{line}/put-back",
                Rule.of(For.COORDINATOR, "/api/entries/0/story/0/put-back", "{\"version\":0,\"meaningChanged\":true}"));
        rules.put(
                "POST /api/entries/description",
                Rule.of(For.COORDINATOR, "/api/entries/description", NO_ENTRIES + "}"));
        rules.put(
                "POST /api/entries/place",
                Rule.of(
                        For.COORDINATOR,
                        "/api/entries/place",
                        NO_ENTRIES + ",\"table\":\"nowhere\",\"addLanguages\":false}"));
        rules.put("POST /api/entries/removal", Rule.of(For.COORDINATOR, "/api/entries/removal", NO_ENTRIES + "}"));
        rules.put("POST /api/entries/put-back", Rule.of(For.COORDINATOR, "/api/entries/put-back", NO_ENTRIES + "}"));
        rules.put("PUT /api/entries/{id}/picture", Rule.of(For.COORDINATOR, "/api/entries/0/picture", "x"));
        rules.put("DELETE /api/entries/{id}/picture", Rule.of(For.COORDINATOR, "/api/entries/0/picture", "{}"));
        rules.put(
                "POST /api/entries/{entry}/cells/{language}/changes",
                Rule.of(
                        For.CONTRIBUTOR,
                        "/api/entries/{entry}/cells/pl/changes",
                        "{\"action\":\"PENCIL\",\"version\":0,\"text\":\"x\",\"meaningConfirmed\":false}"));
        rules.put("POST /api/assets", Rule.of(For.CONTRIBUTOR, "/api/assets?name=x.svg", "x"));
        // Somebody else's files are not there, whoever asks (AssetSetTest).
        rules.put("POST /api/asset-sets", Rule.of(For.ANYBODY, "/api/asset-sets?drop=0", "{}"));
        rules.put(
                "PUT /api/asset-sets/{id}",
                Rule.of(
                        For.ANYBODY,
                        "/api/asset-sets/0",
                        "{\"version\":0,\"options\":{\"patterns\":[],\"source\":\"en\",\"arrival\":\"SETTLED\"},\"files\":[]}"));
        rules.put("POST /api/asset-sets/{id}/intake", Rule.of(For.ANYBODY, "/api/asset-sets/0/intake?version=0", "{}"));
        rules.put(
                "PUT /api/entries/{entry}/line",
                Rule.of(For.COORDINATOR, "/api/entries/{entry}/line", "{\"table\":\"ramp\",\"key\":\"x\"}"));
        rules.put("DELETE /api/entries/{entry}/line", Rule.of(For.COORDINATOR, "/api/entries/{entry}/line", "{}"));
        rules.put(
                "POST /api/tables/{table}/recordings",
                Rule.of(For.COORDINATOR, "/api/tables/ramp/recordings", "{\"lines\":\"ramp\",\"tie\":true}"));
        // Every cell is asked by itself; without the right each stays as it is and is named.
        rules.put("POST /api/cells/changes", Rule.of(For.ANYBODY, "/api/cells/changes", many("PENCIL")));
        rules.put("POST /api/changes/{change}/undo", Rule.of(For.ANYBODY, "/api/changes/0/undo", "{}"));
        rules.put(
                "POST /api/scopes",
                Rule.of(For.ANYBODY, "/api/scopes", "{\"name\":\"mine\",\"query\":\"\",\"shared\":false}"));
        rules.put("DELETE /api/scopes/{id}", Rule.of(For.ANYBODY, "/api/scopes/0", "{}"));
        // An intake belongs to who brought it; what it may change is asked per language when it is compared.
        rules.put("POST /api/intakes", Rule.of(For.ANYBODY, "/api/intakes?name=x.csv", ""));
        rules.put(
                "POST /api/tokens",
                Rule.of(
                        For.COORDINATOR,
                        "/api/tokens",
                        "{\"name\":\"build\",\"takesIn\":true,\"sendsOut\":false,\"days\":9}"));
        rules.put(
                "POST /api/entries/{entry}/questions",
                Rule.of(For.ANYBODY, "/api/entries/{entry}/questions", "{\"text\":\"Which ramp?\"}"));
        rules.put(
                "PUT /api/questions/{id}/answer",
                Rule.of(For.COORDINATOR, "/api/questions/0/answer", "{\"text\":\"That one.\"}"));
        rules.put("PUT /api/tables/{slug}/checks", Rule.of(For.COORDINATOR, "/api/tables/ramp/checks", SETTINGS));
        rules.put(
                "PUT /api/products/{slug}/checks", Rule.of(For.COORDINATOR, "/api/products/nothing/checks", SETTINGS));
        rules.put(
                "PUT /api/products/{slug}/delivery/plan",
                Rule.of(For.COORDINATOR, "/api/products/nothing/delivery/plan", PLAN));
        rules.put(
                "POST /api/products/{slug}/recipes", Rule.of(For.COORDINATOR, "/api/products/nothing/recipes", RECIPE));
        rules.put(
                "PUT /api/products/{slug}/recipes/{id}",
                Rule.of(For.COORDINATOR, "/api/products/nothing/recipes/0", RECIPE));
        rules.put(
                "DELETE /api/products/{slug}/recipes/{id}",
                Rule.of(For.COORDINATOR, "/api/products/nothing/recipes/0?version=0", "{}"));
        rules.put(
                "POST /api/products/{slug}/recipes/losses",
                Rule.of(For.COORDINATOR, "/api/products/nothing/recipes/losses", RECIPE_SETTINGS));
        rules.put(
                "POST /api/products/{slug}/recipes/example",
                Rule.of(For.ANYBODY, "/api/products/nothing/recipes/example", RECIPE_SETTINGS));
        rules.put(
                "POST /api/products/{slug}/deliveries",
                Rule.of(For.COORDINATOR, "/api/products/nothing/deliveries", "{}"));
        rules.put(
                "POST /api/products/{slug}/deliveries/cancel",
                Rule.of(For.COORDINATOR, "/api/products/nothing/deliveries/cancel", "{}"));
        rules.put(
                "PUT /api/products/{slug}/bundles",
                Rule.of(
                        For.COORDINATOR,
                        "/api/products/nothing/bundles",
                        "{\"served\":true,\"open\":true,\"origins\":[],\"shown\":false,\"version\":0}"));
        rules.put(
                "POST /api/products/{slug}/bundles/tokens",
                Rule.of(
                        For.COORDINATOR,
                        "/api/products/nothing/bundles/tokens",
                        "{\"name\":\"app\",\"live\":true,\"days\":1}"));
        rules.put(
                "DELETE /api/products/{slug}/bundles/tokens/{id}",
                Rule.of(For.COORDINATOR, "/api/products/nothing/bundles/tokens/1", "{}"));
        rules.put(
                "POST /api/products/{slug}/webhooks",
                Rule.of(For.COORDINATOR, "/api/products/nothing/webhooks", "{\"address\":\"http://build.example/\"}"));
        rules.put(
                "DELETE /api/products/{slug}/webhooks/{id}",
                Rule.of(For.COORDINATOR, "/api/products/nothing/webhooks/1", "{}"));
        rules.put(
                "POST /api/products/{slug}/webhooks/calls/{call}",
                Rule.of(For.COORDINATOR, "/api/products/nothing/webhooks/calls/1", "{}"));
        rules.put(
                "POST /api/products/{slug}/deliveries/{number}/recall",
                Rule.of(For.COORDINATOR, "/api/products/nothing/deliveries/1/recall", "{\"reason\":\"wrong\"}"));
        rules.put(
                "POST /api/products/{slug}/scenes",
                Rule.of(For.COORDINATOR, "/api/products/nothing/scenes?name=Bow", "x"));
        rules.put(
                "DELETE /api/products/{slug}/scenes/{scene}",
                Rule.of(For.COORDINATOR, "/api/products/nothing/scenes/0?version=1", "{}"));
        rules.put(
                "DELETE /api/products/{slug}/fonts/{font}",
                Rule.of(For.COORDINATOR, "/api/products/nothing/fonts/0", "{}"));
        rules.put(
                "POST /api/products/{slug}/fonts",
                Rule.of(For.COORDINATOR, "/api/products/nothing/fonts?size=16", "x"));
        rules.put(
                "PUT /api/entries/{entry}/cells/{language}/exceptions/{kind}",
                Rule.of(
                        For.REVIEWER,
                        "/api/entries/{entry}/cells/pl/exceptions/length",
                        "{\"text\":{\"other\":\"x\"},\"reason\":\"as drawn\"}"));
        rules.put(
                "DELETE /api/entries/{entry}/cells/{language}/exceptions/{kind}",
                Rule.of(For.REVIEWER, "/api/entries/{entry}/cells/pl/exceptions/length", "{}"));
        rules.put(
                "POST /api/findings/again/stop",
                Rule.of(For.COORDINATOR, "/api/findings/again/stop", "{\"scope\":\"\"}"));
        rules.put(
                "POST /api/findings/again/go-on",
                Rule.of(For.COORDINATOR, "/api/findings/again/go-on", "{\"scope\":\"\"}"));
        // Who is no coordinator proposes.
        rules.put("POST /api/terms", Rule.of(For.CONTRIBUTOR, "/api/terms", "{\"source\":\"en\"," + TERM));
        rules.put("PUT /api/terms/{id}", Rule.of(For.REVIEWER, "/api/terms/0", "{\"version\":0," + TERM));
        rules.put(
                "PUT /api/terms/{id}/proposals/{language}",
                Rule.of(For.CONTRIBUTOR, "/api/terms/0/proposals/pl", "{\"text\":\"rampa\"}"));
        // Bytes are wanted; who may send them is asked with them (WordbookWholeTest).
        rules.put("POST /api/terms/file", Rule.of(For.ANYBODY, "/api/terms/file?name=x.tbx", ""));
        rules.put("DELETE /api/terms/{id}", Rule.of(For.COORDINATOR, "/api/terms/0", "{}"));
        rules.put(
                "POST /api/review/answers",
                Rule.of(
                        For.REVIEWER,
                        "/api/review/answers",
                        "{\"language\":\"pl\",\"tables\":[],\"person\":0,\"days\":0,\"checks\":\"all\",\"action\":\"SETTLE\",\"upTo\":0}"));
        rules.put("DELETE /api/review/answers/{change}", Rule.of(For.ANYBODY, "/api/review/answers/0", "{}"));
        rules.put("PUT /api/standing/{language}", Rule.of(For.COORDINATOR, "/api/standing/pl", "{\"after\":5}"));
        // Of one's own offers only.
        rules.put("PUT /api/offers/{offer}/note", Rule.of(For.ANYBODY, "/api/offers/0/note", "{\"note\":\"x\"}"));
        rules.put("PUT /api/bell/seen", Rule.of(For.ANYBODY, "/api/bell/seen", "{\"until\":\"2026-01-01T00:00:00Z\"}"));
        // These three only look.
        rules.put(
                "POST /api/entries/{entry}/cells/{language}/notes",
                Rule.of(For.ANYBODY, "/api/entries/{entry}/cells/pl/notes", "{\"forms\":{\"other\":\"x\"}}"));
        rules.put(
                "POST /api/entries/{entry}/cells/{language}/check",
                Rule.of(For.ANYBODY, "/api/entries/{entry}/cells/pl/check", "{\"forms\":{\"other\":\"x\"}}"));
        rules.put(
                "POST /api/replace/preview",
                Rule.of(
                        For.ANYBODY,
                        "/api/replace/preview",
                        "{\"scope\":\"table=ramp&in=pl\",\"find\":\"a\",\"with\":\"b\",\"pattern\":false,\"wholeWords\":false,\"matchCase\":false}"));
        rules.put(
                "POST /api/fill/preview",
                Rule.of(
                        For.ANYBODY,
                        "/api/fill/preview",
                        "{\"scope\":\"table=ramp&in=pl\",\"language\":\"pl\",\"least\":100,\"first\":0}"));
        rules.put(
                "POST /api/fill",
                Rule.of(
                        For.CONTRIBUTOR,
                        "/api/fill",
                        "{\"scope\":\"table=ramp&in=pl\",\"language\":\"pl\",\"known\":[],\"drafts\":[]}"));
        rules.put("POST /api/fill/{change}/stop", Rule.of(For.ANYBODY, "/api/fill/0/stop", "{}"));
        rules.put(
                "POST /api/entries/{entry}/cells/{language}/draft",
                Rule.of(For.CONTRIBUTOR, "/api/entries/{entry}/cells/pl/draft", "{\"version\":0}"));
        rules.put("POST /api/drafting/services", Rule.of(For.COORDINATOR, "/api/drafting/services", DRAFTER));
        rules.put("PUT /api/drafting/services/{id}", Rule.of(For.COORDINATOR, "/api/drafting/services/0", DRAFTER));
        rules.put("DELETE /api/drafting/services/{id}", Rule.of(For.COORDINATOR, "/api/drafting/services/0", "{}"));
        rules.put(
                "PUT /api/products/{product}/code/settings",
                Rule.of(
                        For.COORDINATOR,
                        "/api/products/nothing/code/settings",
                        "{\"version\":0,\"habits\":[],\"rewrites\":[]}"));
        rules.put(
                "DELETE /api/products/{product}/code/scans/{scan}",
                Rule.of(For.COORDINATOR, "/api/products/nothing/code/scans/0", "{}"));
        rules.put(
                "POST /api/products/{product}/code/missing/take",
                Rule.of(
                        For.COORDINATOR,
                        "/api/products/nothing/code/missing/take",
                        "{\"scan\":0,\"table\":\"ramp\",\"section\":\"\",\"keys\":[{\"name\":\"a\",\"key\":\"a\",\"source\":\"a\"}]}"));
        rules.put(
                "POST /api/products/{product}/code/texts/take",
                Rule.of(
                        For.COORDINATOR,
                        "/api/products/nothing/code/texts/take",
                        "{\"scan\":0,\"table\":\"ramp\",\"section\":\"\",\"texts\":[{\"position\":1,\"key\":\"a\"}]}"));
        rules.put(
                "POST /api/products/{product}/code/texts/decision",
                Rule.of(
                        For.COORDINATOR,
                        "/api/products/nothing/code/texts/decision",
                        "{\"scan\":0,\"decision\":\"later\",\"texts\":[1]}"));
        // Bytes are wanted; who may send them is asked with them (ShelvesTest, ScanTest).
        rules.put(
                "POST /api/products/{product}/code/scans",
                Rule.of(For.ANYBODY, "/api/products/nothing/code/scans?name=x", ""));
        rules.put(
                "POST /api/products/{product}/code/findings",
                Rule.of(
                        For.ANYBODY,
                        "/api/products/nothing/code/findings?name=x&files=0&lines=0&ignored=0&binary=0&large=0",
                        ""));
        rules.put("POST /api/memory/shelves", Rule.of(For.ANYBODY, "/api/memory/shelves?name=x&file=x.tmx", ""));
        rules.put(
                "POST /api/memory/shelves/{id}/files",
                Rule.of(For.ANYBODY, "/api/memory/shelves/0/files?file=x.tmx", ""));
        rules.put(
                "PUT /api/memory/shelves/{id}",
                Rule.of(For.COORDINATOR, "/api/memory/shelves/0", "{\"name\":\"x\",\"rank\":1,\"deduction\":0}"));
        rules.put("DELETE /api/memory/shelves/{id}", Rule.of(For.COORDINATOR, "/api/memory/shelves/0", "{}"));
        rules.put(
                "POST /api/memory/shelves/{id}/put-back",
                Rule.of(For.COORDINATOR, "/api/memory/shelves/0/put-back", "{}"));
        rules.put(
                "PUT /api/memory/units/{id}",
                Rule.of(For.COORDINATOR, "/api/memory/units/0", "{\"text\":\"x\",\"version\":0}"));
        rules.put(
                "POST /api/memory/units/removal",
                Rule.of(For.COORDINATOR, "/api/memory/units/removal", "{\"units\":[0],\"away\":true}"));
        rules.put(
                "POST /api/entries/sources",
                Rule.of(
                        For.COORDINATOR,
                        "/api/entries/sources",
                        "{\"sources\":[{\"entry\":0,\"version\":0,\"source\":{\"other\":\"x\"}}],\"meaningChanged\":true}"));
        rules.put("DELETE /api/tokens/{id}", Rule.of(For.COORDINATOR, "/api/tokens/0", "{}"));
        // Bytes are wanted; who may send them is asked with them (SetIntakeTest).
        rules.put("POST /api/intakes/sets", Rule.of(For.ANYBODY, "/api/intakes/sets", ""));
        rules.put("POST /api/drops", Rule.of(For.CONTRIBUTOR, "/api/drops", "{}"));
        // Somebody else's files are not there, whoever asks.
        rules.put("POST /api/drops/{id}/files", Rule.of(For.ANYBODY, "/api/drops/0/files?name=x.csv", ""));
        rules.put("POST /api/drops/{id}/sort", Rule.of(For.ANYBODY, "/api/drops/0/sort", "{}"));
        rules.put("POST /api/drops/{id}/alone", Rule.of(For.ANYBODY, "/api/drops/0/alone?name=x.csv", "{}"));
        rules.put(
                "PUT /api/intakes/{id}/set",
                Rule.of(For.ANYBODY, "/api/intakes/0/set", "{\"options\":{\"settlesOwn\":false},\"files\":[]}"));
        rules.put(
                "PUT /api/intakes/{id}/choices",
                Rule.of(For.ANYBODY, "/api/intakes/0/choices", "{\"kind\":\"CONFLICTS\",\"choice\":\"TAKE\"}"));
        rules.put("POST /api/intakes/{id}/undo", Rule.of(For.ANYBODY, "/api/intakes/0/undo", "{}"));
        rules.put("PUT /api/intakes/{id}/options", Rule.of(For.ANYBODY, "/api/intakes/0/options", "{}"));
        rules.put("POST /api/intakes/{id}/apply", Rule.of(For.ANYBODY, "/api/intakes/0/apply", "{}"));
        rules.put("POST /api/intakes/{id}/cancel", Rule.of(For.ANYBODY, "/api/intakes/0/cancel", "{}"));
        rules.put("DELETE /api/intakes/{id}", Rule.of(For.ANYBODY, "/api/intakes/0", "{}"));
        return rules;
    }

    private static String many(String action) {
        return "{\"action\":\"" + action
                + "\",\"meaningConfirmed\":false,\"cells\":[{\"entry\":{entry},\"language\":\"pl\",\"version\":0,\"text\":\"x\"}]}";
    }

    @Autowired
    private RequestMappingHandlerMapping requestMappingHandlerMapping;

    @Autowired
    private Http http;

    private Map<String, Long> people() {
        long mara = ledger.coordinator("mara");
        ledger.takeIn(mara, "Ramp", "key,en,pl,de\nup,Ramp up,,\n", Arrival.SETTLED);
        Map<String, Long> people = new LinkedHashMap<>();
        people.put("reader", ledger.person("rita", "pl", Level.READER));
        people.put("contributor", ledger.person("lina", "pl", Level.CONTRIBUTOR));
        people.put("reviewer", ledger.person("oskar", "pl", Level.REVIEWER));
        people.put("coordinator", mara);
        people.put("other", ledger.person("odo", "pl", Level.READER));
        return people;
    }

    @Test
    void everyEndpointThatWritesHasARule() {
        TreeSet<String> writing = new TreeSet<>();
        requestMappingHandlerMapping.getHandlerMethods().keySet().forEach(info -> info.getPatternValues()
                .forEach(path -> info.getMethodsCondition().getMethods().stream()
                        .map(method -> method + " " + path)
                        .filter(endpoint -> endpoint.contains(" /api/") && !endpoint.startsWith("GET "))
                        .forEach(writing::add)));
        assertThat(new TreeSet<>(RULES.keySet())).isEqualTo(writing);
    }

    @Test
    void whoMayAndWhoMayNot() throws Exception {
        Map<String, Long> people = people();
        List<String> wrong = new ArrayList<>();
        for (Map.Entry<String, Rule> line : RULES.entrySet()) {
            Rule rule = line.getValue();
            if (rule.least() == For.STRANGERS) {
                continue;
            }
            for (String who : List.of("reader", "contributor", "reviewer", "coordinator")) {
                String body = filled(rule.body(), people);
                Http.Reply reply = http.json(
                        people.get(who),
                        HttpMethod.valueOf(line.getKey().split(" ")[0]),
                        filled(rule.path(), people),
                        body);
                boolean refused = reply.status() == 403;
                if (refused == allowed(rule.least(), who)) {
                    wrong.add(line.getKey() + " by " + who + ": " + reply.status() + " " + reply.code());
                }
            }
        }
        assertThat(wrong).isEmpty();
    }

    private String filled(String pattern, Map<String, Long> people) {
        return pattern.replace("{lina}", String.valueOf(people.get("contributor")))
                .replace("{other}", String.valueOf(people.get("other")))
                .replace("{entry}", String.valueOf(ledger.entry("up")));
    }

    private static boolean allowed(For least, String who) {
        return switch (least) {
            case COORDINATOR -> who.equals("coordinator");
            case REVIEWER -> who.equals("coordinator") || who.equals("reviewer");
            case CONTRIBUTOR -> !who.equals("reader");
            default -> true;
        };
    }

    /** Every change of a cell, by everybody who has some right in Polish, on a cell with a settled text and an offer of someone else. */
    @ParameterizedTest(name = "{0}")
    @CsvSource({
        "PENCIL, refused, refused, refused",
        "PUT_FORWARD, refused, allowed, allowed",
        "SETTLE, refused, refused, allowed",
        "AMEND, refused, refused, allowed",
        "RETURN, refused, refused, allowed",
        "WITHDRAW, refused, refused, refused",
        "STILL_HOLDS, refused, allowed, allowed",
        "CLEAR, refused, refused, allowed",
        "PUT_BACK, refused, refused, allowed"
    })
    void changesOfACell(Action action, String reader, String contributor, String reviewer) throws Exception {
        Map<String, Long> people = people();
        Map<String, String> expected = Map.of("reader", reader, "contributor", contributor, "reviewer", reviewer);
        Map<String, String> found = new TreeMap<>();
        for (String who : expected.keySet()) {
            String key = "cell-" + who;
            ledger.takeIn(people.get("coordinator"), "Ramp", "key,en,pl\n" + key + ",Ramp,Rampa\n", Arrival.SETTLED);
            ledger.takeIn(people.get("coordinator"), "Ramp", "key,en\n" + key + ",Ramp moves\n", Arrival.SETTLED);
            long offer = ledger.change(
                            people.get("coordinator"),
                            key,
                            "pl",
                            CellChange.text(Action.PUT_FORWARD, 1, "Rampa się rusza"))
                    .offers()
                    .get(0)
                    .id();
            long line = ledger.ask(Long.class, "select min(id) from cell_story where entry_id = " + ledger.entry(key));
            String body = "{\"action\":\"" + action + "\",\"version\":2,\"text\":\"Nowa rampa\",\"offer\":" + offer
                    + ",\"reason\":\"because\",\"meaningConfirmed\":true,\"line\":" + line + "}";
            Http.Reply reply = http.json(
                    people.get(who), HttpMethod.POST, "/api/entries/" + ledger.entry(key) + "/cells/pl/changes", body);
            found.put(who, reply.status() == 200 ? "allowed" : "refused");
            Http.Reply german = http.json(
                    people.get(who),
                    HttpMethod.POST,
                    "/api/entries/" + ledger.entry(key) + "/cells/de/changes",
                    body.replace("\"version\":2", "\"version\":0"));
            assertThat(german.status()).as("no right in German").isIn(403, 422);
        }
        assertThat(found).isEqualTo(new TreeMap<>(expected));
    }

    @Test
    void aChangeOfManyCellsNamesThoseWithoutTheRight() throws Exception {
        Map<String, Long> people = people();
        for (String who : List.of("reader", "contributor")) {
            Http.Reply reply =
                    http.json(people.get(who), HttpMethod.POST, "/api/cells/changes", filled(many("CLEAR"), people));
            assertThat(reply.body().path("changed").asInt()).isZero();
            assertThat(reply.body().path("refused").get(0).path("code").asString())
                    .isEqualTo("no-right-to-settle");
        }
        assertThat(Stream.of(ledger.ask(Integer.class, "select count(*) from cell")))
                .containsExactly(0);
    }
}
