package mellow.server.common;

import static org.assertj.core.api.Assertions.assertThat;

import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpMethod;

/** Whatever is wrong with a request, its refusal has a code and a sentence of ours. */
class ProblemDetailsTest extends ServerTest {

    @Autowired
    private Http http;

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '"',
            textBlock =
                    """
                    POST   | /api/products/panel/deliveries/1/recall | {"reason": ""}     | 400 | wrong-field     | “reason” cannot be taken like this: must not be blank.
                    POST   | /api/products/panel/deliveries/1/recall | {"reason":         | 400 | malformed       | This request is not of the form that is expected here.
                    POST   | /api/products/panel/deliveries/x/recall | {"reason": "font"} | 400 | malformed       | This request is not of the form that is expected here.
                    GET    | /api/products/panel/deliveries/compare  | {}                 | 400 | malformed       | This request is not of the form that is expected here.
                    GET    | /api/nothing/here                       | {}                 | 404 | no-such-address | There is nothing at this address.
                    DELETE | /api/products/panel/deliveries/1/recall | {}                 | 405 | not-asked-so    | This address cannot be asked in this way.
                    """)
    void everyRefusalSaysWhatIsWrong(HttpMethod method, String path, String body, int status, String code, String said)
            throws Exception {
        Http.Reply reply = http.json(ledger.coordinator("mara"), method, path, body);
        assertThat(reply.status()).isEqualTo(status);
        assertThat(reply.code()).isEqualTo(code);
        assertThat(reply.sentence()).isEqualTo(said);
    }
}
