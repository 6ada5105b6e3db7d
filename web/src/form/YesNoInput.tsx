import { type InputProps, plainKeys } from "./input";

/** Yes or no: y or n by key, or a press on either. */
export function YesNoInput({ id, text, type, value, field, aria }: InputProps) {
  const pick = (yes: boolean, word: string) => (
    <button
      type="button"
      tabIndex={-1}
      className="pick"
      disabled={aria.readOnly}
      aria-pressed={value === yes}
      aria-label={`${field.label}: ${word}`}
      onClick={() => {
        type(value === yes ? "" : word);
        document.getElementById(id)?.focus();
      }}
    >
      {word}
    </button>
  );
  return (
    <div className="in">
      <input
        id={id}
        value={text}
        onChange={(e) => type(e.target.value)}
        {...plainKeys}
        {...aria}
        placeholder={aria.placeholder ?? "y / n"}
      />
      {pick(true, "yes")}
      {pick(false, "no")}
    </div>
  );
}
