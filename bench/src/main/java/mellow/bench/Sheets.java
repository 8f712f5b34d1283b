package mellow.bench;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Random;

/** Makes large sheets of invented texts, the same for the same size. */
final class Sheets {

    static final List<String> LANGUAGES = List.of("de", "fi", "et", "pl", "pt-BR", "ar", "ja");

    private static final String[] WORDS = {
        "ramp", "Brücke", "kansi", "łódź", "convés", "سفينة", "船", "deck", "harbour", "Fähre", "Größe", "satama"
    };
    private static final int LONGEST = 9;

    private Sheets() {}

    /** A CSV file of {@code rows} entries in English and seven languages, two in a hundred texts missing, one in thirty quoted. */
    static byte[] csv(int rows) {
        Random random = new Random(rows);
        StringBuilder sheet = new StringBuilder(rows * 300);
        sheet.append("Key,Section,Note,Limit,en,")
                .append(String.join(",", LANGUAGES))
                .append("\r\n");
        for (int row = 0; row < rows; row++) {
            sheet.append("group")
                    .append(row / 500)
                    .append(".key.")
                    .append(row)
                    .append(",Section ")
                    .append(row / 500)
                    .append(",,")
                    .append(random.nextInt(5) == 0 ? "40" : "");
            for (int column = 0; column <= LANGUAGES.size(); column++) {
                sheet.append(',');
                if (column == 0 || random.nextInt(50) > 0) {
                    text(sheet, random);
                }
            }
            sheet.append("\r\n");
        }
        return sheet.toString().getBytes(StandardCharsets.UTF_8);
    }

    private static void text(StringBuilder sheet, Random random) {
        boolean quoted = random.nextInt(30) == 0;
        sheet.append(quoted ? "\"" : "");
        for (int word = 1 + random.nextInt(LONGEST); word > 0; word--) {
            sheet.append(WORDS[random.nextInt(WORDS.length)]).append(word > 1 ? " " : "");
        }
        sheet.append(quoted ? ", \"\"x\"\"\"" : "");
    }
}
