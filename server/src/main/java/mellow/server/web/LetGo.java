package mellow.server.web;

import jakarta.servlet.ServletException;
import java.io.IOException;
import org.apache.catalina.connector.Request;
import org.apache.catalina.connector.Response;
import org.apache.catalina.valves.ValveBase;
import org.apache.coyote.ActionCode;
import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.stereotype.Component;

/**
 * Closes the line behind a reply where the rest of the body is not waited for. Tomcat would read it on, with a thread, for as long as its sender likes to
 * take; only an error keeps it from that, and none has happened.
 */
@Component
class LetGo implements WebServerFactoryCustomizer<TomcatServletWebServerFactory> {

    /** The attribute of a request whose line is to be closed. */
    static final String ASKED = LetGo.class.getName();

    @Override
    public void customize(TomcatServletWebServerFactory factory) {
        factory.addEngineValves(new Closing());
    }

    private static final class Closing extends ValveBase {

        Closing() {
            super(true);
        }

        @Override
        public void invoke(Request request, Response response) throws IOException, ServletException {
            getNext().invoke(request, response);
            if (request.getAttribute(ASKED) != null && !request.isAsync()) {
                response.finishResponse();
                request.getCoyoteRequest().action(ActionCode.CLOSE_NOW, null);
            }
        }
    }
}
