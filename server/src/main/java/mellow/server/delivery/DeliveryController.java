package mellow.server.delivery;

import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import mellow.server.common.Refusal;
import mellow.server.common.TempFiles;
import mellow.server.delivery.Delivering.RecipeExample;
import mellow.server.delivery.DeliveryRecord.DeliveredFile;
import mellow.server.delivery.DeliveryRecord.DeliveryReply;
import mellow.server.delivery.DeliveryRecord.KeptDelivery;
import mellow.server.delivery.DeliveryService.DeliveryOverview;
import mellow.server.delivery.DeliveryService.ProductWaiting;
import mellow.server.people.Reading;
import mellow.server.people.SignedIn;
import mellow.server.run.RunService.RunReply;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What products get, and what they got. */
@RestController
@RequestMapping("/api")
class DeliveryController {

    private static final String SEE = "fetch what is delivered";

    private final DeliveryService deliveries;
    private final Recipes recipes;
    private final Plans plans;
    private final DeliveryFiles files;
    private final Outbox outbox;
    private final Reading reading;

    DeliveryController(
            DeliveryService deliveries,
            Recipes recipes,
            Plans plans,
            DeliveryFiles files,
            Outbox outbox,
            Reading reading) {
        this.deliveries = deliveries;
        this.recipes = recipes;
        this.plans = plans;
        this.files = files;
        this.outbox = outbox;
        this.reading = reading;
    }

    /** A recipe as it shall be. */
    record RecipeEdit(
            @NotBlank @Size(max = 100) String name,
            @NotNull @Valid Recipe.RecipeSettings settings,
            boolean active,
            int version) {}

    /** When and where a product goes out. */
    record PlanEdit(
            @NotNull @Valid Gates gates,
            boolean outbox,
            @Nullable Integer everyHours,
            @NotNull @Size(max = 24) List<@NotBlank String> times,
            @NotBlank String zone,
            int version) {}

    record RecallRequest(@NotBlank @Size(max = 500) String reason) {}

    /** How a product stands; {@code outboxThere} says whether the server has a folder for deliveries. */
    record DeliveryDesk(DeliveryOverview product, boolean outboxThere) {}

    @GetMapping("/deliveries")
    List<ProductWaiting> all() {
        return deliveries.all();
    }

    @GetMapping("/products/{slug}/delivery")
    DeliveryDesk desk(@PathVariable String slug) {
        return new DeliveryDesk(deliveries.overview(slug), outbox.there());
    }

    @PutMapping("/products/{slug}/delivery/plan")
    DeliveryDesk plan(
            @PathVariable String slug, @Valid @RequestBody PlanEdit wanted, @AuthenticationPrincipal SignedIn me) {
        plans.change(
                me.id(),
                slug,
                new Plans.DeliveryPlan(
                        wanted.gates(),
                        wanted.outbox(),
                        wanted.everyHours(),
                        wanted.times(),
                        wanted.zone(),
                        null,
                        null,
                        "",
                        wanted.version()));
        return desk(slug);
    }

    @PostMapping("/products/{slug}/recipes")
    @ResponseStatus(HttpStatus.CREATED)
    DeliveryDesk addRecipe(
            @PathVariable String slug, @Valid @RequestBody RecipeEdit wanted, @AuthenticationPrincipal SignedIn me) {
        recipes.add(me.id(), slug, wanted.name(), wanted.settings());
        return desk(slug);
    }

    @PutMapping("/products/{slug}/recipes/{id}")
    DeliveryDesk editRecipe(
            @PathVariable String slug,
            @PathVariable long id,
            @Valid @RequestBody RecipeEdit wanted,
            @AuthenticationPrincipal SignedIn me) {
        recipes.edit(
                me.id(), slug, new Recipe(id, wanted.name(), wanted.settings(), wanted.active(), wanted.version()));
        return desk(slug);
    }

    @DeleteMapping("/products/{slug}/recipes/{id}")
    DeliveryDesk removeRecipe(
            @PathVariable String slug,
            @PathVariable long id,
            @RequestParam int version,
            @AuthenticationPrincipal SignedIn me) {
        recipes.remove(me.id(), slug, id, version);
        return desk(slug);
    }

    /** What a recipe would make, by its first entries. */
    @PostMapping("/products/{slug}/recipes/example")
    List<RecipeExample> example(@PathVariable String slug, @Valid @RequestBody Recipe.RecipeSettings settings) {
        return deliveries.example(slug, settings);
    }

    /** What files of such a recipe would not hold, by language; every text is looked at. */
    @PostMapping("/products/{slug}/recipes/losses")
    List<LanguageFiles.LanguageLosses> losses(
            @PathVariable String slug,
            @Valid @RequestBody Recipe.RecipeSettings settings,
            @AuthenticationPrincipal SignedIn me) {
        return deliveries.losses(me.id(), slug, settings);
    }

    @GetMapping("/products/{slug}/deliveries")
    List<DeliveryReply> history(@PathVariable String slug, @RequestParam(defaultValue = "2147483647") int before) {
        return deliveries.history(slug, before);
    }

