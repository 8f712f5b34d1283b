package mellow.core.scene;

import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.core.format.Limits;
import mellow.core.format.Problems;
import mellow.core.format.source.SourceText;
import mellow.core.format.xml.XmlNode.Attribute;
import mellow.core.format.xml.XmlNode.Characters;
import mellow.core.format.xml.XmlNode.Element;
import mellow.core.format.xml.XmlReader;
import mellow.core.format.xml.XmlReader.Event;
import mellow.core.format.xml.XmlText;
import mellow.core.scene.ScenePlace.Align;
import org.jspecify.annotations.Nullable;

/**
 * Reads a drawing (SVG 2) as a scene. A text whose content is {@code #key#}, and any text or image with {@code data-entry="key"}, is a place; its box is given
 * by {@code data-width}, {@code data-height} and {@code data-lines}, else it is the smallest rectangle drawn before around its beginning. Scripts, styles for
 * the whole page, animations, foreign objects, handlers and whatever leads out of the drawing are left out with a warning; a file that is no drawing, or whose
 * copies of copies would fill a screen's memory, is refused with its line. Takes time linear in the file.
 */
public final class SceneReader {

    /** Larger ones are no screen of a product. */
    public static final int LARGEST = 10_000;

    static final int MOST_ELEMENTS = 20_000;
    static final int MOST_PLACES = 500;
    private static final int LONGEST_KEY = 1_000;

    private static final String SVG = "http://www.w3.org/2000/svg";
    private static final String XLINK = "http://www.w3.org/1999/xlink";

    private static final double USUAL_SIZE = 16;
    /** Between a text and the edge of the rectangle around it where the drawing does not tell. */
    private static final double USUAL_MARGIN = 8;

    /** What a drawing says of its parts to those who show it or mark places on it. */
    private static final Map<String, String> REMARKS =
            Map.of("data-keep", "ltr", "data-picture", "marked", "data-cover", "place");

    /** Seconds, of which a turn of a dialogue has few. */
    private static final Pattern STAY = Pattern.compile("\\d{1,3}(?:\\.\\d{1,2})?");

    private static final Pattern MARK = Pattern.compile("#([^#\\s]+)#");
    private static final Pattern LENGTH =
            Pattern.compile("\\s*([-+]?(?:\\d{1,9}(?:\\.\\d{0,9})?|\\.\\d{1,9}))(?:px)?\\s*");
    /** As many places that show one entry of many as a scene may have. */
    private static final int MOST_LISTS = 4;

    private static final Pattern VALUE = Pattern.compile(
            "\\s*[,{]\\s*\"([^\"\\\\]{1,100})\"\\s*:\\s*(?:\"([^\"\\\\]{0,1000})\"|(-?\\d{1,15}(?:\\.\\d{1,9})?))");

    private final SourceText source;
    private final StringBuilder drawing = new StringBuilder();
    private final List<ScenePlace> places = new ArrayList<>();
    private final Deque<Ground> open = new ArrayDeque<>();
    private final List<Rectangle> rectangles = new ArrayList<>();
    private final Map<String, Copied> named = new HashMap<>();
    private final List<Copy> copies = new ArrayList<>();
    private int elements;
    /** How many elements are open with the place that is being read, 0 outside places. */
    private int placeDepth;

    private double width;
    private double height;
    private boolean picture;
    private int covers;
    private int lists;

    /** What holds for everything in an element. */
    private record Ground(
            String name,
            @Nullable String id,
            int before,
            boolean copies,
            double size,
            Align align,
            double stays,
            String transform) {

        Ground withCopies() {
            return new Ground(name, id, before, true, size, align, stays, transform);
        }
    }

    private record Rectangle(double x, double y, double width, double height, String transform) {
        boolean around(double px, double py, String in) {
            return transform.equals(in) && px >= x && px <= x + width && py >= y && py <= y + height;
        }
    }

    private record Copied(int elements, boolean copies) {}

    private record Copy(String of, int start) {}

    private SceneReader(SourceText source) {
        this.source = source;
    }

    /**
     * Reads a drawing.
     *
     * @param problems takes what was left out
     * @throws mellow.core.format.UnreadableFileException for what is no drawing
     */
    public static Scene read(byte[] file, Limits limits, Problems problems) {
        return new SceneReader(XmlText.decode(file, Optional.of(StandardCharsets.UTF_8), limits, problems))
                .scene(limits);
    }

