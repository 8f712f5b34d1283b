package mellow.core.format.ledger;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import mellow.core.format.Aspect;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.format.FreshOnly;
import mellow.core.format.ReadOptions;
import mellow.core.format.Repeats;
import mellow.core.format.Traits;
import mellow.core.format.Traits.Languages;
import mellow.core.format.json.JsonParser;
import mellow.core.format.json.JsonStrings;
import mellow.core.format.source.SourceText;
import mellow.core.format.tree.Node;
import mellow.core.format.tree.Node.Kind;
import mellow.core.format.tree.Node.Mapping;
import mellow.core.format.tree.Node.Member;
import mellow.core.format.tree.Node.Scalar;
import mellow.core.format.tree.Node.Sequence;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;

/** Ledger JSON, version 1. Members that it does not know are passed over, so that later versions can add some; a later version is refused. */
public final class LedgerFormat implements FileFormat {

    private static final Traits TRAITS = Traits.of("ledger-json", "ledger.json", "application/json")
            .in(Languages.MANY)
            .onlyFresh()
            .spellingItself();

    /** The version that is written. */
    public static final int VERSION = 1;

    /** Values of an entry on the average at most: with texts in many languages there are many. */
    private static final int MOST_VALUES = 40;

    @Override
    public Traits traits() {
        return TRAITS;
    }

    @Override
    public Set<Aspect> keeps() {
        return EnumSet.allOf(Aspect.class);
    }

    @Override
    public int likelihood(Sample sample) {
        return sample.text().stripLeading().matches("(?s)\\{\\s*\"mellowLedger\"\\s*:.*") ? 100 : 0;
    }

    @Override
    public FileReading read(String file, byte[] bytes, ReadOptions options) {
        SourceText source = SourceText.read(file, bytes, options, "a ledger");
        Node tree = JsonParser.parse(source, options.limits(), MOST_VALUES);
        Reader reader = new Reader(source);
        Mapping ledger = reader.mapping(tree, "the document");
        Scalar version = reader.scalar(reader.required(ledger, "mellowLedger"), "mellowLedger");
        if (!version.text().equals(Integer.toString(VERSION))) {
            throw source.refuse(
                    version.start(),
                    "version " + version.text() + " of Ledger JSON",
                    "version " + VERSION + "; it was written by a later Mellow Ledger");
        }
        List<LanguageTag> languages = new ArrayList<>();
        for (Node item : reader.sequence(reader.required(ledger, "languages"), "languages")
                .items()) {
            languages.add(reader.tag(item));
        }
        Optional<LanguageTag> from = reader.find(ledger, "sourceLanguage")
                .filter(node -> !(node instanceof Scalar scalar && scalar.kind() == Kind.NULL))
                .map(reader::tag);
        List<FileEntry> entries = new ArrayList<>();
        for (Node item :
                reader.sequence(reader.required(ledger, "entries"), "entries").items()) {
            source.checkCount(entries.size() + 1, item.start(), options.limits());
            entries.add(reader.entry(item, languages));
        }
        return new FreshOnly(
                EntryList.of(from, languages, Repeats.lastOf(entries, entry -> entry, source.problems())),
                source.problems().kept(),
                source.charset().name(),
                Set.of(FileReading.Field.values()),
                "A Ledger JSON file");
    }

    private record Reader(SourceText source) {

        Optional<Node> find(Mapping mapping, String name) {
            Node found = null;
            for (Member member : mapping.members()) {
                found = member.key().equals(name) ? member.value() : found;
            }
            return Optional.ofNullable(found);
        }

        Node required(Mapping mapping, String name) {
            return find(mapping, name)
                    .orElseThrow(() -> source.refuse(
                            mapping.start(), "“" + name + "” is missing", "it, as docs/ledger-json.md says"));
        }

        Mapping mapping(Node node, String what) {
            if (node instanceof Mapping mapping) {
                return mapping;
            }
            throw source.refuse(node.start(), what + " is no object", "an object");
        }

        Sequence sequence(Node node, String what) {
            if (node instanceof Sequence sequence) {
                return sequence;
            }
            throw source.refuse(node.start(), "“" + what + "” is no list", "a list");
        }

        Scalar scalar(Node node, String what) {
            if (node instanceof Scalar scalar) {
                return scalar;
            }
            throw source.refuse(node.start(), "“" + what + "” is no single value", "a text or a number");
        }

        LanguageTag tag(Node node) {
            Scalar scalar = scalar(node, "a language");
            return LanguageTag.parse(scalar.text())
                    .orElseThrow(() -> source.refuse(
                            node.start(),
                            "“" + scalar.text() + "”, which is no language tag",
                            "a tag such as “pt-BR”"));
        }

        String text(Mapping entry, String name) {
            return find(entry, name).map(node -> scalar(node, name).text()).orElse("");
        }

        List<String> texts(Mapping entry, String name) {
            return find(entry, name)
                    .map(node -> sequence(node, name).items().stream()
                            .map(item -> scalar(item, name).text())
                            .toList())
                    .orElse(List.of());
        }

