package mellow.server.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import mellow.core.asset.AssetKind;
import mellow.server.common.Refusal;
import mellow.server.support.AssetsMade;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.util.unit.DataSize;

/** What is kept of pictures and sounds, how much of it, and which files texts may name. */
class AssetFilesTest extends ServerTest {

    @Autowired
    private FileStore files;

    @Autowired
    private AssetFiles assets;

    @Autowired
    private JdbcClient jdbc;

    @Autowired
    private TransactionTemplate transaction;

    private long mara;

    @BeforeEach
    void someone() {
        mara = ledger.coordinator("mara");
    }

    private long stored(AssetFiles in, String name, byte[] content) {
        return transaction.execute(status -> in.store(mara, name, AssetFiles.look(name, content)));
    }

    @Test
    void allTogetherHaveALimitAndWhatIsThereAlreadyTakesNoMore() {
        byte[] first = AssetsMade.wav(50, 440);
        AssetFiles small = new AssetFiles(files, jdbc, DataSize.ofBytes(first.length + 10L));
        long file = stored(small, "a.wav", first);
        assertThatThrownBy(() -> stored(small, "b.wav", AssetsMade.wav(50, 220)))
                .isInstanceOf(Refusal.class)
                .hasMessageContaining("All pictures and sounds together");
        assertThat(stored(small, "c.wav", first)).isEqualTo(file);
        byte[] other = AssetsMade.wav(50, 330);
        long brought = transaction.execute(status -> files.store(mara, "s/b_en.wav", other));
        transaction.execute(status -> small.keep(mara, brought, "s/b_en.wav", other, AssetFiles.look("b.wav", other)));
        assertThatThrownBy(() -> transaction.executeWithoutResult(status -> small.claim(List.of(brought))))
                .hasMessageContaining("All pictures and sounds together");
        assertThatThrownBy(() -> transaction.executeWithoutResult(status -> small.requireRoomFor(List.of(brought))))
                .hasMessageContaining("All pictures and sounds together");
        assertThatThrownBy(() -> AssetFiles.look("a.bin", new byte[AssetFiles.LARGEST_BYTES + 1]))
                .hasMessageContaining("20 MB");
    }

    @Test
    void whatAFileIsIsToldByItsContent() {
        assertThat(AssetFiles.look("a.jpg", AssetsMade.png(3, 2, 1)).facts().kind())
                .isEqualTo(AssetKind.PNG);
        assertThat(AssetFiles.look("noname", AssetsMade.svg(3, 2, "")).facts().width())
                .isEqualTo(3);
        assertThat(AssetFiles.look("a.bin", AssetsMade.wav(70, 440)).facts().milliseconds())
                .isEqualTo(70);
        assertThat(AssetFiles.look("a.txt", "words".getBytes(StandardCharsets.UTF_8))
                        .facts())
                .isNull();
        byte[] png = AssetsMade.png(300, 200, 1);
        assertThatThrownBy(() -> AssetFiles.look("a.png", Arrays.copyOf(png, png.length / 2)))
                .hasMessageContaining("broken");
        assertThatThrownBy(() -> AssetFiles.look("a.svg", "<svg".getBytes(StandardCharsets.UTF_8)))
                .isInstanceOf(Refusal.class);
        assertThatThrownBy(() -> AssetFiles.look("a.mp3", new byte[5000])).hasMessageContaining("promises MP3");
    }

    @Test
    void onlyWhatWasLookedThroughBecomesAnAsset() {
        long plain = transaction.execute(status -> files.store(mara, "x.csv", "a,b".getBytes(StandardCharsets.UTF_8)));
        byte[] png = AssetsMade.png(3, 2, 4);
        long brought = transaction.execute(status -> files.store(mara, "s/a_en.png", png));
        long kept = transaction.execute(
                status -> assets.keep(mara, brought, "s/a_en.png", png, AssetFiles.look("a.png", png)));
        assertThat(kept).as("nothing is stored twice").isEqualTo(brought);
        assertThatThrownBy(() -> transaction.executeWithoutResult(status -> assets.claim(List.of(kept, plain))))
                .hasMessageContaining("no such file");
        assertThat(ledger.ask(Integer.class, "select count(*)::int from stored_file where kind = 'asset'"))
                .isZero();
        transaction.executeWithoutResult(status -> assets.claim(List.of(kept, kept)));
        transaction.executeWithoutResult(status -> assets.claim(List.of(kept)));
        assertThat(ledger.ask(String.class, "select media_type from stored_file where id = " + kept))
                .isEqualTo("image/png");
        transaction.executeWithoutResult(status -> assets.require(Map.of("other", "later.png")));
        assertThatThrownBy(() -> transaction.executeWithoutResult(status -> assets.require(Map.of("file", "" + plain))))
                .hasMessageContaining("no such file");
    }

    @Test
    void whatWasStoredBeforeAnybodyLookedIsLookedThroughOnce() {
        long picture = stored(assets, "a.png", AssetsMade.png(5, 4, 4));
        long sound = stored(assets, "b.wav", AssetsMade.wav(40, 300));
        ledger.run("delete from asset_fact");
        ledger.run("update stored_file set media_type = null");
        long hostile = transaction.execute(
                status -> files.store(mara, "h.svg", AssetsMade.svg(1, 1, "<script/>"), AssetFiles.KIND, null));
        assertThat(assets.lookLater(2)).isEqualTo(2);
        assertThat(assets.lookLater(20)).isEqualTo(1);
        assertThat(assets.lookLater(20)).isZero();
        AssetFactReader facts = new AssetFactReader(jdbc);
        assertThat(facts.of(List.of(picture, sound, hostile))).containsOnlyKeys(picture, sound);
        assertThat(ledger.ask(String.class, "select media_type from stored_file where id = " + hostile))
                .as("saved, and never shown")
                .isEmpty();
        assertThat(stored(assets, "c.png", AssetsMade.png(5, 4, 4)))
                .as("known by its content again")
                .isEqualTo(picture);
    }
}
