package mellow.server.web;

import jakarta.servlet.http.HttpServletRequest;
import java.util.Map;
import java.util.Optional;
import mellow.core.text.Keepable;
import org.jspecify.annotations.Nullable;

/** What stands in an address, looked at before anything is done with it. */
final class Parameters {

    /** Scopes name hundreds of tables and languages; nothing else comes near. */
    private static final int LONGEST = 20_000;

    private Parameters() {}

    /** What is wrong with the parameters of {@code request}, null for nothing. */
    static @Nullable String unsound(HttpServletRequest request) {
        if (request.getQueryString() == null) {
            return null;
        }
        Map<String, String[]> all;
        try {
            all = request.getParameterMap();
        } catch (IllegalStateException | IllegalArgumentException unreadable) {
            return "The address cannot be read; a percent sign in it stands before two digits of 0 to F.";
        }
        for (Map.Entry<String, String[]> one : all.entrySet()) {
            for (String value : one.getValue()) {
                Optional<String> against = Keepable.against(one.getKey() + value, LONGEST);
                if (against.isPresent()) {
                    return "“" + shown(one.getKey()) + "” in the address " + against.get() + ".";
                }
            }
        }
        return null;
    }

    private static String shown(String name) {
        String plain = name.replaceAll("\\P{Print}", "?");
        return plain.length() > 40 ? plain.substring(0, 40) + "…" : plain;
    }
}
