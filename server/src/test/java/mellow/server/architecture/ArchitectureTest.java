package mellow.server.architecture;

import static com.tngtech.archunit.core.domain.JavaCall.Predicates.target;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.type;
import static com.tngtech.archunit.core.domain.properties.HasName.Predicates.nameStartingWith;
import static com.tngtech.archunit.core.domain.properties.HasOwner.Predicates.With.owner;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import mellow.server.people.Rights;
import org.springframework.data.repository.Repository;
import org.springframework.web.bind.annotation.RestController;

@AnalyzeClasses(packages = "mellow.server", importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {

    @ArchTest
    static final ArchRule FEATURES_ARE_ACYCLIC =
            slices().matching("mellow.server.(*)..").should().beFreeOfCycles();

    @ArchTest
    static final ArchRule ONE_JACKSON =
            noClasses().should().dependOnClassesThat().resideInAPackage("com.fasterxml.jackson.databind..");

    @ArchTest
    static final ArchRule REPOSITORIES_STAY_HOME =
            classes().that().areAssignableTo(Repository.class).should().bePackagePrivate();

    @ArchTest
    static final ArchRule CONTROLLERS_STAY_HOME =
            classes().that().areAnnotatedWith(RestController.class).should().bePackagePrivate();

    @ArchTest
    static final ArchRule RIGHTS_ARE_ASKED_IN_SERVICES = noClasses()
            .that()
            .areAnnotatedWith(RestController.class)
            .should()
            .callMethodWhere(target(nameStartingWith("require")).and(target(owner(type(Rights.class)))));

    @ArchTest
    static final ArchRule COMMON_KNOWS_NO_FEATURE = noClasses()
            .that()
            .resideInAPackage("mellow.server.common..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage(
                    "mellow.server.cell..",
                    "mellow.server.intake..",
                    "mellow.server.table..",
                    "mellow.server.people..",
                    "mellow.server.sheet..");
}
