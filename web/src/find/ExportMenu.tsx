import { useState } from "react";
import type { DeskForm as Form } from "../api/client";
import { grouped } from "../model/counted";
import type { SittingDoings } from "../sitting/useSitting";

interface Props {
  form: Form;
  asked: { where?: string[]; any?: string; sort?: string };
  total: number;
  say: SittingDoings["say"];
}

const WORDS = { csv: "CSV", ods: "a spreadsheet", json: "JSON" };

const PART = 4_000_000;

/** Takes what is in view away as a file, with its progress and a way to give it up. */
export function ExportMenu({ form, asked, total, say }: Props) {
  const [running, setRunning] = useState<{ records: number; stop: () => void }>();

  const run = async (as: "csv" | "json" | "ods") => {
    const asking = new AbortController();
    setRunning({ records: 0, stop: () => asking.abort() });
    try {
      const query = new URLSearchParams({ as });
      for (const where of asked.where ?? []) query.append("where", where);
      if (asked.any) query.set("any", asked.any);
      if (asked.sort) query.set("sort", asked.sort);
      const answer = await fetch(`/api/doors/${form.door.id}/export?${query}`, { signal: asking.signal });
      if (!answer.ok || !answer.body) throw new Error((await answer.json()).detail);
      // What is packed has no lines to count.
      const file = await gather(answer.body, (records) =>
        setRunning((now) => now && { ...now, records: as === "ods" ? 0 : records }),
      );
      save(file, `${form.door.id}.${as}`);
      say(`Exported to ${form.door.id}.${as}`, "ok");
    } catch (e) {
      say(
        asking.signal.aborted ? "The export was cancelled." : `The export failed. ${(e as Error).message}`,
        "stop",
      );
    } finally {
      setRunning(undefined);
    }
  };

  if (running) {
    return (
      <span className="flex items-center gap-2">
        <progress className="progress w-24" value={running.records || undefined} max={Math.max(total, 1)} />
        {running.records > 0 && grouped(running.records, form)}
        <button type="button" className="btn small" onClick={running.stop}>
          Cancel
        </button>
      </span>
    );
  }
  return (
    <span className="flex items-center gap-1">
      Export
      {(["csv", "ods", "json"] as const).map((as) => (
        <button
          key={as}
          type="button"
          className="btn small"
          onClick={() => run(as)}
          aria-label={`Export what is in view as ${WORDS[as]}`}
          title={WORDS[as]}
        >
          {as.toUpperCase()}
        </button>
      ))}
    </span>
  );
}

/** The file, part by part: what has come is handed to the browser, which keeps it out of the page's memory. */
async function gather(body: ReadableStream<Uint8Array>, told: (records: number) => void): Promise<Blob> {
  const reader = body.getReader();
  let file = new Blob();
  let part: BlobPart[] = [];
  let size = 0;
  let records = -1;
  for (;;) {
    const { done, value } = await reader.read();
    if (value) {
      part.push(value as BlobPart);
      size += value.length;
      for (const byte of value) if (byte === 10) records++;
    }
    if (done || size > PART) {
      file = new Blob([file, ...part]);
      part = [];
      size = 0;
      told(Math.max(0, records));
    }
    if (done) return file;
  }
}

function save(file: Blob, name: string) {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(file);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}
