package mellow.server.web;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpMethod;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.HandlerExceptionResolver;
import org.springframework.web.servlet.ModelAndView;
import org.springframework.web.servlet.resource.NoResourceFoundException;

/** Gives who types an address that there is not the page, which says so; programs get a problem as everywhere. */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE)
class UnknownAddresses implements HandlerExceptionResolver {

    private final PageController pages;

    UnknownAddresses(PageController pages) {
        this.pages = pages;
    }

    @Override
    public @Nullable ModelAndView resolveException(
            HttpServletRequest request, HttpServletResponse response, @Nullable Object handler, Exception why) {
        boolean person = why instanceof NoResourceFoundException
                && HttpMethod.GET.matches(request.getMethod())
                && Optional.ofNullable(request.getHeader("Accept")).orElse("").contains(MediaType.TEXT_HTML_VALUE)
                && !request.getRequestURI().startsWith("/api/");
        if (!person) {
            return null;
        }
        ResponseEntity<String> page = pages.page();
        response.setStatus(HttpStatus.NOT_FOUND.value());
        page.getHeaders().forEach((name, values) -> values.forEach(value -> response.setHeader(name, value)));
        try {
            response.getOutputStream()
                    .write(Optional.ofNullable(page.getBody()).orElse("").getBytes(StandardCharsets.UTF_8));
        } catch (IOException gone) {
            throw new UncheckedIOException(gone);
        }
        return new ModelAndView();
    }
}
