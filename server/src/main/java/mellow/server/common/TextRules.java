package mellow.server.common;

import java.util.Map;
import mellow.core.format.FileReading;
import mellow.core.format.KeepableEntries;
import mellow.core.text.Keepable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/** What texts have to be like, whatever way they come; how long they may be is a setting. */
@Component
public class TextRules {

    private final int longest;

    TextRules(@Value("${mellow.longest-text:" + Keepable.LONGEST + "}") int longest) {
        this.longest = longest;
    }

    /**
     * Refuses a text that somebody typed.
     *
     * @param field where it stands in the request
     */
    public void require(String text, String field) {
        Keepable.against(text, longest).ifPresent(why -> {
            throw Refusal.unacceptable(
                    text.length() > longest ? "text-too-long" : "bad-text",
                    "This text " + why + ".",
                    Map.of("field", field));
        });
    }

    /** Refuses a file with a text like that; the sentence names the line. */
    public void require(String name, FileReading file) {
        KeepableEntries.require(name, file, longest);
    }
}
