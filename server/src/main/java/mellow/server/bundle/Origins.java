package mellow.server.bundle;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import mellow.server.bundle.BundleAccess.Access;
import mellow.server.common.RequestPath;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/** Says whose pages may read an answer, and answers what their browsers ask before (the Fetch standard, CORS protocol): each product has origins of its own. */
@Component
class Origins {

    private final BundleAccess access;

    Origins(BundleAccess access) {
        this.access = access;
    }

    /** Tells it in the headers of an answer; whether a page may read it. */
    static boolean tell(Access found, HttpServletRequest request, HttpServletResponse response) {
        response.addHeader(HttpHeaders.VARY, HttpHeaders.ORIGIN);
        String origin = request.getHeader(HttpHeaders.ORIGIN);
        boolean any = found.origins().contains("*");
        if (origin == null || !(any || found.origins().contains(origin))) {
            return false;
        }
        response.setHeader(HttpHeaders.ACCESS_CONTROL_ALLOW_ORIGIN, any ? "*" : origin);
        response.setHeader(
                HttpHeaders.ACCESS_CONTROL_EXPOSE_HEADERS,
                "ETag, Retry-After, RateLimit-Limit, RateLimit-Remaining, RateLimit-Reset");
        return true;
    }

    /** Answers a preflight before the framework does, which knows no origins. */
    OncePerRequestFilter filter() {
        return new OncePerRequestFilter() {
            @Override
            protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
                    throws ServletException, IOException {
                if (!request.getMethod().equals("OPTIONS")) {
                    chain.doFilter(request, response);
                    return;
                }
                String[] parts = RequestPath.of(request).split("/");
                String product = parts.length > 3 ? parts[3] : "";
                if (tell(access.look(product, null, request.getRemoteAddr()), request, response)) {
                    response.setHeader(HttpHeaders.ACCESS_CONTROL_ALLOW_METHODS, "GET, HEAD");
                    response.setHeader(HttpHeaders.ACCESS_CONTROL_ALLOW_HEADERS, "Authorization, If-None-Match");
                    response.setHeader(HttpHeaders.ACCESS_CONTROL_MAX_AGE, "600");
                }
                response.setStatus(HttpStatus.NO_CONTENT.value());
            }
        };
    }
}
