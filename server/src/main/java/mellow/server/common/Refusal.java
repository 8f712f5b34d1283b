package mellow.server.common;

import java.util.Map;
import mellow.core.text.Places;
import org.springframework.http.HttpStatus;

/**
 * A request that is refused for a reason that people can act on. Becomes a problem detail (RFC 9457) with a stable code.
 *
 * <p>A sentence has its values in places such as {@code {table}}, which its details fill; both are told, so that a client can say the same in other words.
 */
public class Refusal extends RuntimeException {

    private final HttpStatus status;
    private final String code;
    private final transient Map<String, Object> details;

    private Refusal(HttpStatus status, String code, String sentence, Map<String, Object> details) {
        super(Places.filled(sentence, details));
        this.status = status;
        this.code = code;
        this.details = details;
    }

    /** Something that does not exist, or is not to be seen. */
    public static Refusal notFound(String code, String sentence) {
        return notFound(code, sentence, Map.of());
    }

    /** Something that does not exist, or is not to be seen. {@code details} fills the places of the sentence. */
    public static Refusal notFound(String code, String sentence, Map<String, Object> details) {
        return new Refusal(HttpStatus.NOT_FOUND, code, sentence, details);
    }

    /** 404 for an entry that there is not, or not any more. */
    public static Refusal noSuchEntry() {
        return notFound("no-such-entry", "This entry does not exist any more.");
    }

    /** A right that is missing. */
    public static Refusal forbidden(String code, String sentence) {
        return forbidden(code, sentence, Map.of());
    }

    /** A right that is missing. {@code details} fills the places of the sentence. */
    public static Refusal forbidden(String code, String sentence, Map<String, Object> details) {
        return new Refusal(HttpStatus.FORBIDDEN, code, sentence, details);
    }

    /** The record moved on; {@code details} carries what it says now. */
    public static Refusal conflict(String code, String sentence, Map<String, Object> details) {
        return new Refusal(HttpStatus.CONFLICT, code, sentence, details);
    }

    /** Input that cannot be accepted; {@code details} names the field or line. */
    public static Refusal unacceptable(String code, String sentence, Map<String, Object> details) {
        return new Refusal(HttpStatus.UNPROCESSABLE_CONTENT, code, sentence, details);
    }

    /** Input that cannot be accepted. */
    public static Refusal unacceptable(String code, String sentence) {
        return unacceptable(code, sentence, Map.of());
    }

    /** A body over the limit. */
    public static Refusal tooLarge(String code, String sentence) {
        return tooLarge(code, sentence, Map.of());
    }

    /** A body over the limit. {@code details} fills the places of the sentence. */
    public static Refusal tooLarge(String code, String sentence, Map<String, Object> details) {
        return new Refusal(HttpStatus.CONTENT_TOO_LARGE, code, sentence, details);
    }

    /** A body that comes too slowly. */
    public static Refusal tooSlow() {
        return new Refusal(
                HttpStatus.REQUEST_TIMEOUT, "too-slow", "What was sent came too slowly and was given up.", Map.of());
    }

    /** More than the server can do just now. */
    public static Refusal busy(String code, String sentence) {
        return new Refusal(HttpStatus.SERVICE_UNAVAILABLE, code, sentence, Map.of());
    }

    /** Too many attempts. */
    public static Refusal tooMany(String code, String sentence, Map<String, Object> details) {
        return new Refusal(HttpStatus.TOO_MANY_REQUESTS, code, sentence, details);
    }

    /** Signing in failed. */
    public static Refusal unauthorized(String code, String sentence) {
        return new Refusal(HttpStatus.UNAUTHORIZED, code, sentence, Map.of());
    }

    HttpStatus status() {
        return status;
    }

    /** The stable code, for programs. */
    public String code() {
        return code;
    }

    Map<String, Object> details() {
        return details;
    }
}
