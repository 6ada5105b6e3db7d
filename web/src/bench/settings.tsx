import { type ReactNode, useId } from "react";

/** The colours of the theme, and the sizes of text, for fields and forms alike. */
export const TONES = { plain: "plain", indigo: "blue", madder: "red", weld: "yellow", woad: "green" };
export const SIZES = { small: "small", normal: "normal", large: "large" };

/** What a button does, in words. */
export const ACTIONS = {
  save: "save",
  clear: "clear",
  new: "go to a new entry",
  first: "go to the first record",
  previous: "go to the previous record",
  next: "go to the next record",
  last: "go to the last record",
  find: "find",
  delete: "delete the record",
  "put-back": "put the record back",
  close: "close the form",
  open: "open another form",
  steps: "its steps",
};

/** A line of settings: its name, and what it is set with. */
export function Row({ name, children, id }: { name: string; children: ReactNode; id?: string }) {
  return (
    <div className="setting">
      <label htmlFor={id}>{name}</label>
      {children}
    </div>
  );
}

interface Setting<T> {
  name: string;
  value: T | undefined;
  set: (value: T) => void;
}

export function Writing({ name, value, set, none }: Setting<string> & { none?: string }) {
  const id = useId();
  return (
    <Row name={name} id={id}>
      <input
        id={id}
        className="entry small"
        value={value ?? ""}
        placeholder={none}
        maxLength={400}
        onChange={(e) => set(e.target.value)}
      />
    </Row>
  );
}

export function Choice<T extends string>({
  name,
  value,
  set,
  choices,
}: Setting<T> & { choices: Record<string, string> }) {
  const id = useId();
  return (
    <Row name={name} id={id}>
      <select id={id} className="entry small" value={value ?? ""} onChange={(e) => set(e.target.value as T)}>
        {value === undefined && <option value="">different</option>}
        {Object.entries(choices).map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
    </Row>
  );
}

export function Flag({ name, value, set }: Setting<boolean>) {
  const id = useId();
  return (
    <Row name={name} id={id}>
      <input
        id={id}
        type="checkbox"
        className="checkbox checkbox-sm"
        checked={!!value}
        onChange={(e) => set(e.target.checked)}
      />
    </Row>
  );
}

/** A whole number; none is 0. */
export function Count({ name, value, set, none, unit }: Setting<number> & { none: string; unit: string }) {
  const id = useId();
  return (
    <Row name={name} id={id}>
      <span className="counted">
        <input
          id={id}
          className="entry small"
          inputMode="numeric"
          value={value || ""}
          placeholder={none}
          maxLength={3}
          onChange={(e) => set(Number(e.target.value.replace(/\D/g, "")))}
        />
        {!!value && unit}
      </span>
    </Row>
  );
}

/** A row of pieces to press: as many as it shall be. */
export function Pieces({ name, value, set, count }: Setting<number> & { count: number }) {
  return (
    <fieldset className="pieces" aria-label={name}>
      {Array.from({ length: count }, (_, at) => at + 1).map((each) => (
        <button
          key={each}
          type="button"
          aria-label={`${name} ${each}`}
          aria-pressed={value === each}
          className={value !== undefined && each <= value ? "on" : ""}
          onClick={() => set(each)}
          onKeyDown={(e) => {
            const by = { ArrowRight: 1, ArrowLeft: -1 }[e.key];
            const next = by && Math.max(1, Math.min(count, (value ?? each) + by));
            if (!next) return;
            e.preventDefault();
            e.stopPropagation();
            set(next);
            (e.currentTarget.parentElement?.children[next - 1] as HTMLElement | undefined)?.focus();
          }}
        />
      ))}
    </fieldset>
  );
}