        FileEntry entry(Node node, List<LanguageTag> languages) {
            Mapping entry = mapping(node, "an entry");
            String shape = text(entry, "shape");
            String limit = text(entry, "maxLength");
            Mapping texts = mapping(required(entry, "texts"), "“texts”");
            Optional<Mapping> states = find(entry, "states").map(found -> mapping(found, "“states”"));
            List<FileText> inOrder = new ArrayList<>();
            for (LanguageTag language : languages) {
                Map<String, String> forms = new TreeMap<>();
                find(texts, language.value()).ifPresent(found -> mapping(found, "a text")
                        .members()
                        .forEach(form -> forms.put(
                                form.key(), scalar(form.value(), form.key()).text())));
                FileText text = FileText.of(forms);
                Optional<FileState> state =
                        states.flatMap(found -> find(found, language.value())).map(this::state);
                inOrder.add(state.map(text::in).orElse(text));
            }
            FileEntry.Builder built = FileEntry.of(
                            scalar(required(entry, "key"), "key").text())
                    .line(source.line(entry.start()))
                    .context(text(entry, "context"))
                    .shape(
                            shape.isEmpty()
                                    ? Shape.PLAIN
                                    : Shape.of(shape)
                                            .orElseThrow(() -> source.refuse(
                                                    entry.start(),
                                                    "the shape “" + shape + "”",
                                                    "plain, plural, states or asset")))
                    .section(text(entry, "section"))
                    .maxLength(limit.matches("[0-9]{1,6}") ? Integer.parseInt(limit) : 0)
                    .translatable(!text(entry, "translatable").equals("false"))
                    .flags(texts(entry, "flags"))
                    .texts(inOrder);
            texts(entry, "notes").forEach(built::note);
            texts(entry, "references").forEach(built::reference);
            return built.build();
        }

        FileState state(Node node) {
            String word = scalar(node, "a state").text();
            for (FileState state : FileState.values()) {
                if (state.word().equals(word)) {
                    return state;
                }
            }
            throw source.refuse(
                    node.start(), "the state “" + word + "”", "settled, offered, pencilled or untranslated");
        }
    }

    @Override
    public void write(EntryList entries, OutputStream out) throws IOException {
        Writer to = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8));
        to.write("{\"mellowLedger\": " + VERSION + ",\n\"sourceLanguage\": "
                + entries.sourceLanguage()
                        .map(tag -> JsonStrings.quote(tag.value()))
                        .orElse("null") + ",\n\"languages\": "
                + list(entries.languages().stream().map(LanguageTag::value).toList()) + ",\n\"entries\": [");
        for (int i = 0; i < entries.size(); i++) {
            to.write(i == 0 ? "\n" : ",\n");
            to.write(entry(entries.entry(i), entries.languages()));
        }
        to.write("\n]}\n");
        to.flush();
    }

    private static String list(List<String> values) {
        return "[" + String.join(", ", values.stream().map(JsonStrings::quote).toList()) + "]";
    }

    private static String entry(FileEntry entry, List<LanguageTag> languages) {
        List<String> members = new ArrayList<>();
        members.add("\"key\": " + JsonStrings.quote(entry.key()));
        optional("context", entry.context(), members);
        members.add("\"shape\": " + JsonStrings.quote(entry.shape().word()));
        optional("section", entry.section(), members);
        if (entry.maxLength() > 0) {
            members.add("\"maxLength\": " + entry.maxLength());
        }
        if (!entry.translatable()) {
            members.add("\"translatable\": false");
        }
        lists("notes", entry.notes(), members);
        lists("references", entry.references(), members);
        lists("flags", entry.flags(), members);
        List<String> texts = new ArrayList<>();
        List<String> states = new ArrayList<>();
        for (int i = 0; i < languages.size(); i++) {
            FileText text = entry.texts().get(i);
            String language = JsonStrings.quote(languages.get(i).value()) + ": ";
            if (!text.isEmpty()) {
                texts.add(language + "{"
                        + String.join(
                                ", ",
                                text.forms().entrySet().stream()
                                        .map(form -> JsonStrings.quote(form.getKey()) + ": "
                                                + JsonStrings.quote(form.getValue()))
                                        .toList())
                        + "}");
            }
            text.state().ifPresent(state -> states.add(language + JsonStrings.quote(state.word())));
        }
        members.add("\"texts\": {" + String.join(", ", texts) + "}");
        if (!states.isEmpty()) {
            members.add("\"states\": {" + String.join(", ", states) + "}");
        }
        return "{" + String.join(", ", members) + "}";
    }

    private static void optional(String name, String value, List<String> members) {
        if (!value.isEmpty()) {
            members.add("\"" + name + "\": " + JsonStrings.quote(value));
        }
    }

    private static void lists(String name, List<String> values, List<String> members) {
        if (!values.isEmpty()) {
            members.add("\"" + name + "\": " + list(values));
        }
    }
}
