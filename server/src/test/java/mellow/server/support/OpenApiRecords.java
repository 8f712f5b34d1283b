package mellow.server.support;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.media.Schema;
import java.lang.reflect.RecordComponent;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import java.util.stream.Stream;
import mellow.server.people.SignedIn;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.customizers.GlobalOpenApiCustomizer;
import org.springdoc.core.utils.SpringDocUtils;
import org.springframework.security.web.csrf.CsrfToken;
import org.springframework.stereotype.Component;

/** Tells the description of the HTTP interface what the code knows: a record's component that is not nullable is always there. */
@Component
class OpenApiRecords implements GlobalOpenApiCustomizer {

    private final Map<String, Class<?>> records = new HashMap<>();

    OpenApiRecords() {
        SpringDocUtils.getConfig().addRequestWrapperToIgnore(SignedIn.class, CsrfToken.class);
        for (JavaClass found : new ClassFileImporter().importPackages("mellow.server")) {
            if (found.isRecord()) {
                records.put(found.getSimpleName(), found.reflect());
            }
        }
    }

    @Override
    public void customise(OpenAPI api) {
        api.setServers(null);
        Map<String, Schema<?>> schemas = new HashMap<>();
        api.getComponents().getSchemas().forEach((name, schema) -> schemas.put(name, (Schema<?>) schema));
        schemas.forEach((name, schema) -> {
            Class<?> type = records.get(name);
            if (type != null) {
                schema.setRequired(always(type).sorted().toList());
            }
        });
    }

    private static Stream<String> always(Class<?> type) {
        return Arrays.stream(type.getRecordComponents())
                .filter(component -> !nullable(component))
                .flatMap(component -> component.getAccessor().isAnnotationPresent(JsonUnwrapped.class)
                        ? always(component.getType())
                        : Stream.of(component.getName()));
    }

    private static boolean nullable(RecordComponent component) {
        return component.getAnnotatedType().isAnnotationPresent(Nullable.class);
    }
}
