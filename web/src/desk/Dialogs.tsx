import type { DeskForm as Form } from "../api/client";
import { grouped } from "../model/counted";
import { confirmRemoval } from "../sitting/confirmRemoval";
import type { DeskDoings } from "../sitting/useDesk";
import { Cover } from "../ui/Cover";
import { inTwoLines } from "./trayWords";

/** Asks once before records are removed; keeping them is what Enter does. */
export function AskRemoval({ form, desk }: { form: Form; desk: DeskDoings }) {
  const { asked, keep, progress } = desk.removal;
  const [first] = asked;
  if (!first) return null;
  const several = asked.length > 1;
  const { title, detail } = inTwoLines(form, first.values);
  return (
    <Cover name="Remove" close={() => !progress && keep()}>
      <div className="grid gap-3 p-5">
        <h2>{several ? `Remove ${grouped(asked.length, form)} records?` : `Remove row ${first.row}?`}</h2>
        {several ? (
          <p>They go to the removed list, from where each can be put back.</p>
        ) : (
          <p>
            <b>{title || "An empty record"}</b>
            {detail && <span className="block text-soft">{detail}</span>}
          </p>
        )}
        {progress ? (
          <div className="flex items-center gap-3">
            <progress className="progress" value={progress.done} max={asked.length} />
            <span className="whitespace-nowrap">{grouped(progress.done, form)} done</span>
            <button type="button" className="btn" onClick={progress.stop}>
              Cancel
            </button>
          </div>
        ) : (
          <div className="flex gap-3">
            {/* biome-ignore lint/a11y/noAutofocus: keeping is what Enter does */}
            <button type="button" className="btn go" autoFocus onClick={keep}>
              Cancel <kbd>Enter</kbd>
            </button>
            <button
              type="button"
              className="btn danger"
              onClick={() => confirmRemoval(desk.removal.removing)}
            >
              Remove{several ? ` ${grouped(asked.length, form)}` : ""}
            </button>
          </div>
        )}
      </div>
    </Cover>
  );
}

/** Asks whether to save what is changed, before one moves on. */
export function AskLeaving({ desk }: { desk: DeskDoings }) {
  const answer = desk.leaving;
  if (!answer) return null;
  const row = desk.sitting.state.record?.row;
  return (
    <Cover name="Save first?" close={() => answer("stay")}>
      <div className="grid gap-3 p-5">
        <h2>{row ? `Save what you changed in row ${row}?` : "Save what you typed?"}</h2>
        <div className="flex gap-3">
          {/* biome-ignore lint/a11y/noAutofocus: saving is what Enter does */}
          <button type="button" className="btn go" autoFocus onClick={() => answer("save")}>
            Save and go on <kbd>Enter</kbd>
          </button>
          <button type="button" className="btn" onClick={() => answer("put back")}>
            {row ? "Put it back" : "Delete it"}
          </button>
          <button type="button" className="btn" onClick={() => answer("stay")}>
            Stay <kbd>Esc</kbd>
          </button>
        </div>
      </div>
    </Cover>
  );
}
