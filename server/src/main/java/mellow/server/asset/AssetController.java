package mellow.server.asset;

import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.concurrent.TimeUnit;
import mellow.server.file.AssetFiles;
import mellow.server.file.FactsReply;
import mellow.server.file.Uploads;
import mellow.server.people.SignedIn;
import org.jspecify.annotations.Nullable;
import org.springframework.core.io.ByteArrayResource;
import org.springframework.core.io.Resource;
import org.springframework.http.CacheControl;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The files that entries of shape asset have per language. A stored one is put forward as the text's form "file". */
@RestController
@RequestMapping("/api/assets")
class AssetController {

    private final AssetService assets;
    private final Uploads uploads;

    AssetController(AssetService assets, Uploads uploads) {
        this.assets = assets;
        this.uploads = uploads;
    }

    /** Stores a file of at most 20 MB: the body is its content. */
    @PostMapping
    @ResponseStatus(HttpStatus.CREATED)
    AssetReply store(@RequestParam String name, HttpServletRequest body, @AuthenticationPrincipal SignedIn me)
            throws IOException {
        String bare = assets.requireMay(me.id(), name);
        return uploads.receive(me.id(), body, AssetFiles::requireSize, content -> {
            AssetService.Stored stored = assets.store(me.id(), bare, content);
            return new AssetReply(
                    stored.file(),
                    bare,
                    stored.looked().content().length,
                    FactsReply.of(stored.facts()),
                    stored.looked().gone());
        });
    }

    /** A stored file, or a part of one; pictures and sounds can be shown and played, everything else is saved. */
    @GetMapping("/{file}")
    ResponseEntity<Resource> load(@PathVariable long file, @AuthenticationPrincipal SignedIn me) {
        AssetService.Asset asset = assets.load(me.id(), file);
        boolean inline = !asset.mediaType().isEmpty();
        return ResponseEntity.ok()
                .contentType(
                        MediaType.parseMediaType(inline ? asset.mediaType() : MediaType.APPLICATION_OCTET_STREAM_VALUE))
                .header(
                        HttpHeaders.CONTENT_DISPOSITION,
                        (inline ? ContentDisposition.inline() : ContentDisposition.attachment())
                                .filename(asset.name(), StandardCharsets.UTF_8)
                                .build()
                                .toString())
                .cacheControl(
                        CacheControl.maxAge(365, TimeUnit.DAYS).cachePrivate().immutable())
                .body(new ByteArrayResource(asset.content()));
    }

    /**
     * A stored file.
     *
     * @param bytes its size
     * @param facts what it is, null for a file that is neither seen nor heard
     * @param gone what was taken out of it, a sentence each
     */
    record AssetReply(long file, String name, int bytes, @Nullable FactsReply facts, List<String> gone) {}
}
