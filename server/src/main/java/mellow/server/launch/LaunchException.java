package mellow.server.launch;

/** Something that keeps the launcher from going on, in one sentence that says what to do. */
public final class LaunchException extends RuntimeException {

    LaunchException(String sentence) {
        super(sentence);
    }
}
