package mellow.server.entry;

import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * All that is said about an entry beside its texts.
 *
 * @param key what programs call it
 * @param context tells equal keys apart, empty for none
 * @param note for translators
 * @param reference where it is used
 * @param section the heading it stands under, empty for none
 * @param maxLength longest allowed text in characters, 0 for no limit
 * @param maxLines most allowed lines, 0 for no limit
 * @param maxWidth widest allowed line in pixels, 0 or null for no limit
 * @param tags words to find it by
 * @param translatable false for names and units that are the same in every language
 */
public record Description(
        @NotBlank @Size(max = 1000) String key,
        @NotNull @Size(max = 1000) String context,
        @NotNull @Size(max = 10_000) String note,
        @NotNull @Size(max = 10_000) String reference,
        @NotNull @Size(max = 300) String section,
        @Min(0) @Max(1_000_000) int maxLength,
        @Min(0) @Max(1000) int maxLines,
        @Min(0) @Max(10_000) @Nullable Integer maxWidth,
        @NotNull @Size(max = 30) List<@NotBlank @Size(max = 60) String> tags,
        boolean translatable) {

    public Description {
        tags = tags == null ? List.of() : List.copyOf(tags);
    }
}
