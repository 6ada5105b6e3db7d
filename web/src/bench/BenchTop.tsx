import { History, Redo2, Settings2, Undo2 } from "lucide-react";
import { Link, useLocation } from "react-router";
import type { Table } from "../api/client";
import { OthersHere } from "../live/OthersHere";
import type { Over } from "./over";
import type { BenchDoings } from "./useBench";

interface Props {
  bench: BenchDoings;
  table: Table;
  show: (over: Over) => void;
}

/** The form's title, where it writes to, what is not published, and what can be done with the whole of it. */
export function BenchTop({ bench, table, show }: Props) {
  const { form, state } = bench;
  const changes = state?.changes.length ?? 0;
  // Whoever came from a record at the Desk goes back to it.
  const back = (useLocation().state as { back?: string } | null)?.back;
  return (
    <header className="top">
      <h1 className="sr-only">{form.title}</h1>
      <input
        className="title"
        aria-label="Title of the form"
        value={form.title}
        maxLength={120}
        size={Math.max(8, form.title.length)}
        onChange={(e) => e.target.value.trim() && bench.edit((each) => ({ ...each, title: e.target.value }))}
      />
      <span className="chip writes">
        writes to{" "}
        <Link className="font-mono underline-offset-2 hover:underline" to={`/tables/${table.name}`}>
          {table.name}
        </Link>
      </span>
      {state && (
        <span className={`chip ${changes > 0 || !state.published ? "changes" : ""}`}>
          {!state.published
            ? "not published yet"
            : changes === 0
              ? `published, version ${state.published}`
              : changes === 1
                ? "1 change not published"
                : `${changes} changes not published`}
        </span>
      )}
      <OthersHere place={{ bench: form.id }} />
      <span className="flex-1" />
      <button
        type="button"
        className="btn quiet icon"
        aria-label="Undo"
        title="Undo (Ctrl+Z)"
        disabled={!state?.back}
        onClick={() => bench.step("back")}
      >
        <Undo2 size={18} aria-hidden="true" />
      </button>
      <button
        type="button"
        className="btn quiet icon"
        aria-label="Redo"
        title="Redo (Ctrl+Y)"
        disabled={!state?.forth}
        onClick={() => bench.step("forth")}
      >
        <Redo2 size={18} aria-hidden="true" />
      </button>
      <button
        type="button"
        className="btn quiet icon"
        aria-label="Settings of the form"
        title="Settings of the form"
        onClick={() => show("settings")}
      >
        <Settings2 size={18} aria-hidden="true" />
      </button>
      {state?.published && (
        <Link className="btn" to={`/forms/${form.id}/doors`}>
          Doors
        </Link>
      )}
      <button
        type="button"
        className="btn quiet icon"
        aria-label="Versions"
        title="Versions"
        onClick={() => show("versions")}
      >
        <History size={18} aria-hidden="true" />
      </button>
      <button type="button" className="btn" title="F9" onClick={() => show("rehearsal")}>
        Rehearse <kbd>F9</kbd>
      </button>
      {state?.published && (
        <Link className="btn" to={back ?? `/d/${form.id}`}>
          {back ? "Back to the Desk" : "Open at the Desk"}
        </Link>
      )}
      <button
        type="button"
        className="btn go"
        disabled={!!state?.published && changes === 0}
        onClick={() => show("publish")}
      >
        Publish
      </button>
    </header>
  );
}
