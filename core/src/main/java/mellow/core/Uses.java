package mellow.core;

import java.lang.annotation.Documented;
import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;

/**
 * The packages beside it that a package uses, by their names below the module's own, as in {@code format.csv}. A test compares it with the compiled code, so it fails
 * where code uses another or none uses one that is named; the picture of the architecture is drawn from the same.
 */
@Documented
@Target(ElementType.PACKAGE)
@Retention(RetentionPolicy.RUNTIME)
public @interface Uses {

    /** The packages. */
    String[] value();
}
