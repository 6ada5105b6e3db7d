import type { FormLines } from "../entry/sheet";
import { seen } from "../model/items";

/** Lines where no record is: their headings over the blank ones that a new entry begins with. */
export function LinesSketch({ item }: { item: FormLines }) {
  const fields = item.items.filter(seen);
  return (
    <div className="f lines-in-form" style={{ gridColumn: "1 / -1" }}>
      <div className="lines-head">
        <h3>{item.label}</h3>
        <span className="text-soft">lines of {item.table}</span>
      </div>
      <table className="lines-sketch">
        <thead>
          <tr>
            <th aria-label="line" />
            {fields.map((field) => (
              <th key={field.id}>
                {field.label}
                {field.required && <i aria-hidden="true"> *</i>}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {Array.from({ length: Math.min(item.blank ?? 1, 8) }, (_, at) => at + 1).map((line) => (
            <tr key={line}>
              <th scope="row">{line}</th>
              {fields.map((field) => (
                <td key={field.id} />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
