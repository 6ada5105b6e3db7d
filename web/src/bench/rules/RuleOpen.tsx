import { ArrowDown, ArrowUp, X } from "lucide-react";
import { useState } from "react";
import type { FormStepAction, Table } from "../../api/client";
import { Row } from "../settings";
import type { BenchDoings } from "../useBench";
import { FormulaInput } from "./FormulaInput";
import { movedKey, moveStep, put, type Rule, ruleAt, takeAway } from "./keys";
import { PatternTry } from "./PatternTry";
import { readRule } from "./reading";

interface Props {
  bench: BenchDoings;
  table: Table;
  ruleKey: string;
  /** Types the whole sentence anew. */
  change: () => void;
  /** Goes to another rule, or to none. */
  go: (key: string | undefined) => void;
}

/** The pieces of a rule that are changed without typing its sentence. What can't be followed is told, and not kept. */
export function RuleOpen({ bench, table, ruleKey, change, go }: Props) {
  const rule = ruleAt(bench.form, ruleKey);
  const [trouble, setTrouble] = useState("");
  if (!rule) return null;
  const set = async (patch: Record<string, unknown>) => {
    const next = { ...rule, rule: { ...rule.rule, ...patch } };
    try {
      const { unclear } = await readRule(bench, next);
      setTrouble(unclear ?? "");
      if (unclear === null) bench.edit(put(ruleKey, next.rule));
    } catch (e) {
      setTrouble((e as Error).message);
    }
  };
  return (
    <div className="rule-open">
      <Pieces bench={bench} table={table} rule={rule} set={set} />
      <p className="say stop" role="status">
        {trouble}
      </p>
      <span className="flex flex-wrap gap-2">
        <button type="button" className="btn small" onClick={change}>
          Change the sentence <kbd>F2</kbd>
        </button>
        {rule.part === "steps" &&
          ([-1, 1] as const).map((by) => (
            <button
              key={by}
              type="button"
              className="btn small"
              aria-label={by < 0 ? "Earlier" : "Later"}
              disabled={!ruleAt(bench.form, movedKey(ruleKey, by))}
              onClick={() => {
                bench.edit(moveStep(ruleKey, by));
                go(movedKey(ruleKey, by));
              }}
            >
              {by < 0 ? <ArrowUp size={14} aria-hidden="true" /> : <ArrowDown size={14} aria-hidden="true" />}
            </button>
          ))}
        <button
          type="button"
          className="btn small danger"
          onClick={() => {
            bench.edit(takeAway(ruleKey));
            go(undefined);
          }}
        >
          <X size={14} aria-hidden="true" /> Take it away
        </button>
      </span>
    </div>
  );
}

interface PiecesProps {
  bench: BenchDoings;
  table: Table;
  rule: Rule;
  set: (patch: Record<string, unknown>) => void;
}

function Pieces({ bench, table, rule: { part, rule }, set }: PiecesProps) {
  const text = (name: string) => String(rule[name] ?? "");
  const formula = (name: string, called: string, none?: string) => (
    <FormulaPiece
      name={called}
      value={text(name)}
      none={none}
      bench={bench}
      table={table}
      set={(value) => set({ [name]: value })}
    />
  );
  switch (part) {
    case "checks":
      return <CheckPieces bench={bench} table={table} rule={rule} set={set} />;
    case "fills":
      return (
        <>
          <Segments
            name="When none matches"
            value={text("none")}
            choices={{ leave: "nothing", ask: "ask", stop: "stop" }}
            set={(none) => set({ none })}
          />
          <Segments
            name="When several match"
            value={text("several")}
            choices={{ choose: "choose one", leave: "nothing", ask: "ask", stop: "stop" }}
            set={(several) => set({ several })}
          />
          <Flag
            name="What is typed over it is written back"
            value={!!rule.writesBack}
            set={(writesBack) => set({ writesBack })}
          />
        </>
      );
    case "choices":
      return <Flag name="Takes anything else too" value={!!rule.open} set={(open) => set({ open })} />;
    case "formulas":
      return formula("formula", "Formula");
    case "numbers":
      return <TextPiece name="Pattern" value={text("pattern")} set={(pattern) => set({ pattern })} />;
    case "steps":
      return (
        <>
          <ActionPieces
            action={rule.action as FormStepAction}
            set={(action) => set({ action })}
            bench={bench}
            table={table}
          />
          {formula("onlyIf", "Only if", "always")}
        </>
      );
    default:
      return null;
  }
}

function CheckPieces({ bench, table, rule: check, set }: Omit<PiecesProps, "rule"> & { rule: Rule["rule"] }) {
  const rule = check.rule as Record<string, unknown>;
  const of = (patch: Record<string, unknown>) => set({ rule: { ...rule, ...patch } });
  const bound = (name: string, called: string) => (
    <TextPiece
      key={name}
      name={called}
      value={rule[name] === 0 && name === "to" ? "" : String(rule[name])}
      none="no bound"
      set={(value) => of({ [name]: rule.kind === "length" ? Number(value) || 0 : value })}
    />
  );
  return (
    <>
      {rule.kind !== "complete" && (
        <Segments
          name="An entry that breaks it"
          value={check.asks ? "asks" : "stops"}
          choices={{ stops: "stops", asks: "asks" }}
          set={(how) => set({ asks: how === "asks" })}
        />
      )}
      <TextPiece
        name="In these words"
        value={String(check.message)}
        none="made from the rule; {ph} stands for a value"
        set={(message) => set({ message })}
      />
      {(rule.kind === "range" || rule.kind === "length") && [bound("from", "From"), bound("to", "To")]}
      {rule.kind === "matches" && (
        <>
          <TextPiece name="Pattern" value={String(rule.pattern)} set={(pattern) => of({ pattern })} />
          <PatternTry form={bench.form.id} pattern={String(rule.pattern)} />
        </>
      )}
      {rule.kind === "one-of" && (
        <TextPiece
          name="List"
          value={(rule.list as string[]).join(", ")}
          set={(list) => of({ list: list.split(/,\s*/).filter(Boolean) })}
        />
      )}
      {rule.kind === "holds" && (
        <FormulaPiece
          name="Formula that must hold"
          value={String(rule.formula)}
          bench={bench}
          table={table}
          set={(formula) => of({ formula })}
        />
      )}
      {!check.asks && "column" in rule && (
        <Flag
          name="The cursor stays until it is right"
          value={!!check.stays}
          set={(stays) => set({ stays })}
        />
      )}
    </>
  );
}

