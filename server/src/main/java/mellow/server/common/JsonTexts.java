package mellow.server.common;

import com.fasterxml.jackson.annotation.Nulls;
import java.time.Instant;
import java.util.Map;
import mellow.core.text.Keepable;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.jackson.autoconfigure.JsonMapperBuilderCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import tools.jackson.core.JsonParser;
import tools.jackson.databind.DeserializationContext;
import tools.jackson.databind.KeyDeserializer;
import tools.jackson.databind.deser.jdk.StringDeserializer;
import tools.jackson.databind.deser.std.StdScalarDeserializer;
import tools.jackson.databind.ext.javatime.deser.InstantDeserializer;
import tools.jackson.databind.module.SimpleModule;

/** Refuses in JSON what no field of any request can hold, so that no field is forgotten: texts, times, nothings in lists. */
@Configuration
class JsonTexts {

    @Bean
    JsonMapperBuilderCustomizer keepableTexts() {
        return builder -> builder.addModule(new SimpleModule("keepable-texts")
                        .addDeserializer(String.class, new Keeping())
                        .addDeserializer(Instant.class, new Sound())
                        .addKeyDeserializer(String.class, new KeepingKey()))
                // Nothing in a list or under a name is nothing that anybody can ask for.
                .changeDefaultNullHandling(nulls -> nulls.withContentNulls(Nulls.FAIL));
    }

    private static final class Sound extends StdScalarDeserializer<Instant> {

        Sound() {
            super(Instant.class);
        }

        @Override
        public Instant deserialize(JsonParser parser, DeserializationContext context) {
            return Times.sound(InstantDeserializer.INSTANT.deserialize(parser, context));
        }
    }

    private static String kept(String text) {
        Keepable.against(text, Integer.MAX_VALUE).ifPresent(why -> {
            throw Refusal.unacceptable("bad-text", "A text in this request " + why + ".", Map.of());
        });
        return text;
    }

    private static final class Keeping extends StdScalarDeserializer<String> {

        Keeping() {
            super(String.class);
        }

        @Override
        public @Nullable String deserialize(JsonParser parser, DeserializationContext context) {
            String text = StringDeserializer.instance.deserialize(parser, context);
            return text == null ? null : kept(text);
        }
    }

    private static final class KeepingKey extends KeyDeserializer {

        @Override
        public Object deserializeKey(String key, DeserializationContext context) {
            return kept(key);
        }
    }
}
