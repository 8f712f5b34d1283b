package mellow.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import mellow.core.format.registry.Formats;
import mellow.core.text.Shape;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FormRowsTest {

    private static final String SHEET =
            "key,note,en,pl\na,,A,Ap\ncars[few],count,,auta\ncars[one],count,car,auto\ncars[other],count,cars,aut\nz,,Z,\n";

    private static FileReading read(String csv, Map<EntryId, Shape> known) {
        return FormRows.of(
                Formats.named("csv")
                        .orElseThrow()
                        .read("x.csv", csv.getBytes(StandardCharsets.UTF_8), ReadOptions.AUTOMATIC),
                known);
    }

    private static String written(FilePatch patch) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        patch.writeTo(out);
        return out.toString(StandardCharsets.UTF_8);
    }

    private static FileText forms(String... pairs) {
        Map<String, String> forms = new TreeMap<>();
        for (int i = 0; i < pairs.length; i += 2) {
            forms.put(pairs[i], pairs[i + 1]);
        }
        return FileText.of(forms);
    }

    @Test
    void putsTheFormsOfAPluralTogether() {
        FileReading file = read(SHEET, Map.of());
        assertThat(file.size()).isEqualTo(3);
        FileEntry cars = file.entry(1);
        assertThat(file.id(1)).isEqualTo(new EntryId("cars", ""));
        assertThat(cars.shape()).isEqualTo(Shape.PLURAL);
        assertThat(cars.line()).isEqualTo(3);
        assertThat(cars.note()).isEqualTo("count");
        assertThat(cars.texts())
                .containsExactly(
                        forms("one", "car", "other", "cars"), forms("few", "auta", "one", "auto", "other", "aut"));
        assertThat(file.entry(2).key()).isEqualTo("z");
    }

    @ParameterizedTest(name = "{0} and {1}, table has {2}: {3} entries")
    @CsvSource({
        "cars[one], cars[other], , 1",
        "cars[one], cars[few], , 2",
        "cars[one], cars[few], PLURAL, 1",
        "list[0], list[1], , 2",
        "list[0], list[1], STATES, 1",
        "list[0], list[1], PLURAL, 2",
        "list[one], list[other], STATES, 2",
        "cars[one], bikes[other], , 2",
        "cars[one], cars[other]x, , 2",
        "cars[0], cars[other], , 2",
    })
    void onlyRowsThatAreSurelyFormsBelongTogether(String one, String two, Shape known, int entries) {
        String key = one.substring(0, one.indexOf('['));
        FileReading file = read(
                "key,en,de\n" + one + ",A,B\n" + two + ",C,D\n",
                known == null ? Map.of() : Map.of(new EntryId(key, ""), known));
        assertThat(file.size()).isEqualTo(entries);
    }

    @Test
    void rowsApartFromEachOtherStayApart() {
        assertThat(read("key,en,de\ncars[one],A,B\nx,X,Y\ncars[other],C,D\n", Map.of())
                        .size())
                .isEqualTo(3);
    }

    @Test
    void changesTouchTheRowOfTheirFormAndMissingFormsGetOne() throws IOException {
        FilePatch patch = read(SHEET, Map.of()).patch();
        patch.set(1, 1, forms("few", "auta", "one", "samochód", "other", "aut", "many", "wiele"));
        patch.set(2, 1, "Zet");
        assertThat(written(patch))
                .isEqualTo(SHEET.replace("car,auto", "car,samochód")
                        .replace("cars,aut\n", "cars,aut\ncars[many],,,wiele\n")
                        .replace("z,,Z,", "z,,Z,Zet"));
    }

    @Test
    void anEntryIsTakenOutAndAddedWithAllItsRows() throws IOException {
        FilePatch patch = read(SHEET, Map.of()).patch();
        patch.remove(1);
        patch.insert(
                0,
                FileEntry.of("lamp")
                        .shape(Shape.STATES)
                        .texts(List.of(forms("0", "off", "1", "on"), FileText.NONE))
                        .build());
        assertThat(written(patch)).isEqualTo("key,note,en,pl\na,,A,Ap\nlamp[0],,off,\nlamp[1],,on,\nz,,Z,\n");
        FilePatch untouched = read(SHEET, Map.of()).patch();
        assertThat(written(untouched)).isEqualTo(SHEET);
    }
}
