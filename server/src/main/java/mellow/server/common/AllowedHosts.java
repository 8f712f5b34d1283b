package mellow.server.common;

import java.net.URI;
import java.net.URISyntaxException;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/** Hosts that whoever starts the server lets it speak to: others could be inside of its own network. Immutable. */
public final class AllowedHosts {

    private static final int LONGEST = 500;
    private static final int HTTP = 80;
    private static final int HTTPS = 443;

    private final Set<String> hosts;

    /** @param hosts names, with a port where it is not the usual one: {@code build.example}, {@code 127.0.0.1:9000} */
    public AllowedHosts(Set<String> hosts) {
        this.hosts = hosts.stream().map(host -> host.toLowerCase(Locale.ROOT)).collect(Collectors.toUnmodifiableSet());
    }

    /** They, in the order of their names. */
    public List<String> names() {
        return hosts.stream().sorted().toList();
    }

    /** Whether the server may speak to that address. */
    public boolean allow(URI address) {
        String host = String.valueOf(address.getHost()).toLowerCase(Locale.ROOT);
        int usual = "https".equals(address.getScheme()) ? HTTPS : HTTP;
        int port = address.getPort() < 0 ? usual : address.getPort();
        return hosts.contains(host + ":" + port) || (port == usual && hosts.contains(host));
    }

    /**
     * The address that somebody typed.
     *
     * @throws Refusal 422 when it is none, or none of these
     */
    public URI require(String address) {
        URI uri;
        try {
            uri = new URI(address.strip());
        } catch (URISyntaxException none) {
            throw noAddress();
        }
        boolean web = "http".equals(uri.getScheme()) || "https".equals(uri.getScheme());
        if (!web
                || uri.getHost() == null
                || uri.getUserInfo() != null
                || uri.getFragment() != null
                || address.length() > LONGEST) {
            throw noAddress();
        }
        if (!allow(uri)) {
            throw Refusal.unacceptable(
                    "host-not-allowed",
                    "This installation does not let {host} be spoken to; whoever starts the server names the hosts that may be.",
                    Map.of("field", "address", "host", uri.getAuthority()));
        }
        return uri;
    }

    private static Refusal noAddress() {
        return Refusal.unacceptable(
                "bad-address",
                "Expected an address such as https://build.example/texts, without a name or a password in it.",
                Map.of("field", "address"));
    }
}
