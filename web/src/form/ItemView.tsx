import { lazy, Suspense } from "react";
import type { Column, FormItem } from "../api/client";
import { useShown } from "../model/way";
import { Icon } from "./Icon";
import type { Presses } from "./view";

const Markdown = lazy(() => import("react-markdown"));

interface Props {
  item: Exclude<FormItem, { kind: "field" | "lines" }>;
  columns: Column[];
  values: Record<string, unknown>;
  /** What a formula lets it show. */
  words: string | undefined;
  presses: Presses;
}

/** What stands on a form beside its fields. */
export function ItemView({ item, columns, values, words, presses }: Props) {
  const shown = useShown();
  const style = { "--w": item.width, "--n": Math.min(12, item.width * 2) } as React.CSSProperties;
  switch (item.kind) {
    case "button":
      return (
        <div className="f act" style={style}>
          <button
            type="button"
            className={`btn ${item.key === "enter" ? "go" : ""}`}
            disabled={!presses.can(item)}
            onClick={() => presses.press(item)}
          >
            {item.icon && <Icon name={item.icon} />}
            {item.label}
            {item.key === "enter" && <kbd>Enter</kbd>}
            {item.key === "esc" && <kbd>Esc</kbd>}
          </button>
        </div>
      );
    case "calculated":
      return (
        <div className="f" style={style}>
          <span className="label">{item.label}</span>
          <output className="value">
            {words ||
              shown(values[item.column], columns.find((each) => each.name === item.column)?.type) ||
              "–"}
          </output>
        </div>
      );
    case "picture":
      return (
        <div className="f" style={style}>
          {item.image ? (
            <img src={item.image} alt={item.words} style={{ maxHeight: (item.height ?? 4) * 32 }} />
          ) : (
            <p className="say">No picture is chosen yet.</p>
          )}
        </div>
      );
    case "divider":
      return <hr className="f rule" style={style} />;
    case "heading":
      return (
        <h3 className="f section" style={style}>
          {item.text}
        </h3>
      );
    case "text":
      return (
        <div className="f prose-text" style={style}>
          <Suspense fallback={item.text}>
            <Markdown skipHtml>{item.text}</Markdown>
          </Suspense>
        </div>
      );
  }
}
