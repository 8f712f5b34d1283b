package mellow.core.check;

/** An entry that says nothing in the source language: some products stop at it, and nobody can translate it. */
final class HoleCheck implements Check {

    @Override
    public void lookAtSource(Form source, Found found) {
        if (source.text().isBlank()) {
            found.add("source-hole", source.name(), "The source says nothing; write what is meant.");
        }
    }
}
