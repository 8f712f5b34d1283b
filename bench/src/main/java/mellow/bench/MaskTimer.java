package mellow.bench;

import java.util.concurrent.atomic.AtomicLong;
import mellow.server.check.MaskKeeper;
import org.aopalliance.intercept.MethodInterceptor;
import org.springframework.aop.framework.ProxyFactory;
import org.springframework.beans.factory.config.BeanPostProcessor;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Measures, in a server that is started with it, how long storing what is found in texts takes of what changes them. */
@Configuration
class MaskTimer {

    private static final AtomicLong NANOS = new AtomicLong();

    /** Seconds since the last time this was asked. */
    static double seconds() {
        return NANOS.getAndSet(0) / 1e9;
    }

    @Bean
    static BeanPostProcessor timesTheMasks() {
        return new BeanPostProcessor() {
            @Override
            public Object postProcessAfterInitialization(Object bean, String name) {
                if (!(bean instanceof MaskKeeper)) {
                    return bean;
                }
                ProxyFactory timed = new ProxyFactory(bean);
                timed.setProxyTargetClass(true);
                timed.addAdvice((MethodInterceptor) call -> {
                    long began = System.nanoTime();
                    try {
                        return call.proceed();
                    } finally {
                        NANOS.addAndGet(System.nanoTime() - began);
                    }
                });
                return timed.getProxy();
            }
        };
    }
}
