package mellow.core.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import mellow.core.format.Limits;
import mellow.core.format.Problem;
import mellow.core.format.Problems;
import mellow.core.format.UnreadableFileException;
import mellow.core.scene.ScenePlace.Align;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class SceneReaderTest {

    private final Problems problems = new Problems("ramp.svg");

    private Scene read(String inside) {
        return readWhole(
                "<svg xmlns=\"http://www.w3.org/2000/svg\" xmlns:xlink=\"http://www.w3.org/1999/xlink\" viewBox=\"0 0 480 270\">"
                        + inside + "</svg>");
    }

    private Scene readWhole(String file) {
        return SceneReader.read(file.getBytes(StandardCharsets.UTF_8), Limits.DEFAULT, problems);
    }

    private List<String> leftOut() {
        return problems.kept().stream().map(Problem::found).toList();
    }

    @Test
    void aTextBetweenNumberSignsIsAPlaceInTheRectangleAroundIt() {
        Scene scene = read(
                """
                <rect width="480" height="270" fill="#1c2b33"/>
                <g font-size="18" text-anchor="middle"><rect x="240" y="40" width="200" height="44" rx="4"/><text x="340" y="68">#ramp.lower.confirm#</text></g>
                <text x="20" y="30" style="font-size: 14px">#ramp.title#</text>
                <text x="20" y="250">not a #mark# by itself</text>
                """);
        assertThat(scene.width()).isEqualTo(480);
        assertThat(scene.height()).isEqualTo(270);
        assertThat(scene.places()).extracting(ScenePlace::key).containsExactly("ramp.lower.confirm", "ramp.title");
        ScenePlace button = scene.places().get(0);
        assertThat(button.width()).isEqualTo(192);
        assertThat(button.height()).isEqualTo(44);
        assertThat(button.size()).isEqualTo(18);
        assertThat(button.align()).isEqualTo(Align.MIDDLE);
        assertThat(button.lines()).isEqualTo(1);
        assertThat(scene.places().get(1).size()).isEqualTo(14);
        assertThat(scene.places().get(1).width())
                .as("from its margin to the other edge")
                .isEqualTo(480 - 20 - 8);
        assertThat(scene.drawing())
                .contains("<text x=\"340\" y=\"68\" data-place=\"1\"></text>")
                .contains("not a #mark# by itself")
                .doesNotContain("#ramp.title#");
    }

    @Test
    void theSmallestRectangleThatATextBeginsInIsItsBox() {
        ScenePlace end =
                read("""
                        <rect x="100" y="10" width="100" height="40"/><rect x="90" y="5" width="80" height="60"/>
                        <text x="170" y="30" text-anchor="end">#a#</text>
                        """)
                        .places()
                        .get(0);
        assertThat(end.height()).as("4,000 square pixels, not 4,800").isEqualTo(40);
        assertThat(end.width()).as("to its left, with the margin of 8").isEqualTo(70 - 8);
        ScenePlace edge = read("<rect x=\"10\" y=\"10\" width=\"50\" height=\"20\"/><text x=\"10\" y=\"30\">#a#</text>")
                .places()
                .get(0);
        assertThat(edge.width()).as("on its very corner").isEqualTo(50);
        assertThat(read("<rect x=\"10\" y=\"10\" width=\"50\" height=\"20\"/><text x=\"60.5\" y=\"30\">#a#</text>")
                        .places()
                        .get(0)
                        .width())
                .isZero();
    }

    @Test
    void copiesOfCopiesAreCountedWhereverTheyStand() {
        String copies = "<g id=\"a\"><g><use href=\"#b\"/></g></g><g id=\"b\"/>";
        assertThatThrownBy(() -> read(copies + "<use href=\"#a\"/>")).isInstanceOf(UnreadableFileException.class);
        assertThat(read(copies).drawing()).contains("use");
    }

    @Test
    void aDrawingMayBeAsLargeAsItMayBe() {
        assertThat(readWhole("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 10000 1\"/>")
                        .width())
                .isEqualTo(10_000);
        assertThatThrownBy(() -> readWhole("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 10001 1\"/>"))
                .isInstanceOf(UnreadableFileException.class);
    }

    @Test
    void whatIsSaidOfAPlaceCountsMoreThanWhatIsSeen() {
        Scene scene = read(
                """
                <text x="10" y="20" data-entry="cars.left" data-width="120" data-height="40" data-lines="2" data-align="end" data-keep="ltr" data-digits="latn"
                  data-list="cars." data-state="few" data-with='{"n": 5, "deck": "B"}'>5 <tspan>cars</tspan> left</text>
                <image x="5" y="6" width="64" height="32" data-entry="sign.ramp" href="ramp.png"/>
                """);
        ScenePlace place = scene.places().get(0);
        assertThat(place)
                .isEqualTo(new ScenePlace(
                        1,
                        "cars.left",
                        false,
                        10,
                        20,
                        120,
                        40,
                        2,
                        16,
                        Align.END,
                        true,
                        true,
                        "few",
                        Map.of("n", "5", "deck", "B"),
                        "cars.",
                        0));
        assertThat(scene.drawing()).doesNotContain("cars").doesNotContain("ramp.png");
        assertThat(scene.places().get(1)).satisfies(picture -> {
            assertThat(picture.asset()).isTrue();
            assertThat(picture.key()).isEqualTo("sign.ramp");
            assertThat(picture.width()).isEqualTo(64);
        });
        assertThat(problems.count()).isZero();
    }

    @Test
    void aPictureCanBeMarkedAgainOnlyWhereNothingElseIsDrawnOnIt() {
        String picture =
                "<image data-picture=\"marked\" width=\"9\" height=\"9\" href=\"data:image/png;base64,AAAA\"/>";
        String place = "<rect data-cover=\"place\" width=\"4\" height=\"4\"/><text x=\"1\" y=\"3\" data-entry=\"a\"/>";
        assertThat(read(picture).picture()).isTrue();
        assertThat(read(picture + place + place).picture()).isTrue();
        assertThat(read(picture + place.replace("\"a\"", "\"a\" data-list=\"a.\""))
                        .picture())
                .as("marking knows no lists and would lose it")
                .isFalse();
        assertThat(read(picture + place + "<circle r=\"2\"/>").picture()).isFalse();
        assertThat(read(picture + "<rect width=\"4\" height=\"4\"/><text x=\"1\" y=\"3\" data-entry=\"a\"/>")
                        .picture())
                .isFalse();
        assertThat(read(place).picture()).isFalse();
    }

    @Test
    void whatIsSeenForAWhileTellsForHowLong() {
        Scene scene = read(
                """
                <g data-stays="3.5"><text x="1" y="1">#captain.hello#</text></g><g data-stays="soon"><text x="1" y="2">#captain.bye#</text></g>
                <text x="1" y="3" data-stays="1">#captain.third#</text>
                """);
        assertThat(scene.places()).extracting(ScenePlace::stays).containsExactly(3.5, 0.0, 1.0);
        assertThat(scene.drawing()).contains("<g data-stays=\"3.5\">").doesNotContain("soon");
    }

    @Test
    void aRectangleThatIsMovedElsewhereIsNotAround() {
        Scene scene = read(
                "<g transform=\"translate(100 0)\"><rect width=\"50\" height=\"50\"/></g><text x=\"10\" y=\"20\">#a#</text>");
        assertThat(scene.places().get(0).width()).isZero();
        scene = read(
                "<g transform=\"translate(100 0)\"><rect width=\"50\" height=\"50\"/><text x=\"10\" y=\"20\">#a#</text></g>");
        assertThat(scene.places().get(0).width()).isEqualTo(32);
    }

    @Test
    void valuesThatCannotBeReadAreTold() {
        assertThat(read("<text data-entry=\"a\" data-with='{\"n\": 5, m}'>x</text>")
                        .places()
                        .get(0)
                        .with())
                .isEqualTo(Map.of("n", "5"));
        assertThat(leftOut()).singleElement().asString().contains("sample values");
    }

    /** Each is drawn without what is hostile in it; nothing that runs, moves or leads out is left. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "<script>alert(1)</script>",
                "<script href=\"http://ostrel.example/a.js\"/>",
                "<g><g><script xlink:href=\"data:text/javascript,alert(1)\"/></g></g>",
                "<rect onclick=\"alert(1)\"/>",
                "<rect onload=\"alert(1)\" OnFocus=\"alert(1)\"/>",
                "<text ONMOUSEOVER=\"alert(1)\">a</text>",
                "<foreignObject><body xmlns=\"http://www.w3.org/1999/xhtml\"><script>alert(1)</script></body></foreignObject>",
                "<foreignObject><iframe xmlns=\"http://www.w3.org/1999/xhtml\" src=\"http://ostrel.example\"/></foreignObject>",
                "<style>@import url(http://ostrel.example/a.css);</style>",
                "<style><![CDATA[* { background: url(http://ostrel.example/a.png) }]]></style>",
                "<rect style=\"fill: url(http://ostrel.example/a.svg#b)\"/>",
                "<rect style=\"background: url(javascript:alert(1))\"/>",
                "<rect fill=\"url(//ostrel.example/a#b)\"/>",
                "<rect fill=\"url('data:image/svg+xml,x#b')\"/>",
                "<rect clip-path=\"url( http://ostrel.example/c#d )\"/>",
                "<rect filter=\"url(http://ostrel.example/f)\"/>",
                "<rect style=\"fill: u\\72l(http://ostrel.example)\"/>",
                "<rect style=\"width: expression(alert(1))\"/>",
                "<rect style=\"behavior: url(#default#x); -moz-binding: url(http://ostrel.example)\"/>",
                "<rect fill=\"&#117;rl(http://ostrel.example)\"/>",
                "<image href=\"http://ostrel.example/a.png\"/>",
                "<image xlink:href=\"//ostrel.example/a.png\"/>",
                "<image href=\"/api/session\"/>",
                "<image href=\"file:///etc/passwd\"/>",
                "<image href=\"javascript:alert(1)\"/>",
                "<image href=\"data:image/svg+xml;base64,PHN2Zz48L3N2Zz4=\"/>",
                "<image href=\"data:text/html,&lt;script&gt;alert(1)&lt;/script&gt;\"/>",
                "<image src=\"http://ostrel.example/a.png\" srcset=\"http://ostrel.example/b.png 2x\"/>",
                "<use href=\"http://ostrel.example/a.svg#b\"/>",
                "<use xlink:href=\"data:image/svg+xml,x#b\"/>",
                "<use href=\"/scene.svg#b\"/>",
                "<a href=\"javascript:alert(1)\"><text>a</text></a>",
                "<a xlink:href=\"http://ostrel.example\"><rect/></a>",
                "<animate attributeName=\"href\" to=\"javascript:alert(1)\"/>",
                "<rect><set attributeName=\"onclick\" to=\"alert(1)\"/></rect>",
                "<animateTransform attributeName=\"transform\" repeatCount=\"indefinite\" dur=\"0.001s\"/>",
                "<animateMotion path=\"M0 0\" onbegin=\"alert(1)\"/>",
                "<filter id=\"f\"><feImage href=\"http://ostrel.example/a.png\"/></filter>",
                "<filter id=\"f\"><feTurbulence numOctaves=\"100000\"/></filter>",
                "<mask id=\"m\"><image href=\"http://ostrel.example\"/></mask>",
                "<pattern id=\"p\" width=\"0.0001\" height=\"0.0001\"><rect/></pattern>",
                "<marker id=\"m\"><rect onload=\"alert(1)\"/></marker>",
                "<symbol id=\"s\"><script>alert(1)</script></symbol>",
                "<switch><foreignObject/></switch>",
                "<metadata><x xmlns=\"urn:x\">a</x></metadata>",
                "<handler xmlns=\"http://www.w3.org/2001/xml-events\">alert(1)</handler>",
                "<listener xmlns=\"http://www.w3.org/2001/xml-events\" event=\"load\"/>",
                "<script xmlns=\"http://www.w3.org/1999/xhtml\">alert(1)</script>",
                "<h:img xmlns:h=\"http://www.w3.org/1999/xhtml\" src=\"x\" onerror=\"alert(1)\"/>",
                "<iframe src=\"http://ostrel.example\"/>",
                "<video src=\"http://ostrel.example\" autoplay=\"true\"/>",
                "<link rel=\"stylesheet\" href=\"http://ostrel.example\"/>",
                "<base href=\"http://ostrel.example\"/>",
                "<cursor href=\"http://ostrel.example\"/>",
                "<font-face-uri href=\"http://ostrel.example\"/>",
                "<svg onload=\"alert(1)\"><rect/></svg>",
                "<rect class=\"MuiDialog-root\" id=\"root\" tabindex=\"0\" role=\"button\"/>",
                "<text data-place=\"9\" data-entry-x=\"y\">&lt;script&gt;alert(1)&lt;/script&gt;</text>",
                "<title>&lt;/title&gt;&lt;script&gt;alert(1)&lt;/script&gt;</title>",
                "<path d=\"M0 0\" xml:base=\"http://ostrel.example\" href=\"#x\"/>",
            })
    void whatIsHostileIsLeftOut(String hostile) {
        Scene scene = read("<rect id=\"before\"/>" + hostile + "<rect id=\"after\"/>");
        assertThat(scene.drawing()).contains("scene-before", "scene-after");
        assertThat(scene.drawing().replace("http://www.w3.org/2000/svg", "").toLowerCase())
                .doesNotContain(
                        "http:",
                        "//",
                        "javascript",
                        "<script",
                        " on",
                        "url(http",
                        "foreign",
                        "iframe",
                        "data:",
                        "expression",
                        "import",
                        "file:",
                        "class=",
                        "animate",
                        "style",
                        "<a ",
                        "\"root\"",
                        "/api");
        assertThat(scene.places()).isEmpty();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                "<!DOCTYPE svg [<!ENTITY a \"b\">]><svg xmlns=\"http://www.w3.org/2000/svg\"/>|line 1",
                "<svg xmlns=\"http://www.w3.org/2000/svg\"/>|without a size",
                "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 1e9 5\"/>|without a size",
                "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"99999\" height=\"10\"/>|of another than 1 to",
                "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"0\" height=\"10\"/>|of another than 1 to",
                "<svg viewBox=\"0 0 9 9\"/>|a drawing that begins with",
                "<html/>|a drawing that begins with",
                "not a drawing|line 1",
                "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 9 9\"><rect></svg>|line 1",
                "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 9 9\"><g id=\"a\"><use href=\"#a\"/></g></svg>|holds copies itself",
                "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 9 9\"><g id=\"a\"><use href=\"#b\"/></g><g id=\"b\"><use href=\"#a\"/></g></svg>|holds copies itself",
            })
    void whatIsNoSceneIsRefusedWithItsPlace(String file, String said) {
        assertThatThrownBy(() -> readWhole(file))
                .isInstanceOf(UnreadableFileException.class)
                .hasMessageContaining(said);
    }

    @Test
    void copiesDrawNoMoreThanADrawingMay() {
        String many = "<g id=\"a\">" + "<rect/>".repeat(120) + "</g>";
        assertThat(read(many + "<use href=\"#a\" x=\"5\"/>").drawing()).contains("href=\"#scene-a\"");
        assertThatThrownBy(() -> read(many + "<use href=\"#a\"/>".repeat(200))).hasMessageContaining("with all copies");
        assertThatThrownBy(() -> read("<rect/>".repeat(SceneReader.MOST_ELEMENTS)))
                .hasMessageContaining("elements");
        assertThatThrownBy(() -> read("<text>#a#</text>".repeat(SceneReader.MOST_PLACES + 1)))
                .hasMessageContaining("places");
    }

    @Test
    void paintWithinTheDrawingKeepsItsName() {
        assertThat(
                        read("<defs><linearGradient id=\"sea\"><stop offset=\"0\" stop-color=\"#123\"/></linearGradient></defs><rect fill=\"url(#sea)\" style=\"stroke:url('#sea');stroke-width:2\"/>")
                                .drawing())
                .contains(
                        "id=\"scene-sea\"",
                        "fill=\"url(#scene-sea)\" stroke=\"url(#scene-sea)\" stroke-width=\"2\"",
                        "stop-color=\"#123\"");
        assertThat(problems.count()).isZero();
    }

    @Test
    void aPictureThatIsPartOfTheFileIsKept() {
        assertThat(read("<image width=\"1\" height=\"1\" xlink:href=\"data:image/png;base64,iVBORw0KGgo=\"/>")
                        .drawing())
                .contains("href=\"data:image/png;base64,iVBORw0KGgo=\"");
    }

    @Test
    void aFewPlacesMayHaveLists() {
        String list = "<text data-entry=\"alarm.fire\" data-list=\"alarm.\"/>";
        assertThat(read(list.repeat(4)).places())
                .allSatisfy(place -> assertThat(place.list()).isEqualTo("alarm."));
        assertThatThrownBy(() -> read(list.repeat(5))).hasMessageContaining("more than 4 lists");
        assertThatThrownBy(() -> read(list.replace("alarm.\"/", "a".repeat(5000) + "\"/")))
                .isInstanceOf(UnreadableFileException.class);
    }
}
