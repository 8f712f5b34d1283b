package mellow.core.bundle;

import com.ibm.icu.text.NumberingSystem;
import com.ibm.icu.util.ULocale;
import mellow.core.language.LanguageTag;

/** With which digits a language counts. */
public final class Numbering {

    private Numbering() {}

    /** The usual numbering system of a language by its Unicode name, such as {@code latn} or {@code arab} (UTS 35 part 3, numbering systems). */
    public static String of(LanguageTag tag) {
        return NumberingSystem.getInstance(ULocale.forLanguageTag(tag.value())).getName();
    }
}
