package mellow.server.bundle;

import static org.assertj.core.api.Assertions.assertThat;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.request;

import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.Definition;
import mellow.server.product.ProductService.Selected;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.BeforeEach;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpMethod;
import org.springframework.mock.web.MockHttpServletResponse;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.MvcResult;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** An app of one table in English, German and Finnish that was delivered once. */
abstract class BundleCase extends ServerTest {

    private static int addresses;

    @Autowired
    protected ProductService products;

    @Autowired
    protected Http http;

    @Autowired
    private MockMvc mvc;

    protected long mara;
    protected String address = "";

    @BeforeEach
    void anAppThatWasDelivered() throws Exception {
        // Each test is at an address of its own: what one asks is not counted against another.
        address = "10.0.0." + ++addresses;
        mara = ledger.coordinator("mara");
        ledger.takeIn(
                mara,
                "Deck",
                "key,en,de,fi\nramp.up,Ramp up,Rampe hoch,Ramppi ylös\nramp.down,Ramp down,Rampe runter,\nstop,Stop,,\n",
                Arrival.SETTLED);
        ledger.allowOwn("Deck", "de");
        products.create(
                mara,
                new Definition(
                        0,
                        "Deck app",
                        "site",
                        List.of("deck"),
                        List.of(
                                new Selected("en", 1),
                                new Selected("de", 2, false, null, List.of(), "de"),
                                new Selected("fi", 3, false, null, List.of("de"), null)),
                        "en"));
        recipe("deck-app");
        deliver(1);
    }

    /** Gives a product something to deliver. */
    protected void recipe(String product) throws Exception {
        http.json(
                mara,
                HttpMethod.POST,
                "/api/products/" + product + "/recipes",
                """
                {"name":"Web","active":true,"version":0,"settings":{"kind":"texts","format":"json","files":"each","pattern":"{tag}.json","which":"all","languages":[],
                "texts":"settled","hole":"out","charset":"utf-8","delimiter":"comma","guard":false,"nested":false,"ascii":false,"prefix":"","namespace":"","numbers":false}}
                """);
    }

    protected void deliver(int number) throws Exception {
        deliver("deck-app", number);
    }

    protected void deliver(String product, int number) throws Exception {
        http.json(mara, HttpMethod.POST, "/api/products/" + product + "/deliveries", "");
        Awaitility.await()
                .until(() -> http.get(mara, "/api/products/" + product + "/deliveries")
                                .body()
                                .path(0)
                                .path("number")
                                .asInt()
                        == number);
    }

    /** Lets the app be asked for, by everybody when it is open. */
    protected void serve(boolean open, String... origins) throws Exception {
        choose(open, false, origins);
    }

    /** The same, and whether it is shown to anybody how far it is. */
    protected void choose(boolean open, boolean shown, String... origins) throws Exception {
        int version = http.get(mara, "/api/products/deck-app/bundles")
                .body()
                .path("choice")
                .path("version")
                .asInt();
        String body = JsonMapper.shared()
                .writeValueAsString(
                        Map.of("served", true, "open", open, "origins", origins, "shown", shown, "version", version));
        assertThat(http.json(mara, HttpMethod.PUT, "/api/products/deck-app/bundles", body)
                        .status())
                .isEqualTo(200);
    }

    protected String token(boolean live) throws Exception {
        return http.json(
                        mara,
                        HttpMethod.POST,
                        "/api/products/deck-app/bundles/tokens",
                        "{\"name\":\"App\",\"live\":" + live + ",\"days\":30}")
                .body()
                .path("secret")
                .asString();
    }

    protected MockHttpServletResponse ask(HttpMethod method, String path, String... headers) throws Exception {
        return at(method, "bundles/" + path, headers);
    }

    /** Asks as a program that is not signed in. */
    protected MockHttpServletResponse at(HttpMethod method, String path, String... headers) throws Exception {
        return asked(method, path, headers).getResponse();
    }

    /** The same, with the request. */
    protected MvcResult asked(HttpMethod method, String path, String... headers) throws Exception {
        MockHttpServletRequestBuilder asking = request(method, URI.create("/api/" + path))
                .with(request -> {
                    request.setRemoteAddr(address);
                    return request;
                });
        for (int i = 0; i < headers.length; i += 2) {
            asking.header(headers[i], headers[i + 1]);
        }
        return mvc.perform(asking).andReturn();
    }

    protected MockHttpServletResponse ask(String path, String... headers) throws Exception {
        return ask(HttpMethod.GET, path, headers);
    }

    protected static JsonNode body(MockHttpServletResponse response) throws Exception {
        assertThat(response.getStatus())
                .as(response.getContentAsString(StandardCharsets.UTF_8))
                .isEqualTo(200);
        return JsonMapper.shared().readTree(response.getContentAsByteArray());
    }

    protected void settle(String key, String language, String text) {
        int version = ledger.ask(
                Integer.class,
                "select coalesce(max(version), 0) from cell where entry_id = " + ledger.entry(key)
                        + " and language_id = (select id from language where tag = '" + language + "')");
        ledger.change(mara, key, language, CellChange.text(Action.PUT_FORWARD, version, text));
    }
}
