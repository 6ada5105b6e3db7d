import { type InputProps, plainKeys } from "./input";

/** Several lines; Shift+Enter makes a new one. */
export function AreaInput({ id, text, type, aria }: InputProps) {
  return (
    <div className="in tall">
      <textarea id={id} value={text} onChange={(e) => type(e.target.value)} {...plainKeys} {...aria} />
    </div>
  );
}
