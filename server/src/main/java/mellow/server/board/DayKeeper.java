package mellow.server.board;

import mellow.server.coverage.CoverageService;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.scheduling.annotation.EnableScheduling;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Notes what is left now and then, so that every day keeps its last count. Several servers may do so at once; the note is the same. */
@Component
@EnableScheduling
@ConditionalOnProperty(name = "mellow.keep-days", havingValue = "true", matchIfMissing = true)
class DayKeeper {

    private final CoverageService coverage;

    DayKeeper(CoverageService coverage) {
        this.coverage = coverage;
    }

    @Scheduled(fixedDelayString = "PT10M", initialDelayString = "PT20S")
    void note() {
        coverage.noteDay();
    }
}
