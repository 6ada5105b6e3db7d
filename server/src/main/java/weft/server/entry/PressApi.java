package weft.server.entry;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.May;
import weft.core.entry.step.StepRun.Then;
import weft.core.form.Button;
import weft.core.rule.Command;
import weft.core.rule.Step.Steps;
import weft.core.value.Value;
import weft.server.door.Needs;
import weft.server.http.Problem;
import weft.server.http.Seen;
import weft.server.work.WorkTaking;
import weft.store.door.Ways.Way;
import weft.store.entry.SavingSheets;

/** Buttons whose presses are lists of steps. */
@RestController
class PressApi {

    private final Drafts drafts;
    private final SavingSheets saving;
    private final WorkTaking work;
    private final Elsewhere elsewhere;

    PressApi(Drafts drafts, SavingSheets saving, WorkTaking work, Elsewhere elsewhere) {
        this.drafts = drafts;
        this.saving = saving;
        this.work = work;
        this.elsewhere = elsewhere;
    }

    /**
     * What a press did.
     *
     * @param set the fields that were set, with their values
     * @param saved the entry as it was saved; none when the steps do not save
     * @param then what the Desk does next
     */
    record Pressed(Map<String, Value> set, @Nullable SavedJson saved, List<Then> then) {}

    /** Presses a button that has steps, on an entry as it is typed. A stored record needs If-Match when the steps save it. */
    @PostMapping("/api/doors/{door}/buttons/{button}/press")
    @Needs({May.ADD, May.CHANGE})
    Pressed press(
            Way way,
            @PathVariable String button,
            @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String idempotencyKey,
            Seen seen,
            @RequestBody DraftJson asked) {
        drafts.taking(way);
        if (!shows(way, button)) {
            throw Problem.unknown("button with steps “" + button + "” on this form");
        }
        var key = Optional.ofNullable(idempotencyKey).map(given -> Keys.of(way.pass(), given, asked.spelled()));
        boolean changes = asked.record() != null && way.saving().plan().saves(button);
        var sent = asked.record() == null
                ? drafts.entered(way, asked, key)
                : drafts.sent(way, asked, changes ? seen.version() : 0, key);
        var pressed = saving.press(sent, button);
        if (asked.record() == null
                && pressed.saved().filter(saved -> !saved.again()).isPresent()) {
            work.entered(way, asked.work());
        }
        return new Pressed(
                way.narrowing().of(pressed.set()).it(),
                pressed.saved()
                        .map(saved -> SavedJson.of(
                                way.of(saved.record()),
                                pressed.then(),
                                Map.of(),
                                elsewhere.of(way.pass(), saved.elsewhere())))
                        .orElse(null),
                SavedJson.after(pressed.then()));
    }

    /** Whether the door shows that button. Where all is shown, steps can be pressed that have none on the form yet. */
    private static boolean shows(Way way, String button) {
        return way.shown()
                .form()
                .item(button)
                .map(item -> item instanceof Button it && it.action() == Command.STEPS)
                .orElseGet(() -> way.pass().door().isEverything()
                        && !Steps.AFTER.contains(button)
                        && way.saving().plan().steps().containsKey(button));
    }
}
