package mellow.core.format.xml;

import java.util.List;
import java.util.Optional;

/** A piece of an XML file with its place: offsets are in UTF-16 units of the file's text, {@code end} is after the last. */
public sealed interface XmlNode {

    /** Where it begins. */
    int start();

    /** Where it ends. */
    int end();

    /**
     * Characters.
     *
     * @param text with references replaced and line ends as LF
     * @param cdata whether it stands in a CDATA section, whose marks belong to it
     */
    record Characters(int start, int end, String text, boolean cdata) implements XmlNode {}

    /**
     * A comment or a processing instruction.
     *
     * @param comment whether it is a comment
     * @param text what stands between its marks
     */
    record Remark(int start, int end, boolean comment, String text) implements XmlNode {}

    /**
     * An attribute.
     *
     * @param namespace its namespace, empty for none
     * @param name its local name
     * @param value with references replaced
     * @param start where the attribute begins
     * @param valueStart after the opening quote
     * @param valueEnd before the closing quote
     */
    record Attribute(String namespace, String name, String value, int start, int valueStart, int valueEnd) {}

    /**
     * An element.
     *
     * @param namespace its namespace, empty for none
     * @param prefix what stands before the colon, empty for none
     * @param name its local name
     * @param attributes in file order, without namespace declarations
     * @param start at its {@code <}
     * @param contentStart after its start tag
     * @param contentEnd before its end tag; equal to {@code contentStart} for {@code <a/>}
     * @param end after its end tag
     * @param children in file order
     */
    record Element(
            String namespace,
            String prefix,
            String name,
            List<Attribute> attributes,
            int start,
            int contentStart,
            int contentEnd,
            int end,
            List<XmlNode> children)
            implements XmlNode {

        /** The attribute of that name without a namespace. */
        public Optional<Attribute> attribute(String wanted) {
            return attribute("", wanted);
        }

        /** The attribute of that name in a namespace. */
        public Optional<Attribute> attribute(String space, String wanted) {
            for (Attribute attribute : attributes) {
                if (attribute.name.equals(wanted) && attribute.namespace.equals(space)) {
                    return Optional.of(attribute);
                }
            }
            return Optional.empty();
        }

        /** Its value, empty when there is no such attribute. */
        public String value(String wanted) {
            return attribute(wanted).map(Attribute::value).orElse("");
        }

        /** Whether it is written {@code <a/>}. */
        public boolean selfClosing() {
            return contentEnd == end;
        }

        /** The elements directly in it. */
        public List<Element> elements() {
            return children.stream()
                    .filter(Element.class::isInstance)
                    .map(Element.class::cast)
                    .toList();
        }

        /** The first element of that local name directly in it. */
        public Optional<Element> first(String wanted) {
            for (XmlNode child : children) {
                if (child instanceof Element element && element.name.equals(wanted)) {
                    return Optional.of(element);
                }
            }
            return Optional.empty();
        }

        /** The elements of that local name directly in it. */
        public List<Element> all(String wanted) {
            return elements().stream()
                    .filter(element -> element.name.equals(wanted))
                    .toList();
        }

        /** All characters in it, those of elements in it included. */
        public String text() {
            StringBuilder text = new StringBuilder();
            appendText(text);
            return text.toString();
        }

        private void appendText(StringBuilder to) {
            for (XmlNode child : children) {
                if (child instanceof Characters characters) {
                    to.append(characters.text);
                } else if (child instanceof Element element) {
                    element.appendText(to);
                }
            }
        }
    }
}
