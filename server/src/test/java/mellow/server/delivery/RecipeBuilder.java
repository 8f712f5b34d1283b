package mellow.server.delivery;

import java.util.List;

/** Recipes for tests: texts as JSON, a file per language, unless told otherwise. */
final class RecipeBuilder {
    private final String kind;
    private final String format;
    private String files;
    private final String pattern;
    private String texts = "settled";
    private String hole = "out";
    private String charset = "utf-8";
    private String delimiter = "comma";
    private String prefix = "";
    private String namespace = "";
    private boolean nested;
    private boolean numbers;
    private List<String> languages = List.of();

    private RecipeBuilder(String kind, String format, String files, String pattern) {
        this.kind = kind;
        this.format = format;
        this.files = files;
        this.pattern = pattern;
    }

    static RecipeBuilder texts(String format) {
        return new RecipeBuilder("texts", format, "each", "{tag}.{ext}");
    }

    /** The files that tables came from, below a folder. */
    static RecipeBuilder inPlace(String folder) {
        return new RecipeBuilder("texts", "files", "place", folder + "{path}");
    }

    static RecipeBuilder of(String kind, String format, String pattern) {
        return new RecipeBuilder(kind, format, "each", pattern);
    }

    RecipeBuilder going(String which) {
        this.texts = which;
        return this;
    }

    RecipeBuilder hole(String what) {
        this.hole = what;
        return this;
    }

    RecipeBuilder charset(String name) {
        this.charset = name;
        return this;
    }

    RecipeBuilder nested(boolean levels) {
        this.nested = levels;
        return this;
    }

    RecipeBuilder files(String now) {
        this.files = now;
        return this;
    }

    RecipeBuilder delimiter(String now) {
        this.delimiter = now;
        return this;
    }

    RecipeBuilder prefix(String now) {
        this.prefix = now;
        return this;
    }

    RecipeBuilder namespace(String now) {
        this.namespace = now;
        return this;
    }

    RecipeBuilder numbers(boolean now) {
        this.numbers = now;
        return this;
    }

    RecipeBuilder in(String... tags) {
        this.languages = List.of(tags);
        return this;
    }

    Recipe.RecipeSettings build() {
        return new Recipe.RecipeSettings(
                kind,
                format,
                files,
                pattern,
                languages.isEmpty() ? "all" : "chosen",
                languages,
                null,
                texts,
                hole,
                charset,
                delimiter,
                false,
                nested,
                false,
                prefix,
                namespace,
                numbers);
    }
}
