package mellow.server.support;

import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.config.BeanPostProcessor;
import org.springframework.stereotype.Component;

/** Counts what is sent to the database: a statement, or a batch of the same one, is one. */
@Component
public class Statements implements BeanPostProcessor {

    private static final ThreadLocal<@Nullable List<String>> SENT = new ThreadLocal<>();

    /** What {@code work} sends in this thread, each statement's name in JDBC. */
    public static List<String> of(Runnable work) {
        List<String> sent = new ArrayList<>();
        SENT.set(sent);
        try {
            work.run();
        } finally {
            SENT.remove();
        }
        return sent;
    }

    @Override
    public Object postProcessAfterInitialization(Object bean, String name) {
        return bean instanceof DataSource ? counted(DataSource.class, bean, "") : bean;
    }

    private static <T> T counted(Class<T> type, Object target, String sql) {
        return type.cast(Proxy.newProxyInstance(type.getClassLoader(), new Class<?>[] {type}, (proxy, method, args) -> {
            List<String> sent = SENT.get();
            if (sent != null && target instanceof Statement && method.getName().startsWith("execute")) {
                sent.add(method.getName() + " " + (args != null && args.length > 0 ? args[0] : sql));
            }
            try {
                Object result = method.invoke(target, args);
                if (result instanceof Connection && method.getName().equals("getConnection")) {
                    return target instanceof DataSource ? counted(Connection.class, result, "") : result;
                }
                return result instanceof Statement && target instanceof Connection
                        ? counted(method.getReturnType(), result, args == null ? "" : String.valueOf(args[0]))
                        : result;
            } catch (InvocationTargetException failed) {
                throw failed.getCause();
            }
        }));
    }
}
