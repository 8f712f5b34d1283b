package mellow.server.file;

import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Arrays;
import java.util.Collection;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import mellow.core.asset.AssetFacts;
import mellow.core.asset.AssetKind;
import mellow.core.asset.BrokenAssetException;
import mellow.core.asset.Drawing;
import mellow.core.asset.Sounds;
import mellow.core.format.UnreadableFileException;
import mellow.core.text.Shape;
import mellow.server.common.Refusal;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.util.unit.DataSize;

/** Pictures, sounds and other files that entries have per language: looked through when they come, each content kept once whatever its name. */
@Component
public class AssetFiles {

    /** The kind of stored files that are assets. */
    public static final String KIND = "asset";

    /** Largest file in bytes. */
    public static final int LARGEST_BYTES = 20 * 1024 * 1024;

    private static final int MEGABYTE = 1 << 20;

    private static final String MEDIA_TYPES = Arrays.stream(AssetKind.values())
            .map(kind -> "when '" + kind.word() + "' then '" + kind.mediaType() + "'")
            .collect(Collectors.joining(" "));

    private final FileStore files;
    private final JdbcClient jdbc;
    private final DataSize most;

    AssetFiles(FileStore files, JdbcClient jdbc, @Value("${mellow.assets.total:20GB}") DataSize most) {
        this.files = files;
        this.jdbc = jdbc;
        this.most = most;
    }

    /**
     * A file that was looked through.
     *
     * @param content what is kept of it: all of it but what runs in a drawing
     * @param facts what it is, null for a file that is neither seen nor heard
     * @param gone what was taken out of it, a sentence each
     */
    public record Looked(byte[] content, @Nullable AssetFacts facts, List<String> gone) {}

    /** Refuses by size alone. */
    public static void requireSize(long bytes) {
        if (bytes > LARGEST_BYTES) {
            throw Refusal.tooLarge("asset-too-large", "An asset may have at most 20 MB; make it smaller.");
        }
    }

    /**
     * Looks a file through.
     *
     * @throws Refusal when it is a broken picture or sound, or none although its name says so
     */
    public static Looked look(String name, byte[] content) {
        requireSize(content.length);
        Optional<AssetKind> named = AssetKind.named(name);
        try {
            if (named.equals(Optional.of(AssetKind.SVG))
                    || named.isEmpty() && name.indexOf('.') < 0 && Drawing.seems(content)) {
                Drawing drawing = Drawing.of(name, content);
                AssetFacts facts =
                        AssetFacts.picture(AssetKind.SVG, drawing.content().length, drawing.width(), drawing.height());
                return new Looked(drawing.content(), facts, drawing.gone());
            }
            Optional<AssetFacts> facts = Pictures.recognised(content)
                    .map(picture ->
                            AssetFacts.picture(picture.kind(), content.length, picture.width(), picture.height()))
                    .or(() -> Sounds.of(content));
            if (facts.isEmpty() && named.isPresent()) {
                throw Refusal.unacceptable(
                        "not-as-named",
                        "The name of this file promises {kind}, and it is none; save it again and take that file.",
                        Map.of("kind", named.get().title()));
            }
            return new Looked(content, facts.orElse(null), List.of());
        } catch (BrokenAssetException | UnreadableFileException broken) {
            throw Refusal.unacceptable("broken-asset", String.valueOf(broken.getMessage()));
        }
    }

    /** Stores a file as an asset; the number of the one that has the same content already, if there is one. */
    @Transactional(propagation = Propagation.MANDATORY)
    public long store(long person, String name, Looked looked) {
        byte[] print = print(looked.content());
        // Two who bring the same at once would both find nothing.
        jdbc.sql("select pg_advisory_xact_lock(hashtextextended(:print, 0))")
                .param("print", HexFormat.of().formatHex(print))
                .query((row, n) -> n)
                .single();
        return there(print, looked, null).orElseGet(() -> {
            requireRoom(looked.content().length);
            AssetFacts facts = looked.facts();
            String mediaType = facts == null ? "" : facts.kind().mediaType();
            long file = files.store(person, name, looked.content(), KIND, mediaType);
            note(file, print, facts);
            return file;
        });
    }

    /**
     * Keeps a file that came in and may become an asset.
     *
     * @param file its number
     * @param content its content
     * @return its number; another where something went out of it, or where an asset, or a file that waits like it, has the same content
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public long keep(long person, long file, String path, byte[] content, Looked looked) {
        byte[] print = print(looked.content());
        return there(print, looked, person).orElseGet(() -> {
            long kept = looked.content() == content ? file : files.store(person, path, looked.content());
            note(kept, print, looked.facts());
            return kept;
        });
    }

    /** The asset of that content; with a person also a file of theirs that waits to become one. */
    private Optional<Long> there(byte[] print, Looked looked, @Nullable Long person) {
        return jdbc.sql(
                        """
                        select f.id from asset_fact a join stored_file f on f.id = a.file_id
                        where a.sha256 = :print and f.bytes = :bytes and (f.kind = 'asset' or f.kind is null and f.person_id = :person)
                        order by f.kind is null, f.id limit 1
                        """)
                .param("print", print)
                .param("bytes", looked.content().length)
                .param("person", person)
                .query(Long.class)
                .optional();
    }

