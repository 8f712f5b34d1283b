package mellow.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/** The description of the HTTP interface that is checked in is the one that the code gives. */
class OpenApiTest extends ServerTest {

    private static final Path CHECKED_IN = Path.of("../docs/openapi.json");
    private static final String WRITE = "mellow.openapi.write";

    @Autowired
    private MockMvc http;

    @Test
    void isCheckedIn() throws Exception {
        String description =
                http.perform(get("/v3/api-docs")).andReturn().getResponse().getContentAsString(StandardCharsets.UTF_8);
        JsonMapper json = JsonMapper.builder()
                .enable(SerializationFeature.INDENT_OUTPUT)
                .enable(SerializationFeature.ORDER_MAP_ENTRIES_BY_KEYS)
                .build();
        String now = json.writeValueAsString(json.treeToValue(json.readTree(description), Object.class))
                        .replace("\r\n", "\n")
                + "\n";
        if (Boolean.getBoolean(WRITE)) {
            Files.createDirectories(CHECKED_IN.getParent());
            Files.writeString(CHECKED_IN, now);
        }
        assertThat(CHECKED_IN)
                .as("run mvn -pl core,server test -Dtest=OpenApiTest -D%s=true, then npm run types in web", WRITE)
                .hasContent(now);
    }
}
