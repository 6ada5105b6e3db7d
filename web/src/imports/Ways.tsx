import type { DayOrder, DecimalSign } from "../api/client";

export const DAY_ORDERS: Record<DayOrder, string> = {
  "day-first": "3/4 is 3 April",
  "month-first": "3/4 is March 4",
  "year-first": "26-03-04 is 4 March 2026",
};
export const DECIMAL_SIGNS: Record<DecimalSign, string> = {
  point: "1,200 is 1200 and 1.5 is one and a half",
  comma: "1.200 is 1200 and 1,5 is one and a half",
};

interface WaysProps<W extends string> {
  name: string;
  ways: Record<W, string>;
  chosen: W | null;
  choose: (way: W) => void;
}

/** Ways in which dates or numbers of a column could be read, one of which somebody says. */
export function Ways<W extends string>({ name, ways, chosen, choose }: WaysProps<W>) {
  return (
    <fieldset className="mt-1 flex flex-wrap items-center gap-4">
      <legend className="sr-only">{name}</legend>
      {(Object.entries(ways) as [W, string][]).map(([way, words]) => (
        <label key={way} className="flex items-center gap-2">
          <input
            type="radio"
            className="radio radio-sm border-line-strong text-indigo"
            name={name}
            checked={chosen === way}
            onChange={() => choose(way)}
          />
          {words}
        </label>
      ))}
    </fieldset>
  );
}
