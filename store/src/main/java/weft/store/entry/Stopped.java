package weft.store.entry;

import java.util.Map;
import java.util.Optional;
import weft.core.entry.Sheet;
import weft.core.entry.Sheet.Assessed;
import weft.core.entry.draft.Cause;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Findings;
import weft.core.entry.step.StepRun.Question;

/** Something is in the way of an entry: a stop, or what is asked and not answered yet. Nothing was written. */
public final class Stopped extends RuntimeException {

    private final transient Findings findings;
    private final transient Optional<Question> question;
    private final transient Map<String, Assessed> lines;

    private Stopped(Findings findings, Optional<Question> question, Map<String, Assessed> lines) {
        super("stopped");
        this.findings = findings;
        this.question = question;
        this.lines = lines;
    }

    private Stopped(Findings findings, Optional<Question> question) {
        this(findings, question, Map.of());
    }

    /** By what is said of an entry and its lines. */
    Stopped(Sheet sheet) {
        this(sheet.entry().findings(), Optional.empty(), sheet.lines());
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
                Findings.of(Finding.of("", true, new Cause.Question(question.text()), question.id())),
                Optional.of(question));
    }

    /** What is in the way. */
    public Findings findings() {
        return findings;
    }

    /** What is in the way of lines, by the id of the form's lines. */
    public Map<String, Assessed> lines() {
        return lines;
    }

    /** The question, where it is one. */
    public Optional<Question> question() {
        return question;
    }
}
