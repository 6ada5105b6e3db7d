import { type InputProps, plainKeys } from "./input";

/** One line: text, numbers, times. */
export function LineInput({ id, text, type, field, aria }: InputProps) {
  return (
    <div className={`in ${["line", "area", "choice"].includes(field.widget) ? "words" : ""}`}>
      <input
        id={id}
        value={text}
        onChange={(e) => type(e.target.value)}
        inputMode={field.widget === "number" ? "decimal" : undefined}
        {...plainKeys}
        {...aria}
      />
      {field.unit && <span className="unit">{field.unit}</span>}
    </div>
  );
}
