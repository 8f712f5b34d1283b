package mellow.server;

import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.security.autoconfigure.UserDetailsServiceAutoConfiguration;

/** The server's configuration root. Started by the launcher, and by tests. */
@SpringBootApplication(exclude = UserDetailsServiceAutoConfiguration.class)
public class MellowServer {}