    /** Starts a delivery, which goes on after the reply. */
    @PostMapping("/products/{slug}/deliveries")
    @ResponseStatus(HttpStatus.ACCEPTED)
    void deliver(@PathVariable String slug, @AuthenticationPrincipal SignedIn me) {
        deliveries.start(me.id(), slug);
    }

    /** How the delivery stands that is going on or was the last to go on. */
    @GetMapping("/products/{slug}/deliveries/run")
    RunReply run(@PathVariable String slug) {
        return deliveries.run(slug).orElseThrow(() -> Refusal.notFound("no-run", "This product was never delivered."));
    }

    @PostMapping("/products/{slug}/deliveries/cancel")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void cancel(@PathVariable String slug, @AuthenticationPrincipal SignedIn me) {
        deliveries.cancel(me.id(), slug);
    }

    /** Everything as it would be delivered now, as a ZIP archive; nothing is kept. */
    @GetMapping("/products/{slug}/deliveries/try")
    void tried(@PathVariable String slug, @AuthenticationPrincipal SignedIn me, HttpServletResponse response)
            throws IOException {
        Path archive = deliveries.tried(me.id(), slug, (made, languages) -> {
            List<Packing.Packed> packed = made.files().stream()
                    .map(file -> new Packing.Packed(
                            file.path(),
                            Packing.hex(file.hash()),
                            file.bytes(),
                            () -> Files.newInputStream(file.content())))
                    .toList();
            return archived(Packing.manifest(slug, languages, packed), packed);
        });
        send(archive, slug + "-try.zip", response);
    }

    @GetMapping("/products/{slug}/deliveries/{number}/files")
    List<DeliveredFile> files(@PathVariable String slug, @PathVariable int number) {
        return deliveries.files(slug, number);
    }

    /** A delivery as a ZIP archive: the same bytes whenever it is asked for. */
    @GetMapping("/products/{slug}/deliveries/{number}/archive")
    void archive(@PathVariable String slug, @PathVariable int number, HttpServletResponse response) throws IOException {
        reading.requireAll(SEE);
        KeptDelivery found = deliveries.found(slug, number);
        List<Packing.Packed> packed = files.of(found.id());
        send(archived(files.manifest(found.id(), packed), packed), slug + "-" + number + ".zip", response);
    }

    /** One file of a delivery. */
    @GetMapping("/products/{slug}/deliveries/{number}/file")
    void file(
            @PathVariable String slug,
            @PathVariable int number,
            @RequestParam String path,
            HttpServletResponse response)
            throws IOException {
        reading.requireAll(SEE);
        Packing.Packed file = files.of(deliveries.found(slug, number).id()).stream()
                .filter(one -> one.path().equals(path))
                .findFirst()
                .orElseThrow(() -> Refusal.notFound("no-such-file", "This delivery has no such file."));
        response.setContentType("application/octet-stream");
        response.setContentLengthLong(file.bytes());
        attached(path.substring(path.lastIndexOf('/') + 1), response);
        try (InputStream in = file.content().open()) {
            in.transferTo(response.getOutputStream());
        }
    }

    @GetMapping("/products/{slug}/deliveries/compare")
    Compared compare(@PathVariable String slug, @RequestParam int from, @RequestParam int to) {
        return deliveries.compare(slug, from, to);
    }

    /** What the next delivery would change since the last one. */
    @GetMapping("/products/{slug}/deliveries/ahead")
    Compared ahead(@PathVariable String slug, @AuthenticationPrincipal SignedIn me) {
        return deliveries.ahead(me.id(), slug);
    }

    @PostMapping("/products/{slug}/deliveries/{number}/recall")
    DeliveryDesk recall(
            @PathVariable String slug,
            @PathVariable int number,
            @Valid @RequestBody RecallRequest wanted,
            @AuthenticationPrincipal SignedIn me) {
        deliveries.recall(me.id(), slug, number, wanted.reason());
        outbox.recalled(slug);
        return desk(slug);
    }

    private static Path archived(byte[] manifest, List<Packing.Packed> packed) {
        try {
            Path archive = TempFiles.create(".zip");
            try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(archive))) {
                Packing.zip(manifest, packed, out);
            } catch (IOException | RuntimeException failed) {
                Files.deleteIfExists(archive);
                throw failed;
            }
            return archive;
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    private static void send(Path archive, String name, HttpServletResponse response) throws IOException {
        try {
            response.setContentType("application/zip");
            response.setContentLengthLong(Files.size(archive));
            attached(name, response);
            Files.copy(archive, response.getOutputStream());
        } finally {
            Files.deleteIfExists(archive);
        }
    }

    private static void attached(String name, HttpServletResponse response) {
        response.setHeader(
                HttpHeaders.CONTENT_DISPOSITION,
                ContentDisposition.attachment()
                        .filename(name, StandardCharsets.UTF_8)
                        .build()
                        .toString());
        response.setHeader(HttpHeaders.CACHE_CONTROL, "no-store");
    }
}
