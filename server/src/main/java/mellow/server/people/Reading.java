package mellow.server.people;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import mellow.core.language.LanguageTag;
import mellow.server.common.Refusal;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.stereotype.Component;
import org.springframework.web.context.request.RequestAttributes;
import org.springframework.web.context.request.RequestContextHolder;

/**
 * Which languages whoever asks may read. Usually whoever has a right in one reads the tables in all; where a setting says so, in theirs alone. Asked where the
 * languages of tables are read, so that everything which goes by them is narrowed at once; work that nobody waits for (runs) sees all.
 */
@Component
public class Reading {

    private static final String KNOWN = Reading.class.getName();

    private final PeopleService people;
    private final boolean own;

    Reading(PeopleService people, @Value("${mellow.reading:all}") String reading) {
        this.people = people;
        this.own = own(reading);
    }

    private static boolean own(String reading) {
        return switch (reading) {
            case "all" -> false;
            case "own" -> true;
            default -> throw new IllegalArgumentException("mellow.reading is all or own, not " + reading);
        };
    }

    /** Whether whoever asks may read texts in {@code language}. */
    public boolean reads(LanguageTag language) {
        if (!own) {
            return true;
        }
        Authentication asking = SecurityContextHolder.getContext().getAuthentication();
        if (asking == null || !(asking.getPrincipal() instanceof SignedIn me)) {
            return true;
        }
        Rights rights = rights(me.id());
        return rights.coordinator() || rights.levels().containsKey(language);
    }

    /** Refuses a language that whoever asks may not read. */
    public void require(LanguageTag language) {
        if (!reads(language)) {
            throw Refusal.forbidden(
                    "own-languages-only",
                    "{language} is none of your languages.",
                    Map.of("language", language.value()));
        }
    }

    /** Refuses what holds all languages, such as a file as it came in, to those who read only theirs. */
    public void requireAll(String what) {
        Authentication asking = SecurityContextHolder.getContext().getAuthentication();
        if (own
                && asking != null
                && asking.getPrincipal() instanceof SignedIn me
                && !rights(me.id()).coordinator()) {
            throw Refusal.forbidden("own-languages-only", "Only a coordinator can " + what + " here.");
        }
    }

    /** Asked for every language of every table, so remembered while the request lasts. */
    private Rights rights(long person) {
        RequestAttributes request = RequestContextHolder.getRequestAttributes();
        if (request == null) {
            return people.rights(person);
        }
        @SuppressWarnings("unchecked")
        Map<Long, Rights> known = (Map<Long, Rights>) request.getAttribute(KNOWN, RequestAttributes.SCOPE_REQUEST);
        if (known == null) {
            known = new ConcurrentHashMap<>();
            request.setAttribute(KNOWN, known, RequestAttributes.SCOPE_REQUEST);
        }
        return known.computeIfAbsent(person, people::rights);
    }
}
