import { answered, api, type Schemas } from "../../api/client";
import type { Rule } from "./keys";

export type Read = Schemas["ReadRule"];
export type Came = Schemas["SentencesCame"];

/** Whose rules they are: a form's, or those of lines on it. */
interface Of {
  form: { id: string };
  lines: string | undefined;
}

/** Reads sentences, one a line, as the rules that they say, with what could stand at their end. */
export const readSentences = ({ form, lines }: Of, text: string, signal?: AbortSignal): Promise<Came> =>
  answered(
    api.POST("/api/forms/{form}/bench/sentences", {
      params: { path: { form: form.id }, query: { lines } },
      body: { text },
      signal,
    }),
  );

/** Reads a rule of which a piece was changed. */
export const readRule = ({ form, lines }: Of, rule: Rule): Promise<Read> =>
  answered(
    api.POST("/api/forms/{form}/bench/rule", {
      params: { path: { form: form.id }, query: { lines } },
      body: rule,
    }),
  );

/** The rule that was read; none where it can't be followed. */
export const ruleOf = (read: Read): Rule | undefined =>
  read.unclear === null ? (read.rule ?? undefined) : undefined;
