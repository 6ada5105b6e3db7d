import { useEffect, useState } from "react";
import { answered, api, type FormCheck, type Schemas, type Table } from "../../api/client";
import type { BenchDoings } from "../useBench";

const SETTLED = 400;
const MOST = 10;

type Came = Schemas["CheckCame"];

/** Tells how many stored records break a check as it stands now, and shows some; over a large table one sees how far it is. */
export function Look({ bench, table, check }: { bench: BenchDoings; table: Table; check: FormCheck }) {
  const form = bench.form.id;
  const { lines } = bench;
  const [came, setCame] = useState<Came>();
  const [trouble, setTrouble] = useState("");
  const asked = JSON.stringify(check);
  useEffect(() => {
    const leaving = new AbortController();
    const look = async () => {
      let sum: Came = { looked: 0, broken: 0, examples: [], next: null };
      do {
        const more: Came = await answered(
          api.POST("/api/forms/{form}/bench/look", {
            params: { path: { form }, query: { lines, after: sum.next ?? undefined } },
            // The description knows its body as any JSON.
            body: JSON.parse(asked) as never,
            signal: leaving.signal,
          }),
        );
        sum = {
          looked: sum.looked + more.looked,
          broken: sum.broken + more.broken,
          examples: [...sum.examples, ...more.examples].slice(0, MOST),
          next: more.next,
        };
        if (leaving.signal.aborted) return;
        setCame(sum);
      } while (sum.next);
    };
    const timer = setTimeout(() => {
      setTrouble("");
      look().catch((e: Error) => {
        if (leaving.signal.aborted) return;
        setCame(undefined);
        setTrouble(e.message);
      });
    }, SETTLED);
    return () => {
      clearTimeout(timer);
      leaving.abort();
    };
  }, [form, lines, asked]);
  return (
    <div role="status" className={`look say ${trouble ? "stop" : ""}`}>
      {trouble}
      {came && <b>{words(came, table)}</b>}
      {came?.examples.map((each) => (
        <div key={each.row}>
          Row {each.row}: {each.message}
        </div>
      ))}
    </div>
  );
}

function words({ looked, broken, next }: Came, { rows }: Table): string {
  const count = (many: number) => many.toLocaleString("en");
  if (next) {
    return `Looking at the stored records, ${count(looked)} of ${count(Math.max(rows, looked))}; ${count(broken)} break it so far.`;
  }
  if (broken === 0) return `All ${count(looked)} stored records keep to it.`;
  return `${count(broken)} of ${count(looked)} stored records ${broken === 1 ? "breaks" : "break"} it${broken > MOST ? ", first these" : ""}:`;
}
