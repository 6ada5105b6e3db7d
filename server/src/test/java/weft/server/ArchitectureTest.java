package weft.server;

import static com.tngtech.archunit.base.DescribedPredicate.not;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAPackage;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAnyPackage;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.type;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.library.dependencies.SliceAssignment;
import com.tngtech.archunit.library.dependencies.SliceIdentifier;
import org.apache.commons.codec.language.DoubleMetaphone;
import org.junit.jupiter.api.Test;

/** The arrows between the modules point down only, and packages do not go round in circles. */
class ArchitectureTest {

    private static final JavaClasses ALL = new ClassFileImporter()
            .withImportOption(new ImportOption.DoNotIncludeTests())
            .importPackages("weft");

    /** Each package is a slice of its own. */
    private static final SliceAssignment PACKAGES = new SliceAssignment() {
        @Override
        public SliceIdentifier getIdentifierOf(JavaClass type) {
            // What is generated of the database's schemas lies round by nature.
            return type.getPackageName().startsWith("weft.store.schema")
                    ? SliceIdentifier.ignore()
                    : SliceIdentifier.of(type.getPackageName());
        }

        @Override
        public String getDescription() {
            return "packages";
        }
    };

    @Test
    void coreKnowsNothingButJava() {
        classes()
                .that()
                .resideInAPackage("weft.core..")
                .and()
                .resideOutsideOfPackage("weft.core.formula")
                .should()
                .onlyDependOnClassesThat(resideInAnyPackage(
                                "weft.core..",
                                "java.lang..",
                                "java.util..",
                                "java.time..",
                                "java.math..",
                                "java.text..",
                                "org.jspecify..")
                        // How words sound.
                        .or(type(DoubleMetaphone.class)))
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
    void entriesAreSavedWithoutKnowingOfJsonOrHttp() {
        noClasses()
                .that()
                .resideInAPackage("weft.store.entry..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("tools.jackson..", "com.fasterxml..", "java.net..", "org.jooq..", "java.sql..")
                .check(ALL);
    }

    @Test
    void noPackageGoesRoundInACircle() {
        slices().assignedFrom(PACKAGES).should().beFreeOfCycles().check(ALL);
    }

    @Test
    void theSubjectsOfTheApiKnowTheBorderAndTheBorderKnowsNone() {
        noClasses()
                .that()
                .resideInAPackage("weft.server.http..")
                .should()
                .dependOnClassesThat(resideInAPackage("weft.server..").and(not(resideInAPackage("weft.server.http.."))))
                .check(ALL);
        noClasses()
                .that()
                .resideInAPackage("weft.server.*..")
                .and()
                .haveSimpleNameNotContaining("WeftServer")
                .should()
                .dependOnClassesThat()
                .resideInAPackage("weft.server")
                .check(ALL);
    }

    @Test
    void namesSayWhatAThingIs() {
        classes()
                .that()
                .areTopLevelClasses()
                .should()
                .haveNameNotMatching(
                        ".*(Impl|Util|Utils|Helper|Helpers|Manager|Processor|Service|Dto|Data|Info|Abstract\\w*)$")
                .check(ALL);
    }
}
