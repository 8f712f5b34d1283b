package mellow.server.entry;

import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.util.Map;
import mellow.server.common.Refusal;
import mellow.server.file.FileStore;
import mellow.server.people.PeopleService;
import mellow.server.people.Rights;
import mellow.server.people.SignedIn;
import org.springframework.http.CacheControl;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.transaction.annotation.Transactional;
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

    private static final int LARGEST_BYTES = 20 * 1024 * 1024;
    private static final int LONGEST_NAME = 200;

    private final FileStore files;
    private final PeopleService people;

    AssetController(FileStore files, PeopleService people) {
        this.files = files;
        this.people = people;
    }

    /** Stores a file of at most 20 MB: the body is its content. */
    @PostMapping
    @Transactional
    @ResponseStatus(HttpStatus.CREATED)
    public AssetReply store(@RequestParam String name, HttpServletRequest body, @AuthenticationPrincipal SignedIn me)
            throws IOException {
        Rights rights = people.rights(me.id());
        boolean contributes =
                rights.coordinator() || rights.levels().keySet().stream().anyMatch(rights::contributes);
        if (!contributes) {
            throw Refusal.forbidden("no-right-to-offer", "You have no right to offer files; ask a coordinator for it.");
        }
        String bare = name.replaceAll("^.*[/\\\\]", "").strip();
        if (bare.isEmpty() || bare.length() > LONGEST_NAME) {
            throw Refusal.unacceptable(
                    "bad-name",
                    "A file needs a name of 1 to " + LONGEST_NAME + " characters.",
                    Map.of("field", "name"));
        }
        byte[] content = FileStore.read(body.getInputStream(), LARGEST_BYTES);
        if (content.length > LARGEST_BYTES) {
            throw Refusal.tooLarge("asset-too-large", "An asset may have at most 20 MB; make it smaller.");
        }
        return new AssetReply(files.store(bare, content, "asset"), bare, content.length);
    }

    /** A stored file; pictures can be shown, everything else is saved. */
    @GetMapping("/{file}")
    ResponseEntity<byte[]> load(@PathVariable long file) {
        String name = files.named(file, "asset")
                .orElseThrow(() -> Refusal.notFound("no-such-asset", "There is no such file."));
        byte[] content = files.load(file);
        String type = Pictures.shown(content).orElse(MediaType.APPLICATION_OCTET_STREAM_VALUE);
        boolean inline = type.startsWith("image/");
        return ResponseEntity.ok()
                .contentType(MediaType.parseMediaType(type))
                .header(
                        HttpHeaders.CONTENT_DISPOSITION,
                        (inline ? ContentDisposition.inline() : ContentDisposition.attachment())
                                .filename(name, java.nio.charset.StandardCharsets.UTF_8)
                                .build()
                                .toString())
                .cacheControl(CacheControl.maxAge(365, java.util.concurrent.TimeUnit.DAYS)
                        .cachePrivate()
                        .immutable())
                .body(content);
    }

    /** A stored file. */
    record AssetReply(long file, String name, int bytes) {}
}
