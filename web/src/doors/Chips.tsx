import { X } from "lucide-react";

export interface Choosable {
  name: string;
  title: string;
}

/** Some of many: those chosen as chips, and a list to add from. */
export function Chips({
  label,
  add,
  all,
  chosen,
  change,
}: {
  label: string;
  add: string;
  all: Choosable[];
  chosen: string[];
  change: (chosen: string[]) => void;
}) {
  const title = (name: string) => all.find((each) => each.name === name)?.title ?? name;
  const left = all.filter((each) => !chosen.includes(each.name));
  return (
    <div className="chips">
      {chosen.map((name) => (
        <span key={name} className="picked">
          {title(name)}
          <button
            type="button"
            aria-label={`Take ${title(name)} out of ${label}`}
            onClick={() => change(chosen.filter((each) => each !== name))}
          >
            <X size={14} aria-hidden="true" />
          </button>
        </span>
      ))}
      {left.length > 0 && (
        <select
          aria-label={add}
          value=""
          onChange={(e) => e.target.value && change([...chosen, e.target.value])}
        >
          <option value="">{add}…</option>
          {left.map((each) => (
            <option key={each.name} value={each.name}>
              {each.title}
            </option>
          ))}
        </select>
      )}
    </div>
  );
}
