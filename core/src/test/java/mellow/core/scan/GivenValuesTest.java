package mellow.core.scan;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.List;
import mellow.core.scan.GivenValues.Misfit;
import mellow.core.scan.KeyUse.Values;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Which values fit a text: by name where code names them, by how many otherwise. */
class GivenValuesTest {

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
                    Cabins                        | 0            | -             | -
                    Cabins                        | 1            | -             | 1
                    Cabin {number}                | 1            | -             | -
                    Cabin {number}                | 0            | {number}      | -
                    Cabin {number}                | 2            | -             | 1
                    {n} of {n}                    | 1            | -             | -
                    {0} of {1}                    | 1            | {1}           | -
                    %s of %s                      | 2            | -             | -
                    %s of %s                      | 1            | %s            | -
                    %1$s of %1$s                  | 1            | -             | -
                    %1$s of %2$d                  | 2            | -             | -
                    100 %% of %s                  | 1            | -             | -
                    You pay {amount} now          | amount       | -             | -
                    You pay {amount} now          | sum          | amount        | sum
                    You pay {amount} of {all} now | amount       | all           | -
                    You pay {amount} now          | amount,date  | -             | date
                    {n, plural, one {# bed} other {# beds}} | n  | -             | -
                    {n, plural, one {# bed} other {# beds}} | 1  | -             | -
                    Welcome, ${name}              | name         | -             | -
                    Welcome, {{name}}             | name         | -             | -
                    Welcome, %(name)s             | name         | -             | -
                    <b>Cabins</b>                 | 0            | -             | -
                    """)
    void tellsWhatDoesNotFit(String source, String given, String missing, String needless) {
        boolean named = !Character.isDigit(given.charAt(0));
        List<String> names = named ? Arrays.asList(given.split(",")) : List.of();
        Misfit misfit = GivenValues.misfit(source, new Values(named ? names.size() : Integer.parseInt(given), names));
        assertThat(shown(misfit.missing())).isEqualTo(missing);
        assertThat(shown(misfit.needless())).isEqualTo(needless);
        assertThat(misfit.none()).isEqualTo(missing.equals("-") && needless.equals("-"));
    }

    private static String shown(List<String> some) {
        return some.isEmpty() ? "-" : String.join(",", some);
    }
}
