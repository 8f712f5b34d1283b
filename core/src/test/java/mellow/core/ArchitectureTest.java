package mellow.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import java.io.File;
import java.nio.file.Files;
import java.time.Clock;
import java.util.concurrent.Executors;

@AnalyzeClasses(packages = "mellow.core", importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {

    @ArchTest
    static final ArchRule PURE = noClasses()
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage(
                    "org.springframework..",
                    "java.sql..",
                    "javax.sql..",
                    "java.net..",
                    "jakarta..",
                    "org.slf4j..",
                    "java.util.logging..")
            .as("core computes: no framework, no database, no network, no log");

    @ArchTest
    static final ArchRule NO_CLOCK = noClasses()
            .should()
            .dependOnClassesThat()
            .belongToAnyOf(Clock.class, Executors.class, File.class, Files.class);

    @ArchTest
    static final ArchRule ACYCLIC =
            slices().matching("mellow.core.(**)").should().beFreeOfCycles();
}
