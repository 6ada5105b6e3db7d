import type { DeskForm as Form } from "../api/client";
import { finding } from "../rows/ask";
import type { DeskDoings } from "../sitting/useDesk";

const ASKED: [string, string][] = [
  ["Alt Y", "save it so"],
  ["Alt B", "back to the entry"],
  ["F1", "all keys"],
];

/** The keys that work right now, and what was last said. */
export function DeskFoot({ form, desk, rows }: { form: Form; desk: DeskDoings; rows: boolean }) {
  const { sitting, find, browse } = desk;
  const back: [string, string] = [
    "Esc",
    finding(browse.ask) && !sitting.entry.dirty ? "leave Find" : "put the field back",
  ];
  const keys: [string, string][] = sitting.question
    ? ASKED.slice(sitting.question.answer ? 0 : 1)
    : find.asking
      ? [
          ["Enter", "first match"],
          ["Tab", "next field"],
          ["Esc", "leave Find"],
          ["F1", "all keys"],
        ]
      : finding(browse.ask)
        ? [["F3", "next match"], ["Shift F3", "previous"], ["F8", "rows"], back]
        : [
            ["Tab", "next field"],
            ["Enter", form.enter === "saves" ? "save" : "next field"],
            back,
            ...(form.door.may.includes("see")
              ? ([
                  ["PgUp", "previous record"],
                  ["F8", rows ? "into the rows" : "rows"],
                ] as [string, string][])
              : []),
            ["F1", "all keys"],
          ];
  return (
    <footer className="foot">
      {keys.map(([key, what]) => (
        <span key={key} className="key">
          <kbd>{key}</kbd> {what}
        </span>
      ))}
      <span role="status" className={`said ${sitting.said.tone}`}>
        {sitting.said.text}
      </span>
    </footer>
  );
}
