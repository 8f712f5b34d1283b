package mellow.server.common;

import java.time.DateTimeException;
import java.time.Instant;
import java.util.Map;
import org.springframework.core.convert.converter.Converter;
import org.springframework.stereotype.Component;

/** Times that requests carry: ISO 8601 in UTC, within what databases and people know. */
@Component
public class Times implements Converter<String, Instant> {

    private static final Instant FIRST = Instant.parse("1900-01-01T00:00:00Z");
    private static final Instant LAST = Instant.parse("9999-12-31T23:59:59Z");

    /** Refuses a time that nothing of the record can have. */
    static Instant sound(Instant time) {
        if (time.isBefore(FIRST) || time.isAfter(LAST)) {
            throw Refusal.unacceptable("bad-time", "This is no time of the years 1900 to 9999.", Map.of());
        }
        return time;
    }

    /** Reads a time such as 2026-11-27T14:05:00Z. */
    public static Instant parse(String spelling) {
        try {
            return sound(Instant.parse(spelling));
        } catch (DateTimeException noTime) {
            throw Refusal.unacceptable(
                    "bad-time",
                    "“{said}” is no time; expected one such as 2026-11-27T14:05:00Z.",
                    Map.of("said", spelling));
        }
    }

    @Override
    public Instant convert(String spelling) {
        return parse(spelling);
    }
}
