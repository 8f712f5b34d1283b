package mellow.core.format.registry;

import java.io.IOException;
import java.io.Writer;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;
import mellow.core.format.Problem;
import mellow.core.format.json.JsonStrings;
import mellow.core.language.LanguageTag;

/** What a file holds as one JSON object on one line, for programs and for looking. */
public final class Inspection {

    private final Writer out;

    /** An inspection that is written to {@code out}. */
    public Inspection(Writer out) {
        this.out = out;
    }

    /** Writes what was read. */
    public void print(String file, FileFormat format, FileReading reading) throws IOException {
        List<LanguageTag> languages = reading.languages();
        int source = reading.sourceLanguage().map(languages::indexOf).orElse(-1);
        out.write("{\"file\":" + JsonStrings.quote(file) + ",\"format\":" + JsonStrings.quote(format.name()));
        out.write(",\"encoding\":" + JsonStrings.quote(reading.charset()));
        out.write(",\"sourceLanguage\":" + tag(source < 0 ? Optional.empty() : Optional.of(languages.get(source))));
        out.write(",\"languages\":[");
        String gap = "";
        for (int i = 0; i < languages.size(); i++) {
            if (i != source || !languages.get(i).equals(LanguageTag.UNDETERMINED)) {
                out.write(gap + JsonStrings.quote(languages.get(i).value()));
                gap = ",";
            }
        }
        out.write("],\"entries\":[");
        for (int i = 0; i < reading.size(); i++) {
            out.write(i > 0 ? ",\n" : "\n");
            entry(reading.entry(i), languages, source);
        }
        out.write("],");
        problems(reading.problems());
        out.write("}\n");
    }

    /** Writes why a file was refused. */
    public void refused(String file, List<Problem> problems) throws IOException {
        out.write("{\"file\":" + JsonStrings.quote(file)
                + ",\"format\":null,\"encoding\":null,\"sourceLanguage\":null,\"languages\":[],\"entries\":[],");
        problems(problems);
        out.write("}\n");
    }

    private static String tag(Optional<LanguageTag> language) {
        return language.filter(tag -> !tag.equals(LanguageTag.UNDETERMINED))
                .map(tag -> JsonStrings.quote(tag.value()))
                .orElse("null");
    }

    private void entry(FileEntry entry, List<LanguageTag> languages, int source) throws IOException {
        out.write("{\"key\":" + JsonStrings.quote(entry.key()));
        out.write(",\"context\":" + (entry.context().isEmpty() ? "null" : JsonStrings.quote(entry.context())));
        out.write(",\"shape\":" + JsonStrings.quote(entry.shape().word()));
        out.write(",\"source\":");
        forms(source < 0 ? FileText.NONE.forms() : entry.texts().get(source).forms());
        list("notes", entry.notes());
        list("references", entry.references());
        list("flags", entry.flags());
        out.write(",\"maxLength\":" + (entry.maxLength() == 0 ? "null" : Integer.toString(entry.maxLength())));
        out.write(",\"translatable\":" + entry.translatable());
        out.write(",\"section\":" + (entry.section().isEmpty() ? "null" : JsonStrings.quote(entry.section())));
        out.write(",\"line\":" + entry.line());
        out.write(",\"texts\":{");
        String gap = "";
        for (int i = 0; i < languages.size(); i++) {
            // The source is told once, whatever the format, and is no translation.
            if (i != source && !entry.texts().get(i).isEmpty()) {
                out.write(gap + JsonStrings.quote(languages.get(i).value()) + ":");
                forms(entry.texts().get(i).forms());
                gap = ",";
            }
        }
        out.write("},\"states\":{");
        gap = "";
        for (int i = 0; i < languages.size(); i++) {
            Optional<String> state = entry.texts().get(i).state().map(known -> JsonStrings.quote(known.word()));
            if (state.isPresent()) {
                out.write(gap + JsonStrings.quote(languages.get(i).value()) + ":" + state.get());
                gap = ",";
            }
        }
        out.write("}}");
    }

    private void forms(SortedMap<String, String> forms) throws IOException {
        out.write("{");
        String gap = "";
        for (Map.Entry<String, String> form : forms.entrySet()) {
            out.write(gap + JsonStrings.quote(form.getKey()) + ":" + JsonStrings.quote(form.getValue()));
            gap = ",";
        }
        out.write("}");
    }

    private void list(String name, List<String> values) throws IOException {
        out.write(",\"" + name + "\":[");
        for (int i = 0; i < values.size(); i++) {
            out.write((i > 0 ? "," : "") + JsonStrings.quote(values.get(i)));
        }
        out.write("]");
    }

    private void problems(List<Problem> problems) throws IOException {
        out.write("\"problems\":[");
        for (int i = 0; i < problems.size(); i++) {
            Problem problem = problems.get(i);
            out.write((i > 0 ? "," : "") + "{\"severity\":\""
                    + problem.severity().name().toLowerCase(Locale.ROOT) + "\"");
            boolean known = problem.position().known();
            out.write(
                    ",\"line\":" + (known ? Integer.toString(problem.position().line()) : "null"));
            out.write(",\"column\":"
                    + (known ? Integer.toString(problem.position().column()) : "null"));
            out.write(",\"message\":" + JsonStrings.quote(problem.sentence()) + "}");
        }
        out.write("]");
    }
}
