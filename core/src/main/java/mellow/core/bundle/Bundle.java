package mellow.core.bundle;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Function;
import mellow.core.delivery.UndeliverableException;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import mellow.core.product.ProductLanguages;
import mellow.core.product.TextResolver;
import org.jspecify.annotations.Nullable;

/**
 * The texts of one language of a product, as a program reads them.
 *
 * @param texts by name: a plain text, or its forms by their names
 * @param borrowed the language of each text that is not in the language itself, whose plural rules hold for it; empty where nothing is borrowed
 * @param offered names of the texts that are only offered
 */
public record Bundle(Map<String, Object> texts, Map<String, String> borrowed, Set<String> offered) {

    /** Readers of JSON give up on levels without end. */
    private static final int DEEPEST = 100;

    /**
     * A bundle.
     *
     * @param whole whether what is missing is borrowed as people would see it; what no language of the product has is left out
     * @param source the language that the product is written in
     * @param texts what is in force in a language, by entry, in the order of the tables
     * @throws UndeliverableException when two entries have one name
     */
    public static Bundle of(
            ProductLanguages product,
            LanguageTag language,
            LanguageTag source,
            boolean whole,
            Function<LanguageTag, Map<Long, BundleText>> texts) {
        TextResolver resolver = new TextResolver(product, language, source);
        Set<LanguageTag> reads = new LinkedHashSet<>(List.of(language));
        if (whole) {
            reads.addAll(resolver.reads());
            reads.add(source);
        }
        Map<LanguageTag, Map<Long, BundleText>> known = new LinkedHashMap<>();
        Set<Long> entries = new LinkedHashSet<>();
        for (LanguageTag tag : reads) {
            Map<Long, BundleText> of = texts.apply(tag);
            known.put(tag, of);
            entries.addAll(of.keySet());
        }
        Bundle bundle = empty();
        for (long entry : entries) {
            Function<LanguageTag, FileText> inForce =
                    tag -> text(known.getOrDefault(tag, Map.of()).get(entry));
            TextResolver.Answer answer = whole
                    ? resolver.of(inForce, inForce.apply(source), true)
                    : new TextResolver.Answer(inForce.apply(language), language, false, List.of());
            if (!answer.text().isEmpty()) {
                BundleText shown = Objects.requireNonNull(
                        Objects.requireNonNull(known.get(answer.from())).get(entry));
                bundle.put(shown, answer.borrowed() ? answer.from() : null);
            }
        }
        return bundle;
    }

    private static Bundle empty() {
        return new Bundle(new LinkedHashMap<>(), new LinkedHashMap<>(), new LinkedHashSet<>());
    }

    private static FileText text(@Nullable BundleText text) {
        return text == null ? FileText.NONE : FileText.of(text.forms());
    }

    private void put(BundleText text, @Nullable LanguageTag from) {
        if (texts.put(text.name(), text.value()) != null) {
            throw new UndeliverableException(
                    "same-key-in-bundle",
                    "Two entries would be called “{key}” in one bundle; make products of fewer tables.",
                    Map.of("key", text.name()));
        }
        if (from != null) {
            borrowed.put(text.name(), from.value());
        }
        if (text.offered()) {
            offered.add(text.name());
        }
    }

    /**
     * What a program that has a former bundle lacks.
     *
     * @param changed what is new or says something else now
     * @param gone names that are no more
     */
    public record Change(Bundle changed, List<String> gone) {

        /** Whether there is nothing to tell. */
        public boolean isNone() {
            return changed.texts.isEmpty() && gone.isEmpty();
        }
    }

    /** What changed since a former bundle. */
    public Change since(Bundle former) {
        Bundle changed = empty();
        texts.forEach((name, value) -> {
            boolean same = value.equals(former.texts.get(name))
                    && Objects.equals(borrowed.get(name), former.borrowed.get(name))
                    && offered.contains(name) == former.offered.contains(name);
            if (!same) {
                changed.texts.put(name, value);
                String from = borrowed.get(name);
                if (from != null) {
                    changed.borrowed.put(name, from);
                }
                if (offered.contains(name)) {
                    changed.offered.add(name);
                }
            }
        });
        List<String> gone = new ArrayList<>(former.texts.keySet());
        gone.removeIf(texts::containsKey);
        return new Change(changed, gone);
    }

    /**
     * The texts with a level for each part of a name between dots.
     *
     * @throws UndeliverableException when a name is both a text and a level, or has more than {@value #DEEPEST} parts
     */
    public Map<String, Object> nested() {
        Levels root = new Levels();
        texts.forEach((name, value) -> {
            Levels level = root;
            String[] parts = name.split("\\.", -1);
            if (parts.length > DEEPEST) {
                throw new UndeliverableException(
                        "too-deep",
                        "“{key}” has more than {most} parts; ask for a flat bundle.",
                        Map.of("key", name, "most", DEEPEST));
            }
            for (int i = 0; i < parts.length - 1; i++) {
                level = level.level(parts[i], name);
            }
            level.text(parts[parts.length - 1], name, value);
        });
        return root.below;
    }

    /** A level of names. A text with forms is a map as well, so levels are known apart from what they are told as. */
    private static final class Levels {
        private final Map<String, Object> below = new LinkedHashMap<>();
        private final Map<String, Levels> levels = new LinkedHashMap<>();

        Levels level(String part, String name) {
            Levels known = levels.get(part);
            if (known == null) {
                known = new Levels();
                if (below.put(part, known.below) != null) {
                    throw both(name);
                }
                levels.put(part, known);
            }
            return known;
        }

        void text(String part, String name, Object value) {
            if (below.put(part, value) != null) {
                throw both(name);
            }
        }

        private static UndeliverableException both(String name) {
            return new UndeliverableException(
                    "text-and-level",
                    "“{key}” would be a text and a level of others; ask for a flat bundle.",
                    Map.of("key", name));
        }
    }
}
