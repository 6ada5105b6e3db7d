package weft.server.http;

import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.util.function.BooleanSupplier;
import org.apache.catalina.connector.Request;
import org.apache.catalina.connector.Response;
import org.apache.catalina.valves.ValveBase;
import org.apache.coyote.ActionCode;
import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.stereotype.Component;

/** Whether the connection that a request came on was closed by whoever sent it. */
@Component
class Connections implements WebServerFactoryCustomizer<TomcatServletWebServerFactory> {

    private static final String CLOSED = Connections.class.getName();

    @Override
    public void customize(TomcatServletWebServerFactory factory) {
        factory.addEngineValves(new ValveBase(true) {
            @Override
            public void invoke(Request request, Response response) throws IOException, ServletException {
                BooleanSupplier closed = () -> closed(request.getCoyoteRequest());
                request.setAttribute(CLOSED, closed);
                getNext().invoke(request, response);
            }
        });
    }

    /** Whether nobody waits for the answer any more. To be asked by the thread of the request, once its body is read. */
    static boolean closed(HttpServletRequest request) {
        return request.getAttribute(CLOSED) instanceof BooleanSupplier closed && closed.getAsBoolean();
    }

    /**
     * Behind the body nothing comes until it is answered: what can be read there is the connection's end. Of a body that does
     * not say how long it is, it is not known where it ends.
     */
    private static boolean closed(org.apache.coyote.Request request) {
        long length = request.getContentLengthLong();
        if (request.getMimeHeaders().getHeader("Transfer-Encoding") != null || request.getBytesRead() < length) {
            return false;
        }
        request.action(ActionCode.AVAILABLE, true);
        return request.getAvailable() > 0;
    }
}
