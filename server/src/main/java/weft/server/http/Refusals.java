package weft.server.http;

import java.io.IOException;
import org.apache.catalina.connector.Request;
import org.apache.catalina.connector.Response;
import org.apache.catalina.core.StandardHost;
import org.apache.catalina.valves.ErrorReportValve;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;

/** What Tomcat refuses before any handler sees it, such as an address that is none, told as problem details too. */
@Component
class Refusals implements WebServerFactoryCustomizer<TomcatServletWebServerFactory> {

    @Override
    public void customize(TomcatServletWebServerFactory factory) {
        factory.addContextCustomizers(context -> {
            if (context.getParent() instanceof StandardHost host) {
                host.setErrorReportValveClass(Report.class.getName());
            }
        });
    }

    /** Made by Tomcat. */
    public static final class Report extends ErrorReportValve {
        @Override
        protected void report(Request request, Response response, @Nullable Throwable failure) {
            var status = HttpStatus.resolve(response.getStatus());
            if (status == null
                    || !status.isError()
                    || response.getContentWritten() > 0
                    || !response.setErrorReported()) {
                return;
            }
            try {
                new Problem(
                                status,
                                status.is4xxClientError()
                                        ? "The request can't be read. Its address or its headers are not as HTTP has them."
                                        : "Something went wrong in Weft. Try again.")
                        .answer(response);
                response.finishResponse();
            } catch (IOException gone) {
                // Nobody reads the answer any more.
            }
        }
    }
}
