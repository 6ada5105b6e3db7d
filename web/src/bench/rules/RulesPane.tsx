import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { answered, api, type Schemas, type Table } from "../../api/client";
import { queryKeyOf } from "../../api/keys";
import { useSubscribed } from "../../model/useSubscribed";
import type { BenchDoings } from "../useBench";
import { add, keyOf, put, type RuleOf, ruleAt, sameRoom, takeAway } from "./keys";
import { RuleOpen } from "./RuleOpen";
import { type Read, ruleOf } from "./reading";
import { RuleLines } from "./ruleLines";
import { Said } from "./Said";
import { SentenceLine } from "./SentenceLine";
import { lookWords, useLook } from "./useLook";

type Told = Schemas["RuleJson"];

const GROUPS = [
  ["while-typing", "While typing", "brings in, works out"],
  ["before-saved", "Before it is saved", "stops, asks"],
  ["once-saved", "Once it is saved", "does"],
  ["when-pressed", "When a button is pressed", "does"],
] as const;

const DRAFT_AFTER = 200;

interface Props {
  bench: BenchDoings;
  table: Table;
}

/** All that the form declares about its entries, each rule a sentence, with what it says of the draft in the form. */
export function RulesPane({ bench, table }: Props) {
  const { rule: chosen, setRule, told } = bench;
  const [typing, setTyping] = useState<string>();
  const lines = bench.typing.rules;
  const { left } = useSubscribed(lines);
  const queries = useQueryClient();
  const pane = useRef<HTMLElement>(null);
  const said = useSaid(bench);
  const one = told.find(({ key }) => key === chosen);
  // What the table keeps, no stored record breaks.
  const asked = chosen?.startsWith("check ") ? ruleAt(bench.form, chosen) : undefined;
  const look = useLook(bench, asked);
  const { setFound } = bench;
  const came = look.came;
  useEffect(() => {
    setFound(one && came ? { rule: one, came } : undefined);
    return () => setFound(undefined);
  }, [setFound, one, came]);

  /** Makes rules of what was read, and answers what of it could not be one. */
  const make = async (all: Read[]): Promise<Read[]> => {
    const refused: Read[] = [];
    let last: string | undefined;
    for (const read of all) {
      const rule = ruleOf(read);
      if (!rule) refused.push(read);
      else if (rule.part === "between") {
        const trouble = await hold(rule);
        if (trouble) refused.push({ ...read, unclear: trouble });
      } else if (told.some(({ text }) => text === read.said?.text)) {
        refused.push({ ...read, unclear: "This rule is there already." });
      } else {
        bench.edit(add(rule));
        last = keyOf(bench.latest(), rule);
      }
    }
    if (last) setRule(last);
    const made = all.length - refused.length;
    if (made > 0) bench.say(made === 1 ? "The rule is made." : `${made} rules are made.`);
    return refused;
  };
  const hold = async ({ rule }: RuleOf<"between">): Promise<string | undefined> => {
    try {
      await answered(
        api.POST("/api/tables/{table}/constraints", {
          params: { path: { table: table.name } },
          body: rule,
        }),
      );
      queries.invalidateQueries({ queryKey: queryKeyOf("bench", bench.form.id) });
      return undefined;
    } catch (e) {
      return (e as Error).message;
    }
  };
  const letGo = async (key: string) => {
    const id = key.slice("between ".length);
    await answered(
      api.DELETE("/api/tables/{table}/constraints/{id}", { params: { path: { table: table.name, id } } }),
    ).catch((e: Error) => bench.say(e.message, true));
    queries.invalidateQueries({ queryKey: queryKeyOf("bench", bench.form.id) });
  };
  const change = async (key: string, [read]: Read[]): Promise<Read[]> => {
    const rule = read && ruleOf(read);
    if (!read || !rule) return read ? [read] : [];
    const before = ruleAt(bench.form, key);
    if (before && sameRoom(rule, before)) bench.edit(put(key, rule));
    else {
      if (before) bench.edit(takeAway(key));
      await make([read]);
    }
    setTyping(undefined);
    focus(key);
    return [];
  };
  const focus = (key: string) =>
    setTimeout(() => pane.current?.querySelector<HTMLElement>(`[data-rule="${CSS.escape(key)}"]`)?.focus());
  const remove = (key: string) => {
    const at = told.findIndex((each) => each.key === key);
    if (key.startsWith("between ")) letGo(key);
    else bench.edit(takeAway(key));
    setRule(undefined);
    const next = told[at + 1] ?? told[at - 1];
    if (next) focus(next.key);
  };
  const keys = (e: React.KeyboardEvent, key: string) => {
    const order = GROUPS.flatMap(([acts]) => told.filter((each) => each.acts === acts));
    const by = { ArrowDown: 1, ArrowUp: -1 }[e.key];
    const next = by && order[order.findIndex((each) => each.key === key) + by];
    if (next) focus(next.key);
    else if (e.key === "F2") setTyping(key);
    else if (e.key === "Delete") remove(key);
    else if (e.key === "Escape") setRule(undefined);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const all = told.map(({ text }) => text).join("\n");
  const saidCopied = () =>
    bench.say(told.length === 1 ? "The rule is copied." : `All ${told.length} rules are copied.`);
  const copied = (e: React.ClipboardEvent) => {
    if (/INPUT|TEXTAREA/.test((e.target as HTMLElement).tagName) || window.getSelection()?.toString()) return;
    e.preventDefault();
    e.stopPropagation();
    e.clipboardData.setData("text/plain", all);
    saidCopied();
  };
  return (
    <section className="rules-pane" aria-label="Rules of the form" ref={pane} data-own-keys onCopy={copied}>
      <SentenceLine bench={bench} name="Add a rule" lines={lines} make={make} />
      {left.length > 0 && (
        <ul className="left-lines" aria-label="What could not be made a rule">
          {left.map((read) => (
            <li key={read.line}>
              <button
                type="button"
                title="Puts it into the line again"
                onClick={() => lines.again(read.line)}
              >
                <q>{read.line}</q>
              </button>{" "}
              {read.unclear}
            </li>
          ))}
        </ul>
      )}
      <div className="rule-groups">
        {GROUPS.map(([acts, name, does]) => {
          const own = told.filter((each) => each.acts === acts);
          if (own.length === 0) return null;
          return (
            <section key={acts} aria-label={name}>
              <h3>
                {name} <small>{does}</small>
              </h3>
              <ul>
                {own.map((each) =>
                  typing === each.key ? (
                    <li key={each.key} className="rule open">
                      <ChangedSentence
                        bench={bench}
                        start={each.text}
                        make={(read) => change(each.key, read)}
                        close={() => {
                          setTyping(undefined);
                          focus(each.key);
                        }}
                      />
                    </li>
                  ) : (
                    <li key={each.key} className={`rule ${chosen === each.key ? "open" : ""}`}>
                      <button
                        type="button"
                        data-rule={each.key}
                        aria-expanded={chosen === each.key}
                        onClick={() => setRule(chosen === each.key ? undefined : each.key)}
                        onKeyDown={(e) => keys(e, each.key)}
                      >
                        <Said rule={each} threads={bench.threads} />
                        {each.key.startsWith("between ") && <span className="mark">kept by the table</span>}
                        <Mark said={said} rule={each} />
                      </button>
                      {chosen === each.key && (
                        <>
                          {each.key.startsWith("between ") ? (
                            <div className="rule-open">
                              <p className="say">It holds for every form that writes to {table.title}.</p>
                              <button
                                type="button"
                                className="btn small danger justify-self-start"
                                onClick={() => remove(each.key)}
                              >
                                Delete
                              </button>
                            </div>
                          ) : (
                            <RuleOpen
                              bench={bench}
                              table={table}
                              ruleKey={each.key}
                              change={() => setTyping(each.key)}
                              go={(key) => {
                                setRule(key);
                                if (key) focus(key);
                              }}
                            />
                          )}
                          {asked && <p className="say look">{lookWords(look, bench.form)}</p>}
                        </>
                      )}
                    </li>
                  ),
                )}
              </ul>
            </section>
          );
        })}
        {told.length > 0 && (
          <button
            type="button"
            className="press copy-rules"
            onClick={() => navigator.clipboard?.writeText(all).then(saidCopied)}
          >
            Copy all as text
          </button>
        )}
        {told.length === 0 && (
          <p className="say none">
            No rules yet. Type what has to be so, what comes in from another table, what is worked out, or
            what happens once an entry is saved.
          </p>
        )}
      </div>
    </section>
  );
}

/** The sentence of a rule, changed in its place. */
function ChangedSentence(props: Omit<React.ComponentProps<typeof SentenceLine>, "name" | "lines">) {
  const [lines] = useState(() => new RuleLines(props.start));
  return <SentenceLine {...props} name="The sentence of the rule" lines={lines} />;
}

/** What each rule says of the draft in the form; nothing before anything is typed. */
function useSaid(bench: BenchDoings): Map<string, Schemas["RuleSaid"]> | undefined {
  const { entry, form, lines } = bench;
  const { typed, answers, chosen } = useSubscribed(entry);
  const touched = !lines && Object.values(typed).some((text) => text.trim());
  const [draft, setDraft] = useState({ values: typed, answers, chosen });
  useEffect(() => {
    const timer = setTimeout(() => setDraft({ values: typed, answers, chosen }), DRAFT_AFTER);
    return () => clearTimeout(timer);
  }, [typed, answers, chosen]);
  const said = useQuery({
    queryKey: queryKeyOf("said", form.id, bench.state?.revision, draft),
    queryFn: ({ signal }) =>
      answered(
        api.POST("/api/forms/{form}/bench/said", {
          params: { path: { form: form.id } },
          body: draft,
          signal,
        }),
      ),
    enabled: touched,
    placeholderData: (before) => before,
    gcTime: 0,
  }).data;
  return touched && said ? new Map(said.map((each) => [each.key, each])) : undefined;
}

const MARKS: Record<Exclude<Schemas["RuleSaid"]["mark"], "acts">, string> = {
  silent: "can’t tell yet",
  holds: "holds",
  asks: "asks now",
  stops: "stops now",
  fails: "fails",
};
const ACTS: Record<string, string> = { fill: "brings in", formula: "works out" };

function Mark({ said, rule }: { said: Map<string, Schemas["RuleSaid"]> | undefined; rule: Told }) {
  if (!said || rule.acts === "once-saved" || rule.acts === "when-pressed") return null;
  const mark = said.get(rule.key);
  return (
    <span className={`mark of-draft draft-${mark?.mark ?? "none"}`} title={mark?.words}>
      {!mark
        ? "does not apply"
        : mark.mark === "acts"
          ? (ACTS[rule.key.split(" ")[0] ?? ""] ?? "holds")
          : MARKS[mark.mark]}
    </span>
  );
}
