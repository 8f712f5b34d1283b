package mellow.core.asset;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.core.format.Limits;
import mellow.core.format.Problems;
import mellow.core.format.source.SourceText;
import mellow.core.format.source.Splice;
import mellow.core.format.xml.XmlNode.Attribute;
import mellow.core.format.xml.XmlNode.Characters;
import mellow.core.format.xml.XmlNode.Element;
import mellow.core.format.xml.XmlNode.Remark;
import mellow.core.format.xml.XmlReader;
import mellow.core.format.xml.XmlReader.Event;
import mellow.core.format.xml.XmlText;
import org.jspecify.annotations.Nullable;

/**
 * A drawing (SVG 2) of a product: all that draws stays as it is, byte for byte; what runs, what leads out of the file and what no browser draws goes, and is told.
 * Takes time linear in the file.
 *
 * @param content the file without what went; the same array when nothing did
 * @param width in pixels, 0 when the drawing has no size of its own
 * @param height the same
 * @param gone what was taken out, a sentence each, with the file's name and the line
 */
public record Drawing(byte[] content, int width, int height, List<String> gone) {

    private static final String SVG = "http://www.w3.org/2000/svg";
    private static final int MOST_ELEMENTS = 100_000;
    private static final int LARGEST = 100_000;
    private static final long UNKNOWN = -1;
    private static final long TOO_MANY = MOST_ELEMENTS + 1L;
    private static final int DEEPEST = 100;

    private static final Set<String> RUNS = Set.of("script", "foreignobject", "handler", "listener");
    private static final Set<String> MOVES =
            Set.of("animate", "set", "animatemotion", "animatetransform", "animatecolor");
    private static final Set<String> WIDELY_LINKED = Set.of("a");

    private static final Pattern PICTURE =
            Pattern.compile("(?i)data:image/(png|jpeg|jpg|webp|gif)(;[a-z0-9=-]+)*,.*", Pattern.DOTALL);
    private static final Pattern LEADS_OUT =
            Pattern.compile("(?i)@import|url\\(\\s*['\"]?\\s*(?!#|data:image/|data:font/)|\\\\|expression\\(");
    private static final Pattern LENGTH =
            Pattern.compile("\\s*\\+?(\\d{1,6}(?:\\.\\d{0,9})?|\\.\\d{1,9})(px|pt|mm|cm|in)?\\s*");

    /** Whether a file begins like a drawing or another XML file with one. */
    public static boolean seems(byte[] content) {
        String head = new String(content, 0, Math.min(content.length, 2_000), StandardCharsets.UTF_8);
        return head.contains("<svg") || (head.contains("<?xml") && head.contains("svg"));
    }

    /**
     * Reads and cleans a drawing.
     *
     * @param name the file's name, for what is told
     * @throws mellow.core.format.UnreadableFileException for what is no drawing, and for one whose copies of copies would fill a screen's memory
     */
    public static Drawing of(String name, byte[] content) {
        SourceText source = XmlText.decode(content, Optional.empty(), Limits.DEFAULT, new Problems(name));
        return new Cleaner(name, source).clean(content);
    }

    private static final class Cleaner {
        private final String name;
        private final SourceText source;
        private final Splice splice;
        private final List<String> gone = new ArrayList<>();
        private final Deque<Open> open = new ArrayDeque<>();
        private final Map<String, Part> named = new HashMap<>();
        private final Part whole = new Part();
        private int elements;

        /** An element that is open; its part when others can copy it. */
        private record Open(String name, Optional<Part> part) {}

        /** What can be copied. */
        private static final class Part {
            private final List<String> copies = new ArrayList<>(0);
            private int elements;
            private long drawn = UNKNOWN;
        }

        Cleaner(String name, SourceText source) {
            this.name = name;
            this.source = source;
            this.splice = source.splice();
        }

        Drawing clean(byte[] content) {
            XmlReader xml = new XmlReader(source, Limits.DEFAULT.textBytes());
            int width = 0;
            int height = 0;
            int depth = 0;
            int skippedFrom = -1;
            int skippedAt = 0;
            for (Event event = xml.next(); event != Event.DONE; event = xml.next()) {
                switch (event) {
                    case START -> {
                        Element element = xml.element();
                        depth++;
                        if (skippedFrom >= 0) {
                            continue;
                        }
                        if (depth == 1) {
                            root(element);
                            width = size(element, "width", 2);
                            height = size(element, "height", 3);
                        }
                        if (goes(element)) {
                            tell(element.start(), "<" + element.name() + ">");
                            skippedFrom = element.start();
                            skippedAt = depth;
                        } else {
                            attributes(element);
                            begin(element);
                        }
                    }
                    case END -> {
                        if (skippedFrom < 0) {
                            open.pop();
                        } else if (depth == skippedAt) {
                            splice.remove(skippedFrom, xml.offset());
                            skippedFrom = -1;
                        }
                        depth--;
                    }
                    case CHARACTERS -> {
                        if (skippedFrom < 0 && xml.node() instanceof Characters characters) {
                            style(characters);
                        }
                    }
                    case REMARK -> {
                        if (skippedFrom < 0 && xml.node() instanceof Remark remark) {
                            boolean sheet = !remark.comment() && remark.text().startsWith("xml-stylesheet");
                            if (sheet) {
                                tell(remark.start(), "a style sheet from elsewhere");
                                splice.remove(remark.start(), remark.end());
                            }
                        }
                    }
                    default -> {
                        // A declaration draws nothing.
                    }
                }
            }
            requireFewCopies();
            return new Drawing(gone.isEmpty() ? content : written(), width, height, List.copyOf(gone));
        }