    private Scene scene(Limits limits) {
        XmlReader xml = new XmlReader(source, limits.textBytes());
        int skipping = 0;
        for (Event event = xml.next(); event != Event.DONE; event = xml.next()) {
            switch (event) {
                case START -> {
                    if (skipping > 0 || inPlace() || !start(xml.element())) {
                        skipping++;
                    }
                }
                case END -> {
                    if (skipping > 0) {
                        skipping--;
                    } else {
                        end();
                    }
                }
                case CHARACTERS -> {
                    if (skipping == 0 && xml.node() instanceof Characters characters) {
                        characters(characters);
                    }
                }
                default -> {
                    // Remarks draw nothing.
                }
            }
        }
        requireFewCopies();
        return new Scene(width, height, drawing.toString(), List.copyOf(places), onlyPicture());
    }

    /** Whether there is nothing but a picture and marked places, of which each has a cover and a text: whoever marks it again keeps all of it. */
    private boolean onlyPicture() {
        return picture && lists == 0 && covers == places.size() && elements == 2 + 2 * places.size();
    }

    /** False for an element that is left out with all that is in it. */
    private boolean start(Element element) {
        boolean root = open.isEmpty();
        if (root) {
            root(element);
        } else if (!element.namespace().equals(SVG)
                || !Drawable.ELEMENTS.contains(element.name())
                || element.name().equals("svg")) {
            source.warn(element.start(), "<" + element.name() + ">, which does not draw by itself", "left out");
            return false;
        }
        if (++elements > MOST_ELEMENTS) {
            throw source.refuse(element.start(), "more than " + MOST_ELEMENTS + " elements", "a drawing of one screen");
        }
        Ground around = root ? new Ground("", null, 0, false, USUAL_SIZE, Align.START, 0, "") : open.getFirst();
        Map<String, String> kept = kept(element, root);
        boolean text = element.name().equals("text");
        Ground ground = new Ground(
                element.name(),
                kept.get("id"),
                elements,
                element.name().equals("use"),
                number(kept.get("font-size")).orElse(around.size),
                align(kept.get("text-anchor"), around.align),
                number(kept.get("data-stays")).orElse(around.stays),
                around.transform + kept.getOrDefault("transform", "") + ";");
        open.push(ground);
        if (element.name().equals("rect")) {
            rectangle(kept, ground);
        }
        String key = element.value("data-entry");
        if (key.isEmpty() && text) {
            key = marked(element);
        }
        picture |= kept.containsKey("data-picture");
        covers += kept.containsKey("data-cover") ? 1 : 0;
        if (!key.isEmpty() && (text || element.name().equals("image"))) {
            place(element, key, kept, ground);
        }
        drawing.append('<').append(element.name());
        if (root) {
            drawing.append(" xmlns=\"").append(SVG).append('"');
        }
        kept.forEach((name, value) -> drawing.append(' ')
                .append(name)
                .append("=\"")
                .append(XmlText.escapeAttribute(value))
                .append('"'));
        drawing.append('>');
        return true;
    }

    private void end() {
        if (open.size() == placeDepth) {
            placeDepth = 0;
        }
        Ground ground = open.pop();
        drawing.append("</").append(ground.name).append('>');
        if (ground.id != null) {
            named.putIfAbsent(ground.id, new Copied(elements - ground.before + 1, ground.copies));
        }
        if (ground.copies && !open.isEmpty()) {
            Ground around = open.pop();
            open.push(around.withCopies());
        }
    }

    private void characters(Characters characters) {
        boolean words = !open.isEmpty()
                && switch (open.getFirst().name) {
                    case "text", "tspan", "title", "desc" -> true;
                    default -> false;
                };
        if (words && !inPlace()) {
            drawing.append(XmlText.escape(characters.text()));
        }
    }

    /** Whether what is read stands in a place, whose own words are only there to be replaced. */
    private boolean inPlace() {
        return placeDepth > 0;
    }

