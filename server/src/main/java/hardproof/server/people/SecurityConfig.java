package hardproof.server.people;

import hardproof.server.activity.Activity;
import jakarta.servlet.DispatcherType;
import java.time.Clock;
import java.util.List;
import java.util.Locale;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpMethod;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.AuthenticationManager;
import org.springframework.security.authentication.ProviderManager;
import org.springframework.security.authentication.dao.DaoAuthenticationProvider;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.annotation.web.configurers.AuthorizeHttpRequestsConfigurer;
import org.springframework.security.core.userdetails.User;
import org.springframework.security.core.userdetails.UserDetailsService;
import org.springframework.security.core.userdetails.UsernameNotFoundException;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.authentication.HttpStatusEntryPoint;
import org.springframework.security.web.authentication.logout.HttpStatusReturningLogoutSuccessHandler;
import org.springframework.security.web.authentication.session.ChangeSessionIdAuthenticationStrategy;
import org.springframework.security.web.authentication.session.CompositeSessionAuthenticationStrategy;
import org.springframework.security.web.authentication.session.SessionAuthenticationStrategy;
import org.springframework.security.web.context.HttpSessionSecurityContextRepository;
import org.springframework.security.web.context.SecurityContextHolderFilter;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.security.web.csrf.CookieCsrfTokenRepository;
import org.springframework.security.web.csrf.CsrfAuthenticationStrategy;
import org.springframework.security.web.csrf.CsrfTokenRepository;
import org.springframework.security.web.header.writers.ReferrerPolicyHeaderWriter.ReferrerPolicy;
import org.springframework.security.web.servlet.util.matcher.PathPatternRequestMatcher;

/** Who may call what. The whole table is here, in one place. */
@Configuration(proxyBeanMethods = false)
class SecurityConfig {
  private static final String OUTSIDE = "/api/outside-checks/*";
  private static final String DELIVERIES = "/api/deliveries/*";
  private static final String[] WORKERS = {"OPERATOR", "ADMINISTRATOR"};

  @Bean
  SecurityFilterChain security(
      HttpSecurity http,
      CsrfTokenRepository csrf,
      SecurityContextRepository contexts,
      PeopleStore people)
      throws Exception {
    return http.authorizeHttpRequests(SecurityConfig::rights)
        .csrf(c -> c.spa().csrfTokenRepository(csrf).ignoringRequestMatchers(OUTSIDE, DELIVERIES))
        // What a stranger asked for is not kept: that would make a session for each.
        .requestCache(c -> c.disable())
        .addFilterAfter(new SessionWatch(people), SecurityContextHolderFilter.class)
        .securityContext(c -> c.securityContextRepository(contexts))
        .exceptionHandling(
            e -> e.authenticationEntryPoint(new HttpStatusEntryPoint(HttpStatus.UNAUTHORIZED)))
        .logout(l -> l.logoutRequestMatcher(
                PathPatternRequestMatcher.pathPattern(HttpMethod.DELETE, "/api/session"))
            .logoutSuccessHandler(
                new HttpStatusReturningLogoutSuccessHandler(HttpStatus.NO_CONTENT)))
        .headers(h -> h.contentSecurityPolicy(
                c -> c.policyDirectives("default-src 'none'; frame-ancestors 'none'"))
            .referrerPolicy(p -> p.policy(ReferrerPolicy.NO_REFERRER)))
        .build();
  }