        private byte[] written() {
            ByteArrayOutputStream out = new ByteArrayOutputStream();
            try {
                splice.writeTo(out);
            } catch (IOException impossible) {
                throw new UncheckedIOException(impossible);
            }
            return out.toByteArray();
        }

        private void root(Element element) {
            if (!element.name().equals("svg") || !element.namespace().equals(SVG)) {
                throw source.refuse(
                        element.start(),
                        "<" + element.name() + ">",
                        "a drawing that begins with <svg xmlns=\"" + SVG + "\">");
            }
        }

        /** The length of that name in pixels, else that of the view box. */
        private static int size(Element root, String side, int inBox) {
            String[] box = root.value("viewBox").strip().split("[\\s,]+");
            Matcher length = LENGTH.matcher(root.value(side));
            if (length.matches()) {
                return rounded(Double.parseDouble(length.group(1)) * pixels(length.group(2)));
            }
            Matcher boxed = LENGTH.matcher(box.length == 4 ? box[inBox] : "");
            return boxed.matches() ? rounded(Double.parseDouble(boxed.group(1))) : 0;
        }

        /** CSS Values 4 §6.2: an inch is 96 pixels. */
        private static double pixels(@Nullable String unit) {
            return switch (unit == null ? "px" : unit) {
                case "pt" -> 96.0 / 72;
                case "mm" -> 96 / 25.4;
                case "cm" -> 96 / 2.54;
                case "in" -> 96;
                default -> 1;
            };
        }

        private static int rounded(double length) {
            return length > LARGEST ? 0 : (int) Math.round(length);
        }

        private boolean goes(Element element) {
            String lower = element.name().toLowerCase(Locale.ROOT);
            boolean links = MOVES.contains(lower)
                    && element.attributes().stream()
                            .anyMatch(one -> one.name().equals("attributeName") && running(one.value()));
            return RUNS.contains(lower) || links || element.namespace().equals("http://www.w3.org/1999/xhtml");
        }

        /** Whether an attribute of that name runs something or leads somewhere. */
        private static boolean running(String attribute) {
            String bare = attribute.strip().toLowerCase(Locale.ROOT).replaceAll("^.*:", "");
            return bare.equals("href") || bare.startsWith("on");
        }

        private void attributes(Element element) {
            for (Attribute attribute : element.attributes()) {
                String lower = attribute.name().toLowerCase(Locale.ROOT);
                String value = attribute.value().strip();
                boolean runs = lower.startsWith("on");
                boolean out = (lower.equals("href") || lower.equals("src")) && !inside(element, value);
                boolean styles =
                        lower.equals("style") || value.toLowerCase(Locale.ROOT).contains("url(");
                boolean base = lower.equals("base") && !attribute.namespace().isEmpty();
                if (runs || out || base || styles && LEADS_OUT.matcher(value).find()) {
                    tell(
                            attribute.start(),
                            runs ? "“" + attribute.name() + "”, which runs something" : "a link out of the drawing");
                    splice.remove(attribute.start(), attribute.valueEnd() + 1);
                }
            }
        }

        private static boolean inside(Element element, String value) {
            boolean page = WIDELY_LINKED.contains(element.name()) && value.matches("(?i)https?://.*");
            return value.startsWith("#") || page || PICTURE.matcher(value).matches();
        }

        private void style(Characters characters) {
            boolean sheet = !open.isEmpty() && open.getFirst().name.equals("style");
            if (sheet && LEADS_OUT.matcher(characters.text()).find()) {
                tell(characters.start(), "rules of style that lead out of the drawing");
                splice.remove(characters.start(), characters.end());
            }
        }

        private void tell(int offset, String what) {
            gone.add(name + ", line " + source.line(offset) + ": " + what + " was taken out.");
        }

        private void begin(Element element) {
            if (++elements > MOST_ELEMENTS) {
                throw source.refuse(element.start(), "more than " + MOST_ELEMENTS + " elements", "a simpler drawing");
            }
            String id = element.value("id");
            // Of two parts of one name the first is copied.
            Part part = id.isEmpty() || named.containsKey(id) ? null : new Part();
            if (part != null) {
                named.put(id, part);
            }
            open.push(new Open(element.name(), Optional.ofNullable(part)));
            open.forEach(around -> around.part.ifPresent(one -> one.elements++));
            if (element.name().equals("use")) {
                for (Attribute attribute : element.attributes()) {
                    String of = attribute.value().strip();
                    if (attribute.name().equals("href") && of.startsWith("#")) {
                        whole.copies.add(of.substring(1));
                        open.forEach(around -> around.part.ifPresent(one -> one.copies.add(of.substring(1))));
                    }
                }
            }
        }

        /** Copies of what holds copies grow like a tree. */
        private void requireFewCopies() {
            whole.elements = elements;
            if (drawn(whole, 0) > MOST_ELEMENTS) {
                throw source.refuse(0, "more than " + MOST_ELEMENTS + " elements with all copies", "a simpler drawing");
            }
        }

        /** How many elements a part draws with all that it copies; more than enough for a part that copies itself. */
        private long drawn(Part part, int depth) {
            if (part.drawn == UNKNOWN) {
                part.drawn = TOO_MANY;
                long all = part.elements;
                for (String of : part.copies) {
                    Part copied = named.get(of);
                    all += copied == null ? 0 : depth == DEEPEST ? TOO_MANY : drawn(copied, depth + 1);
                    if (all > MOST_ELEMENTS) {
                        break;
                    }
                }
                part.drawn = Math.min(all, TOO_MANY);
            }
            return part.drawn;
        }
    }
}
