package weft.server.http;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ReadListener;
import jakarta.servlet.ServletException;
import jakarta.servlet.ServletInputStream;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletRequestWrapper;
import jakarta.servlet.http.HttpServletResponse;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/** Refuses bodies that are too large: by what they say, and by their bytes as they come, whatever they said. */
@Component
class BodyLimit extends OncePerRequestFilter {

    private static final long LARGEST = 8L << 20;

    /** More came than a body may have. */
    static final class TooLarge extends IOException {}

    static Problem problem() {
        return new Problem(HttpStatus.CONTENT_TOO_LARGE, "The request is too large. The most is 8 MB.");
    }

    /** Files have limits of their own, counted as they come too. */
    @Override
    protected boolean shouldNotFilter(HttpServletRequest request) {
        return isFile(request);
    }

    static boolean isFile(HttpServletRequest request) {
        var type = request.getContentType();
        return type != null && type.startsWith("multipart/");
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws IOException, ServletException {
        if (request.getContentLengthLong() > LARGEST) {
            problem().answer(response);
            return;
        }
        chain.doFilter(new Counted(request), response);
    }

    private static final class Counted extends HttpServletRequestWrapper {

        Counted(HttpServletRequest request) {
            super(request);
        }

        @Override
        public ServletInputStream getInputStream() throws IOException {
            return new CountedStream(super.getInputStream());
        }

        @Override
        public BufferedReader getReader() throws IOException {
            return new BufferedReader(new InputStreamReader(getInputStream(), StandardCharsets.UTF_8));
        }
    }

    private static final class CountedStream extends ServletInputStream {
        private final ServletInputStream bytes;
        private long read;

        CountedStream(ServletInputStream bytes) {
            this.bytes = bytes;
        }

        @Override
        public int read() throws IOException {
            int next = bytes.read();
            count(next < 0 ? 0 : 1);
            return next;
        }

        @Override
        public int read(byte[] into, int from, int most) throws IOException {
            int count = bytes.read(into, from, most);
            count(Math.max(0, count));
            return count;
        }

        private void count(int more) throws TooLarge {
            read += more;
            if (read > LARGEST) {
                throw new TooLarge();
            }
        }

        @Override
        public boolean isFinished() {
            return bytes.isFinished();
        }

        @Override
        public boolean isReady() {
            return bytes.isReady();
        }

        @Override
        public void setReadListener(ReadListener listener) {
            bytes.setReadListener(listener);
        }
    }
}
