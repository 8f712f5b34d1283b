package mellow.server.bundle;

import mellow.server.common.RequestPath;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.annotation.Order;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.annotation.web.configurers.AbstractHttpConfigurer;
import org.springframework.security.config.http.SessionCreationPolicy;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.authentication.AnonymousAuthenticationFilter;
import org.springframework.security.web.context.RequestAttributeSecurityContextRepository;

/** Products that ask for bundles are nobody: they have no session, and their tokens are asked where bundles are told. */
@Configuration
class BundleSecurity {

    @Bean
    @Order(0)
    SecurityFilterChain products(HttpSecurity http, Origins origins) throws Exception {
        return http.securityMatcher(request -> RequestPath.of(request).startsWith("/api/bundles/"))
                .csrf(AbstractHttpConfigurer::disable)
                .cors(AbstractHttpConfigurer::disable)
                .sessionManagement(sessions -> sessions.sessionCreationPolicy(SessionCreationPolicy.STATELESS))
                .securityContext(
                        context -> context.securityContextRepository(new RequestAttributeSecurityContextRepository()))
                .requestCache(cache -> cache.disable())
                .authorizeHttpRequests(requests -> requests.anyRequest().permitAll())
                // Answers say themselves how long they may be kept.
                .headers(headers -> headers.cacheControl(cache -> cache.disable()))
                .addFilterBefore(origins.filter(), AnonymousAuthenticationFilter.class)
                .build();
    }
}
