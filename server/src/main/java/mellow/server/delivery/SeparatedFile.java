package mellow.server.delivery;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.Charset;
import java.nio.charset.CharsetEncoder;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import mellow.core.delivery.UndeliverableException;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.PlainForms;
import mellow.core.format.csv.CsvDialect;
import mellow.core.format.csv.CsvWriter;
import mellow.core.format.sheet.Column;
import mellow.core.language.LanguageTag;
import org.jspecify.annotations.Nullable;

/** Separated text in a character set, which refuses what the set has no letters for. */
final class SeparatedFile implements AutoCloseable {
    private final Recipe.RecipeSettings settings;
    private final CharsetEncoder encoder;
    /** Whether the set has every letter, so that none is looked for. */
    private final boolean complete;

    private final Writer writer;
    private @Nullable CsvWriter rows;
    private List<LanguageTag> tags = List.of();

    SeparatedFile(Recipe recipe, OutputStream out) throws IOException {
        settings = recipe.settings();
        boolean marked = settings.charset().endsWith("-bom");
        encoder = encoder(settings);
        complete = encoder.charset().name().startsWith("UTF-");
        writer = new BufferedWriter(new OutputStreamWriter(out, encoder(settings)));
        if (marked) {
            writer.write('\uFEFF');
        }
    }

    /** Where rows are written that are no entries. */
    Writer writer() {
        return writer;
    }

    /** Writes the headings: the key, the context where there is one, a column per language. */
    void begin(boolean contexts, List<LanguageTag> in) throws IOException {
        tags = in;
        List<Column> columns = new ArrayList<>();
        columns.add(Column.of("key", Column.Role.KEY));
        if (contexts) {
            columns.add(Column.of("context", Column.Role.CONTEXT));
        }
        in.forEach(tag -> columns.add(Column.text(tag.value(), tag)));
        rows = new CsvWriter(writer, new CsvDialect(settings.between(), '"'), columns, settings.guard());
        rows.header();
    }

    /** The rows of an entry: one, or one per form. */
    void all(Optional<FileEntry> entry) {
        entry.ifPresent(one -> {
            EntryList plain = PlainForms.of(EntryList.of(Optional.empty(), tags, List.of(one)));
            for (int i = 0; i < plain.size(); i++) {
                entry(plain.entry(i));
            }
        });
    }

    /** The row of a plain entry. */
    void entry(FileEntry entry) {
        require(entry.key(), entry.key() + entry.context(), "");
        for (int i = 0; i < tags.size(); i++) {
            require(entry.key(), entry.text(i), tags.get(i).value());
        }
        try {
            Objects.requireNonNull(rows).entry(entry);
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    /** Refuses a text that has letters which the character set lacks. */
    void require(String key, String text, String language) {
        String letters = complete ? "" : lacking(encoder, text);
        if (letters.isEmpty()) {
            return;
        }
        throw new UndeliverableException(
                "letters-lacking",
                language.isEmpty()
                        ? "The key {key} has letters that {charset} lacks: {letters}."
                        : "{key} in {language} has letters that {charset} lacks: {letters}.",
                Map.of("key", key, "language", language, "charset", settings.charset(), "letters", letters));
    }

    /** The first few letters of a text that a character set lacks; empty where it has them all. */
    static String lacking(CharsetEncoder encoder, String text) {
        return encoder.canEncode(text)
                ? ""
                : text.codePoints()
                        .filter(c -> !encoder.canEncode(Character.toString(c)))
                        .distinct()
                        .limit(5)
                        .mapToObj(Character::toString)
                        .reduce("", String::concat);
    }

    /** What writes the character set of a recipe. */
    static CharsetEncoder encoder(Recipe.RecipeSettings settings) {
        return Charset.forName(settings.charset().replace("-bom", "")).newEncoder();
    }

    @Override
    public void close() throws IOException {
        writer.flush();
    }
}
