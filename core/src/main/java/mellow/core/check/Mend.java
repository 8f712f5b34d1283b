package mellow.core.check;

/**
 * The one sure way to mend a finding.
 *
 * @param label what it does, for people: "Make it {n}"
 * @param text the form as it is afterwards
 */
public record Mend(String label, String text) {

    /** A piece of a form replaced. */
    static Mend replacing(String label, String text, int start, int end, String by) {
        return new Mend(label, text.substring(0, start) + by + text.substring(end));
    }
}
