package mellow.server.common;

import java.sql.SQLException;
import java.util.concurrent.ThreadLocalRandom;
import org.aopalliance.intercept.MethodInterceptor;
import org.aopalliance.intercept.MethodInvocation;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.aop.Advisor;
import org.springframework.aop.ProxyMethodInvocation;
import org.springframework.aop.support.DefaultPointcutAdvisor;
import org.springframework.aop.support.annotation.AnnotationMatchingPointcut;
import org.springframework.beans.factory.config.BeanDefinition;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Role;
import org.springframework.core.Ordered;
import org.springframework.dao.PessimisticLockingFailureException;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * Repeats a transaction that PostgreSQL ended because it and another waited for each other: nothing of it was done, so nobody need know. Locks are taken in
 * one order everywhere, so this is for what was overlooked.
 */
@Configuration(proxyBeanMethods = false)
@Role(BeanDefinition.ROLE_INFRASTRUCTURE)
class DeadlockRetry {

    private static final Logger LOG = LoggerFactory.getLogger(DeadlockRetry.class);
    private static final String DEADLOCK = "40P01";
    private static final int TRIES = 5;
    private static final int LONGEST_PAUSE_MILLIS = 60;

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

    private static Object repeat(MethodInvocation invocation) throws Throwable {
        if (TransactionSynchronizationManager.isActualTransactionActive()) {
            return invocation.proceed();
        }
        for (int left = TRIES; ; left--) {
            try {
                return ((ProxyMethodInvocation) invocation).invocableClone().proceed();
            } catch (PessimisticLockingFailureException failed) {
                if (left <= 1 || !isDeadlock(failed)) {
                    throw failed;
                }
                LOG.info("Two transactions waited for each other; {} is repeated", invocation.getMethod());
                Thread.sleep(ThreadLocalRandom.current().nextInt(1, LONGEST_PAUSE_MILLIS));
            }
        }
    }

    private static boolean isDeadlock(Throwable failed) {
        for (Throwable cause = failed; cause != null; cause = cause.getCause()) {
            if (cause instanceof SQLException sql && DEADLOCK.equals(sql.getSQLState())) {
                return true;
            }
        }
        return false;
    }
}
