import { ArrowDown, ArrowUp, X } from "lucide-react";
import { useState } from "react";
import type { FormCheck, FormCheckRule, FormStepAction, Table } from "../../api/client";
import type { BenchDoings } from "../useBench";
import { movedKey, moveStep, put, type Rule, type RuleOf, ruleAt, takeAway } from "./keys";
import { PatternTry } from "./PatternTry";
import { Flag, FormulaPiece, Segments, TextPiece } from "./pieces";
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
  const set = async (next: Rule) => {
    try {
      const { unclear } = await readRule(bench, next);
      setTrouble(unclear ?? "");
      if (unclear === null) bench.edit(put(ruleKey, next));
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
          <X size={14} aria-hidden="true" /> Delete
        </button>
      </span>
    </div>
  );
}

interface PiecesProps<R extends Rule = Rule> {
  bench: BenchDoings;
  table: Table;
  rule: R;
  set: (rule: R) => void;
}

function Pieces({ bench, table, rule: all, set }: PiecesProps) {
  const formula = (name: string, value: string, put: (value: string) => void, none?: string) => (
    <FormulaPiece name={name} value={value} none={none} bench={bench} table={table} set={put} />
  );
  switch (all.part) {
    case "checks":
      return <CheckPieces bench={bench} table={table} rule={all} set={set} />;
    case "fills": {
      const { rule } = all;
      const of = (patch: Partial<typeof rule>) => set({ ...all, rule: { ...rule, ...patch } });
      return (
        <>
          <Segments
            name="When none matches"
            value={rule.none}
            choices={{ leave: "nothing", ask: "ask", stop: "stop" }}
            set={(none) => of({ none })}
          />
          <Segments
            name="When several match"
            value={rule.several}
            choices={{ choose: "choose one", leave: "nothing", ask: "ask", stop: "stop" }}
            set={(several) => of({ several })}
          />
          <Flag
            name="What is typed over it is written back"
            value={rule.writesBack}
            set={(writesBack) => of({ writesBack })}
          />
        </>
      );
    }
    case "choices": {
      const { rule } = all;
      return (
        <Flag
          name="Takes anything else too"
          value={rule.open}
          set={(open) => set({ ...all, rule: { ...rule, open } })}
        />
      );
    }
    case "formulas": {
      const { rule } = all;
      return formula("Formula", rule.formula, (value) => set({ ...all, rule: { ...rule, formula: value } }));
    }
    case "numbers": {
      const { rule } = all;
      return (
        <TextPiece
          name="Pattern"
          value={rule.pattern}
          set={(pattern) => set({ ...all, rule: { ...rule, pattern } })}
        />
      );
    }
    case "steps": {
      const { rule } = all;
      return (
        <>
          <ActionPieces
            action={rule.action}
            set={(action) => set({ ...all, rule: { ...rule, action } })}
            bench={bench}
            table={table}
          />
          {formula("Only if", rule.onlyIf, (onlyIf) => set({ ...all, rule: { ...rule, onlyIf } }), "always")}
        </>
      );
    }
    case "between":
      return null;
  }
}

function CheckPieces({ bench, table, rule: all, set }: PiecesProps<RuleOf<"checks">>) {
  const { rule: check } = all;
  const of = (patch: Partial<FormCheck>) => set({ ...all, rule: { ...check, ...patch } });
  return (
    <>
      {!["complete", "alike", "usual"].includes(check.rule.kind) && (
        <Segments
          name="An entry that breaks it"
          value={check.asks ? "asks" : "stops"}
          choices={{ stops: "stops", asks: "asks" }}
          set={(how) => of({ asks: how === "asks" })}
        />
      )}
      <TextPiece
        name="In these words"
        value={check.message}
        none="made from the rule; {ph} stands for a value"
        set={(message) => of({ message })}
      />
      <MustPieces bench={bench} table={table} must={check.rule} set={(rule) => of({ rule })} />
      {!check.asks && "column" in check.rule && (
        <Flag name="The cursor stays until it is right" value={check.stays} set={(stays) => of({ stays })} />
      )}
    </>
  );
}

interface MustProps {
  bench: BenchDoings;
  table: Table;
  must: FormCheckRule;
  set: (must: FormCheckRule) => void;
}

/** What must be so. Which columns it speaks of is said in its sentence. */
function MustPieces({ bench, table, must, set }: MustProps) {
  switch (must.kind) {
    case "range":
      return (
        <>
          <TextPiece name="From" value={must.from} none="no bound" set={(from) => set({ ...must, from })} />
          <TextPiece name="To" value={must.to} none="no bound" set={(to) => set({ ...must, to })} />
        </>
      );
    case "length":
      return (
        <>
          <TextPiece
            name="From"
            value={String(must.from)}
            none="no bound"
            set={(from) => set({ ...must, from: Number(from) || 0 })}
          />
          <TextPiece
            name="To"
            value={must.to === 0 ? "" : String(must.to)}
            none="no bound"
            set={(to) => set({ ...must, to: Number(to) || 0 })}
          />
        </>
      );
    case "matches":
      return (
        <>
          <TextPiece name="Pattern" value={must.pattern} set={(pattern) => set({ ...must, pattern })} />
          <PatternTry form={bench.form.id} pattern={must.pattern} />
        </>
      );
    case "one-of":
      return (
        <TextPiece
          name="List"
          value={must.list.join(", ")}
          set={(list) => set({ ...must, list: list.split(/,\s*/).filter(Boolean) })}
        />
      );
    case "holds":
      return (
        <FormulaPiece
          name="Formula that is to hold"
          value={must.formula}
          bench={bench}
          table={table}
          set={(formula) => set({ ...must, formula })}
        />
      );
    case "alike":
      return (
        <>
          <Flag name="By sound too" value={must.sound} set={(sound) => set({ ...must, sound })} />
          <Flag
            name="Counts records too that a door does not show"
            value={must.all}
            set={(all) => set({ ...must, all })}
          />
        </>
      );
    case "usual":
      return (
        <Flag
          name="At doors too that do not show all records"
          value={must.all}
          set={(all) => set({ ...must, all })}
        />
      );
    case "any-of":
    case "needs":
    case "complete":
      return null;
  }
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
            name="Usually"
            value={action.usual}
            choices={{ yes: "yes", no: "no", cancel: "cancel" }}
            set={(usual) => set({ ...action, usual })}
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
