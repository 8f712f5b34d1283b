package mellow.server.people;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import mellow.core.merge.Arrival;
import mellow.server.delivery.Deliveries;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.Definition;
import mellow.server.product.ProductService.Selected;
import mellow.server.support.AssetsMade;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpMethod;
import org.springframework.test.context.TestPropertySource;
import tools.jackson.databind.json.JsonMapper;

/** Where a setting says so, people read their languages alone, by whatever endpoint. */
@TestPropertySource(properties = "mellow.reading=own")
class ReadingTest extends ServerTest {

    @Autowired
    private Http http;

    @Autowired
    private ProductService products;

    @Autowired
    private Deliveries deliveries;

    private long mara;
    private long wanda;

    @BeforeEach
    void aTable() {
        mara = ledger.coordinator("mara");
        wanda = ledger.person("wanda", "pl", Level.REVIEWER);
        ledger.takeIn(
                mara,
                "Ramp",
                "key,en,pl,de\nup,Ramp up,Rampa w górę,Rampe hoch\nup2,Ramp up,Rampa w górę,Rampe hoch\n",
                Arrival.SETTLED);
    }

    private String read(long person, String path) throws Exception {
        Http.Reply reply = http.get(person, path);
        return reply.status() + " " + new String(reply.bytes(), StandardCharsets.UTF_8);
    }

    @Test
    void noEndpointHandsOutTextsOfOthersLanguages() throws Exception {
        long entry = ledger.entry("up");
        for (String path : new String[] {
            "/api/tables",
            "/api/rows?ids=" + entry + "&in=de,pl",
            "/api/scope?table=ramp&in=de,pl&words=Rampe",
            "/api/find?words=Rampe",
            "/api/entries/" + entry + "/cells/de/story",
            "/api/entries/" + entry + "/cells/de/memory",
            "/api/entries/" + entry + "/cells/de/same",
            "/api/memory/units?from=en&to=de&side=TEXT&words=Rampe",
            "/api/fill/counts?scope=table=ramp&language=de",
            "/api/tables/ramp/export/fresh?format=csv",
            "/api/tables/ramp/export/fresh?format=csv&in=de",
            "/api/tables/ramp/export/in-place?file=Ramp.csv",
            "/api/tables/ramp/export/set",
            "/api/review?in=de"
        }) {
            assertThat(read(wanda, path)).as(path).doesNotContain("Rampe hoch").doesNotContain("\"German\"");
        }
        String fill = "{\"scope\":\"table=ramp&in=de\",\"language\":\"de\",\"least\":60,\"first\":0}";
        assertThat(http.json(wanda, HttpMethod.POST, "/api/fill/preview", fill).code())
                .isEqualTo("own-languages-only");
        assertThat(read(wanda, "/api/rows?ids=" + entry + "&in=de,pl")).contains("Rampa");
        assertThat(read(wanda, "/api/tables/ramp/export/fresh?format=csv")).contains("Rampa");
        assertThat(read(wanda, "/api/tables/ramp/export/in-place?file=Ramp.csv"))
                .startsWith("403");
    }

