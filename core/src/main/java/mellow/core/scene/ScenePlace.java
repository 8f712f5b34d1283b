package mellow.core.scene;

import java.util.Map;

/**
 * A spot in a scene that shows an entry.
 *
 * @param number from 1
 * @param key the key of the entry
 * @param asset whether it shows a picture and no text
 * @param x where its box begins, in the scene's units
 * @param y its upper edge
 * @param width of the box, 0 where nothing bounds it
 * @param height of the box, 0 where nothing bounds it
 * @param lines how many lines have room
 * @param size of the letters in pixels per em
 * @param align where a line stands in its box
 * @param keepsDirection whether it is not mirrored where people read from right to left
 * @param latinDigits whether numbers keep the digits 0 to 9 in every language
 * @param form the form of the entry that is shown, empty for the one that the values choose
 * @param with sample values by the names of placeholders
 * @param list what the keys of all entries begin with that can stand here, one at a time; empty for this entry alone
 * @param stays for how many seconds it is seen, 0 for as long as the scene
 */
public record ScenePlace(
        int number,
        String key,
        boolean asset,
        double x,
        double y,
        double width,
        double height,
        int lines,
        double size,
        Align align,
        boolean keepsDirection,
        boolean latinDigits,
        String form,
        Map<String, String> with,
        String list,
        double stays) {

    /** The same place with another form of its entry. */
    public ScenePlace in(String other) {
        return new ScenePlace(
                number,
                key,
                asset,
                x,
                y,
                width,
                height,
                lines,
                size,
                align,
                keepsDirection,
                latinDigits,
                other,
                with,
                list,
                stays);
    }

    /** Where a line stands in its box, as people read. */
    public enum Align {
        START,
        MIDDLE,
        END
    }
}
