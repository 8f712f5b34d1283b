package mellow.server.bundle;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Semaphore;
import java.util.function.Supplier;
import java.util.zip.GZIPOutputStream;
import mellow.core.bundle.Brotli;
import mellow.core.bundle.Bundle;
import mellow.core.bundle.Numbering;
import mellow.core.delivery.UndeliverableException;
import mellow.core.language.LanguageTag;
import mellow.core.product.LanguageResolver;
import mellow.core.product.ProductLanguage;
import mellow.server.bundle.BundleAccess.Granted;
import mellow.server.bundle.BundleAccess.ProductAt;
import mellow.server.common.Hashes;
import mellow.server.common.Refusal;
import mellow.server.delivery.DeliveredTexts;
import mellow.server.delivery.DeliveredTexts.Snapshot;
import mellow.server.delivery.DeliveredTexts.Spoken;
import mellow.server.language.LanguageService;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.ProductReply;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** The answers that products get, made and compressed once per content and kept while they are asked for. */
@Component
class Bodies {

    private static final long KEPT_BYTES = 64L << 20;
    /** A product's languages are read again after that: tables may change beside the product. */
    private static final Duration SPOKEN_FOR = Duration.ofSeconds(5);

    private static final int MADE_AT_ONCE = 2;

    private static final JsonMapper JSON = JsonMapper.shared();

    private final DeliveredTexts delivered;
    private final BundleTexts texts;
    private final ProductService products;
    private final LanguageService languages;
    private final Cache<Key, Body> kept = Caffeine.newBuilder()
            .maximumWeight(KEPT_BYTES)
            .<Key, Body>weigher((key, body) -> body.size())
            .build();
    private final Semaphore turns = new Semaphore(MADE_AT_ONCE);
    private final Cache<ProductAt, Known> known = Caffeine.newBuilder()
            .maximumSize(1_000)
            .expireAfterWrite(SPOKEN_FOR)
            .build();

    /** Last deliveries, by product. */
    private final Cache<Long, Snapshot> lasts;

    Bodies(
            DeliveredTexts delivered,
            BundleTexts texts,
            ProductService products,
            LanguageService languages,
            @Value("${mellow.bundles.remembered:PT0.5S}") Duration forAsLong) {
        this.lasts = Caffeine.newBuilder()
                .maximumSize(1_000)
                .expireAfterWrite(forAsLong)
                .build();
        this.delivered = delivered;
        this.texts = texts;
        this.products = products;
        this.languages = languages;
    }

    /**
     * An answer.
     *
     * @param gzip the same by gzip (RFC 1952)
     * @param brotli the same by Brotli (RFC 7932), null where this machine cannot
     * @param hash SHA-256 of {@code plain} in hexadecimal digits
     */
    record Body(byte[] plain, byte[] gzip, byte @Nullable [] brotli, String hash) {

        private int size() {
            return plain.length + gzip.length + (brotli == null ? 0 : brotli.length);
        }
    }

    /** How a bundle is asked for. */
    record Form(boolean nested, boolean whole) {}

    /** What texts of a language are told as they stand now. */
    record Now(String slug, LanguageTag language, Form form, boolean offers) {}

    private record Known(ProductReply product, Spoken spoken, LanguageResolver resolver) {}

    private record Key(
            Snapshot delivery, @Nullable Snapshot since, ProductAt product, LanguageTag language, Form form) {}

    /** What languages a product speaks. */
    Spoken spoken(Granted granted, String slug) {
        return known(granted, slug).spoken;
    }

    /** Says which of its languages is meant. */
    LanguageResolver resolver(Granted granted, String slug) {
        return known(granted, slug).resolver;
    }

    private Known known(Granted granted, String slug) {
        return known.get(granted.product(), any -> {
            Spoken spoken = delivered.languages(slug);
            return new Known(products.find(slug), spoken, new LanguageResolver(spoken.languages()));
        });
    }

    /**
     * A language of a product in its list.
     *
     * @param numbering the digits that it counts with
     * @param hash of its whole flat bundle, null while nothing was delivered
     */
    record ListedLanguage(
            String tag,
            @Nullable Integer selector,
            String name,
            String direction,
            String numbering,
            @Nullable String hash) {}

    /**
     * What a product may ask for: its languages that are not hidden, of the last delivery.
     *
     * @param delivery its number, null while nothing was delivered
     */
    record Listed(
            String product,
            String start,
            @Nullable Integer delivery,
            @Nullable Instant delivered,
            List<ListedLanguage> languages) {}

    /** The list of a product's languages. Whoever sees texts that were not delivered yet sees it before the first delivery. */
    Body list(Granted granted, String slug) {
        Known known = known(granted, slug);
        Snapshot last = granted.live() ? delivered.last(granted.product().id()).orElse(null) : last(granted);
        List<ListedLanguage> all = new ArrayList<>();
        for (ProductLanguage one : known.spoken.languages().all()) {
            if (!one.hidden()) {
                String tag = one.tag().value();
                String name = known.product.languages().stream()
                        .filter(of -> of.language().tag().equals(tag))
                        .findFirst()
                        .orElseThrow()
                        .shownAs();
                all.add(new ListedLanguage(
                        tag,
                        one.selector(),
                        name,
                        languages.describe(one.tag()).rightToLeft() ? "rtl" : "ltr",
                        Numbering.of(one.tag()),
                        last == null ? null : bundle(granted, slug, last, one.tag(), new Form(false, true)).hash));
            }
        }
        return body(new Listed(
                slug,
                known.spoken.languages().start().value(),
                last == null ? null : last.number(),
                last == null ? null : last.at(),
                all));
    }

