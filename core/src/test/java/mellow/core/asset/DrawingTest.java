package mellow.core.asset;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import mellow.core.format.UnreadableFileException;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Drawings keep all that draws, byte for byte, and lose what runs or leads out of them. */
class DrawingTest {

    private static final String ROOT =
            "<svg xmlns='http://www.w3.org/2000/svg' xmlns:xlink='http://www.w3.org/1999/xlink' width='40' height='20'>";

    private static Drawing of(String svg) {
        return Drawing.of("logo.svg", svg.getBytes(StandardCharsets.UTF_8));
    }

    private static String cleaned(String inside) {
        String all = new String(of(ROOT + inside + "</svg>").content(), StandardCharsets.UTF_8);
        return all.substring(ROOT.length(), all.length() - "</svg>".length());
    }

    @Test
    void whatOnlyDrawsStaysTheSameFile() {
        byte[] honest = ("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\r\n<!-- made by hand -->" + ROOT
                        + "<style>.a{fill:url(#g)}</style><defs><linearGradient id=\"g\"/></defs><path class=\"a\" d='M0 0'/>\r\n"
                        + "<use xlink:href=\"#g\"/><a href=\"https://ostrel.example/\"><text>Hyvää</text></a>"
                        + "<image href=\"data:image/png;base64,AAAA\"/><filter id='f'><feBlend/></filter></svg>")
                .getBytes(StandardCharsets.UTF_8);
        Drawing drawing = Drawing.of("logo.svg", honest);
        assertThat(drawing.content()).isSameAs(honest);
        assertThat(drawing.gone()).isEmpty();
        assertThat(drawing.width()).isEqualTo(40);
        assertThat(drawing.height()).isEqualTo(20);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "<script>alert(1)</script>",
                "<SCRIPT href='x.js'/>",
                "<foreignObject><p xmlns='http://www.w3.org/1999/xhtml'>x</p></foreignObject>",
                "<iframe xmlns='http://www.w3.org/1999/xhtml' src='x'/>",
                "<set attributeName='href' to='javascript:x'/>",
                "<animate attributeName='xlink:href' values='javascript:x'/>",
                "<set attributeName='onclick' to='x'/>",
                "<?xml-stylesheet href='http://a.example/a.css'?>",
            })
    void whatRunsGoesWhole(String inside) {
        assertThat(cleaned("<path/>" + inside + "<rect/>")).isEqualTo("<path/><rect/>");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "<g onclick='x()' id='a'/> | <g  id='a'/>",
                "<a href='javascript:x()'>t</a> | <a >t</a>",
                "<a xlink:href=' JAVAscript:x()'>t</a> | <a >t</a>",
                "<image href='http://a.example/a.png'/> | <image />",
                "<image href='data:image/svg+xml;base64,AA'/> | <image />",
                "<use href='other.svg#a'/> | <use />",
                "<g style='fill:url(http://a.example/a)'/> | <g />",
                "<g fill='url(#a)' filter='url(x.svg#f)'/> | <g fill='url(#a)' />",
                "<g style='fill:red'/> | <g style='fill:red'/>",
                "<g id='a@import' class='x\\y'/> | <g id='a@import' class='x\\y'/>",
                "<style>@import 'a.css';</style><g/> | <style></style><g/>",
                "<style>.a{background:url(//a.example)}</style> | <style></style>",
                "<animate attributeName='x' to='5'/> | <animate attributeName='x' to='5'/>",
            })
    void whatLeadsOutGoesAndTheRestStays(String inside, String expected) {
        assertThat(cleaned(inside)).isEqualTo(expected);
    }

    @Test
    void whatWentIsToldWithItsLine() {
        assertThat(of(ROOT + "\n<g onload='x'/>\n<script/></svg>").gone())
                .containsExactly(
                        "logo.svg, line 2: “onload”, which runs something was taken out.",
                        "logo.svg, line 3: <script> was taken out.");
    }

    @ParameterizedTest
    @CsvSource({
        "width='10px' height='2in', 10, 192",
        "viewBox='0 0 30.4 12', 30, 12",
        "viewBox='0 0 30 12' width='100%', 30, 12",
        "width='1e9' height='9999999', 0, 0",
        "'', 0, 0",
    })
    void theSizeIsThatOfTheRoot(String attributes, int width, int height) {
        Drawing drawing = of("<svg xmlns='http://www.w3.org/2000/svg' " + attributes + "/>");
        assertThat(drawing.width()).isEqualTo(width);
        assertThat(drawing.height()).isEqualTo(height);
    }

    @Test
    void copiesOfCopiesAreCountedAndFewAreFine() {
        assertThat(cleaned("<g id='a'><rect/></g><g id='b'><use href='#a'/><use href='#a'/></g><use href='#b'/>"))
                .contains("#b");
        StringBuilder bomb = new StringBuilder("<g id='l0'><rect/></g>");
        for (int i = 1; i < 40; i++) {
            bomb.append("<g id='l")
                    .append(i)
                    .append("'>")
                    .append(("<use href='#l" + (i - 1) + "'/>").repeat(3))
                    .append("</g>");
        }
        assertThatThrownBy(() -> of(ROOT + bomb + "</svg>"))
                .isInstanceOf(UnreadableFileException.class)
                .hasMessageContaining("with all copies");
        assertThatThrownBy(() -> of(ROOT + "<g id='a'><use href='#a'/></g></svg>"))
                .hasMessageContaining("with all copies");
    }

    @Test
    void hostileDrawingsAreRefusedOrReadInTimeThatGrowsWithThem() {
        assertThatThrownBy(() -> of("<html/>")).isInstanceOf(UnreadableFileException.class);
        assertThatThrownBy(() -> of("<!DOCTYPE svg [<!ENTITY a 'x'><!ENTITY b '&a;&a;&a;'>]>" + ROOT + "&b;</svg>"))
                .isInstanceOf(UnreadableFileException.class);
        Assertions.assertTimeoutPreemptively(Duration.ofSeconds(60), () -> {
            of(ROOT + "<g onclick=''/>".repeat(90_000) + "</svg>");
            assertThatThrownBy(() -> of(ROOT + "<g/>".repeat(1_000_000) + "</svg>"))
                    .hasMessageContaining("elements");
            assertThatThrownBy(() -> of(ROOT + "<g id='a'>".repeat(150) + "<use href='#a'/>".repeat(50_000)))
                    .isInstanceOf(UnreadableFileException.class);
            of(ROOT + "<style>" + "url(#".repeat(200_000) + "</style></svg>");
        });
    }

    @Test
    void whatIsADrawingIsSeenFromItsBeginning() {
        assertThat(Drawing.seems(ROOT.getBytes(StandardCharsets.UTF_8))).isTrue();
        assertThat(Drawing.seems("key,en\na,b".getBytes(StandardCharsets.UTF_8)))
                .isFalse();
    }
}
