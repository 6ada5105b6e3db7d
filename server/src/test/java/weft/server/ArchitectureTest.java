package weft.server;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import org.junit.jupiter.api.Test;

/** The arrows between the modules point down only, and packages do not go round in circles. */
class ArchitectureTest {

    private static final JavaClasses ALL = new ClassFileImporter()
            .withImportOption(new ImportOption.DoNotIncludeTests())
            .importPackages("weft");

    @Test
    void coreKnowsNothingButJava() {
        classes()
                .that()
                .resideInAPackage("weft.core..")
                .and()
                .resideOutsideOfPackage("weft.core.formula")
                .should()
                .onlyDependOnClassesThat()
                .resideInAnyPackage(
                        "weft.core..", "java.lang..", "java.util..", "java.time..", "java.math..", "java.text..")
                .check(ALL);
    }

    @Test
    void theFormulaEngineAndThePatternsAreKnownInOnePlaceOnly() {
        noClasses()
                .that()
                .resideOutsideOfPackage("weft.core.formula")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("org.camunda..", "scala..", "com.google.re2j..")
                .check(ALL);
    }

    @Test
    void coreHasNoClockOfItsOwn() {
        noClasses()
                .that()
                .resideInAPackage("weft.core..")
                .should()
                .callMethod(java.time.Clock.class, "systemDefaultZone")
                .orShould()
                .callMethod(java.time.LocalDate.class, "now")
                .orShould()
                .callMethod(java.time.LocalDateTime.class, "now")
                .orShould()
                .callMethod(java.time.Instant.class, "now")
                .check(ALL);
    }

    @Test
    void storeKnowsNoServer() {
        noClasses()
                .that()
                .resideInAPackage("weft.store..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("weft.server..", "org.springframework..", "jakarta.servlet..")
                .check(ALL);
    }

    @Test
    void onlyTheStoreSpeaksSql() {
        noClasses()
                .that()
                .resideInAPackage("weft.server..")
                .and()
                .haveSimpleNameNotContaining("Wiring")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("org.jooq..", "java.sql..", "org.postgresql..")
                .check(ALL);
    }

    @Test
    void packagesOfCoreAndStoreDoNotGoRoundInCircles() {
        slices().matching("weft.core.(*)..").should().beFreeOfCycles().check(ALL);
        slices().matching("weft.server.(*)..").should().beFreeOfCycles().check(ALL);
    }
}
