import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answered, api } from "../api/client";
import { Trouble } from "../ui/Trouble";

/** A form from nothing: the first line makes the table, its first column and the form, and one goes on at its Bench. */
export function NewForm() {
  const [line, setLine] = useState("");
  const [error, setError] = useState<Error | null>(null);
  const [busy, setBusy] = useState(false);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const begin = async () => {
    if (!line.trim() || busy) return;
    setBusy(true);
    try {
      const form = await answered(api.POST("/api/forms/begun", { body: { lines: [line.trim()] } }));
      queries.invalidateQueries();
      navigate(`/bench/${form.id}`, { replace: true });
    } catch (e) {
      setError(e as Error);
      setBusy(false);
    }
  };
  return (
    <main className="bench">
      <header className="top">
        <h1>New form</h1>
        <span className="chip changes">not begun yet</span>
      </header>
      <aside className="outline-pane" aria-label="Outline">
        <div className="quick-line">
          <div className="entry">
            <input
              aria-label="Add a field"
              // biome-ignore lint/a11y/noAutofocus: there is nothing else to do here
              autoFocus
              autoComplete="off"
              placeholder="Add a field: label, kind, limits…"
              value={line}
              onChange={(e) => setLine(e.target.value)}
              onKeyDown={(e) => e.key === "Enter" && begin()}
            />
            <kbd>Enter</kbd>
          </div>
        </div>
        <div className="p-4">
          <Trouble error={error} />
        </div>
      </aside>
      <div className="work">
        <div className="canvas">
          <div className="box empty-form grid gap-3">
            <p>
              Type the label of the first field, such as <b>Site</b> or <b>Taken on, date, required</b>, and
              press Enter. That makes the field, its column and the table that new entries are written to.
            </p>
            <p className="text-soft">
              A table that is there already, or a file of rows? Open the table and make a form of it.
            </p>
          </div>
        </div>
      </div>
    </main>
  );
}
