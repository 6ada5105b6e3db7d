export const DAY_ORDERS = {
  "day-first": "3/4 is 3 April",
  "month-first": "3/4 is March 4",
  "year-first": "26-03-04 is 4 March 2026",
};
export const DECIMAL_SIGNS = {
  point: "1,200 is 1200 and 1.5 is one and a half",
  comma: "1.200 is 1200 and 1,5 is one and a half",
};

interface WaysProps {
  name: string;
  ways: Record<string, string>;
  chosen: string | null;
  choose: (way: string) => void;
}

/** Ways in which dates or numbers of a column could be read, one of which somebody says. */
export function Ways({ name, ways, chosen, choose }: WaysProps) {
  return (
    <fieldset className="mt-1 flex flex-wrap items-center gap-4">
      <legend className="sr-only">{name}</legend>
      {Object.entries(ways).map(([way, words]) => (
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
