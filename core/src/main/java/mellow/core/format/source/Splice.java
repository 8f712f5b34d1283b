package mellow.core.format.source;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.CharsetDecoder;
import java.nio.charset.CharsetEncoder;
import java.nio.charset.CodingErrorAction;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import mellow.core.format.UnwritableTextException;

/** Replacements in a {@link SourceText}; every byte outside them is copied as it was. Not thread-safe. */
public final class Splice {

    private static final int CHUNK = 8192;

    private final SourceText source;
    private final CharsetEncoder encoder;
    private final List<Replacement> replacements = new ArrayList<>();
    private final List<Replacement> removals = new ArrayList<>();

    private record Replacement(int start, int end, ByteBuffer by) {}

    Splice(SourceText source) {
        this.source = source;
        this.encoder = source.charset()
                .newEncoder()
                .onMalformedInput(CodingErrorAction.REPORT)
                .onUnmappableCharacter(CodingErrorAction.REPORT);
    }

    /**
     * Replaces the characters from {@code start} up to {@code end}. Replacements do not overlap; insertions at one place keep their order.
     *
     * @param key the entry, for the sentence
     * @throws UnwritableTextException when the character set cannot spell {@code by}
     */
    public void replace(int start, int end, String by, String key) {
        try {
            replacements.add(new Replacement(start, end, encoder.encode(CharBuffer.wrap(by))));
        } catch (CharacterCodingException cannot) {
            encoder.reset();
            String character = by.codePoints()
                    .mapToObj(Character::toString)
                    .filter(c -> !encoder.canEncode(c))
                    .findFirst()
                    .orElse(by);
            throw new UnwritableTextException(key, character, source.charset().name());
        }
    }

    /** Leaves out the characters from {@code start} up to {@code end}, with whatever was replaced among them. */
    public void remove(int start, int end) {
        removals.add(new Replacement(start, end, ByteBuffer.allocate(0)));
    }

    /** What is left of the replacements when removals have swallowed what is inside them; removals that touch become one. */
    private List<Replacement> effective() {
        List<Replacement> joined = new ArrayList<>();
        removals.sort(Comparator.comparingInt(Replacement::start));
        for (Replacement removal : removals) {
            Replacement last = joined.isEmpty() ? null : joined.get(joined.size() - 1);
            if (last != null && removal.start < last.end) {
                joined.set(
                        joined.size() - 1,
                        new Replacement(last.start, Math.max(last.end, removal.end), ByteBuffer.allocate(0)));
            } else {
                joined.add(removal);
            }
        }
        List<Replacement> all = new ArrayList<>(joined);
        for (Replacement replacement : replacements) {
            if (!swallowed(replacement, joined)) {
                all.add(replacement);
            }
        }
        return all;
    }

    private static boolean swallowed(Replacement replacement, List<Replacement> removals) {
        int low = 0;
        int high = removals.size() - 1;
        while (low <= high) {
            int middle = (low + high) >>> 1;
            Replacement removal = removals.get(middle);
            if (removal.end <= replacement.start) {
                low = middle + 1;
            } else if (removal.start > replacement.start) {
                high = middle - 1;
            } else {
                // An insertion right before what is removed stays.
                return replacement.end > replacement.start || replacement.start > removal.start;
            }
        }
        return false;
    }

    /** Writes the whole file. */
    public void writeTo(OutputStream out) throws IOException {
        List<Replacement> ordered = effective();
        ordered.sort(Comparator.comparingInt(Replacement::start).thenComparingInt(Replacement::end));
        ByteBuffer in = ByteBuffer.wrap(source.bytes());
        in.position(source.mark());
        CharsetDecoder decoder = source.charset().newDecoder();
        int copied = 0;
        int at = 0;
        for (Replacement replacement : ordered) {
            if (replacement.start < at) {
                throw new IllegalStateException("replacements overlap at " + replacement.start);
            }
            skip(decoder, in, replacement.start - at);
            out.write(source.bytes(), copied, in.position() - copied);
            skip(decoder, in, replacement.end - replacement.start);
            copied = in.position();
            at = replacement.end;
            out.write(replacement.by.array(), 0, replacement.by.limit());
        }
        out.write(source.bytes(), copied, source.bytes().length - copied);
    }

    /** Moves {@code in} over {@code chars} characters: only decoding tells how many bytes these are in every character set. */
    private static void skip(CharsetDecoder decoder, ByteBuffer in, int chars) {
        CharBuffer skipped = CharBuffer.allocate(CHUNK);
        int left = chars;
        while (left > 0) {
            skipped.clear().limit(Math.min(CHUNK, left));
            decoder.decode(in, skipped, false);
            if (skipped.position() == 0) {
                // A pair of surrogates that the chunk has no room for.
                skipped.limit(2);
                decoder.decode(in, skipped, false);
            }
            left -= skipped.position();
        }
    }
}
