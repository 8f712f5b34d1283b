package mellow.server.common;

import org.aopalliance.intercept.MethodInterceptor;
import org.aopalliance.intercept.MethodInvocation;
import org.jspecify.annotations.Nullable;
import org.springframework.aop.Advisor;
import org.springframework.aop.ProxyMethodInvocation;
import org.springframework.aop.support.DefaultPointcutAdvisor;
import org.springframework.aop.support.annotation.AnnotationMatchingPointcut;
import org.springframework.beans.factory.config.BeanDefinition;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Role;
import org.springframework.core.Ordered;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/** Repeats every transaction that ends in a deadlock. Locks are taken in one order everywhere, so this is for what was overlooked. */
@Configuration(proxyBeanMethods = false)
@Role(BeanDefinition.ROLE_INFRASTRUCTURE)
class DeadlockRetry {

    /** Around transactions, so outside the advisor that begins them. */
    @Bean
    @Role(BeanDefinition.ROLE_INFRASTRUCTURE)
    static Advisor retryAfterDeadlock() {
        DefaultPointcutAdvisor advisor = new DefaultPointcutAdvisor(
                AnnotationMatchingPointcut.forMethodAnnotation(Transactional.class),
                (MethodInterceptor) DeadlockRetry::repeat);
        advisor.setOrder(Ordered.LOWEST_PRECEDENCE - 1);
        return advisor;
    }

    private static @Nullable Object repeat(MethodInvocation invocation) throws Throwable {
        return TransactionSynchronizationManager.isActualTransactionActive()
                ? invocation.proceed()
                : Deadlocks.repeat(() ->
                        ((ProxyMethodInvocation) invocation).invocableClone().proceed());
    }
}
