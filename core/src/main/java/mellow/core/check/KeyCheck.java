package mellow.core.check;

import com.google.re2j.Pattern;
import java.util.Map;
import mellow.core.text.Text;

/** A key that does not follow the table's rule. It is the entry's, so it is found once and not in every form. */
final class KeyCheck implements Check {

    static void lookAt(String key, Ground ground, Found found) {
        Pattern rule = ground.settings().keys();
        if (rule != null && !rule.matcher(key).matches()) {
            found.add(
                    "key-outside-rule",
                    Text.OTHER,
                    "The key does not follow the table's rule “{rule}”.",
                    Map.of("rule", rule.pattern()));
        }
    }
}
