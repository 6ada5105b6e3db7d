package weft.store.entry;

import java.util.Optional;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Findings;
import weft.core.entry.step.StepRun.Question;

/** Something is in the way of an entry: a stop, or what is asked and not answered yet. Nothing was written. */
public final class Stopped extends RuntimeException {

    private final transient Findings findings;
    private final transient Optional<Question> question;

    private Stopped(Findings findings, Optional<Question> question) {
        super("stopped");
        this.findings = findings;
        this.question = question;
    }

    /** By these findings. */
    public Stopped(Findings findings) {
        this(findings, Optional.empty());
    }

    /** By one finding. */
    Stopped(Finding finding) {
        this(Findings.of(finding));
    }

    /** By a question of its steps. */
    Stopped(Question question) {
        this(
                Findings.of(
                        new Finding("", Finding.Code.QUESTION, Finding.Severity.ASK, question.text(), question.id())),
                Optional.of(question));
    }

    /** What is in the way. */
    public Findings findings() {
        return findings;
    }

    /** The question, where it is one. */
    public Optional<Question> question() {
        return question;
    }
}
