package mellow.core.check;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import mellow.core.fit.Face;
import mellow.core.language.LanguageTag;
import mellow.core.wordbook.AgreedTerm;
import mellow.core.wordbook.TermFinder;

/**
 * What texts of a language in a table are looked at by, whatever entry they are of. Made once for many texts. Immutable.
 */
public final class Ground {

    private static final Kind[] KINDS = Kind.values();

    private final Facts source;
    private final Facts facts;
    private final TermFinder terms;
    private final Settings settings;
    private final List<Face> faces;
    private final Weight[] weights = new Weight[KINDS.length];

    private Ground(Facts source, Facts facts, TermFinder terms, Settings settings, List<Face> faces) {
        this.source = source;
        this.facts = facts;
        this.terms = terms;
        this.settings = settings;
        this.faces = List.copyOf(faces);
        Arrays.setAll(weights, kind -> settings.weight(KINDS[kind]));
    }

    /** A pair of languages, with no terms, the usual settings and no font. */
    public static Ground of(LanguageTag source, LanguageTag language) {
        return new Ground(
                Facts.of(source), Facts.of(language), TermFinder.of(List.of(), Locale.ROOT), Settings.USUAL, List.of());
    }

    /** The same with what the wordbook agrees on between the two languages. */
    public Ground with(List<AgreedTerm> agreed) {
        return new Ground(source, facts, TermFinder.of(agreed, source.locale()), settings, faces);
    }

    /** The same with other settings. */
    public Ground with(Settings others) {
        return new Ground(source, facts, terms, others, faces);
    }

    /** The same, shown in these fonts: a text must do in each of them. */
    public Ground shownIn(List<Face> others) {
        return new Ground(source, facts, terms, settings, others);
    }

    Facts source() {
        return source;
    }

    Facts facts() {
        return facts;
    }

    TermFinder terms() {
        return terms;
    }

    /** How much a kind counts, quicker than its settings say. */
    Weight weight(Kind kind) {
        return weights[kind.ordinal()];
    }

    Settings settings() {
        return settings;
    }

    List<Face> faces() {
        return faces;
    }
}
