import { useQueryClient } from "@tanstack/react-query";
import { useLayoutEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { answered, api } from "../api/client";
import { tableQuery, workingCopyQuery } from "../api/queries";
import { Trouble } from "../ui/Trouble";
import { toEnd, typedOn } from "./typedOn";

/** A form from nothing: the first line makes the table, its first column and the form, and one goes on at its Bench. */
export function NewForm() {
  const [line, setLine] = useState("");
  const [error, setError] = useState<Error | null>(null);
  const begun = useRef<string>(undefined);
  const written = useRef(line);
  written.current = line;
  const box = useRef<HTMLInputElement>(null);
  /** Lines that were ended with Enter while the first one was being made. */
  const more = useRef<string[]>([]);
  // What is typed on while the form is being made is typed at its Bench.
  useLayoutEffect(
    () => () => {
      if (begun.current === undefined) return;
      typedOn.leave([...more.current, written.current === begun.current ? "" : written.current].join("\n"));
    },
    [],
  );
  const navigate = useNavigate();
  const queries = useQueryClient();
  const begin = async () => {
    if (!line.trim() || line === begun.current) return;
    if (begun.current !== undefined) {
      more.current.push(line);
      setLine("");
      return;
    }
    begun.current = line;
    box.current?.select();
    try {
      const form = await answered(api.POST("/api/forms/begun", { body: { lines: [line.trim()] } }));
      queries.invalidateQueries();
      await Promise.all([
        queries.prefetchQuery(workingCopyQuery(form.id)),
        queries.prefetchQuery(tableQuery(form.table)),
        import("./Bench"),
      ]);
      navigate(`/bench/${form.id}`, { replace: true });
    } catch (e) {
      setError(e as Error);
      setLine([begun.current, ...more.current].join(", "));
      begun.current = undefined;
      more.current = [];
      toEnd(box.current);
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
              ref={box}
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
