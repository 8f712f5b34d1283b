package mellow.core.fit;

import com.sun.jna.Library;
import com.sun.jna.Memory;
import com.sun.jna.Native;
import com.sun.jna.Pointer;
import com.sun.jna.ptr.IntByReference;
import java.util.BitSet;
import org.jspecify.annotations.Nullable;

/**
 * Cuts a font down to some letters, with everything that shaping them needs: joined forms, marks, ligatures, kerning (OpenType, ISO/IEC 14496-22). HarfBuzz
 * does it, in the library of its own that Debian has for it.
 */
public final class FontSubset {

    private static final int COPY = 0;

    /** What is used of libharfbuzz. */
    private interface HarfBuzz extends Library {
        Pointer hb_blob_create(Pointer data, int length, int mode, @Nullable Pointer with, @Nullable Pointer destroy);

        Pointer hb_blob_get_data(Pointer blob, IntByReference length);

        void hb_blob_destroy(Pointer blob);

        Pointer hb_face_create(Pointer blob, int index);

        Pointer hb_face_reference_blob(Pointer face);

        void hb_face_destroy(Pointer face);

        void hb_set_add(Pointer set, int letter);
    }

    /** What is used of libharfbuzz-subset. */
    private interface Cutter extends Library {
        @Nullable
        Pointer hb_subset_input_create_or_fail();

        Pointer hb_subset_input_unicode_set(Pointer input);

        @Nullable
        Pointer hb_subset_or_fail(Pointer face, Pointer input);

        void hb_subset_input_destroy(Pointer input);
    }

    /** Loaded when the first font is cut: a server that cuts none needs neither library. */
    private static final class Libraries {
        static final HarfBuzz FONTS = Native.load("libharfbuzz.so.0", HarfBuzz.class);
        static final Cutter CUTTER = Native.load("libharfbuzz-subset.so.0", Cutter.class);
    }

    /** This machine has no library that cuts fonts, or it cannot cut this one. */
    public static final class NotCut extends Exception {
        NotCut(String sentence) {
            super(sentence);
        }

        NotCut(String sentence, Throwable cause) {
            super(sentence, cause);
        }
    }

    private FontSubset() {}

    /**
     * The font with only what some letters need; the same bytes for the same font and letters.
     *
     * @param font a font that {@link FontFile#read} took
     * @param letters code points; those that the font lacks are passed over
     * @throws NotCut with a sentence for people
     */
    public static byte[] of(byte[] font, BitSet letters) throws NotCut {
        try {
            byte[] cut = cut(font, letters);
            FontFile.read(cut);
            return cut;
        } catch (FontFile.NoFont nothingLeft) {
            throw new NotCut("The font cannot be cut down; deliver it as it is.", nothingLeft);
        } catch (LinkageError missing) {
            throw new NotCut(
                    "Fonts cannot be cut down on this server: it lacks the package libharfbuzz-subset0.", missing);
        }
    }

    private static byte[] cut(byte[] font, BitSet letters) throws NotCut {
        HarfBuzz fonts = Libraries.FONTS;
        Cutter cutter = Libraries.CUTTER;
        try (Memory bytes = new Memory(font.length)) {
            bytes.write(0, font, 0, font.length);
            Pointer blob = fonts.hb_blob_create(bytes, font.length, COPY, null, null);
            Pointer face = fonts.hb_face_create(blob, 0);
            Pointer input = cutter.hb_subset_input_create_or_fail();
            @Nullable Pointer made = null;
            try {
                if (input != null) {
                    Pointer set = cutter.hb_subset_input_unicode_set(input);
                    letters.stream().forEach(letter -> fonts.hb_set_add(set, letter));
                    made = cutter.hb_subset_or_fail(face, input);
                }
                if (made == null) {
                    throw new NotCut("The font cannot be cut down; deliver it as it is.");
                }
                return bytesOf(fonts, made);
            } finally {
                if (made != null) {
                    fonts.hb_face_destroy(made);
                }
                if (input != null) {
                    cutter.hb_subset_input_destroy(input);
                }
                fonts.hb_face_destroy(face);
                fonts.hb_blob_destroy(blob);
            }
        }
    }

    private static byte[] bytesOf(HarfBuzz fonts, Pointer face) {
        Pointer blob = fonts.hb_face_reference_blob(face);
        try {
            IntByReference length = new IntByReference();
            Pointer data = fonts.hb_blob_get_data(blob, length);
            return data.getByteArray(0, length.getValue());
        } finally {
            fonts.hb_blob_destroy(blob);
        }
    }
}
