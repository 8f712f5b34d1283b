package mellow.core.asset;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** Kinds of files that people see or hear. */
public enum AssetKind {
    /** Portable Network Graphics (ISO/IEC 15948). */
    PNG("PNG", "image/png", "png"),
    /** JPEG in JFIF or Exif (ISO/IEC 10918). */
    JPEG("JPEG", "image/jpeg", "jpg", "jpeg"),
    /** WebP (RFC 9649). */
    WEBP("WebP", "image/webp", "webp"),
    /** Scalable Vector Graphics. */
    SVG("SVG", "image/svg+xml", "svg"),
    /** Vorbis or Opus in Ogg (RFC 3533). */
    OGG("OGG", "audio/ogg", "ogg", "oga", "opus"),
    /** MPEG audio layer III (ISO/IEC 11172-3). */
    MP3("MP3", "audio/mpeg", "mp3"),
    /** RIFF WAVE. */
    WAV("WAV", "audio/wav", "wav");

    private final String title;
    private final String mediaType;
    private final List<String> endings;

    AssetKind(String title, String mediaType, String... endings) {
        this.title = title;
        this.mediaType = mediaType;
        this.endings = List.of(endings);
    }

    /** How people call it. */
    public String title() {
        return title;
    }

    /** Its media type. */
    public String mediaType() {
        return mediaType;
    }

    /** Whether it is heard; else it is seen. */
    public boolean sound() {
        return mediaType.startsWith("audio/");
    }

    /** Its name in addresses, replies and the database. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** The kind of that {@linkplain #word() name}. */
    public static Optional<AssetKind> of(String word) {
        return Arrays.stream(values()).filter(kind -> kind.word().equals(word)).findFirst();
    }

    /** The kind that the ending of a file's name promises, whatever its case; empty for other files. */
    public static Optional<AssetKind> named(String name) {
        int dot = name.lastIndexOf('.');
        String ending = dot < 0 ? "" : name.substring(dot + 1).toLowerCase(Locale.ROOT);
        return Arrays.stream(values())
                .filter(kind -> kind.endings.contains(ending))
                .findFirst();
    }
}
