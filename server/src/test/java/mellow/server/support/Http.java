package mellow.server.support;

import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.authentication;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.request;

import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import mellow.server.people.SignedIn;
import org.springframework.http.HttpMethod;
import org.springframework.http.MediaType;
import org.springframework.mock.web.MockHttpServletResponse;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.authority.SimpleGrantedAuthority;
import org.springframework.stereotype.Component;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;
import org.springframework.web.context.WebApplicationContext;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Asks the HTTP interface as someone, and reads what it says. */
@Component
public class Http {

    private final WebApplicationContext context;
    private final JsonMapper json;

    Http(WebApplicationContext context, JsonMapper json) {
        this.context = context;
        this.json = json;
    }

    /** A reply. */
    public record Reply(int status, JsonNode body, byte[] bytes, Map<String, String> headers) {

        /** A header of the reply. */
        public String header(String name) {
            return headers.getOrDefault(name, "");
        }

        /** The stable code of a refusal. */
        public String code() {
            return body.path("code").asString("");
        }

        /** The sentence of a refusal. */
        public String sentence() {
            return body.path("detail").asString("");
        }
    }

    /** GET as {@code person}. */
    public Reply get(long person, String path) throws Exception {
        return send(person, request(HttpMethod.GET, URI.create(path)));
    }

    /** POST, PUT or DELETE of a JSON body as {@code person}. */
    public Reply json(long person, HttpMethod method, String path, String body) throws Exception {
        return send(
                person,
                request(method, URI.create(path))
                        .contentType(MediaType.APPLICATION_JSON)
                        .content(body));
    }

    /** POST of bytes as {@code person}. */
    public Reply bytes(long person, String path, byte[] body) throws Exception {
        return send(
                person,
                request(HttpMethod.POST, URI.create(path))
                        .contentType(MediaType.APPLICATION_OCTET_STREAM)
                        .content(body));
    }

    /** Sends {@code request} as nobody and without a CSRF token, as programs do. */
    public Reply anonymous(MockHttpServletRequestBuilder request) throws Exception {
        return perform(request);
    }

    /** Sends {@code request} as {@code person} with a CSRF token. */
    public Reply send(long person, MockHttpServletRequestBuilder request) throws Exception {
        var token = UsernamePasswordAuthenticationToken.authenticated(
                new SignedIn(person, "x", "X"), null, List.of(new SimpleGrantedAuthority("PERSON")));
        return perform(request.with(authentication(token)).with(csrf()));
    }

    private Reply perform(MockHttpServletRequestBuilder request) throws Exception {
        MockHttpServletResponse response =
                context.getBean(MockMvc.class).perform(request).andReturn().getResponse();
        byte[] bytes = response.getContentAsByteArray();
        boolean isJson = String.valueOf(response.getContentType()).contains("json");
        return new Reply(
                response.getStatus(),
                json.readTree(isJson ? new String(bytes, StandardCharsets.UTF_8) : "{}"),
                bytes,
                response.getHeaderNames().stream()
                        .distinct()
                        .collect(Collectors.toMap(name -> name, name -> String.valueOf(response.getHeader(name)))));
    }
}