    private void root(Element element) {
        if (!element.name().equals("svg") || !element.namespace().equals(SVG)) {
            throw source.refuse(
                    element.start(),
                    "<" + element.name() + ">",
                    "a drawing that begins with <svg xmlns=\"" + SVG + "\">");
        }
        String[] box = element.value("viewBox").strip().split("[\\s,]+");
        OptionalDouble wide = box.length == 4 ? number(box[2]) : number(element.value("width"));
        OptionalDouble high = box.length == 4 ? number(box[3]) : number(element.value("height"));
        if (wide.isEmpty()
                || high.isEmpty()
                || !(wide.getAsDouble() >= 1)
                || !(high.getAsDouble() >= 1)
                || wide.getAsDouble() > LARGEST
                || high.getAsDouble() > LARGEST) {
            throw source.refuse(
                    element.start(),
                    "a drawing without a size, or of another than 1 to " + LARGEST + " pixels",
                    "a viewBox, or width and height in pixels");
        }
        width = wide.getAsDouble();
        height = high.getAsDouble();
    }

    /** The attributes that draw, those of a style among them, in file order. */
    private Map<String, String> kept(Element element, boolean root) {
        Map<String, String> kept = new LinkedHashMap<>();
        for (Attribute attribute : element.attributes()) {
            String name = attribute.name();
            boolean link = name.equals("href")
                    && (attribute.namespace().isEmpty() || attribute.namespace().equals(XLINK));
            if (link) {
                link(element, attribute).ifPresent(value -> kept.put("href", value));
            } else if (!attribute.namespace().isEmpty()) {
                // What drawing programs note for themselves.
                continue;
            } else if (name.equals("style")) {
                for (String declaration : attribute.value().split(";")) {
                    int colon = declaration.indexOf(':');
                    if (colon > 0) {
                        String property =
                                declaration.substring(0, colon).strip().toLowerCase(Locale.ROOT);
                        Drawable.style(
                                        property,
                                        declaration.substring(colon + 1).strip())
                                .ifPresent(value -> kept.put(property, value));
                    }
                }
            } else if (name.equals("id")) {
                Drawable.name(attribute.value()).ifPresent(value -> kept.put("id", value));
            } else if (attribute.value().equals(REMARKS.get(name))
                    || (name.equals("data-stays")
                            && STAY.matcher(attribute.value()).matches())) {
                kept.put(name, attribute.value());
            } else if (!name.startsWith("data-")) {
                Optional<String> value = Drawable.attribute(name, attribute.value());
                value.ifPresent(sound -> kept.put(name, sound));
                if (value.isEmpty() && name.toLowerCase(Locale.ROOT).startsWith("on")) {
                    source.warn(attribute.start(), "“" + name + "”, which runs something", "left out");
                }
            }
        }
        if (root) {
            kept.putIfAbsent("viewBox", "0 0 " + plain(width) + " " + plain(height));
            kept.keySet().removeAll(List.of("width", "height", "x", "y", "id"));
        }
        return kept;
    }

    private Optional<String> link(Element element, Attribute attribute) {
        String value = attribute.value().strip();
        if (element.name().equals("image") && Drawable.picture(value)) {
            return Optional.of(value);
        }
        Optional<String> inside = element.name().equals("image") ? Optional.empty() : Drawable.reference(value);
        if (inside.isEmpty() && element.attribute("data-entry").isEmpty()) {
            source.warn(attribute.start(), "a link out of the drawing", "left out");
        }
        if (element.name().equals("use")) {
            inside.ifPresent(of -> copies.add(new Copy(of, attribute.start())));
        }
        return inside.map(name -> "#" + name);
    }

    private void rectangle(Map<String, String> kept, Ground ground) {
        double wide = number(kept.get("width")).orElse(0);
        double high = number(kept.get("height")).orElse(0);
        if (wide > 0 && high > 0) {
            rectangles.add(new Rectangle(
                    number(kept.get("x")).orElse(0), number(kept.get("y")).orElse(0), wide, high, ground.transform));
        }
    }

    /** The key that a text consists of between number signs, empty for other texts. */
    private String marked(Element element) {
        Element whole = XmlReader.elementAt(source, element.start());
        Matcher mark = MARK.matcher(whole.text().strip());
        return mark.matches() ? mark.group(1) : "";
    }

