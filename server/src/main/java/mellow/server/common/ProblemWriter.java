package mellow.server.common;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Map;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Writes problem details (RFC 9457) where no controller has been reached: from filters. */
@Component
public class ProblemWriter {

    private final JsonMapper json;

    ProblemWriter(JsonMapper json) {
        this.json = json;
    }

    /** Answers with {@code status} and nothing else. */
    public void write(HttpServletResponse response, HttpStatus status, String code, String sentence)
            throws IOException {
        Map<String, Object> detail = new LinkedHashMap<>();
        detail.put("type", URI.create("urn:mellow:problem:" + code));
        detail.put("title", status.getReasonPhrase());
        detail.put("status", status.value());
        detail.put("detail", sentence);
        detail.put("code", code);
        response.setStatus(status.value());
        response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
        response.setCharacterEncoding(StandardCharsets.UTF_8.name());
        response.getWriter().write(json.writeValueAsString(detail));
    }
}
