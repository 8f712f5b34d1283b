package mellow.core.bundle;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.StringReader;
import javax.xml.parsers.DocumentBuilderFactory;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.w3c.dom.Element;
import org.xml.sax.InputSource;

/** How far a language is, as a picture. */
class BadgeTest {

    @ParameterizedTest
    @CsvSource({
        "0, 0, 100",
        "0, 9, 0",
        "1, 9, 11",
        "1, 100000, 1",
        "99999, 100000, 99",
        "9, 9, 100",
        "10, 9, 100",
        "-1, 9, 0",
        "2000000000, 3000000000, 66"
    })
    void ofAHundredIsSaidWhatIsTrue(long there, long all, int percent) {
        assertThat(Badge.percent(there, all)).isEqualTo(percent);
    }

    @ParameterizedTest
    @CsvSource({"suomi", "العربية", "日本語", "'<b>&\"\u0000 \ud800\uffff'"})
    void whateverALanguageIsCalledThePictureIsSound(String name) throws Exception {
        for (Badge.Theme theme : Badge.Theme.values()) {
            Element svg = DocumentBuilderFactory.newNSInstance()
                    .newDocumentBuilder()
                    .parse(new InputSource(new StringReader(Badge.svg(name, 72, theme))))
                    .getDocumentElement();
            assertThat(svg.getAttribute("aria-label")).endsWith(": 72 %");
            assertThat(svg.getAttribute("role")).isEqualTo("img");
            assertThat(svg.getElementsByTagName("title").item(0).getTextContent())
                    .isEqualTo(svg.getAttribute("aria-label"));
        }
    }

    @Test
    void theStripIsAsLongAsTheShare() {
        assertThat(Badge.svg("suomi", 0, Badge.Theme.LIGHT)).contains("h64\"").contains("h0\"");
        assertThat(Badge.svg("suomi", 50, Badge.Theme.LIGHT)).contains("h32\"");
    }

    @Test
    void wordsCanBeReadOnTheirPaper() {
        for (Badge.Theme theme : Badge.Theme.values()) {
            String css = theme.css();
            double paper = luminance(css, "paper");
            double ink = luminance(css, "ink");
            assertThat((Math.max(paper, ink) + 0.05) / (Math.min(paper, ink) + 0.05))
                    .as("WCAG 2.2 §1.4.3")
                    .isGreaterThan(4.5);
            double filled = luminance(css, "filled");
            assertThat((Math.max(paper, filled) + 0.05) / (Math.min(paper, filled) + 0.05))
                    .as("WCAG 2.2 §1.4.11")
                    .isGreaterThan(3);
        }
    }

    private static double luminance(String css, String name) {
        int at = css.indexOf("--" + name + ":#") + name.length() + 4;
        double sum = 0;
        double[] weights = {0.2126, 0.7152, 0.0722};
        for (int i = 0; i < 3; i++) {
            double c = Integer.parseInt(css.substring(at + 2 * i, at + 2 * i + 2), 16) / 255.0;
            sum += weights[i] * (c <= 0.04045 ? c / 12.92 : Math.pow((c + 0.055) / 1.055, 2.4));
        }
        return sum;
    }
}
