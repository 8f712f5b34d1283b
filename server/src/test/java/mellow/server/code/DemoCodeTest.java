package mellow.server.code;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javax.tools.JavaCompiler;
import javax.tools.ToolProvider;
import mellow.core.merge.Arrival;
import mellow.core.scan.KeyNames;
import mellow.server.code.CodeLists.Asked;
import mellow.server.code.CodeReplies.MisfitValues;
import mellow.server.code.CodeReplies.ScanReply;
import mellow.server.code.CodeReplies.TextWithoutKey;
import mellow.server.code.CodeTaking.TakenKey;
import mellow.server.code.CodeTaking.TakenText;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.Definition;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.beans.factory.annotation.Autowired;

/** The app of the demo: what it lacks is taken, its texts too, the patch is applied, it still compiles, and looked through again it lacks nothing. */
class DemoCodeTest extends ServerTest {

    private static final Path DEMO = Path.of("../demo");

    @Autowired
    private Scanning scanning;

    @Autowired
    private CodeLists lists;

    @Autowired
    private CodeTaking taking;

    @Autowired
    private CodePatch patch;

    @Autowired
    private ProductService products;

    @TempDir
    private Path tree = Path.of(".");

    private long mara;

    private ScanReply look() throws IOException {
        Map<String, String> files = new LinkedHashMap<>();
        try (Stream<Path> all = Files.walk(tree)) {
            for (Path file : all.filter(Files::isRegularFile).sorted().toList()) {
                files.put(tree.relativize(file).toString(), Files.readString(file));
            }
        }
        long scan = scanning.archive(mara, "deckside", "deckside.zip", CodeCase.zip(files));
        scanning.await(scan);
        return lists.scan("deckside", scan);
    }

    private static void copy(Path from, Path to) throws IOException {
        try (Stream<Path> all = Files.walk(from)) {
            for (Path file : all.filter(Files::isRegularFile).toList()) {
                Path target = to.resolve(from.relativize(file).toString());
                Files.createDirectories(target.getParent());
                Files.copy(file, target);
            }
        }
    }

    /** The class of names that the app's build makes of its resources. */
    private void names() throws IOException {
        TreeSet<String> strings = new TreeSet<>(ledger.entries("Deckside").stream()
                .map(entry -> KeyNames.folded(ledger.ask(String.class, "select key from entry where id = " + entry)))
                .toList());
        strings.add("ticket_test_only");
        String constants = strings.stream()
                .map(name -> "public static final int " + name + " = 1;")
                .collect(Collectors.joining("\n"));
        Path names = tree.resolve("stubs/org/ostrel/deckside/R.java");
        Files.createDirectories(names.getParent());
        Files.writeString(
                names,
                "package org.ostrel.deckside;\npublic final class R {\npublic static final class string {\n" + constants
                        + "\n}\npublic static final class plurals {\n" + constants
                        + "\n}\npublic static final class id {\npublic static final int title = 1;\npublic static final int gate = 2;\npublic static final int code = 3;\n}\n}\n");
    }

    private String compiled() throws IOException {
        JavaCompiler compiler = ToolProvider.getSystemJavaCompiler();
        StringWriter said = new StringWriter();
        Path out = Files.createDirectories(
                tree.resolve("../classes-" + tree.getFileName()).normalize());
        try (Stream<Path> all = Files.walk(tree)) {
            List<Path> sources =
                    all.filter(path -> path.toString().endsWith(".java")).toList();
            try (var files = compiler.getStandardFileManager(null, null, StandardCharsets.UTF_8)) {
                boolean sound = compiler.getTask(
                                said,
                                files,
                                null,
                                List.of("-d", out.toString()),
                                null,
                                files.getJavaFileObjectsFromPaths(sources))
                        .call();
                return sound ? "" : said.toString();
            }
        }
    }

    @Test
    void theAppStillCompilesAndLacksNothing() throws Exception {
        copy(DEMO.resolve("code/deckside"), tree);
        mara = ledger.coordinator("mara");
        ledger.takeIn(
                mara, "Deckside", "deckside.csv", Files.readAllBytes(DEMO.resolve("deckside.csv")), Arrival.SETTLED);
        products.create(mara, new Definition(0, "Deckside", "app", List.of("deckside"), List.of(), null));
        ScanReply first = look();
        assertThat(first.status()).as(first.message()).isEqualTo("done");
        assertThat(lists.missing("deckside", Asked.FIRST))
                .extracting(CodeReplies.MissingKey::key)
                .containsExactly("boarding_lost_pass", "picture_ferry", "ticket_count");
        assertThat(lists.misfits("deckside"))
                .extracting(MisfitValues::key)
                .containsExactlyInAnyOrder("boarding.lane", "cabin.key.code");
        taking.keys(
                mara,
                "deckside",
                first.id(),
                "deckside",
                "From the code",
                lists.missing("deckside", Asked.FIRST).stream()
                        .map(one -> new TakenKey(one.key(), one.context(), one.proposed(), "Said for " + one.key()))
                        .toList());
        List<TextWithoutKey> open = lists.texts("deckside", first.id(), "open", 0);
        taking.texts(
                mara,
                "deckside",
                first.id(),
                "deckside",
                "From the code",
                open.stream()
                        .map(one -> new TakenText(one.position(), one.proposed()))
                        .toList());
        names();
        assertThat(compiled()).as("before the patch").isEmpty();
        String diff = patch.of("deckside");
        Path file = Files.writeString(
                tree.resolve("../" + tree.getFileName() + ".patch").normalize(), diff);
        Process applied = new ProcessBuilder("patch", "-p1", "-i", file.toString())
                .directory(tree.toFile())
                .redirectErrorStream(true)
                .start();
        String said = new String(applied.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        assertThat(applied.waitFor(20, TimeUnit.SECONDS)).isTrue();
        assertThat(applied.exitValue()).as(said + diff).isZero();
        assertThat(compiled()).as(diff).isEmpty();
        ScanReply again = look();
        assertThat(lists.missing("deckside", Asked.FIRST)).isEmpty();
        List<String> byHand =
                diff.lines().filter(line -> line.startsWith("# by hand")).toList();
        assertThat(lists.texts("deckside", again.id(), "taken", 0))
                .as("left are those that a patch cannot reach")
                .hasSize(byHand.size());
        assertThat(lists.texts("deckside", again.id(), "open", 0)).isEmpty();
        assertThat(again.textsNew()).isZero();
        assertThat(byHand.size()).isLessThan(open.size() / 2);
    }
}
