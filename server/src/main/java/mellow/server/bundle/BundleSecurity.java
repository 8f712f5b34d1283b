package mellow.server.bundle;

import jakarta.servlet.http.HttpServletRequest;
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
        return http.securityMatcher(BundleSecurity::isOfProducts)
                .csrf(AbstractHttpConfigurer::disable)
                .cors(AbstractHttpConfigurer::disable)
                .sessionManagement(sessions -> sessions.sessionCreationPolicy(SessionCreationPolicy.STATELESS))
                .securityContext(
                        context -> context.securityContextRepository(new RequestAttributeSecurityContextRepository()))
                .requestCache(cache -> cache.disable())
                .authorizeHttpRequests(requests -> requests.anyRequest().permitAll())
                // Answers say themselves how long they may be kept, and which pages may have them in a frame.
                .headers(headers ->
                        headers.cacheControl(cache -> cache.disable()).frameOptions(frame -> frame.disable()))
                .addFilterBefore(origins.filter(), AnonymousAuthenticationFilter.class)
                .build();
    }

    private static boolean isOfProducts(HttpServletRequest request) {
        String path = RequestPath.of(request);
        return path.startsWith("/api/bundles/") || path.startsWith("/api/shown/");
    }
}
