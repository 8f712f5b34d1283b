package mellow.server.launch;

import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * What the server believes of a proxy before it: the address that a request came from and whether it came encrypted. Only from the addresses that are named,
 * since anybody can write those headers.
 */
final class TrustedProxy {

    private static final Pattern ADDRESS = Pattern.compile("[0-9a-fA-F.:]{2,45}");

    private TrustedProxy() {}

    /**
     * The server's properties.
     *
     * @param addresses numeric addresses with commas between; null or empty for no proxy
     * @throws LaunchException for something else
     */
    static Map<String, Object> properties(@Nullable String addresses) {
        if (addresses == null || addresses.isBlank()) {
            return Map.of();
        }
        List<String> named =
                Arrays.stream(addresses.split(",")).map(String::strip).toList();
        for (String address : named) {
            if (!ADDRESS.matcher(address).matches()) {
                throw new LaunchException(StartCommand.TRUSTED_PROXY + " holds “" + address
                        + "”; expected numeric addresses with commas between, such as 127.0.0.1.");
            }
        }
        return Map.of(
                "server.forward-headers-strategy",
                "native",
                "server.tomcat.remoteip.internal-proxies",
                named.stream().map(address -> address.replace(".", "[.]")).collect(Collectors.joining("|")),
                "server.tomcat.remoteip.remote-ip-header",
                "x-forwarded-for",
                "server.tomcat.remoteip.protocol-header",
                "x-forwarded-proto");
    }
}
