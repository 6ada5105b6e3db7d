import { useEffect, useState } from "react";
import { answered, api, type Form, type Schemas } from "../../api/client";
import { grouped } from "../../model/counted";
import type { BenchDoings } from "../useBench";
import type { Rule } from "./keys";

const SETTLED = 300;
const MOST = 50;

export type Looked = Schemas["Looked"];

/** What of the stored records breaks a rule as it stands now, while it is looked for and once it is found. */
export interface Look {
  came?: Looked;
  trouble: string;
}

/** Looks at the stored records with a check, or with what is to hold between them; over a large table one sees how far it is. */
export function useLook({ form: { id: form }, lines }: BenchDoings, rule: Rule | undefined): Look {
  const [look, setLook] = useState<Look & { asked?: string }>({ trouble: "" });
  // A check that was read just now has no id of its own yet.
  const asked =
    rule && JSON.stringify(rule.part === "checks" ? { ...rule, rule: { ...rule.rule, id: "asked" } } : rule);
  useEffect(() => {
    if (!asked) return;
    const leaving = new AbortController();
    const go = async () => {
      let sum: Looked = { looked: 0, broken: 0, examples: [], next: null };
      do {
        const more: Looked = await answered(
          api.POST("/api/forms/{form}/bench/look", {
            params: { path: { form }, query: { lines, after: sum.next ?? undefined } },
            body: JSON.parse(asked) as Rule,
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
        setLook({ came: sum, trouble: "", asked });
      } while (sum.next);
    };
    const timer = setTimeout(() => {
      go().catch((e: Error) => !leaving.signal.aborted && setLook({ trouble: e.message, asked }));
    }, SETTLED);
    return () => {
      clearTimeout(timer);
      leaving.abort();
    };
  }, [form, lines, asked]);
  return look.asked === asked && asked ? look : { trouble: "" };
}

/** How many break it, in a few words. */
export function lookWords({ came, trouble }: Look, form: Form): string {
  if (trouble || !came) return trouble;
  const { looked, broken, next } = came;
  if (next) return `${grouped(broken, form)} break it so far, of ${grouped(looked, form)} looked at`;
  if (broken === 0)
    return looked === 0 ? "no stored records yet" : `all ${grouped(looked, form)} stored records keep to it`;
  return `${grouped(broken, form)} of ${grouped(looked, form)} stored records ${broken === 1 ? "breaks" : "break"} it`;
}
