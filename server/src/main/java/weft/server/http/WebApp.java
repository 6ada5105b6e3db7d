package weft.server.http;

import java.io.IOException;
import java.time.Duration;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.io.Resource;
import org.springframework.http.CacheControl;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import org.springframework.web.servlet.resource.PathResourceResolver;

/** Serves the built web app. Its own addresses, such as {@code /desk/samples}, all get its one page. */
@Configuration(proxyBeanMethods = false)
class WebApp implements WebMvcConfigurer {

    @Override
    public void addResourceHandlers(ResourceHandlerRegistry registry) {
        registry.addResourceHandler("/assets/**")
                .addResourceLocations("classpath:/static/assets/")
                .setCacheControl(CacheControl.maxAge(Duration.ofDays(365)).immutable());
        registry.addResourceHandler("/**")
                .addResourceLocations("classpath:/static/")
                .setCacheControl(CacheControl.noCache())
                .resourceChain(true)
                .addResolver(new OnePage());
    }

    private static final class OnePage extends PathResourceResolver {
        @Override
        protected @Nullable Resource getResource(String path, Resource location) throws IOException {
            var file = super.getResource(path, location);
            boolean ofServer = path.startsWith("api/") || path.startsWith("v3/") || path.startsWith("actuator");
            return file != null || ofServer || path.contains(".") ? file : super.getResource("index.html", location);
        }
    }
}
