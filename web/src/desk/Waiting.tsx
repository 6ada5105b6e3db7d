import type { ReactNode } from "react";
import type { DeskForm as Form } from "../api/client";
import { asks, type Outgoing } from "../entry/outbox";
import type { DeskDoings } from "../sitting/useDesk";
import { inTwoLines } from "./trayWords";

/** What waits: the oldest first, which the keys are for. What stands in the form is told there. */
export function heldOf({ sitting }: DeskDoings): Outgoing[] {
  const { outgoing, state } = sitting;
  return outgoing.filter((each) => each.state !== "sending" && each.key !== state.pending);
}

/** What is not saved yet: asked about, refused, put aside, or waiting for a connection. */
export function Waiting({ form, desk }: { form: Form; desk: DeskDoings }) {
  const { sitting } = desk;
  const held = heldOf(desk);
  const first = held.find(({ state }) => state !== "waiting");
  const asked = held.filter(({ state, findings }) => state === "stopped" && asks(findings));
  const like = asked.filter(({ findings }) => words(findings) === words(asked[0]?.findings ?? []));
  return held.map((each) => (
    <Held key={each.key} form={form} outgoing={each}>
      {each.state === "stopped" && asks(each.findings) && (
        <button type="button" onClick={back(() => sitting.answer(each, "yes"))}>
          {each.findings[0]?.code === "question" ? "Yes" : "Save it so"}{" "}
          {each === asked[0] && <kbd>Alt Y</kbd>}
        </button>
      )}
      {each === asked[0] && like.length > 1 && (
        <button type="button" onClick={back(sitting.sayYesToAll)}>
          Save all {like.length} so <kbd>Alt Shift Y</kbd>
        </button>
      )}
      {each.state !== "waiting" && (
        <button type="button" onClick={() => sitting.reopen(each)}>
          Bring back {each === first && <kbd>Alt B</kbd>}
        </button>
      )}
    </Held>
  ));
  /** The cursor is in the form again. */
  function back(doing: () => void) {
    return () => {
      doing();
      sitting.focusFirst();
    };
  }
}

const words = (findings: Outgoing["findings"]) => findings.map(({ message }) => message).join(" ");

const STANDS = { sending: "", waiting: "waiting", stopped: "not saved", aside: "put aside" };

function Held({ form, outgoing, children }: { form: Form; outgoing: Outgoing; children: ReactNode }) {
  const { state, findings, message } = outgoing;
  const asked = state === "stopped" && asks(findings);
  return (
    <div
      className={`card-line ${asked ? "ask" : state === "stopped" ? "stop" : state === "aside" ? "aside" : "wait"}`}
    >
      <span className="r" aria-hidden="true">
        {asked ? "?" : "···"}
      </span>
      <b>{inTwoLines(form, outgoing.typed).title}</b>
      <span className="t">{asked ? "asked about" : STANDS[state]}</span>
      <span className="d">
        {state === "waiting"
          ? "Waits for the connection; will be sent once."
          : (findings[0]?.message ?? message)}{" "}
        {children}
      </span>
    </div>
  );
}