    @Test
    void whatIsDeliveredAndBorrowedIsReadInOnesOwnLanguagesAlone() throws Exception {
        ledger.takeIn(mara, "Ramp", "key,en,de\nonly,Hatch,Luke zu\n", Arrival.SETTLED);
        products.create(
                mara,
                new Definition(
                        0,
                        "App",
                        "app",
                        List.of("ramp"),
                        List.of(new Selected("pl", null, false, null, List.of("de"), null), new Selected("de", null)),
                        "pl"));
        deliveries.addRecipe(
                mara,
                "app",
                "Web",
                JsonMapper.shared()
                        .readTree(
                                """
                                {"kind":"texts","format":"json","files":"each","pattern":"{tag}.json","which":"all","languages":[],"texts":"settled","hole":"borrowed",
                                 "charset":"utf-8","delimiter":"comma","guard":false,"nested":false,"ascii":false,"prefix":"","namespace":"","numbers":false}
                                """));
        deliveries.deliver(mara, "app");
        for (String path : new String[] {
            "/api/products/app/borrowed",
            "/api/products/app/answer?how=tag&asked=pl&key=only",
            "/api/products/app/answer?how=tag&asked=de&key=up",
            "/api/products/app/delivery",
            "/api/products/app/deliveries",
            "/api/products/app/deliveries/1/files",
            "/api/products/app/deliveries/1/archive",
            "/api/products/app/deliveries/1/file?path=pl.json",
            "/api/products/app/deliveries/compare?from=1&to=1",
            "/api/products/app/deliveries/try",
            "/api/products/app/warnings",
            "/api/deliveries"
        }) {
            assertThat(read(wanda, path)).as(path).doesNotContain("Rampe hoch").doesNotContain("Luke zu");
        }
        assertThat(http.get(wanda, "/api/products/app/delivery")
                        .body()
                        .path("product")
                        .path("languages")
                        .findValuesAsString("language"))
                .containsExactly("pl");
        assertThat(http.get(wanda, "/api/products/app/deliveries")
                        .body()
                        .path(0)
                        .path("languages")
                        .findValuesAsString("language"))
                .containsExactly("pl");
        assertThat(http.get(wanda, "/api/products/app/deliveries/1/files")
                        .body()
                        .findValuesAsString("path"))
                .containsExactly("pl.json");
        assertThat(read(wanda, "/api/products/app/borrowed")).contains("\"only\"");
        assertThat(read(wanda, "/api/products/app/answer?how=tag&asked=pl&key=up"))
                .contains("Rampa");
        assertThat(read(wanda, "/api/products/app/deliveries/1/archive")).startsWith("403");
        assertThat(read(mara, "/api/products/app/borrowed")).contains("Luke zu");
        assertThat(read(mara, "/api/products/app/deliveries/1/file?path=pl.json"))
                .contains("Luke zu");
    }

    @Test
    void coordinatorsReadAll() throws Exception {
        assertThat(read(mara, "/api/find?words=Rampe")).contains("Rampe hoch");
        assertThat(read(mara, "/api/tables/ramp/export/in-place?file=Ramp.csv")).contains("Rampe hoch");
    }

    @Test
    void noRowTellsWhichFilesOthersLanguagesHave() throws Exception {
        Map<String, String> files = new TreeMap<>();
        for (String tag : List.of("en", "pl", "de")) {
            files.put(
                    tag,
                    http.bytes(mara, "/api/assets?name=sign.png", AssetsMade.png(4, 2, files.size()))
                            .body()
                            .path("file")
                            .asString());
        }
        String text = "\"%1$s\":{\"other\":\"sign.png\",\"file\":\"%2$s\"}";
        String texts = files.entrySet().stream()
                .map(one -> text.formatted(one.getKey(), one.getValue()))
                .collect(Collectors.joining(","));
        String entries =
                "{\"mellowLedger\":1,\"sourceLanguage\":\"en\",\"languages\":[\"en\",\"pl\",\"de\"],\"entries\":[{\"key\":\"sign\",\"shape\":\"asset\",\"texts\":{"
                        + texts + "}}]}";
        ledger.takeIn(mara, "Ramp", "signs.ledger.json", entries.getBytes(StandardCharsets.UTF_8), Arrival.SETTLED);
        String row = "/api/rows?in=pl&ids=" + ledger.entry("sign");
        assertThat(http.get(mara, row).body().path(0).path("files").propertyNames())
                .containsExactlyInAnyOrder("en", "pl", "de");
        assertThat(http.get(wanda, row).body().path(0).path("files").propertyNames())
                .containsExactlyInAnyOrder("en", "pl");
        assertThat(read(wanda, row)).doesNotContain("\"" + files.get("de") + "\"");
    }
}
