package mellow.server.people;

import java.io.Serializable;
import java.security.Principal;

/**
 * The person behind a request, kept in the session.
 *
 * @param id the person's number
 * @param signIn the name they sign in with
 * @param fullName the name others see
 */
public record SignedIn(long id, String signIn, String fullName) implements Principal, Serializable {

    /** The attribute of a request by which filters around this one know that somebody is behind it. */
    public static final String KNOWN = "mellow.known";

    @Override
    public String getName() {
        return signIn;
    }
}
