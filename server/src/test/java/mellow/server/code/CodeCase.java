package mellow.server.code;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import mellow.core.merge.Arrival;
import mellow.server.code.CodeLists.Asked;
import mellow.server.code.CodeReplies.MissingKey;
import mellow.server.code.CodeReplies.ScanReply;
import mellow.server.code.CodeReplies.TextWithoutKey;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.Definition;
import mellow.server.product.ProductService.Selected;
import mellow.server.run.RunService;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.springframework.beans.factory.annotation.Autowired;

/** A site with a table, and a little code of it that a test changes. */
abstract class CodeCase extends ServerTest {

    static final Duration LONG = Duration.ofSeconds(60);

    @Autowired
    Scanning scanning;

    @Autowired
    CodeLists lists;

    @Autowired
    CodeTaking taking;

    @Autowired
    CodePatch patch;

    @Autowired
    CodeSettingsService settings;

    @Autowired
    ProductService products;

    @Autowired
    RunService runs;

    long mara;
    final Map<String, String> code = new LinkedHashMap<>();

    @BeforeEach
    void makeProduct() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(
                mara,
                "Booking",
                """
                Key,en,de
                menu.title,Menu of the day,Tageskarte
                menu.end,The end,Ende
                lamp.on,On,An
                lamp.off,Off,Aus
                seat.row,Row {n} of {all},Reihe {n} von {all}
                deck.old,Old deck,Altes Deck
                deck.sun,Sun deck,Sonnendeck
                """,
                Arrival.SETTLED);
        products.create(
                mara, new Definition(0, "Site", "site", List.of("booking"), List.of(new Selected("de", null)), null));
        code.clear();
        code.put(
                "src/menu.ts",
                """
                import { t } from './texts';
                t('menu.title');
                // For translators: at the very end
                t('menu.finish');
                t(`lamp.${state}`);
                t('seat.row', { n });
                show(t('menu.finish'));
                alert('Choose your cabin');
                button.label = 'Sun deck';
                """);
        code.put("src/menu.test.ts", "t('menu.end'); alert('Only a test sees this');\n");
        code.put("index.html", "<h1 data-text=\"menu.title\">Menu of today</h1>\n<p>Come aboard</p>\n");
    }

    static byte[] zip(Map<String, String> files) {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(bytes)) {
            for (Map.Entry<String, String> file : files.entrySet()) {
                zip.putNextEntry(new ZipEntry(file.getKey()));
                zip.write(file.getValue().getBytes(StandardCharsets.UTF_8));
                zip.closeEntry();
            }
        } catch (IOException never) {
            throw new UncheckedIOException(never);
        }
        return bytes.toByteArray();
    }

    ScanReply look() {
        ScanReply done = look(zip(code));
        assertThat(done.status()).as(done.message()).isEqualTo("done");
        return done;
    }

    ScanReply look(byte[] archive) {
        long scan = scanning.archive(mara, "site", "site.zip", archive);
        runs.await(Scanning.RUN, scan, LONG);
        return lists.scan("site", scan);
    }

    List<String> missing() {
        return lists.missing("site", Asked.FIRST).stream().map(MissingKey::key).toList();
    }

    List<String> entries(String how) {
        return lists.entries("site", how, "", 0).stream()
                .map(CodeReplies.CodeEntry::key)
                .toList();
    }

    List<TextWithoutKey> texts(String decision) {
        return lists.texts(
                "site",
                ledger.ask(
                        Long.class,
                        "select id from scan where done_at is not null order by done_at desc, id desc limit 1"),
                decision,
                0);
    }

    List<String> said(String decision) {
        return texts(decision).stream().map(TextWithoutKey::text).toList();
    }
}