    /** Refuses files that came in and would be too much beside all assets. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void requireRoomFor(Collection<Long> coming) {
        requireRoom(jdbc.sql("select coalesce(sum(bytes), 0) from stored_file where id = any(:files)")
                .param("files", coming.toArray(Long[]::new))
                .query(Long.class)
                .single());
    }

    private void note(long file, byte[] print, @Nullable AssetFacts facts) {
        jdbc.sql(
                        """
                        insert into asset_fact (file_id, sha256, kind, width, height, milliseconds) values (:file, :print, :kind, :width, :height, :milliseconds)
                        on conflict do nothing
                        """)
                .param("file", file)
                .param("print", print)
                .param("kind", facts == null ? null : facts.kind().word())
                .param("width", facts == null ? 0 : facts.width())
                .param("height", facts == null ? 0 : facts.height())
                .param("milliseconds", facts == null ? 0 : facts.milliseconds())
                .update();
    }

    private void requireRoom(long coming) {
        long there = jdbc.sql("select coalesce(sum(bytes), 0) from stored_file where kind = 'asset'")
                .query(Long.class)
                .single();
        if (there + coming > most.toBytes()) {
            throw Refusal.tooLarge(
                    "assets-full",
                    "All pictures and sounds together may have {most} MB, and {there} are there; a setting of the server says so.",
                    Map.of("most", most.toMegabytes(), "there", there / MEGABYTE));
        }
    }

    /**
     * Makes assets of files that were kept, for texts that name them from now on.
     *
     * @throws Refusal when one of them was never looked through
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public void claim(Collection<Long> named) {
        if (named.isEmpty()) {
            return;
        }
        Long[] all = named.stream().distinct().sorted().toArray(Long[]::new);
        jdbc.sql(
                        """
                        update stored_file f set kind = 'asset', media_type = case a.kind %s else '' end
                        from asset_fact a where a.file_id = f.id and f.id = any(:files) and f.kind is null
                        """
                                .formatted(MEDIA_TYPES))
                .param("files", all)
                .update();
        int there = jdbc.sql("select count(*) from stored_file where id = any(:files) and kind = 'asset'")
                .param("files", all)
                .query(Integer.class)
                .single();
        if (there < all.length) {
            throw noSuchAsset();
        }
        requireRoom(0);
    }

    /** Refuses a text of shape asset that names a file which is no stored asset; one that has no more than a name waits for its file. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void require(Map<String, String> forms) {
        if (!forms.containsKey(Shape.FILE)) {
            return;
        }
        boolean there = AssetFactReader.file(forms)
                .map(file -> jdbc.sql("select exists (select 1 from stored_file where id = :file and kind = 'asset')")
                        .param("file", file)
                        .query(Boolean.class)
                        .single())
                .orElse(false);
        if (!there) {
            throw noSuchAsset();
        }
    }

    private static Refusal noSuchAsset() {
        return Refusal.unacceptable(
                "no-such-file", "There is no such file; choose it again.", Map.of("field", "forms"));
    }

    /** Looks through some assets that were stored before anything was known of them; how many it found. */
    @Transactional
    public int lookLater(int most) {
        List<Long> some = jdbc.sql(
                        """
                        select id from stored_file f where kind = 'asset' and not exists (select 1 from asset_fact a where a.file_id = f.id) order by id limit :most
                        """)
                .param("most", most)
                .query(Long.class)
                .list();
        for (long file : some) {
            byte[] content = files.load(file);
            String name = files.kept(file, KIND).map(FileStore.Kept::name).orElse("");
            AssetFacts facts = told(name, content);
            note(file, print(content), facts);
            files.found(file, facts == null ? "" : facts.kind().mediaType());
        }
        return some.size();
    }

    /** What a stored file is; null for one that would not come in any more, which is saved and never shown. */
    private static @Nullable AssetFacts told(String name, byte[] content) {
        try {
            Looked looked = look(name, content);
            return looked.gone().isEmpty() ? looked.facts() : null;
        } catch (Refusal broken) {
            return null;
        }
    }

    private static byte[] print(byte[] content) {
        try {
            return MessageDigest.getInstance("SHA-256").digest(content);
        } catch (NoSuchAlgorithmException impossible) {
            throw new IllegalStateException(impossible);
        }
    }
}
