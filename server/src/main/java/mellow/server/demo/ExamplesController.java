package mellow.server.demo;

import java.io.IOException;
import java.util.Map;
import mellow.server.common.Refusal;
import org.springframework.core.io.ClassPathResource;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;

/** The example of a page that fetches its texts, beside the demo whose product it shows. */
@Controller
class ExamplesController {

    private static final Map<String, MediaType> FILES = Map.of(
            "index.html", MediaType.parseMediaType("text/html;charset=utf-8"),
            "ferry.css", MediaType.parseMediaType("text/css;charset=utf-8"),
            "ferry.js", MediaType.parseMediaType("text/javascript;charset=utf-8"),
            "bundles.js", MediaType.parseMediaType("text/javascript;charset=utf-8"));
    private static final String POLICY =
            "default-src 'none'; script-src 'self'; style-src 'self'; connect-src 'self'; img-src data:; base-uri 'none'; form-action 'none'; frame-ancestors 'none'";

    private final DemoLoader demo;

    ExamplesController(DemoLoader demo) {
        this.demo = demo;
    }

    @GetMapping("/examples/")
    ResponseEntity<byte[]> page() throws IOException {
        return file("index.html");
    }

    @GetMapping("/examples/{file}")
    ResponseEntity<byte[]> file(@PathVariable String file) throws IOException {
        MediaType type = FILES.get(file);
        if (type == null || !demo.loaded()) {
            throw Refusal.notFound("no-example", "There is no such example here; the demo has one.");
        }
        return ResponseEntity.ok()
                .contentType(type)
                .cacheControl(CacheControl.noCache())
                .header("Content-Security-Policy", POLICY)
                .body(new ClassPathResource("examples/" + file).getContentAsByteArray());
    }
}
