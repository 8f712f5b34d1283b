package mellow.core.format;

import java.util.List;
import java.util.Optional;

/**
 * How a file was understood where it does not say so itself; somebody may know better.
 *
 * @param key what tells its entries apart; absent where the format leaves no doubt
 * @param keys the habits that are possible in its format
 * @param siblings what siblings by suffix are; absent where it has none
 * @param evidence what spoke for it, as sentences
 */
public record Habits(
        Optional<KeyHabit> key, List<KeyHabit> keys, Optional<SiblingHabit> siblings, List<String> evidence) {

    /** Everything is said in the file. */
    public static final Habits NONE = new Habits(Optional.empty(), List.of(), Optional.empty(), List.of());

    /** Why a file is understood as somebody said. */
    public static final String CHOSEN = "This was chosen, or this path was read so before.";

    public Habits {
        keys = List.copyOf(keys);
        evidence = List.copyOf(evidence);
    }

    /** What tells entries apart, and why. */
    public static Habits ofKeys(KeyHabit habit, List<KeyHabit> possible, String why) {
        return new Habits(Optional.of(habit), possible, Optional.empty(), List.of(why));
    }

    /** What siblings are, and why. */
    public static Habits ofSiblings(SiblingHabit habit, String why) {
        return new Habits(Optional.empty(), List.of(), Optional.of(habit), List.of(why));
    }
}
