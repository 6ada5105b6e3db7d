import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, useParams } from "react-router";
import { answered, api, type Form, Problem, type Schemas } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { doorQuery, publishedQuery, seenTableQuery } from "../api/queries";
import { text } from "../entry/texts";
import { fieldsOf } from "../model/items";
import { picturesAt } from "../model/pictures";
import { Trouble } from "../ui/Trouble";
import { twiceQuery } from "./twiceQuery";
import "./twice.css";

type Differs = Schemas["PaperDiffers"];
type Holds = Schemas["HoldsJson"];

/** The place where keyings that differ are settled, field by field. */
export function SettleDesk() {
  const id = useParams().door ?? "";
  const door = useQuery(doorQuery(id)).data;
  const form = useQuery(publishedQuery(id)).data?.form;
  const table = useQuery(seenTableQuery(id)).data;
  const state = useQuery(twiceQuery(id)).data;
  const [after, setAfter] = useState<number>();
  const [said, setSaid] = useState("");
  const queries = useQueryClient();
  const next = useQuery({
    queryKey: queryKeyOf("to-settle", id, after),
    queryFn: () =>
      answered(
        api.GET("/api/doors/{door}/twice/settling", { params: { path: { door: id }, query: { after } } }),
      ),
    staleTime: 0,
  });
  const goOn = (record: number, words: string) => {
    setSaid(words);
    queries.invalidateQueries({ queryKey: queryKeyOf("twice", id) });
    setAfter(record);
  };
  const paper = next.data?.paper;
  return (
    <main className="desk second adding">
      <header className="top">
        <h1>{form?.title ?? "Settling"}</h1>
        {door && <span className="chip">{door.title}</span>}
        <span className="chip again">settling</span>
        <span className="flex-1" />
        {next.data && <span className="chip">{next.data.left} to settle</span>}
        {state?.keys && (
          <Link className="btn quiet" to={`/d/${id}/twice`}>
            Second keying
          </Link>
        )}
        <Link className="btn quiet" to={`/d/${id}`}>
          First keying
        </Link>
      </header>
      <div className="mid">
        <Trouble error={next.error} />
        {form && table && paper && (
          <Settle
            key={paper.paper.record}
            door={id}
            form={form}
            paper={paper}
            around={around(form, table, paper)}
            done={goOn}
          />
        )}
        {next.data && !paper && (
          <div className="box grid gap-3 p-5">
            <p>
              {next.data.left > 0
                ? "Those that you left for later are still to settle."
                : "Nothing is to settle for you here. Papers that you keyed yourself are for somebody else."}
            </p>
            {next.data.left > 0 && (
              <span>
                <button type="button" className="btn go" onClick={() => setAfter(undefined)}>
                  Begin again at the first
                </button>
              </span>
            )}
          </div>
        )}
      </div>
      <footer className="foot">
        {(
          [
            ["1 2", "which keying holds"],
            ["Tab", "next field"],
            ["Enter", "settle"],
            ["Alt L", "leave it for later"],
          ] as const
        ).map(([key, what]) => (
          <span key={key} className="key">
            <kbd>{key}</kbd> {what}
          </span>
        ))}
        <span role="status" className="said ok">
          {said}
        </span>
      </footer>
    </main>
  );
}

/** What else is known of the paper: its other fields, as they were keyed first. */
function around(form: Form, table: Schemas["SeenTableJson"], { paper, record, fields, pictures }: Differs) {
  return fieldsOf(form)
    .filter(
      ({ column }) =>
        !pictures.includes(column) &&
        !fields.some((each) => each.column === column) &&
        !(column in paper.values),
    )
    .map(({ column, label }) => ({ label, words: text(form, table, column, record.values[column]) }))
    .filter(({ words }) => words);
}

/** The one of both keyings that Tab comes to. */
const tabbed = (holds: Holds["which"] | undefined) => (holds === "second" ? "second" : "first");

interface Props {
  door: string;
  form: Form;
  paper: Differs;
  around: { label: string; words: string }[];
  done: (record: number, words: string) => void;
}

