import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * A program whose texts come from the ledger: fetched when it starts, kept in a folder for when nobody answers. It needs a JDK from 17 on and nothing else:
 *
 * <pre>java FerryTexts.java https://ledger.example deckside fi kept boarding.title tickets.count=3</pre>
 *
 * In between stand the language, by number or tag, and the folder; then what is to be said, with a number where it is counted. A token is read from the variable BUNDLE_TOKEN.
 */
public final class FerryTexts {

    private static final HttpClient HTTP =
            HttpClient.newBuilder().connectTimeout(Duration.ofSeconds(3)).build();

    private final Map<?, ?> bundle;

    private FerryTexts(Map<?, ?> bundle) {
        this.bundle = bundle;
    }

    public static void main(String[] args) throws Exception {
        String address = args[0] + "/api/bundles/" + args[1] + "/" + args[2];
        FerryTexts texts = fetched(address, Path.of(args[3]), args[1] + "-" + args[2]);
        System.out.println("Language: " + texts.bundle.get("language") + ", delivery " + texts.bundle.get("delivery"));
        for (String said : List.of(args).subList(4, args.length)) {
            String[] parts = said.split("=", 2);
            System.out.println(texts.say(parts[0], parts.length == 1 ? null : Long.valueOf(parts[1])));
        }
    }

    /** Asks with the mark of what is kept: an answer of 304 means that it is still the same. Without any answer what is kept is used. */
    private static FerryTexts fetched(String address, Path folder, String name) throws Exception {
        Files.createDirectories(folder);
        Path texts = folder.resolve(name + ".json");
        Path mark = folder.resolve(name + ".etag");
        HttpRequest.Builder asking = HttpRequest.newBuilder(URI.create(address)).timeout(Duration.ofSeconds(10));
        String token = System.getenv("BUNDLE_TOKEN");
        if (token != null) {
            asking.header("Authorization", "Bearer " + token);
        }
        if (Files.exists(texts) && Files.exists(mark)) {
            asking.header("If-None-Match", Files.readString(mark));
        }
        try {
            HttpResponse<String> answer =
                    HTTP.send(asking.build(), HttpResponse.BodyHandlers.ofString(StandardCharsets.UTF_8));
            if (answer.statusCode() == 200) {
                // The texts first: an old mark with new texts asks once too often, a new mark with old texts would keep these for ever.
                Files.writeString(texts, answer.body());
                Files.writeString(mark, answer.headers().firstValue("ETag").orElse(""));
            } else if (answer.statusCode() != 304) {
                System.err.println("The ledger says " + answer.statusCode() + ": " + answer.body());
            }
        } catch (IOException away) {
            System.err.println("The ledger does not answer; these texts were kept.");
        }
        if (!Files.exists(texts)) {
            System.err.println("There are no texts yet.");
            System.exit(1);
        }
        return new FerryTexts((Map<?, ?>) new Json(Files.readString(texts)).value());
    }

    /** A text; its name where no language has it. */
    private String say(String name, Long n) {
        Object text = ((Map<?, ?>) bundle.get("texts")).get(name);
        if (text == null) {
            System.err.println("Missing: " + name);
            return name;
        }
        if (text instanceof Map<?, ?> forms) {
            // A borrowed text follows the rules of the language that it is in.
            Object from = ((Map<?, ?>) bundle.get("borrowed")).get(name);
            String form = form(String.valueOf(from == null ? bundle.get("language") : from), n == null ? 0 : n);
            text = forms.containsKey(form) ? forms.get(form) : forms.get("other");
        }
        return n == null ? text.toString() : text.toString().replace("{n}", Long.toString(n));
    }

    /** The plural form of a whole number (CLDR, plural rules) in the languages of this product. */
    private static String form(String tag, long n) {
        long tens = n % 100;
        long ones = n % 10;
        boolean few = ones >= 2 && ones <= 4 && (tens < 12 || tens > 14);
        return switch (tag.split("-")[0]) {
            case "ja" -> "other";
            case "pl" -> n == 1 ? "one" : few ? "few" : "many";
            case "pt" -> n <= 1 ? "one" : n != 0 && n % 1_000_000 == 0 ? "many" : "other";
            case "ar" ->
                n == 0
                        ? "zero"
                        : n == 1
                                ? "one"
                                : n == 2 ? "two" : tens >= 3 && tens <= 10 ? "few" : tens >= 11 ? "many" : "other";
            default -> n == 1 ? "one" : "other";
        };
    }

    /** JSON (RFC 8259) as maps, strings and numbers; a program that has a library for it uses that. */
    private static final class Json {
        private final String text;
        private int at;

        Json(String text) {
            this.text = text;
        }

        Object value() {
            return switch (text.charAt(at)) {
                case '{' -> object();
                case '"' -> string();
                default -> word();
            };
        }

        private Map<String, Object> object() {
            Map<String, Object> object = new LinkedHashMap<>();
            at++;
            while (text.charAt(at) != '}') {
                if (text.charAt(at) == ',') {
                    at++;
                }
                String name = string();
                at++; // the colon
                object.put(name, value());
            }
            at++;
            return object;
        }

        private String string() {
            StringBuilder string = new StringBuilder();
            for (at++; text.charAt(at) != '"'; at++) {
                char c = text.charAt(at);
                if (c != '\\') {
                    string.append(c);
                    continue;
                }
                char escaped = text.charAt(++at);
                switch (escaped) {
                    case 'n' -> string.append('\n');
                    case 't' -> string.append('\t');
                    case 'r' -> string.append('\r');
                    case 'b' -> string.append('\b');
                    case 'f' -> string.append('\f');
                    case 'u' -> {
                        string.append((char) Integer.parseInt(text.substring(at + 1, at + 5), 16));
                        at += 4;
                    }
                    default -> string.append(escaped);
                }
            }
            at++;
            return string.toString();
        }

        private Object word() {
            int begin = at;
            while (at < text.length() && ",}".indexOf(text.charAt(at)) < 0) {
                at++;
            }
            return text.substring(begin, at);
        }
    }
}
