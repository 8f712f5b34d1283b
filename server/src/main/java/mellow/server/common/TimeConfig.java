package mellow.server.common;

import java.time.Clock;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The clock, injected so that tests can set it. */
@Configuration
class TimeConfig {

    @Bean
    LedgerClock clock() {
        return new LedgerClock(Clock.systemUTC());
    }
}
