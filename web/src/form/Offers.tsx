import type { Form } from "../api/client";
import type { EntryView } from "./view";

/** Where several records match what is typed in a key, those to choose from. */
export function Offers({ form, column, entry }: { form: Form; column: string; entry: EntryView }) {
  const fill = form.rules?.fills.find((each) => each.keys[0]?.column === column);
  const offer = fill && entry.offers?.find((each) => each.fill === fill.id);
  if (!fill || !offer) return null;
  return (
    <fieldset className="offers" aria-label="Choose one of those that match">
      {offer.choices.map((choice) => (
        <button
          key={choice.id}
          type="button"
          className="btn small"
          aria-pressed={entry.chosen?.[fill.id] === choice.id}
          onClick={() => entry.choose?.(fill.id, choice.id)}
        >
          <span className="font-mono">{choice.row}</span> {choice.words}
        </button>
      ))}
    </fieldset>
  );
}
