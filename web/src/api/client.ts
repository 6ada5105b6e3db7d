import createClient from "openapi-fetch";
import { exact } from "./exact";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Form = Schemas["Form"];
/** A door that one may go through. */
export type Door = Schemas["DoorListed"];
/** What a door may let people do with records. */
export type May = Schemas["May"];
/** A form as it is open at a door. */
export type DeskForm = Form & { door: Door };
/** A table as it is seen by a door. */
export type SeenTable = Schemas["SeenTableJson"];
export type FormItem = Schemas["FormItem"];
export type FormField = Schemas["FormField"];
export type FormButton = Schemas["FormButton"];
export type FormSection = Schemas["FormSection"];
export type FormListed = Schemas["FormListed"];
export type Table = Schemas["TableJson"];
export type TableListed = Schemas["TableListed"];
export type Column = Schemas["ColumnJson"];
export type ColumnType = Schemas["ColumnType"];
export type ColumnAsked = Schemas["ColumnAsked"];
export type DayOrder = Schemas["ConventionsDayOrder"];
export type DecimalSign = Schemas["ConventionsDecimalSign"];
/** A value as an answer has it. */
export type Value = Schemas["Value"];
export type Constraint = Schemas["ConstraintJson"];
export type ConstraintAsked = Schemas["ConstraintAsked"];
export type StoredRecord = Schemas["RecordJson"];
export type RecordPage = Schemas["RecordPage"];
export type Find = Schemas["FindJson"];
export type KeptFind = Schemas["KeptFind"];
export type Total = Schemas["TotalJson"];
export type HistoryChange = Schemas["ChangeJson"];
export type Removed = Schemas["RemovedRecord"];
/** Where one stands among the records in view; without a record when none is there. */
export type Place = Schemas["PlaceJson"];
export type FormRules = NonNullable<Form["rules"]>;
/** A rule that stands alone, with the part of the rules that it belongs in. */
export type FormDeclared = Schemas["FormDeclared"];
export type FormCheck = Schemas["FormCheck"];
export type FormCheckRule = Schemas["FormCheckRule"];
export type FormFill = Schemas["FormFill"];
export type FormDerived = Schemas["FormDerived"];
export type FormStep = Schemas["FormStep"];
export type FormStepAction = Schemas["FormStepAction"];
export type FormPractice = Schemas["FormPractice"];
export type RunSheet = Schemas["RunSheet"];
export type Saved = Schemas["SavedJson"];
export type Then = Schemas["Then"];
export type Choice = Schemas["ChoiceJson"];
export type Assessment = Schemas["AssessmentJson"];
export type LineAssessed = Schemas["LineAssessed"];
export type BatchAsked = Schemas["BatchJson"];
export type BatchAssessed = Schemas["BatchAssessed"];
export type ChangesMade = Schemas["ChangesMade"];
export type BatchSaved = Schemas["BatchSaved"];
export type Ruled = Record<string, Schemas["RuledJson"]>;
/** Something about an entry that its keyer must know; the last two kinds are found by the page itself. */
export type Finding = Omit<Schemas["FindingJson"], "code" | "cause"> & {
  code: Schemas["FindingCode"] | "stale" | "differs";
  cause?: Schemas["Cause"];
};
export type ImportReport = Schemas["ImportReport"];
export type ColumnReport = Schemas["ColumnReport"];
export type Misfit = Schemas["MisfitJson"];

export const api = createClient<paths>({ baseUrl: "/" });

/** The token that shows that a request comes from Weft's own pages. */
export const token = () => decodeURIComponent(/(?:^|; )XSRF-TOKEN=([^;]+)/.exec(document.cookie)?.[1] ?? "");

/** Told when the server knows nobody any more, as when a session has ended. */
let left: () => void = () => {};
export function whenLeft(told: () => void) {
  left = told;
}

/** The secret of the address that the page was opened by, where it was; it goes with every request then. */
let bearer = "";
export function bear(secret: string) {
  bearer = secret;
}

/** Whether a builder goes through a door as whoever it is for. */
let trying = false;
export function tryDoors(now: boolean) {
  trying = now;
}

/** What an address that no request is made to by hand, such as a picture's, says of that. */
export const asTried = (address: string) =>
  trying ? `${address}${address.includes("?") ? "&" : "?"}try=yes` : address;

api.use({
  onRequest({ request }) {
    if (trying) request.headers.set("Weft-Try", "yes");
    if (bearer) request.headers.set("Authorization", `Bearer ${bearer}`);
    else if (request.method !== "GET") request.headers.set("X-XSRF-TOKEN", token());
    return request;
  },
  async onResponse({ request, response }) {
    if (response.status === 401 && !new URL(request.url).pathname.startsWith("/api/session")) left();
    if (!/[/+]json/.test(response.headers.get("Content-Type") ?? "")) return undefined;
    return new Response(exact(await response.text()), response);
  },
});

/** The server's answer to what can't be done, in its own sentence (RFC 9457). */
export class Problem extends Error {
  constructor(
    readonly status: number,
    sentence: string,
    readonly body: Record<string, unknown> = {},
  ) {
    super(sentence);
  }

  get findings(): Finding[] {
    return (this.body.findings as Finding[] | undefined) ?? [];
  }

  get errors(): { where: string; message: string }[] {
    return (this.body.errors as { where: string; message: string }[] | undefined) ?? [];
  }
}

/** No answer came, as the connection is lost or the server is stopped; or none of use, as nobody is signed in any more. */
export class Unreached extends Error {
  constructor(status?: number) {
    super(status === 401 ? "You are signed out." : "No connection.");
  }
}

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The data of an answer; throws `Problem`, or `Unreached` when none came. */
export async function answered<T>(asked: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await asked;
  } catch (e) {
    if (e instanceof DOMException && e.name === "AbortError") throw e;
    throw new Unreached();
  }
  if (answer.response.ok) return answer.data as T;
  throw problem(answer.response.status, answer.error);
}

/** The problem that a body of an error answer tells of. */
export function problem(status: number, body: unknown): Problem | Unreached {
  // Whoever is signed out signs in again over the page, and all goes on.
  if (status === 401 || status === 502 || status === 503 || status === 504) return new Unreached(status);
  const told = typeof body === "object" && body !== null ? (body as Record<string, unknown>) : {};
  return new Problem(status, String(told.detail ?? "Weft could not do this. Try again."), told);
}
