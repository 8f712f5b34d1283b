package mellow.server.support;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.media.Schema;
import java.lang.reflect.RecordComponent;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
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

    private final Map<String, List<Class<?>>> records = new HashMap<>();

    OpenApiRecords() {
        SpringDocUtils.getConfig().addRequestWrapperToIgnore(SignedIn.class, CsrfToken.class);
        for (JavaClass found : new ClassFileImporter().importPackages("mellow.server")) {
            if (found.isRecord()) {
                records.computeIfAbsent(found.getSimpleName(), name -> new ArrayList<>())
                        .add(found.reflect());
            }
        }
    }

    @Override
    public void customise(OpenAPI api) {
        api.setServers(null);
        Map<String, Schema<?>> schemas = new HashMap<>();
        api.getComponents().getSchemas().forEach((name, schema) -> schemas.put(name, (Schema<?>) schema));
        schemas.forEach((name, schema) -> {
            List<Class<?>> named = records.getOrDefault(name, List.of());
            if (!named.isEmpty()) {
                schema.setRequired(always(meant(name, schema, named)).sorted().toList());
            }
        });
    }

    /** The record that a schema describes: several in different packages may have the same name, and only one of them may be told to programs. */
    private static Class<?> meant(String name, Schema<?> schema, List<Class<?>> named) {
        Set<String> told = schema.getProperties() == null
                ? Set.of()
                : schema.getProperties().keySet();
        List<Class<?>> meant = named.stream()
                .filter(type -> components(type).collect(Collectors.toSet()).equals(told))
                .toList();
        if (meant.size() != 1) {
            throw new IllegalStateException("The interface tells of more than one record called " + name
                    + ", which programs cannot tell apart: " + named);
        }
        return meant.get(0);
    }

    private static Stream<String> components(Class<?> type) {
        return Arrays.stream(type.getRecordComponents())
                .flatMap(component -> component.getAccessor().isAnnotationPresent(JsonUnwrapped.class)
                        ? components(component.getType())
                        : Stream.of(component.getName()));
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
