package mellow.server;

import org.springframework.boot.autoconfigure.SpringBootApplication;

/** The server's configuration root. Started by the launcher, and by tests. */
@SpringBootApplication
public class MellowServer {}
