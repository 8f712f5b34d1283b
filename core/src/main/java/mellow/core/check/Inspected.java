package mellow.core.check;

import java.util.SortedMap;

/**
 * A text that is looked at.
 *
 * @param text the text by form, without empty forms
 */
record Inspected(Measure measure, SortedMap<String, String> text, Ground ground) {

    /**
     * One form of it.
     *
     * @param name the form
     * @param source the source that it stands beside
     */
    record Form(Inspected of, String name, String source, String text) {

        Measure measure() {
            return of.measure;
        }
    }

    Form form(String name, String words) {
        return new Form(this, name, measure.source(name), words);
    }
}
