package mellow.core.check;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import mellow.core.check.Finding.Severity;
import org.jspecify.annotations.Nullable;

/** Collects what is found in one text, each by the kind that is being asked. */
final class Found {

    /** So many findings of one kind tell enough about one text. */
    private static final int MOST_OF_A_KIND = 50;

    private final List<Finding> findings = new ArrayList<>(0);
    private Kind kind = Kind.PLACEHOLDER;
    private Severity severity = Severity.WARNING;
    private int ofKind;

    void asking(Kind asked, Weight weight) {
        kind = asked;
        severity = weight == Weight.STOP ? Severity.BLOCKER : Severity.WARNING;
        ofKind = 0;
    }

    /** Something in all forms, or in no place of one. */
    void add(String code, String form, String sentence) {
        add(code, form, sentence, Map.of());
    }

    /** The same; {@code values} fill the {@linkplain mellow.core.text.Places places} of the sentence. */
    void add(String code, String form, String sentence, Map<String, Object> values) {
        add(code, form, sentence, values, -1, -1, null);
    }

    /** Something at a place of a form. */
    void add(String code, String form, String sentence, Map<String, Object> values, int start, int end) {
        add(code, form, sentence, values, start, end, null);
    }

    /** Something that one sure change mends: {@code mend} is the whole form as it would be. */
    void add(
            String code,
            String form,
            String sentence,
            Map<String, Object> values,
            int start,
            int end,
            @Nullable Mend mend) {
        if (ofKind++ < MOST_OF_A_KIND) {
            findings.add(new Finding(kind, code, severity, form, sentence, values, start, end, mend));
        }
    }

    List<Finding> all() {
        return findings;
    }
}
