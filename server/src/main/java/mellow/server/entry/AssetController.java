package mellow.server.entry;

import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.concurrent.TimeUnit;
import mellow.server.file.Uploads;
import mellow.server.people.SignedIn;
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
        return uploads.receive(
                me.id(),
                body,
                AssetService::requireSize,
                content -> new AssetReply(assets.store(me.id(), bare, content), bare, content.length));
    }

    /** A stored file; pictures can be shown, everything else is saved. */
    @GetMapping("/{file}")
    ResponseEntity<byte[]> load(@PathVariable long file) {
        AssetService.Asset asset = assets.load(file);
        String type = asset.shown().orElse(MediaType.APPLICATION_OCTET_STREAM_VALUE);
        boolean inline = type.startsWith("image/");
        return ResponseEntity.ok()
                .contentType(MediaType.parseMediaType(type))
                .header(
                        HttpHeaders.CONTENT_DISPOSITION,
                        (inline ? ContentDisposition.inline() : ContentDisposition.attachment())
                                .filename(asset.name(), StandardCharsets.UTF_8)
                                .build()
                                .toString())
                .cacheControl(
                        CacheControl.maxAge(365, TimeUnit.DAYS).cachePrivate().immutable())
                .body(asset.content());
    }

    /** A stored file. */
    record AssetReply(long file, String name, int bytes) {}
}
