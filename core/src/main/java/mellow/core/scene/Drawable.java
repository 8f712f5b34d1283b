package mellow.core.scene;

import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What may stand in a drawing: elements and attributes of SVG 2 that draw and nothing else. Anything that is not named here is left out. */
final class Drawable {

    static final Set<String> ELEMENTS = Set.of(
            "svg",
            "g",
            "defs",
            "rect",
            "circle",
            "ellipse",
            "line",
            "polyline",
            "polygon",
            "path",
            "text",
            "tspan",
            "image",
            "use",
            "title",
            "desc",
            "linearGradient",
            "radialGradient",
            "stop",
            "clipPath");

    private static final Set<String> ATTRIBUTES = Set.of(
            "x",
            "y",
            "x1",
            "y1",
            "x2",
            "y2",
            "dx",
            "dy",
            "cx",
            "cy",
            "r",
            "rx",
            "ry",
            "fx",
            "fy",
            "d",
            "points",
            "width",
            "height",
            "viewBox",
            "transform",
            "preserveAspectRatio",
            "offset",
            "gradientUnits",
            "gradientTransform",
            "clipPathUnits",
            "spreadMethod",
            "pathLength",
            "rotate",
            "textLength",
            "lengthAdjust");

    /** Presentation attributes, which a style may set too. */
    private static final Set<String> STYLES = Set.of(
            "fill",
            "fill-opacity",
            "fill-rule",
            "stroke",
            "stroke-width",
            "stroke-opacity",
            "stroke-linecap",
            "stroke-linejoin",
            "stroke-miterlimit",
            "stroke-dasharray",
            "stroke-dashoffset",
            "opacity",
            "color",
            "stop-color",
            "stop-opacity",
            "clip-path",
            "clip-rule",
            "font-size",
            "font-weight",
            "font-style",
            "letter-spacing",
            "word-spacing",
            "text-anchor",
            "dominant-baseline",
            "visibility",
            "display",
            "paint-order",
            "vector-effect");

    private static final Pattern INSIDE = Pattern.compile("url\\(\\s*[\"']?#([A-Za-z_][\\w.-]{0,99})[\"']?\\s*\\)");
    private static final Pattern HARMLESS = Pattern.compile("[-\\w\\s.,#%+()]*");
    private static final Pattern PICTURE = Pattern.compile("data:image/(?:png|jpeg|webp);base64,[A-Za-z0-9+/=\\s]*");
    private static final Pattern NAME = Pattern.compile("[A-Za-z_][\\w.-]{0,99}");

    private Drawable() {}

    /** Names in a scene are its own: a page may have the same. */
    private static String own(String name) {
        return "scene-" + name;
    }

    static Optional<String> name(String value) {
        return NAME.matcher(value).matches() ? Optional.of(own(value)) : Optional.empty();
    }

    /** The name that a reference within the drawing means, {@code #gate}; none for one that leads out of it. */
    static Optional<String> reference(String value) {
        return value.startsWith("#") ? name(value.substring(1)) : Optional.empty();
    }

    /** The value of an attribute that draws, as it may stand; none for one that is left out. */
    static Optional<String> attribute(String name, String value) {
        if (STYLES.contains(name)) {
            return style(name, value);
        }
        return ATTRIBUTES.contains(name) && HARMLESS.matcher(value).matches() ? Optional.of(value) : Optional.empty();
    }

    /** The same for a property of a style. */
    static Optional<String> style(String name, String value) {
        if (!STYLES.contains(name)) {
            return Optional.empty();
        }
        Matcher inside = INSIDE.matcher(value.strip());
        if (inside.matches()) {
            return Optional.of("url(#" + own(inside.group(1)) + ")");
        }
        String lower = value.toLowerCase(Locale.ROOT);
        return HARMLESS.matcher(value).matches() && !lower.contains("url") && !lower.contains("expression")
                ? Optional.of(value)
                : Optional.empty();
    }

    static boolean picture(String value) {
        return PICTURE.matcher(value).matches();
    }
}
