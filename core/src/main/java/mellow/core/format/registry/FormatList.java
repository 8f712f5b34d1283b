package mellow.core.format.registry;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import mellow.core.format.FileFormat;
import mellow.core.format.FileFormat.Sample;
import mellow.core.format.Position;
import mellow.core.format.Problem;
import mellow.core.format.Traits;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.source.SourceText;

/** Formats in an order, those with the plainest marks first: where two are equally sure of a file, the earlier has it. */
public final class FormatList {

    private static final int SAMPLE = 8_192;

    /** What a name with a fitting first line gives at least. */
    private static final int NAMED = 45;

    /** What only a content gives that can be nothing else. */
    private static final int VOUCHED_FOR = 90;

    private final List<FileFormat> all;
    private final Map<String, FileFormat> names = new HashMap<>();
    /** Formats of new files by ending; for reading, content counts before the name. */
    private final Map<String, FileFormat> endings = new HashMap<>();

    private final Map<String, FileFormat> otherEndings = new HashMap<>();

    /** The formats in order; each brings its own names and endings. */
    public FormatList(List<FileFormat> all) {
        this.all = List.copyOf(all);
        for (FileFormat format : all) {
            Traits traits = format.traits();
            claim(names, traits.name(), format);
            traits.aliases().forEach(alias -> claim(names, alias, format));
            traits.endings().forEach(ending -> claim(endings, ending, format));
            traits.otherEndings().forEach(ending -> claim(otherEndings, ending, format));
        }
    }

    private static void claim(Map<String, FileFormat> of, String word, FileFormat format) {
        FileFormat other = of.put(word, format);
        if (other != null) {
            throw new IllegalArgumentException(word + " is claimed by " + other.name() + " and by " + format.name());
        }
    }

    /** All of them, in order. */
    public List<FileFormat> all() {
        return all;
    }

    /** The format of that name. */
    public Optional<FileFormat> named(String name) {
        return Optional.ofNullable(names.get(name.toLowerCase(Locale.ROOT)));
    }

    /** The format that a new file of that name is written in: by the longest ending that is one. */
    public Optional<FileFormat> forNew(String path) {
        return byEnding(endings, path);
    }

    private static Optional<FileFormat> byEnding(Map<String, FileFormat> endings, String path) {
        String name = name(path);
        for (int dot = name.indexOf('.'); dot >= 0; dot = name.indexOf('.', dot + 1)) {
            FileFormat format = endings.get(name.substring(dot + 1));
            if (format != null) {
                return Optional.of(format);
            }
        }
        return Optional.empty();
    }

    /** The format that a file is most likely of; content counts before the name. */
    public Optional<FileFormat> detect(String path, byte[] bytes) {
        return detect(path, bytes, 1);
    }

    /** The same among files of all kinds that came together, of which many are no texts: a format that its name or its content vouches for. */
    public Optional<FileFormat> detectAmongOthers(String path, byte[] bytes) {
        boolean named = forNew(path).isPresent() || byEnding(otherEndings, path).isPresent();
        return detect(path, bytes, named ? NAMED : VOUCHED_FOR);
    }

    private Optional<FileFormat> detect(String path, byte[] bytes, int least) {
        byte[] head = Arrays.copyOf(bytes, Math.min(SAMPLE, bytes.length));
        Charset charset = SourceText.charsetOf(head, StandardCharsets.UTF_8);
        String text = new String(head, charset);
        Sample sample = new Sample(name(path), path, head, text.startsWith("\uFEFF") ? text.substring(1) : text);
        FileFormat best = null;
        int surest = least - 1;
        for (FileFormat format : all) {
            int sure = format.likelihood(sample);
            if (sure > surest) {
                surest = sure;
                best = format;
            }
        }
        return Optional.ofNullable(best);
    }

    /** The refusal of a file of no format. */
    public UnreadableFileException unknown(String path) {
        String known = all.stream().map(FileFormat::name).collect(Collectors.joining(", "));
        return new UnreadableFileException(
                Problem.error(path, Position.WHOLE_FILE, "this is of no known format", "one of " + known));
    }

    /** Without folders, in lower case. */
    private static String name(String path) {
        return path.substring(Math.max(path.lastIndexOf('/'), path.lastIndexOf('\\')) + 1)
                .toLowerCase(Locale.ROOT);
    }
}
