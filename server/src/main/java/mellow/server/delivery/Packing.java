package mellow.server.delivery;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.time.LocalDateTime;
import java.util.HexFormat;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import mellow.server.delivery.Judge.LanguageVerdict;
import tools.jackson.databind.json.JsonMapper;

/** Packs the files of a delivery with a manifest: the same bytes for the same files, whenever and wherever. */
final class Packing {

    static final String MANIFEST = "manifest.json";

    /** The first moment that a ZIP archive can tell; the real one would make every archive another. */
    private static final LocalDateTime NO_TIME = LocalDateTime.of(1980, 1, 1, 0, 0);

    private static final JsonMapper JSON = JsonMapper.shared();

    private Packing() {}

    /** A file to be packed. */
    interface Content {
        InputStream open() throws IOException;
    }

    record Packed(String path, String sha256, long bytes, Content content) {}

    /** What stands in {@code manifest.json}; docs/deliveries.md has its schema. It tells no number and no time, so that equal deliveries have equal bytes. */
    record Manifest(String product, List<LanguageTold> languages, List<FileTold> files) {}

    record LanguageTold(String tag, String answer, int entries, int settled, int stale) {}

    record FileTold(String path, String sha256, long bytes) {}

    static byte[] manifest(String product, List<LanguageVerdict> languages, List<Packed> files) {
        Manifest manifest = new Manifest(
                product,
                languages.stream()
                        .map(one -> new LanguageTold(
                                one.language(),
                                one.answer(),
                                one.counts().entries(),
                                one.counts().settled(),
                                one.counts().stale()))
                        .toList(),
                files.stream()
                        .map(one -> new FileTold(one.path(), one.sha256(), one.bytes()))
                        .toList());
        String written = JSON.writerWithDefaultPrettyPrinter().writeValueAsString(manifest);
        return (written.replace("\r\n", "\n") + "\n").getBytes(StandardCharsets.UTF_8);
    }

    /** Writes a ZIP archive of the files in their order, the manifest last. */
    static void zip(byte[] manifest, List<Packed> files, OutputStream out) throws IOException {
        ZipOutputStream zip = new ZipOutputStream(out, StandardCharsets.UTF_8);
        for (Packed file : files) {
            zip.putNextEntry(entry(file.path()));
            try (InputStream in = file.content().open()) {
                in.transferTo(zip);
            }
            zip.closeEntry();
        }
        zip.putNextEntry(entry(MANIFEST));
        zip.write(manifest);
        zip.closeEntry();
        zip.finish();
    }

    private static ZipEntry entry(String path) {
        ZipEntry entry = new ZipEntry(path);
        entry.setTimeLocal(NO_TIME);
        return entry;
    }

    static String hex(byte[] hash) {
        return HexFormat.of().formatHex(hash);
    }
}