    private void place(Element element, String key, Map<String, String> kept, Ground ground) {
        if (places.size() == MOST_PLACES) {
            throw source.refuse(element.start(), "more than " + MOST_PLACES + " places", "a drawing of one screen");
        }
        if (key.length() > LONGEST_KEY) {
            throw source.refuse(
                    element.start(), "a key of more than " + LONGEST_KEY + " characters", "the key of an entry");
        }
        boolean asset = element.name().equals("image");
        double x = number(kept.get("x")).orElse(0);
        double y = number(kept.get("y")).orElse(0);
        Rectangle around = asset ? null : smallestAround(x, y, ground.transform);
        double wide = number(element.value("data-width"))
                .orElse(
                        asset
                                ? number(kept.get("width")).orElse(0)
                                : around == null ? 0 : room(around, x, ground.align));
        double high = number(element.value("data-height"))
                .orElse(asset ? number(kept.get("height")).orElse(0) : around == null ? 0 : around.height);
        int lines = (int)
                Math.max(1, Math.min(100, number(element.value("data-lines")).orElse(1)));
        kept.put("data-place", Integer.toString(places.size() + 1));
        places.add(new ScenePlace(
                places.size() + 1,
                key,
                asset,
                x,
                y,
                Math.max(0, wide),
                Math.max(0, high),
                lines,
                ground.size,
                align(element.value("data-align"), ground.align),
                element.value("data-keep").equals("ltr"),
                element.value("data-digits").equals("latn"),
                element.value("data-state").strip(),
                values(element),
                list(element, asset),
                ground.stays));
        placeDepth = open.size();
    }

    private String list(Element element, boolean asset) {
        String list = element.value("data-list").strip();
        if (asset || list.isEmpty()) {
            return "";
        }
        if (++lists > MOST_LISTS || list.length() > LONGEST_KEY) {
            throw source.refuse(
                    element.start(),
                    "more than " + MOST_LISTS + " lists, or one of more than " + LONGEST_KEY + " characters",
                    "a few places with what the keys of their entries begin with");
        }
        return list;
    }

    private @Nullable Rectangle smallestAround(double x, double y, String transform) {
        Rectangle smallest = null;
        for (Rectangle one : rectangles) {
            if (one.around(x, y, transform)
                    && (smallest == null || one.width * one.height <= smallest.width * smallest.height)) {
                smallest = one;
            }
        }
        return smallest;
    }

    /** How wide a line may be in a rectangle, with the margin that it begins with at its other end too. */
    private static double room(Rectangle around, double x, Align align) {
        double left = x - around.x;
        double right = around.x + around.width - x;
        return switch (align) {
            case START -> right - Math.min(left, USUAL_MARGIN);
            case END -> left - Math.min(right, USUAL_MARGIN);
            case MIDDLE -> 2 * Math.min(left, right) - USUAL_MARGIN;
        };
    }

    /** Sample values: a JSON object of names with words or numbers. */
    private Map<String, String> values(Element element) {
        String json = element.value("data-with").strip();
        Map<String, String> values = new LinkedHashMap<>();
        Matcher value = VALUE.matcher(json);
        int end = 0;
        while (value.find(end) && value.start() == end) {
            values.put(value.group(1), value.group(2) != null ? value.group(2) : value.group(3));
            end = value.end();
        }
        if (!json.isEmpty()
                && !json.equals("{}")
                && !json.substring(end).strip().equals("}")) {
            source.warn(
                    element.start(),
                    "sample values that cannot be read, “" + json + "”",
                    "the values up to there; expected {\"n\": 5, \"name\": \"Aino\"}");
        }
        return values;
    }

    private void requireFewCopies() {
        long drawn = elements;
        for (Copy copy : copies) {
            Copied of = named.get(copy.of);
            if (of == null) {
                continue;
            }
            if (of.copies) {
                throw source.refuse(
                        copy.start, "a copy of something that holds copies itself", "copies of plain drawings");
            }
            drawn += of.elements;
            if (drawn > MOST_ELEMENTS) {
                throw source.refuse(
                        copy.start,
                        "more than " + MOST_ELEMENTS + " elements with all copies",
                        "a drawing of one screen");
            }
        }
    }

    private static Align align(@Nullable String named, Align otherwise) {
        return switch (named == null ? "" : named) {
            case "start" -> Align.START;
            case "middle" -> Align.MIDDLE;
            case "end" -> Align.END;
            default -> otherwise;
        };
    }

    private static OptionalDouble number(@Nullable String length) {
        Matcher match = length == null ? null : LENGTH.matcher(length);
        return match != null && match.matches()
                ? OptionalDouble.of(Double.parseDouble(match.group(1)))
                : OptionalDouble.empty();
    }

    private static String plain(double number) {
        return number == Math.rint(number) ? Long.toString((long) number) : Double.toString(number);
    }
}
