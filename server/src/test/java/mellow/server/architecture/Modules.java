package mellow.server.architecture;

import com.tngtech.archunit.core.domain.Dependency;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.domain.JavaPackage;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.util.Arrays;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import mellow.core.Uses;

/** Which packages of a module use which others of it, as the compiled code does and as their package-info says. */
final class Modules {

    private final String root;
    private final JavaClasses classes;

    Modules(String root) {
        this.root = root;
        this.classes = new ClassFileImporter()
                .withImportOption(new ImportOption.DoNotIncludeTests())
                .importPackages(root);
    }

    /** What the code does. */
    Map<String, Set<String>> used() {
        Map<String, Set<String>> used = new TreeMap<>();
        for (JavaClass one : classes) {
            String from = name(one.getPackageName());
            if (from.isEmpty() || one.getSimpleName().equals("package-info")) {
                continue;
            }
            Set<String> others = used.computeIfAbsent(from, any -> new TreeSet<>());
            for (Dependency dependency : one.getDirectDependenciesFromSelf()) {
                String to =
                        name(dependency.getTargetClass().getBaseComponentType().getPackageName());
                if (!to.isEmpty() && !to.equals(from)) {
                    others.add(to);
                }
            }
        }
        return used;
    }

    /** What the packages say; without those that say nothing. */
    Map<String, Set<String>> said() {
        Map<String, Set<String>> said = new TreeMap<>();
        for (String name : used().keySet()) {
            JavaPackage described = classes.getPackage(root + "." + name);
            described
                    .tryGetAnnotationOfType(Uses.class)
                    .ifPresent(uses -> said.put(name, new TreeSet<>(Arrays.asList(uses.value()))));
        }
        return said;
    }

    /** The package's name below the module's; empty for the module's own and those of others. */
    private String name(String of) {
        return of.startsWith(root + ".") ? of.substring(root.length() + 1) : "";
    }
}