interface ActionProps {
  action: FormStepAction;
  set: (action: FormStepAction) => void;
  bench: BenchDoings;
  table: Table;
}

/** The words and formulas of a step. Which tables and columns it speaks of is said in its sentence. */
function ActionPieces({ action, set, bench, table }: ActionProps) {
  const formulas = (
    settings: { column: string; formula: string }[],
    of: (next: typeof settings) => FormStepAction,
  ) =>
    settings.map((setting, place) => (
      <FormulaPiece
        // biome-ignore lint/suspicious/noArrayIndexKey: they have no names of their own, only their order
        key={place}
        name={`${setting.column} =`}
        value={setting.formula}
        bench={bench}
        table={table}
        set={(formula) => set(of(settings.map((each, i) => (i === place ? { ...each, formula } : each))))}
      />
    ));
  switch (action.kind) {
    case "send":
      return (
        <>
          <TextPiece name="To" value={action.to} set={(to) => set({ ...action, to })} />
          <TextPiece name="Subject" value={action.subject} set={(subject) => set({ ...action, subject })} />
          <TextPiece name="Text" value={action.text} rows={4} set={(text) => set({ ...action, text })} />
        </>
      );
    case "say":
      return <TextPiece name="Words" value={action.text} set={(text) => set({ ...action, text })} />;
    case "ask":
      return (
        <>
          <TextPiece name="Question" value={action.text} set={(text) => set({ ...action, text })} />
          <Segments
            name="Enter answers"
            value={action.usual}
            choices={{ yes: "yes", no: "no", cancel: "cancel" }}
            set={(usual) => set({ ...action, usual: usual as typeof action.usual })}
          />
          <p className="say">A no leaves out the next step; cancel gives up, and nothing is saved.</p>
        </>
      );
    case "open":
    case "add-row":
      return <>{formulas(action.values, (values) => ({ ...action, values }))}</>;
    case "change-row":
      return (
        <>
          {formulas(action.where, (where) => ({ ...action, where }))}
          {formulas(action.values, (values) => ({ ...action, values }))}
        </>
      );
    case "set-field":
      return <>{formulas([action.value], ([value]) => (value ? { ...action, value } : action))}</>;
    case "press":
      return null;
  }
}

interface PieceProps {
  name: string;
  value: string;
  set: (value: string) => void;
}

/** A text that is kept when one leaves it or presses Enter; Esc puts it back. */
function TextPiece({ name, value, set, none, rows }: PieceProps & { none?: string; rows?: number }) {
  const [typed, setTyped] = useState<string>();
  const keep = () => {
    if (typed !== undefined && typed !== value) set(typed);
    setTyped(undefined);
  };
  const Box = rows ? "textarea" : "input";
  return (
    <Row name={name}>
      <Box
        className={`entry small ${rows ? "tall" : ""}`}
        rows={rows}
        aria-label={name}
        value={typed ?? value}
        placeholder={none}
        maxLength={rows ? 20_000 : 400}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={keep}
        onKeyDown={(e) => {
          if (e.key === "Enter" && !rows) keep();
          else if (e.key === "Escape" && typed !== undefined) setTyped(undefined);
          else return;
          e.preventDefault();
          e.stopPropagation();
        }}
      />
    </Row>
  );
}

/** A formula, kept when one leaves it; what it comes to for the draft is told while it is typed. */
function FormulaPiece({
  name,
  value,
  set,
  none,
  bench,
  table,
}: PieceProps & { none?: string; bench: BenchDoings; table: Table }) {
  const [typed, setTyped] = useState<string>();
  return (
    <Row name={name}>
      <div
        onBlur={(e) => {
          if (e.currentTarget.contains(e.relatedTarget) || typed === undefined) return;
          if (typed !== value) set(typed);
          setTyped(undefined);
        }}
      >
        <FormulaInput
          name={name}
          value={typed ?? value}
          set={setTyped}
          bench={bench}
          table={table}
          none={none}
        />
      </div>
    </Row>
  );
}

function Segments({ name, value, choices, set }: PieceProps & { choices: Record<string, string> }) {
  return (
    <fieldset className="segments" aria-label={name}>
      <legend>{name}</legend>
      <div>
        {Object.entries(choices).map(([key, words]) => (
          <button
            key={key}
            type="button"
            className={key}
            aria-pressed={value === key}
            onClick={() => key !== value && set(key)}
          >
            {words}
          </button>
        ))}
      </div>
    </fieldset>
  );
}

function Flag({ name, value, set }: { name: string; value: boolean; set: (value: boolean) => void }) {
  return (
    <label className="flex items-center gap-2 text-[14px]">
      <input
        type="checkbox"
        className="checkbox checkbox-sm"
        checked={value}
        onChange={(e) => set(e.target.checked)}
      />
      {name}
    </label>
  );
}