/** One paper: both keyings side by side, of which one holds in each field, or what is typed. */
function Settle({ door, form, paper, around, done }: Props) {
  const { fields, record } = paper;
  const [holds, setHolds] = useState<Record<string, Holds>>({});
  const [said, setSaid] = useState<Record<string, string>>({});
  const [trouble, setTrouble] = useState<unknown>();
  const [asks, setAsks] = useState<string[]>([]);
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => box.current?.querySelector<HTMLElement>("input")?.focus(), []);
  const open = fields.filter(({ column }) => !holds[column]);
  const hold = (column: string, which: Holds["which"], typed?: string) => {
    setHolds((before) => ({ ...before, [column]: { which, typed } }));
    setSaid((before) => ({ ...before, [column]: "" }));
  };
  const go = (column: string | undefined) =>
    column &&
    setTimeout(() =>
      box.current
        ?.querySelector<HTMLElement>(
          `[data-field="${CSS.escape(column)}"] input:checked, [data-field="${CSS.escape(column)}"] input`,
        )
        ?.focus(),
    );
  const settle = async () => {
    if (open.length > 0) {
      setSaid(Object.fromEntries(open.map(({ column }) => [column, "Choose which keying holds."])));
      go(open[0]?.column);
      return;
    }
    try {
      await answered(
        api.POST("/api/doors/{door}/twice/{record}/settle", {
          params: { path: { door, record: record.id }, header: { "If-Match": `"${record.version}"` } },
          body: { choices: holds, answers: Object.fromEntries(asks.map((code) => [code, "yes"])) },
        }),
      );
      done(record.id, `${paper.paper.words} is settled.`);
    } catch (e) {
      const findings = e instanceof Problem ? e.findings : [];
      if (findings.length === 0) setTrouble(e);
      setSaid(Object.fromEntries(findings.map((each) => [each.field, each.message])));
      setAsks(findings.filter(({ severity }) => severity === "ask").map(({ rule, code }) => rule || code));
      go(findings[0]?.field);
    }
  };
  const keys = (e: React.KeyboardEvent) => {
    const typing = (e.target as HTMLInputElement).type === "text";
    const column = (e.target as HTMLElement).closest<HTMLElement>("[data-field]")?.dataset.field;
    const which = !typing && ({ 1: "first", 2: "second" } as const)[e.key as "1" | "2"];
    if (e.altKey && e.key.toLowerCase() === "l") done(record.id, `${paper.paper.words} is left for later.`);
    else if (e.key === "Enter") settle();
    else if (which && column) {
      hold(column, which);
      go(open.filter((each) => each.column !== column)[0]?.column ?? column);
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <div className="settling" ref={box} onKeyDown={keys}>
      <div className="the-paper">
        <span className="words">{paper.paper.words}</span>
        <span className="whitespace-nowrap text-soft">row {record.row}</span>
      </div>
      <Trouble error={trouble} />
      <div className="box p-4">
        <table>
          <thead>
            <tr>
              <th scope="col">Field</th>
              <th scope="col">First keying</th>
              <th scope="col">Second keying</th>
              <th scope="col">Neither: type it</th>
            </tr>
          </thead>
          <tbody>
            {fields.map(({ column, label, both }) => (
              <tr key={column} data-field={column}>
                <th scope="row">
                  {label}
                  {said[column] && (
                    <p className="say stop" role="alert">
                      {said[column]}
                    </p>
                  )}
                </th>
                {(["first", "second"] as const).map((which) => (
                  <td key={which}>
                    <label className="holds">
                      <input
                        type="radio"
                        name={column}
                        // Tab goes past the two as one, whatever the browser makes of a pair of which none is chosen.
                        tabIndex={which === tabbed(holds[column]?.which) ? 0 : -1}
                        aria-label={`${label}: ${which} keying ${both[`${which}Words`] || "empty"}`}
                        checked={holds[column]?.which === which}
                        onChange={() => hold(column, which)}
                      />
                      <kbd>{which === "first" ? 1 : 2}</kbd>
                      {both[`${which}Words`] || <i>empty</i>}
                    </label>
                  </td>
                ))}
                <td>
                  <input
                    type="text"
                    className="entry"
                    aria-label={`${label}: neither, but`}
                    autoComplete="off"
                    value={holds[column]?.which === "other" ? (holds[column]?.typed ?? "") : ""}
                    onChange={(e) => hold(column, "other", e.target.value)}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <div className="acts">
          <button type="button" className="btn go" onClick={settle}>
            {asks.length > 0 ? "Settle all the same" : "Settle"} <kbd>Enter</kbd>
          </button>
          <button
            type="button"
            className="btn"
            onClick={() => done(record.id, `${paper.paper.words} is left for later.`)}
          >
            Leave for later <kbd>Alt L</kbd>
          </button>
        </div>
      </div>
      {paper.pictures.map((column) => (
        <figure key={column} className="box p-4">
          <figcaption>{fieldsOf(form).find((field) => field.column === column)?.label}</figcaption>
          <img
            src={`${picturesAt(door)}/${encodeURIComponent(String(record.values[column]))}`}
            alt={fieldsOf(form).find((field) => field.column === column)?.label ?? "the paper"}
          />
        </figure>
      ))}
      {around.length > 0 && (
        <section className="box p-4" aria-label="The rest of the paper">
          <dl className="around">
            {around.map(({ label, words }) => (
              <div key={label}>
                <dt>{label}</dt>
                <dd>{words}</dd>
              </div>
            ))}
          </dl>
        </section>
      )}
    </div>
  );
}
