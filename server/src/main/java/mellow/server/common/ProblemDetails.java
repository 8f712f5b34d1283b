package mellow.server.common;

import java.net.URI;
import java.util.Map;
import mellow.core.format.Problem;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.UnwritableTextException;
import mellow.core.language.LanguageTag;
import mellow.core.text.Places;
import org.apache.catalina.connector.ClientAbortException;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.PessimisticLockingFailureException;
import org.springframework.dao.QueryTimeoutException;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.HttpStatusCode;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.validation.BindingResult;
import org.springframework.validation.FieldError;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.context.request.ServletWebRequest;
import org.springframework.web.context.request.WebRequest;
import org.springframework.web.servlet.mvc.method.annotation.ResponseEntityExceptionHandler;

/** Turns what goes wrong into problem details (RFC 9457): a status, a stable code, a sentence for people, the field or line concerned. */
@RestControllerAdvice
class ProblemDetails extends ResponseEntityExceptionHandler {

    private static final Logger LOG = LoggerFactory.getLogger(ProblemDetails.class);

    @ExceptionHandler
    ResponseEntity<ProblemDetail> refusal(Refusal refusal) {
        return detail(refusal.status(), refusal.code(), String.valueOf(refusal.getMessage()), refusal.details());
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> unreadable(UnreadableFileException unreadable) {
        Problem problem = unreadable.problem();
        Map<String, Object> place = problem.position().known()
                ? Map.of(
                        "line",
                        problem.position().line(),
                        "column",
                        problem.position().column())
                : Map.of();
        return detail(HttpStatus.UNPROCESSABLE_CONTENT, "unreadable-file", problem.sentence(), place);
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> unwritable(UnwritableTextException unwritable) {
        return detail(
                HttpStatus.UNPROCESSABLE_CONTENT, "unwritable-text", String.valueOf(unwritable.getMessage()), Map.of());
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> busy(PessimisticLockingFailureException busy) {
        LOG.info("A write waited too long for another: {}", busy.getMessage());
        return detail(
                HttpStatus.SERVICE_UNAVAILABLE,
                "table-busy",
                "A longer change of this table is going on just now; nothing of yours was saved, try again in a moment.",
                Map.of());
    }

    /** What Jackson was told while it read a body, as what it is. */
    @Override
    protected @Nullable ResponseEntity<Object> handleHttpMessageNotReadable(
            HttpMessageNotReadableException unreadable,
            HttpHeaders headers,
            HttpStatusCode status,
            WebRequest request) {
        for (Throwable cause = unreadable; cause != null; cause = cause.getCause()) {
            if (cause instanceof Refusal refusal) {
                ResponseEntity<ProblemDetail> told = refusal(refusal);
                return ResponseEntity.status(told.getStatusCode()).body(told.getBody());
            }
        }
        return super.handleHttpMessageNotReadable(unreadable, headers, status, request);
    }

    /** What the framework refuses by itself gets a code and a sentence like everything else. */
    @Override
    protected @Nullable ResponseEntity<Object> handleExceptionInternal(
            Exception refused, @Nullable Object body, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
        if (status.is5xxServerError() || request instanceof ServletWebRequest sent && committed(sent)) {
            return super.handleExceptionInternal(refused, body, headers, status, request);
        }
        HttpStatus of = HttpStatus.valueOf(status.value());
        ResponseEntity<ProblemDetail> told =
                switch (of) {
                    case NOT_FOUND -> detail(of, "no-such-address", "There is nothing at this address.", Map.of());
                    case METHOD_NOT_ALLOWED ->
                        detail(of, "not-asked-so", "This address cannot be asked in this way.", Map.of());
                    case UNSUPPORTED_MEDIA_TYPE, NOT_ACCEPTABLE ->
                        detail(of, "other-kind", "This address takes and gives another kind of content.", Map.of());
                    case CONTENT_TOO_LARGE -> detail(of, "too-large", "This is more than is taken at once.", Map.of());
                    default -> refused instanceof BindingResult wrong ? field(of, wrong) : malformed(of);
                };
        return ResponseEntity.status(told.getStatusCode()).headers(headers).body(told.getBody());
    }

    private static boolean committed(ServletWebRequest sent) {
        return sent.getResponse() != null && sent.getResponse().isCommitted();
    }

    private static ResponseEntity<ProblemDetail> field(HttpStatus status, BindingResult wrong) {
        FieldError first = wrong.getFieldError();
        if (first == null) {
            return malformed(status);
        }
        Map<String, Object> details =
                Map.of("field", first.getField(), "why", String.valueOf(first.getDefaultMessage()));
        return detail(
                status, "wrong-field", Places.filled("“{field}” cannot be taken like this: {why}.", details), details);
    }

    private static ResponseEntity<ProblemDetail> malformed(HttpStatus status) {
        return detail(status, "malformed", "This request is not of the form that is expected here.", Map.of());
    }

    /** The browser went away while the reply was on its way: there is nobody to tell, and nothing is wrong. */
    @ExceptionHandler
    void gone(ClientAbortException gone) {
        LOG.debug("A browser left before its reply", gone);
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> unforeseen(Exception unforeseen) {
        if (DatabaseAway.is(unforeseen)) {
            LOG.warn("The database is away: {}", unforeseen.getMessage());
            return detail(HttpStatus.SERVICE_UNAVAILABLE, DatabaseAway.CODE, DatabaseAway.SENTENCE, Map.of());
        }
        if (unforeseen instanceof QueryTimeoutException) {
            LOG.warn("A request took too long: {}", unforeseen.getMessage());
            return detail(
                    HttpStatus.SERVICE_UNAVAILABLE,
                    "took-too-long",
                    "This took longer than a minute and was given up, and nothing was changed; ask for less at once.",
                    Map.of());
        }
        LOG.error("A request failed", unforeseen);
        return detail(
                HttpStatus.INTERNAL_SERVER_ERROR,
                "unforeseen",
                "The server could not do this, and nothing was changed; its log says why.",
                Map.of());
    }

    private static ResponseEntity<ProblemDetail> detail(
            HttpStatus status, String code, String sentence, Map<String, Object> details) {
        ProblemDetail detail = ProblemDetail.forStatusAndDetail(status, sentence);
        detail.setType(URI.create("urn:mellow:problem:" + code));
        detail.setProperty("code", code);
        details.forEach(
                (name, value) -> detail.setProperty(name, value instanceof LanguageTag tag ? tag.value() : value));
        return ResponseEntity.status(status).body(detail);
    }
}
