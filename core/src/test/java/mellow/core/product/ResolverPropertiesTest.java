package mellow.core.product;

import static org.assertj.core.api.Assertions.assertThat;

import com.ibm.icu.util.ULocale;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.Collectors;
import mellow.core.language.LanguageTag;
import org.junit.jupiter.api.Test;

/** What holds of every answer, over products and questions made up at random from CLDR's locales. */
class ResolverPropertiesTest {

    private static final int PRODUCTS = 400;
    private static final int QUESTIONS = 25;

    private final List<LanguageTag> every = java.util.Arrays.stream(ULocale.getAvailableLocales())
            .flatMap(locale -> LanguageTag.parse(locale.toLanguageTag()).stream())
            .distinct()
            .toList();

    @Test
    void theAnswerIsALanguageOfTheProductThatTheAskerCanReadWhereThereIsOne() {
        Random random = new Random(19);
        for (int n = 0; n < PRODUCTS; n++) {
            List<LanguageTag> tags = new ArrayList<>(every);
            Collections.shuffle(tags, random);
            tags = tags.subList(0, 1 + random.nextInt(12));
            ProductLanguages product = new ProductLanguages(
                    tags.stream()
                            .map(tag -> new ProductLanguage(tag, null, random.nextInt(8) == 0, List.of(), ""))
                            .collect(Collectors.toList()),
                    tags.get(0),
                    Map.of());
            LanguageResolver resolver = new LanguageResolver(product);
            for (int q = 0; q < QUESTIONS; q++) {
                LanguageTag asked = every.get(random.nextInt(every.size()));
                LanguageResolver.Answer answer = resolver.tag(asked.value());
                String how = asked + " of " + tags + ": " + Step.line(answer.steps());
                assertThat(tags).as(how).contains(answer.language());
                assertThat(answer.steps())
                        .as(how)
                        .last()
                        .extracting(Step::said)
                        .isEqualTo(answer.language().value());
                boolean readable = product.all().stream()
                        .anyMatch(one -> !one.hidden()
                                && one.tag().language().equals(asked.language())
                                && script(one.tag()).equals(script(asked)));
                if (readable) {
                    assertThat(script(answer.language())).as(how).isEqualTo(script(asked));
                }
                if (tags.contains(asked)) {
                    assertThat(answer.language()).as(how).isEqualTo(asked);
                }
                assertThat(resolver.list(asked.value() + ", " + every.get(random.nextInt(every.size())) + ";q=0.4")
                                .language())
                        .as("a list answers with a language of the product")
                        .isIn(tags);
            }
        }
    }

    private static String script(LanguageTag tag) {
        return ULocale.addLikelySubtags(ULocale.forLanguageTag(tag.value())).getScript();
    }
}
