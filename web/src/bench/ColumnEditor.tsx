import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answered, api, type Column, type DayOrder, type DecimalSign, type Table } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { counted, grouped } from "../model/counted";
import { FACTS, TYPES } from "../model/types";
import { Cover } from "../ui/Cover";
import { Trouble } from "../ui/Trouble";
import { LinkTo } from "./LinkTo";
import { Choice, Flag, Row, Writing } from "./settings";

interface Props {
  table: Table;
  /** The column to change; a new one where none is said. */
  column?: string;
  close: () => void;
  /** Told once the table has changed. */
  changed: () => void;
}

const DAYS = {
  "month-first": "8/1/2026 is 1 August",
  "day-first": "8/1/2026 is 8 January",
  "year-first": "26-08-01 is 1 August 2026",
};
const SIGNS = { point: "1,200.5 is 1200.5", comma: "1.200,5 is 1200.5" };

/** How dates and numbers are written in the stored text that they are made of. */
interface Written {
  dayOrder?: DayOrder;
  decimalSign?: DecimalSign;
}

/** What a column is: its title, type and rules. The stored values are looked at before anything is changed. */
export function ColumnEditor({ table, column, close, changed }: Props) {
  const now = table.columns.find((each) => each.name === column);
  const wasWords = now !== undefined && FACTS[now.type].sort === "words";
  const [to, setTo] = useState<Column>(now ?? ({ title: "", type: "text" } as Column));
  const [choices, setChoices] = useState((now?.choices ?? []).join("\n"));
  const [removing, setRemoving] = useState(false);
  const [written, setWritten] = useState<Written>({});
  const set = (patch: Partial<Column>) => setTo({ ...to, ...patch });
  const asked = { ...wire(to, choices), ...written };
  const path = { table: table.name, column: column ?? "" };
  const check = useQuery({
    queryKey: queryKeyOf("check", path, JSON.stringify(asked)),
    queryFn: ({ signal }) =>
      answered(
        api.POST("/api/tables/{table}/columns/{column}/check", { params: { path }, body: asked, signal }),
      ),
    enabled: !!now && (to.type !== "link" || !!to.to),
    retry: false,
    gcTime: 0,
  });
  const save = useMutation({
    mutationFn: () =>
      answered(
        now
          ? api.PUT("/api/tables/{table}/columns/{column}", { params: { path }, body: asked })
          : api.POST("/api/tables/{table}/columns", { params: { path: { table: table.name } }, body: asked }),
      ),
    onSuccess: () => {
      changed();
      close();
    },
  });
  const used = useQuery({
    queryKey: queryKeyOf("column-used", table.name, now?.name ?? ""),
    queryFn: () =>
      answered(
        api.GET("/api/tables/{table}/columns/{column}/used", {
          params: { path: { table: table.name, column: now?.name ?? "" } },
        }),
      ),
    enabled: removing && !!now,
  });
  const remove = useMutation({
    mutationFn: () => answered(api.DELETE("/api/tables/{table}/columns/{column}", { params: { path } })),
    onSuccess: () => {
      changed();
      close();
    },
  });
  const unfit = check.data?.unfit ?? 0;
  const type = to.type ?? "text";
  return (
    <Cover name={now ? `Column ${now.title}` : "New column"} close={close}>
      <form
        className="grid gap-2 p-5"
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate();
        }}
      >
        <h2 className="mb-1">{now ? `Column ${now.title}` : `New column of ${table.title}`}</h2>
        <Writing name="Title" value={to.title} set={(title) => set({ title })} />
        <Writing
          name="Name in SQL"
          value={to.name}
          none="made from the title"
          set={(name) => set({ name })}
        />
        <Choice
          name="Type"
          value={type}
          choices={TYPES}
          set={(next) => set({ type: next, scale: null, min: null, max: null } as Partial<Column>)}
        />
        {wasWords && FACTS[type].sort === "dated" && (
          <Choice
            name="Stored dates are written"
            value={written.dayOrder ?? "month-first"}
            choices={DAYS}
            set={(dayOrder) => setWritten({ dayOrder })}
          />
        )}
        {wasWords && FACTS[type].sort === "number" && (
          <Choice
            name="Stored numbers are written"
            value={written.decimalSign ?? "point"}
            choices={SIGNS}
            set={(decimalSign) => setWritten({ decimalSign })}
          />
        )}
        {type === "choice" && (
          <Row name="Choices, one a line">
            <textarea
              aria-label="Choices, one a line"
              className="entry small tall"
              rows={4}
              value={choices}
              onChange={(e) => setChoices(e.target.value)}
            />
          </Row>
        )}
        {type === "link" && <LinkTo to={to} set={set} />}
        {type === "decimal" && (
          <Writing
            name="Decimals at most"
            value={to.scale == null ? "" : String(to.scale)}
            none="any"
            set={(scale) => set({ scale: /^\d+$/.test(scale) ? Number(scale) : null })}
          />
        )}
        {FACTS[type].ranged && (
          <>
            <Writing
              name="Least"
              value={text(to.min)}
              none="any"
              set={(min) => set({ min } as Partial<Column>)}
            />
            <Writing
              name="Greatest"
              value={text(to.max)}
              none="any"
              set={(max) => set({ max } as Partial<Column>)}
            />
          </>
        )}
        <Flag name="Required" value={to.required ?? false} set={(required) => set({ required })} />
        <Flag name="No two alike" value={to.unique ?? false} set={(unique) => set({ unique })} />
        {now && (
          <div className={`fit ${unfit > 0 ? "stop" : ""}`} role="status">
            {check.isFetching && !check.data ? "Looking at the stored values…" : ""}
            {check.error ? check.error.message : ""}
            {check.data && unfit === 0 ? "Every stored value fits." : ""}
            {unfit > 0 && (
              <>
                <b>{unfit === 1 ? "1 record does not fit:" : `${grouped(unfit)} records do not fit:`}</b>
                <ul>
                  {check.data?.examples.map((example) => (
                    <li key={example.row}>
                      Row {example.row}
                      {example.value ? `, “${example.value}”` : ""}: {example.message}
                    </li>
                  ))}
                </ul>
              </>
            )}
          </div>
        )}
        <Trouble error={save.error ?? remove.error} />
        <div className="mt-2 flex gap-3">
          <button
            type="submit"
            className="btn go"
            disabled={
              save.isPending || (type === "link" && !to.to) || unfit > 0 || !!check.error || !to.title?.trim()
            }
          >
            {now ? "Change the column" : "Make the column"}
          </button>
          <button type="button" className="btn" onClick={close}>
            Cancel <kbd>Esc</kbd>
          </button>
          <span className="flex-1" />
          {now && !removing && (
            <button type="button" className="btn quiet" onClick={() => setRemoving(true)}>
              Remove…
            </button>
          )}
        </div>
        {removing && (
          <div className="biting">
            <p>
              Removing {now?.title} deletes what {counted(table.rows, "record holds", "records hold")} in it,
              for good.{" "}
              {used.data &&
                (used.data.forms.length > 0
                  ? `${used.data.forms.join(", ")}: what shows it there is hidden, rules that speak of it hold no more, and each is told at the Bench.`
                  : "No published form uses it.")}
            </p>
            <button type="button" className="btn danger" onClick={() => remove.mutate()}>
              Remove {now?.title} and its values
            </button>
          </div>
        )}
      </form>
    </Cover>
  );
}

const text = (bound: unknown): string => (bound === null || bound === undefined ? "" : String(bound));

/** The column as it is asked for; bounds that are not filled in are none. */
function wire(to: Column, choices: string): Column {
  const bound = (value: unknown) => (text(value).trim() === "" ? undefined : text(value).trim());
  return {
    ...to,
    min: bound(to.min),
    max: bound(to.max),
    ...(to.type === "link"
      ? { to: to.to ?? "", shown: to.shown ?? [], removed: to.removed ?? "refuse" }
      : { to: undefined, shown: undefined, removed: undefined }),
    choices: to.type === "choice" ? choices.split("\n").filter((each) => each.trim()) : [],
  } as Column;
}
