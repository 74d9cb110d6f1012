package hardproof.server.web;

import com.fasterxml.jackson.annotation.Nulls;
import hardproof.server.storage.Database;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.springframework.boot.jackson.autoconfigure.JsonMapperBuilderCustomizer;
import org.springframework.boot.web.servlet.FilterRegistrationBean;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.Ordered;
import org.springframework.web.filter.OncePerRequestFilter;

/** What holds for every request. */
@Configuration(proxyBeanMethods = false)
class RequestConfig {
  /** Before sign-in is looked at, so before anything is kept of a body. */
  @Bean
  FilterRegistrationBean<StrangerGuard> strangerGuard() {
    FilterRegistrationBean<StrangerGuard> guard = new FilterRegistrationBean<>(new StrangerGuard());
    guard.setOrder(Ordered.HIGHEST_PRECEDENCE);
    guard.addUrlPatterns("/api/*");
    return guard;
  }

  /** Whoever asks for an answer does not wait for an import to end. */
  @Bean
  FilterRegistrationBean<Impatience> impatience() {
    FilterRegistrationBean<Impatience> filter = new FilterRegistrationBean<>(new Impatience());
    filter.setOrder(Ordered.HIGHEST_PRECEDENCE + 1);
    filter.addUrlPatterns("/api/*");
    return filter;
  }

  /** Whoever asks for an answer waits so long for others to have written, and no longer. */
  static final class Impatience extends OncePerRequestFilter {
    @Override
    protected void doFilterInternal(
        HttpServletRequest request, HttpServletResponse response, FilterChain chain)
        throws ServletException, IOException {
      Database.impatient(true);
      try {
        chain.doFilter(request, response);
      } finally {
        Database.impatient(false);
      }
    }
  }

  /** A null in a list is a mistake of who sent it. */
  @Bean
  JsonMapperBuilderCustomizer noNullsInLists() {
    return builder -> builder.changeDefaultNullHandling(n -> n.withContentNulls(Nulls.FAIL));
  }
}
