import { Plus, X } from "lucide-react";
import { useEffect, useState } from "react";
import { answered, api, type ChangesMade, type Column, type DeskForm, type FormField } from "../api/client";
import { counted, grouped } from "../model/counted";
import { focusable } from "../model/items";
import { useShown } from "../model/way";
import { Cover } from "../ui/Cover";
import { Trouble } from "../ui/Trouble";

/** Which records are meant: those named, or all that are found. */
export interface Which {
  ids?: number[];
  where?: string[];
  any?: string;
  count: number;
}

interface SetTo {
  column: string;
  how: "typed" | "formula";
  text: string;
}

interface Props {
  form: DeskForm;
  columns: Column[];
  which: Which;
  close: () => void;
  /** They were changed. */
  done: (made: ChangesMade) => void;
}

const PREVIEW_AFTER = 250;
const SHOWN = 8;

/** Sets fields of many records at once: first what would change and what would be stopped, then all of it in one press. */
export function ChangeMany({ form, columns, which, close, done }: Props) {
  const fields = focusable(form).filter(({ use }) => use !== "read-only");
  const [sets, setSets] = useState<SetTo[]>([{ column: fields[0]?.column ?? "", how: "typed", text: "" }]);
  const [preview, setPreview] = useState<ChangesMade>();
  const [trouble, setTrouble] = useState<unknown>();
  const [busy, setBusy] = useState(false);
  const { count, ...meant } = which;
  const asked = JSON.stringify({
    ...meant,
    set: Object.fromEntries(
      sets.map(({ column, how, text }) => [column, how === "typed" ? { typed: text } : { formula: text }]),
    ),
  });
  const send = (rehearse: boolean, signal?: AbortSignal) =>
    answered(
      api.POST("/api/doors/{door}/changes", {
        params: { path: { door: form.door.id } },
        body: { ...JSON.parse(asked), rehearse },
        signal,
      }),
    );
  // biome-ignore lint/correctness/useExhaustiveDependencies: looked at again when something else is asked
  useEffect(() => {
    const asking = new AbortController();
    setPreview(undefined);
    const timer = setTimeout(() => {
      send(true, asking.signal)
        .then((made) => {
          setPreview(made);
          setTrouble(undefined);
        })
        .catch((e) => asking.signal.aborted || setTrouble(e));
    }, PREVIEW_AFTER);
    return () => {
      clearTimeout(timer);
      asking.abort();
    };
  }, [asked]);
  const apply = async () => {
    if (!preview || preview.changed === 0 || busy) return;
    setBusy(true);
    try {
      done(await send(false));
    } catch (e) {
      setTrouble(e);
      setBusy(false);
    }
  };
  const put = (at: number, changed: Partial<SetTo>) =>
    setSets(sets.map((each, n) => (n === at ? { ...each, ...changed } : each)));
  return (
    <Cover name="Change many" close={() => !busy && close()} wide>
      <form
        className="grid gap-3 p-5"
        onSubmit={(e) => {
          e.preventDefault();
          apply();
        }}
      >
        <h2>Change {counted(count, "record", "records", form)}</h2>
        {sets.map((each, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a line is where it stands
          <div key={at} className="flex items-center gap-2">
            <select
              className="entry w-48!"
              aria-label="Field"
              value={each.column}
              onChange={(e) => put(at, { column: e.target.value })}
            >
              {fields.map((field) => (
                <option key={field.id} value={field.column}>
                  {field.label}
                </option>
              ))}
            </select>
            <select
              className="entry w-44!"
              aria-label="How"
              value={each.how}
              onChange={(e) => put(at, { how: e.target.value as SetTo["how"] })}
            >
              <option value="typed">becomes</option>
              <option value="formula">is worked out as</option>
            </select>
            <input
              className={`entry flex-1 ${each.how === "formula" ? "font-mono" : ""}`}
              aria-label={each.how === "formula" ? "Formula" : "Value"}
              placeholder={each.how === "formula" ? "ph / 10" : "empty"}
              // biome-ignore lint/a11y/noAutofocus: what it becomes is what one came to say
              autoFocus={at === 0}
              value={each.text}
              onChange={(e) => put(at, { text: e.target.value })}
            />
            {sets.length > 1 && (
              <button
                type="button"
                className="btn quiet icon"
                aria-label="Take this field out"
                onClick={() => setSets(sets.filter((_, n) => n !== at))}
              >
                <X size={14} aria-hidden="true" />
              </button>
            )}
          </div>
        ))}
        <button
          type="button"
          className="btn small justify-self-start"
          onClick={() => setSets([...sets, { column: fields[0]?.column ?? "", how: "typed", text: "" }])}
        >
          <Plus size={14} aria-hidden="true" /> Another field
        </button>
        <Trouble error={trouble} />
        {!preview && !trouble && <p className="text-soft">Looking at them …</p>}
        {preview && <Preview preview={preview} form={form} fields={fields} columns={columns} />}
        <div className="flex gap-3">
          <button type="submit" className="btn go" disabled={!preview || preview.changed === 0 || busy}>
            {busy ? "Changing …" : `Change ${preview ? grouped(preview.changed, form) : ""}`} <kbd>Enter</kbd>
          </button>
          <button type="button" className="btn" onClick={close} disabled={busy}>
            Leave them <kbd>Esc</kbd>
          </button>
        </div>
      </form>
    </Cover>
  );
}

/** How many would change, ten of them before and after, and what would be in the way. */
function Preview({
  preview,
  form,
  fields,
  columns,
}: {
  preview: ChangesMade;
  form: DeskForm;
  fields: FormField[];
  columns: Column[];
}) {
  const shown = useShown();
  const label = (column: string) => fields.find((field) => field.column === column)?.label ?? column;
  const said = (column: string, value: unknown) =>
    shown(value, columns.find(({ name }) => name === column)?.type) || "empty";
  return (
    <div className="grid gap-3" aria-live="polite">
      <p>
        <b>{grouped(preview.changed, form)}</b> of {grouped(preview.count, form)} would change
        {preview.stopped > 0 && (
          <span className="text-madder">
            ; {grouped(preview.stopped, form)} would stay as they are, since something is in the way
          </span>
        )}
        .
      </p>
      {preview.examples.length > 0 && (
        <table className="examples">
          <tbody>
            {preview.examples.map((example) => (
              <tr key={example.row}>
                <th scope="row">row {example.row}</th>
                <td>
                  {Object.keys(example.after)
                    .map(
                      (column) =>
                        `${label(column)}: ${said(column, example.before[column])} → ${said(column, example.after[column])}`,
                    )
                    .join("; ")}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {preview.findings.length > 0 && (
        <ul className="grid gap-1">
          {preview.findings.slice(0, SHOWN).map((finding) => (
            <li key={`${finding.row} ${finding.field} ${finding.rule}`} className={`say ${finding.severity}`}>
              Row {finding.row}: {finding.message}
            </li>
          ))}
          {preview.stopped > SHOWN && <li className="text-soft">and more.</li>}
        </ul>
      )}
    </div>
  );
}
