package mellow.core.product;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import mellow.core.placeholder.Placeholders;
import mellow.core.pseudo.Pretend;

/**
 * Says which text of an entry people see in a language of a product: its own, else one borrowed from the language's own fallbacks, from a less specific tag of
 * the same language and script, from the start language, from the source; else the key. In a pretend language every text is made from the source.
 */
public final class TextResolver {

    private final LanguageTag language;
    private final LanguageTag source;
    private final List<Borrowing> order;
    private final Optional<Pretend> pretend;

    private record Borrowing(LanguageTag from, String code) {}

    /**
     * Answers for one language of a product.
     *
     * @param source the language that the texts of the table are written in
     */
    public TextResolver(ProductLanguages product, LanguageTag language, LanguageTag source) {
        this(product, language, source, Pretend.of(language));
    }

    /**
     * Answers as if one language were another.
     *
     * @param pretend what its texts are made by, empty for a real language
     */
    public TextResolver(ProductLanguages product, LanguageTag language, LanguageTag source, Optional<Pretend> pretend) {
        this.language = language;
        this.source = source;
        this.pretend = pretend;
        Set<LanguageTag> seen = new LinkedHashSet<>();
        List<Borrowing> all = new ArrayList<>();
        seen.add(language);
        product.language(language).ifPresent(own -> own.fallbacks().forEach(tag -> add(tag, "fallback", seen, all)));
        String canonical = Lineage.canonical(language.value()).orElse(language.value());
        for (String parent : Lineage.parents(canonical)) {
            LanguageTag.parse(parent)
                    .filter(tag -> tag.language().equals(language.language()))
                    .ifPresent(tag -> add(tag, "less-specific", seen, all));
        }
        add(product.start(), "start", seen, all);
        this.order = List.copyOf(all);
    }

    private static void add(LanguageTag tag, String code, Set<LanguageTag> seen, List<Borrowing> all) {
        if (seen.add(tag)) {
            all.add(new Borrowing(tag, code));
        }
    }

    /**
     * An answer.
     *
     * @param text what is shown; {@link FileText#NONE} where it is the key
     * @param from the language of what is shown; the own one where nothing was borrowed, the source's where it is the key
     * @param borrowed whether people see another language
     * @param steps how it was found
     */
    public record Answer(FileText text, LanguageTag from, boolean borrowed, List<Step> steps) {}

    /** The languages that texts may be taken from, in order, without the source. */
    public List<LanguageTag> reads() {
        List<LanguageTag> reads = new ArrayList<>();
        reads.add(language);
        order.forEach(one -> reads.add(one.from));
        return reads;
    }

    /**
     * Which text is shown.
     *
     * @param inForce what is in force in a language, {@link FileText#NONE} for nothing
     * @param sourceText what the source says
     * @param translatable whether the entry is for translation: one that is not is the same everywhere and never borrowed
     */
    public Answer of(Function<LanguageTag, FileText> inForce, FileText sourceText, boolean translatable) {
        List<Step> steps = new ArrayList<>();
        if (!translatable) {
            steps.add(new Step("not-for-translation", "not for translation", Map.of()));
            return new Answer(sourceText, source, false, steps);
        }
        if (pretend.isPresent()) {
            steps.add(new Step("pretend-language", "made from the source", Map.of()));
            FileText made = FileText.of(pretend.get().of(sourceText.forms(), Placeholders.COMMON));
            return new Answer(made, language, false, steps);
        }
        if (language.equals(source)) {
            return said(sourceText, source, false, steps);
        }
        FileText own = inForce.apply(language);
        if (!own.isEmpty()) {
            return said(own, language, false, steps);
        }
        steps.add(none(language));
        for (Borrowing one : order) {
            FileText near = one.from.equals(source) ? sourceText : inForce.apply(one.from);
            if (!near.isEmpty()) {
                return said(near, one.from, true, steps);
            }
            steps.add(none(one.from));
        }
        return said(sourceText, source, true, steps);
    }

    private static Answer said(FileText text, LanguageTag from, boolean borrowed, List<Step> steps) {
        if (text.isEmpty()) {
            steps.add(new Step("no-source", "the source has none → the key", Map.of()));
            return new Answer(FileText.NONE, from, true, steps);
        }
        steps.add(new Step("text", "{language}: {text}", Map.of("language", from.value(), "text", text.main())));
        return new Answer(text, from, borrowed, steps);
    }

    private static Step none(LanguageTag tag) {
        return new Step("has-none", "{language} has none", Map.of("language", tag.value()));
    }
}
