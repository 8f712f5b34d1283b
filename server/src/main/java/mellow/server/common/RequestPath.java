package mellow.server.common;

import jakarta.servlet.http.HttpServletRequest;
import org.springframework.web.util.UrlPathHelper;

/**
 * The path of a request as the controllers will see it: decoded. What is asked about a path before them has to be asked of this one, or {@code /%61pi} would be
 * another door to {@code /api}.
 */
public final class RequestPath {

    private static final UrlPathHelper HELPER = new UrlPathHelper();
    private static final String API = "/api/";

    private RequestPath() {}

    /** The decoded path, without parameters. */
    public static String of(HttpServletRequest request) {
        return HELPER.getPathWithinApplication(request);
    }

    /** Whether it leads to the interface, and not to a page or what pages are made of. */
    public static boolean isApi(HttpServletRequest request) {
        return of(request).startsWith(API);
    }
}