  private static void rights(
      AuthorizeHttpRequestsConfigurer<HttpSecurity>.AuthorizationManagerRequestMatcherRegistry
          requests) {
    requests
        .dispatcherTypeMatchers(DispatcherType.ASYNC, DispatcherType.ERROR, DispatcherType.FORWARD)
        .permitAll()
        .requestMatchers("/api/session", "/api/first-administrator", "/api/password-links/*")
        .permitAll()
        .requestMatchers("/api/people/**")
        .hasRole("ADMINISTRATOR")
        .requestMatchers(HttpMethod.POST, "/api/ledger/keys/**", "/api/engines")
        .hasRole("ADMINISTRATOR")
        .requestMatchers(HttpMethod.GET, "/api/watches")
        .authenticated()
        .requestMatchers(HttpMethod.GET, "/api/reports")
        .authenticated()
        // What leaves the house by itself is decided by who answers for the house.
        .requestMatchers("/api/watches/**", "/api/reports", "/api/reports/*")
        .hasRole("ADMINISTRATOR")
        .requestMatchers("/api/own-password", "/api/own-calendar")
        .authenticated()
        .requestMatchers(HttpMethod.PUT, "/api/outside-hosts")
        .hasRole("ADMINISTRATOR")
        // Whoever says how a store is reached has this server talk to whatever it can reach.
        .requestMatchers("/api/store-connections", "/api/connection-trials", "/api/host-keys")
        .hasRole("ADMINISTRATOR")
        // Whoever answers has no account here: the token is the proof.
        .requestMatchers(HttpMethod.POST, OUTSIDE, DELIVERIES)
        .permitAll()
        // What this server asks for by itself, and whom it believes, is said by administrators.
        .requestMatchers(HttpMethod.PUT, "/api/feed-fetches/*")
        .hasRole("ADMINISTRATOR")
        .requestMatchers(HttpMethod.DELETE, "/api/feed-fetches/*")
        .hasRole("ADMINISTRATOR")
        // It begins another server.
        .requestMatchers(HttpMethod.POST, "/api/demo-walk")
        .hasRole("ADMINISTRATOR")
        .requestMatchers(HttpMethod.DELETE, "/api/demo-walk")
        .hasRole("ADMINISTRATOR")
        .requestMatchers("/api/delivery-tokens/*")
        .hasRole("ADMINISTRATOR")
        // Restored data may be anybody's: to see it in the list is one thing, to take it out
        // another.
        .requestMatchers(HttpMethod.GET, "/api/drill-runs/*/file", "/api/line-comparisons")
        .hasAnyRole(WORKERS)
        .requestMatchers(HttpMethod.GET, "/api/**")
        .authenticated()
        .requestMatchers(
            "/api/packs/**",
            "/api/pack-tasks/*",
            "/api/ledger/**",
            "/api/table",
            "/api/findings/**",
            "/api/exceptions",
            "/api/selector-matches",
            "/api/policy-trials",
            "/api/standard-trials",
            "/api/expression-trials")
        .authenticated()
        .requestMatchers(HttpMethod.DELETE, "/api/plan")
        .authenticated()
        .requestMatchers("/api/exceptions/*/decision")
        .hasRole("APPROVER")
        // Whoever proposed takes back, whoever may decide ends: the desk asks.
        .requestMatchers("/api/exceptions/*/end")
        .authenticated()
        .requestMatchers("/api/standards/**")
        .hasRole("ADMINISTRATOR")
        .requestMatchers("/api/**")
        .hasAnyRole(WORKERS)
        .requestMatchers("/v3/api-docs/**")
        .authenticated()
        .anyRequest()
        .permitAll();
  }

  @Bean
  CsrfTokenRepository csrfTokenRepository() {
    CookieCsrfTokenRepository repository = CookieCsrfTokenRepository.withHttpOnlyFalse();
    repository.setCookieCustomizer(c -> c.sameSite("Strict"));
    return repository;
  }

  @Bean
  SecurityContextRepository securityContextRepository() {
    return new HttpSessionSecurityContextRepository();
  }

  @Bean
  SessionAuthenticationStrategy sessionAuthenticationStrategy(CsrfTokenRepository csrf) {
    CsrfAuthenticationStrategy renewToken = new CsrfAuthenticationStrategy(csrf);
    // Read at once, so that the new token's cookie goes out with the answer to the sign-in.
    renewToken.setRequestHandler((request, response, token) -> token.get());
    return new CompositeSessionAuthenticationStrategy(
        List.of(new ChangeSessionIdAuthenticationStrategy(), renewToken));
  }

  @Bean
  PasswordEncoder passwordEncoder() {
    return new BCryptPasswordEncoder();
  }

  @Bean
  UserDetailsService userDetailsService(PeopleStore people) {
    return name -> people
        .find(name)
        .filter(p -> p.active() && p.hasPassword())
        .map(p -> User.withUsername(p.name())
            .password(p.passwordHash())
            .roles(p.role().name().toUpperCase(Locale.ROOT))
            .build())
        .orElseThrow(() -> new UsernameNotFoundException("no such person"));
  }

  @Bean
  AuthenticationManager authenticationManager(UserDetailsService people, PasswordEncoder encoder) {
    DaoAuthenticationProvider provider = new DaoAuthenticationProvider(people);
    provider.setPasswordEncoder(encoder);
    return new ProviderManager(provider);
  }

  @Bean
  SignInGuard signInGuard(Clock clock) {
    return new SignInGuard(clock);
  }

  @Bean
  PeopleDesk peopleDesk(
      PeopleStore people, PasswordEncoder encoder, Activity activity, Clock clock) {
    return new PeopleDesk(people, encoder, activity, clock);
  }

  @Bean
  FirstAdministrator firstAdministrator(PeopleStore people, PasswordEncoder encoder) {
    return new FirstAdministrator(people, encoder);
  }
}
