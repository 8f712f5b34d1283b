package mellow.server.export;

import java.nio.charset.Charset;
import java.util.List;
import mellow.core.format.FileFormat;
import mellow.core.format.Traits;
import mellow.core.format.charset.TextEncoding;
import mellow.core.format.registry.Formats;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/** The formats that are read and written, as they say of themselves. */
@RestController
class FormatController {

    /**
     * What can be said of files before one is looked into.
     *
     * @param formats the formats
     * @param charsets the character sets that files are read in, the most usual first
     */
    record FormatsReply(List<FormatReply> formats, List<String> charsets) {}

    /**
     * A format.
     *
     * @param ending the usual ending of a new file, without a dot
     * @param mediaType what HTTP calls it
     * @param apart whether a file holds texts in one language only, beside sources at most
     * @param inPlace whether a file can be written in place
     * @param spellsItself whether a file says its own character set, or there is only one
     */
    record FormatReply(
            String name, String ending, String mediaType, boolean apart, boolean inPlace, boolean spellsItself) {

        static FormatReply of(FileFormat format) {
            Traits traits = format.traits();
            return new FormatReply(
                    traits.name(),
                    traits.ending(),
                    traits.mediaType(),
                    format.apart(),
                    traits.inPlace(),
                    traits.spellsItself());
        }
    }

    /** All of them, those with the plainest marks first. */
    @GetMapping("/api/formats")
    FormatsReply formats() {
        return new FormatsReply(
                Formats.all().stream().map(FormatReply::of).toList(),
                TextEncoding.SUPPORTED.stream().map(Charset::name).toList());
    }
}