    /** The last delivery. */
    Snapshot last(Granted granted) {
        return lasts.get(granted.product().id(), product -> delivered
                .last(product)
                .orElseThrow(() -> Refusal.notFound("nothing-delivered", "Nothing was delivered yet.")));
    }

    /** One that was not recalled. */
    Snapshot numbered(Granted granted, int number) {
        return delivered
                .numbered(granted.product().id(), number)
                .orElseThrow(() -> Refusal.notFound(
                        "no-such-delivery", "There is no delivery no. {number}.", Map.of("number", number)));
    }

    /** All texts of a language in a delivery. */
    Body bundle(Granted granted, String slug, Snapshot of, LanguageTag language, Form form) {
        return kept(
                new Key(of, null, granted.product(), language, form),
                () -> told(slug, language, of, made(granted, slug, of, language, form), form));
    }

    /** What is kept, or is made now, by few at a time: whoever asks for much that nobody asked for before waits, and others do not. */
    private Body kept(Key key, Supplier<Body> making) {
        Body there = kept.getIfPresent(key);
        return there != null ? there : inTurn(() -> kept.get(key, any -> making.get()));
    }

    private <T> T inTurn(Supplier<T> making) {
        turns.acquireUninterruptibly();
        try {
            return making.get();
        } finally {
            turns.release();
        }
    }

    /** What changed in a language between two deliveries. */
    Body change(Granted granted, String slug, Snapshot since, Snapshot of, LanguageTag language, Form form) {
        return kept(new Key(of, since, granted.product(), language, form), () -> {
            Bundle.Change change =
                    made(granted, slug, of, language, form).since(made(granted, slug, since, language, form));
            Map<String, Object> all = head(slug, language, of);
            all.put("since", since.number());
            all.put("texts", texts(change.changed(), form));
            all.put("borrowed", change.changed().borrowed());
            all.put("gone", change.gone());
            return body(all);
        });
    }

    /** All texts of a language as they would be delivered now; it is made anew each time. */
    Body live(Granted granted, Now now) {
        return inTurn(() -> body(told(now, makeNow(granted, now))));
    }

    /** The same before it is told. */
    Bundle now(Granted granted, Now now) {
        return inTurn(() -> makeNow(granted, now));
    }

    private Bundle makeNow(Granted granted, Now now) {
        Spoken spoken = spoken(granted, now.slug);
        return Bundle.of(
                spoken.languages(),
                now.language,
                spoken.source(),
                now.form.whole,
                tag -> texts.now(now.slug, tag, now.offers));
    }

    /** What is told of texts as they stand now. */
    Map<String, Object> told(Now now, Bundle bundle) {
        Map<String, Object> all = head(now.slug, now.language, null);
        all.put("texts", texts(bundle, now.form));
        all.put("borrowed", bundle.borrowed());
        if (now.offers) {
            all.put("offered", bundle.offered());
        }
        return all;
    }

    /** What is told of what changed since somebody was told. */
    Map<String, Object> told(Now now, Bundle.Change change) {
        Map<String, Object> all = told(now, change.changed());
        all.put("gone", change.gone());
        return all;
    }

    private Bundle made(Granted granted, String slug, Snapshot of, LanguageTag language, Form form) {
        Spoken spoken = spoken(granted, slug);
        return Bundle.of(spoken.languages(), language, spoken.source(), form.whole, tag -> texts.of(of, tag));
    }

    private static Body told(String slug, LanguageTag language, Snapshot of, Bundle bundle, Form form) {
        Map<String, Object> all = head(slug, language, of);
        all.put("texts", texts(bundle, form));
        all.put("borrowed", bundle.borrowed());
        return body(all);
    }

    private static Map<String, Object> head(String slug, LanguageTag language, @Nullable Snapshot of) {
        Map<String, Object> head = new LinkedHashMap<>();
        head.put("product", slug);
        head.put("language", language.value());
        if (of != null) {
            head.put("delivery", of.number());
        }
        return head;
    }

    private static Map<String, Object> texts(Bundle bundle, Form form) {
        return form.nested ? bundle.nested() : bundle.texts();
    }

    private static Body body(Object told) {
        byte[] plain = JSON.writeValueAsBytes(told);
        ByteArrayOutputStream packed = new ByteArrayOutputStream();
        try (GZIPOutputStream gzip = new GZIPOutputStream(packed)) {
            gzip.write(plain);
        } catch (IOException impossible) {
            throw new UncheckedIOException(impossible);
        }
        return new Body(
                plain,
                packed.toByteArray(),
                Brotli.packed(plain).orElse(null),
                HexFormat.of().formatHex(Hashes.sha256(plain)));
    }

    /** What stops a bundle, as the answer of a request. */
    static Refusal refused(UndeliverableException stopped) {
        return Refusal.conflict(stopped.code(), stopped.pattern(), stopped.values());
    }
}
