package mellow.core.scene;

import java.util.List;

/**
 * A drawing of a product, cleaned: what is in {@link #drawing} can be put into a page as it is.
 *
 * @param width in the drawing's own units, which are pixels of the product
 * @param height in the same
 * @param drawing SVG in which an element with {@code data-place="3"} is the third place
 * @param places in the order in which they stand in the drawing
 * @param picture whether it is a picture with marked places and nothing else
 */
public record Scene(double width, double height, String drawing, List<ScenePlace> places, boolean picture) {}
