package mellow.server.sheet;

import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import mellow.core.cell.CellState;
import mellow.core.check.Kind;
import mellow.core.text.Keepable;
import mellow.server.common.Refusal;
import mellow.server.common.Times;
import mellow.server.language.LanguageService;
import mellow.server.sheet.Scope.Check;
import mellow.server.sheet.Scope.Code;
import mellow.server.sheet.Scope.Order;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.util.MultiValueMap;
import org.springframework.web.util.UriComponentsBuilder;

/** Reads scopes as addresses spell them. */
@Component
class Scopes {

    /** The value of {@code asked} that shows entries with an open question. */
    static final String OPEN = "open";

    private static final int LONGEST_SAID = 100;

    private final LanguageService languages;

    Scopes(LanguageService languages) {
        this.languages = languages;
    }

    /** The scope of a query string, percent signs and all. */
    Scope of(String query) {
        MultiValueMap<String, String> all =
                UriComponentsBuilder.newInstance().query(query).build().getQueryParams();
        return new Scope(
                list(all, "table"),
                one(all, "product"),
                languages.parse(list(all, "in")),
                states(list(all, "only")),
                order(Objects.requireNonNullElse(one(all, "by"), "section")),
                one(all, "words"),
                one(all, "section"),
                one(all, "tag"),
                number(all, "person"),
                instant(one(all, "since")),
                number(all, "intake"),
                OPEN.equals(one(all, "asked")),
                check(Objects.requireNonNullElse(one(all, "check"), "")),
                code(Objects.requireNonNullElse(one(all, "code"), "")));
    }

    private static @Nullable String one(MultiValueMap<String, String> all, String name) {
        String value = all.getFirst(name);
        if (value == null || value.isEmpty()) {
            return null;
        }
        String said;
        try {
            said = URLDecoder.decode(value, StandardCharsets.UTF_8);
        } catch (IllegalArgumentException noPercent) {
            throw bad(name, value);
        }
        // What stands in a body comes past the look at the parameters of an address.
        if (Keepable.against(said, Keepable.LONGEST).isPresent()) {
            throw bad(name, Keepable.shown(said, LONGEST_SAID));
        }
        return said;
    }

    private static List<String> list(MultiValueMap<String, String> all, String name) {
        String value = one(all, name);
        return value == null ? List.of() : List.of(value.split(","));
    }

    private static @Nullable Long number(MultiValueMap<String, String> all, String name) {
        String value = one(all, name);
        try {
            return value == null ? null : Long.valueOf(value);
        } catch (NumberFormatException none) {
            throw bad(name, value);
        }
    }

    private static @Nullable Instant instant(@Nullable String value) {
        return value == null ? null : Times.parse(value);
    }

    private static Refusal bad(String field, @Nullable String value) {
        return Refusal.unacceptable(
                "bad-scope", "The scope says \u201c{said}\u201d for {field}.", Map.of("field", field, "said", value));
    }

    static Set<CellState> states(List<String> words) {
        Set<CellState> states = EnumSet.noneOf(CellState.class);
        for (String word : words) {
            states.add(Arrays.stream(CellState.values())
                    .filter(state -> state.word().equals(word))
                    .findFirst()
                    .orElseThrow(() -> Refusal.unacceptable(
                            "unknown-state",
                            "\u201c{said}\u201d is no state of a cell.",
                            Map.of("field", "only", "said", word))));
        }
        return states;
    }

    static @Nullable Code code(String word) {
        return switch (word) {
            case "" -> null;
            case "unused" -> Code.UNUSED;
            case "used" -> Code.USED;
            default ->
                throw Refusal.unacceptable(
                        "unknown-use",
                        "Entries can be used or unused in code, not “{said}”.",
                        Map.of("field", "code", "said", word));
        };
    }

    static @Nullable Check check(String word) {
        return switch (word) {
            case "" -> null;
            case "blocker" -> Check.BLOCKER;
            case "any" -> Check.ANY;
            case "scene" -> Check.UNFIT;
            default ->
                Kind.of(word)
                        .map(Check::of)
                        .orElseThrow(() -> Refusal.unacceptable(
                                "unknown-check",
                                "Checks can be blocker, any, scene or a kind of finding, not \u201c{said}\u201d.",
                                Map.of("field", "check", "said", word)));
        };
    }

    static Order order(String word) {
        return Arrays.stream(Order.values())
                .filter(order -> order.name().toLowerCase(Locale.ROOT).equals(word.toLowerCase(Locale.ROOT)))
                .findFirst()
                .orElseThrow(() -> Refusal.unacceptable(
                        "unknown-order",
                        "Entries can be ordered by section, key, changed, length, short or state, not by \u201c{said}\u201d.",
                        Map.of("field", "by", "said", word)));
    }
}
