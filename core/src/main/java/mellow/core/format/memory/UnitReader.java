package mellow.core.format.memory;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.IntSupplier;
import mellow.core.format.FileReading;
import mellow.core.format.FreshOnly;
import mellow.core.format.Problems;
import mellow.core.format.ReadOptions;
import mellow.core.format.source.SourceText;
import mellow.core.format.xml.XmlNode.Element;
import mellow.core.format.xml.XmlReader;
import mellow.core.format.xml.XmlText;
import mellow.core.language.LanguageTag;

/** Reads documents that are a list of units, each by itself however long the document is. */
abstract class UnitReader {

    private final List<String> roots;
    private final Set<String> units;
    private final String called;

    /**
     * For one kind of document.
     *
     * @param roots names that its root may have
     * @param units names of its units' elements
     * @param called what it is, for sentences
     */
    UnitReader(List<String> roots, Set<String> units, String called) {
        this.roots = roots;
        this.units = units;
        this.called = called;
    }

    /** The source language that an element outside of units states for the whole document. */
    abstract Optional<LanguageTag> stated(Element element);

    /** Takes what a unit says. */
    abstract void unit(Element unit, SourceText source, Units units, Optional<LanguageTag> from);

    final FileReading read(String file, byte[] bytes, ReadOptions options) {
        Problems problems = new Problems(file);
        SourceText source = XmlText.decode(bytes, options.charset(), options.limits(), problems);
        Units read = new Units(source);
        Optional<LanguageTag> from =
                walk(source, options, read::size, (unit, known) -> unit(unit, source, read, known));
        return new FreshOnly(
                read.list(from, problems),
                problems.kept(),
                source.charset().name(),
                Set.of(FileReading.Field.CONTEXT, FileReading.Field.NOTE),
                called);
    }

    /** What is done with the element of a unit, and the language that its document says it is from. */
    @FunctionalInterface
    interface Taker {
        void unit(Element unit, Optional<LanguageTag> from);
    }

    /**
     * Gives each unit of a document to {@code taker}, one after the other.
     *
     * @param size how many units were taken so far
     * @return the language that the units are from, as options or document say
     */
    final Optional<LanguageTag> walk(SourceText source, ReadOptions options, IntSupplier size, Taker taker) {
        XmlReader xml = new XmlReader(source, options.limits().textBytes());
        Optional<LanguageTag> from = options.source();
        boolean root = false;
        for (XmlReader.Event event = xml.next(); event != XmlReader.Event.DONE; event = xml.next()) {
            if (event != XmlReader.Event.START) {
                continue;
            }
            Element element = xml.element();
            if (!root && !roots.contains(element.name())) {
                throw source.refuse(
                        element.start(),
                        "the document is <" + element.name() + ">",
                        "<" + String.join("> or <", roots) + ">");
            }
            root = true;
            if (units.contains(element.name())) {
                source.checkCount(size.getAsInt() + 1, element.start(), options.limits());
                taker.unit(xml.readElement(), from);
            } else if (from.isEmpty()) {
                from = stated(element);
            }
        }
        return from;
    }
}
