package mellow.server.common;

import java.net.URI;
import java.util.Map;
import mellow.core.format.Problem;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.UnwritableTextException;
import mellow.core.language.LanguageTag;
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
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
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
