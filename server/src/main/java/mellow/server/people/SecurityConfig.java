package mellow.server.people;

import jakarta.servlet.DispatcherType;
import mellow.server.common.ProblemWriter;
import mellow.server.common.RequestPath;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpStatus;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.annotation.web.configurers.AbstractHttpConfigurer;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.authentication.AnonymousAuthenticationFilter;
import org.springframework.security.web.authentication.HttpStatusEntryPoint;
import org.springframework.security.web.authentication.session.ChangeSessionIdAuthenticationStrategy;
import org.springframework.security.web.authentication.session.SessionAuthenticationStrategy;
import org.springframework.security.web.context.HttpSessionSecurityContextRepository;
import org.springframework.security.web.context.RequestAttributeSecurityContextRepository;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.security.web.csrf.CookieCsrfTokenRepository;
import org.springframework.security.web.header.writers.ReferrerPolicyHeaderWriter.ReferrerPolicy;

/** Who gets in: server-side sessions, CSRF tokens, and nothing of the API without signing in. The page's own policy is set where it is served. */
@Configuration
class SecurityConfig {

    private static final int BCRYPT_STRENGTH = 11;
    private static final String API_POLICY = "default-src 'none'; frame-ancestors 'none'";

    /** The page and what it is made of are for everybody and the same for all, so nobody's session is looked up for them: they come without the database, too. */
    @Bean
    @Order(2)
    SecurityFilterChain pages(HttpSecurity http) throws Exception {
        return http.securityMatcher(request -> !RequestPath.isApi(request))
                .csrf(AbstractHttpConfigurer::disable)
                .authorizeHttpRequests(requests -> requests.anyRequest().permitAll())
                .sessionManagement(AbstractHttpConfigurer::disable)
                .securityContext(
                        context -> context.securityContextRepository(new RequestAttributeSecurityContextRepository()))
                .requestCache(cache -> cache.disable())
                .formLogin(AbstractHttpConfigurer::disable)
                .httpBasic(AbstractHttpConfigurer::disable)
                .logout(AbstractHttpConfigurer::disable)
                .headers(headers -> headers.referrerPolicy(policy -> policy.policy(ReferrerPolicy.SAME_ORIGIN)))
                .build();
    }

    @Bean
    SecurityFilterChain security(
            HttpSecurity http, SecurityContextRepository contexts, Door door, ProblemWriter problems) throws Exception {
        return http.csrf(csrf -> csrf.csrfTokenRepository(CookieCsrfTokenRepository.withHttpOnlyFalse())
                        .spa())
                .authorizeHttpRequests(requests -> requests.dispatcherTypeMatchers(
                                DispatcherType.FORWARD, DispatcherType.ERROR, DispatcherType.ASYNC)
                        .permitAll()
                        .requestMatchers("/api/session", "/api/invitations/*")
                        .permitAll()
                        .requestMatchers("/api/**")
                        .authenticated()
                        .anyRequest()
                        .permitAll())
                .exceptionHandling(
                        handling -> handling.authenticationEntryPoint(new HttpStatusEntryPoint(HttpStatus.UNAUTHORIZED))
                                .accessDeniedHandler((request, response, denied) -> problems.write(
                                        response,
                                        HttpStatus.FORBIDDEN,
                                        "no-page-token",
                                        "This page is older than the session; load it again.")))
                .requestCache(cache -> cache.disable())
                .securityContext(context -> context.securityContextRepository(contexts))
                .addFilterAfter(new StillMayFilter(door, problems), AnonymousAuthenticationFilter.class)
                .formLogin(AbstractHttpConfigurer::disable)
                .httpBasic(AbstractHttpConfigurer::disable)
                .logout(AbstractHttpConfigurer::disable)
                .headers(headers -> headers.referrerPolicy(policy -> policy.policy(ReferrerPolicy.SAME_ORIGIN))
                        .addHeaderWriter((request, response) -> {
                            if (RequestPath.isApi(request)) {
                                response.setHeader("Content-Security-Policy", API_POLICY);
                            }
                        }))
                .build();
    }

    @Bean
    SecurityContextRepository securityContextRepository() {
        return new HttpSessionSecurityContextRepository();
    }

    @Bean
    SessionAuthenticationStrategy sessionAuthenticationStrategy() {
        return new ChangeSessionIdAuthenticationStrategy();
    }

    @Bean
    PasswordEncoder passwordEncoder() {
        return new BCryptPasswordEncoder(BCRYPT_STRENGTH);
    }
}
