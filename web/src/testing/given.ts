import { vi } from "vitest";
import {
  type Assessment,
  api,
  type DeskForm,
  type Form,
  type FormField,
  type FormFill,
  type FormItem,
  type Schemas,
  type StoredRecord,
  type Table,
} from "../api/client";
import { NO_RULES } from "../bench/rules/edits";

/** A field as the server makes it, threaded to the column of the same name. */
export const field = (column: string, more: Partial<FormField> = {}): FormField =>
  ({
    kind: "field",
    id: column,
    column,
    label: column.toUpperCase(),
    widget: "line",
    width: 3,
    height: 1,
    begins: "",
    carried: false,
    ...more,
  }) as FormField;

/** A form with a section for each list of items. */
export const form = (...sections: FormItem[][]): Form =>
  ({
    id: "samples",
    title: "Samples",
    table: "samples",
    decimalSign: "point",
    sections: sections.map((items, at) => ({ title: at === 0 ? "" : `Part ${at}`, columns: 4, items })),
    rules: NO_RULES,
  }) as unknown as Form;

/** A fill that brings a site's name in by its code. */
export const OF_SITE: FormFill = {
  id: "of-site",
  table: "sites",
  keys: [{ column: "site", source: "code" }],
  brings: [{ column: "name", source: "name" }],
  none: "stop",
  several: "choose",
  writesBack: false,
};

/** A table whose columns are of these types. */
export const table = (types: Record<string, string>): Table =>
  ({
    name: "samples",
    title: "Samples",
    columns: Object.entries(types).map(([name, type]) => ({ name, title: name, type })),
  }) as unknown as Table;

/** An answer of the entry engine that has nothing to say, but for these parts. */
export const assessment = (more: Partial<Assessment> = {}): Assessment => ({
  values: {},
  readings: {},
  fields: {},
  findings: [],
  offers: [],
  shown: {},
  ...more,
});

export const stop = (column: string, message = "It can't be so."): Schemas["FindingJson"] => ({
  field: column,
  code: "range",
  severity: "stop",
  message,
  cause: { is: "told", code: "range", words: message },
  rule: "",
});

/** A door to that form for whoever may do all. */
export const atDoor = (of: Form, may: Schemas["May"][] = ["see", "add", "change", "remove"]): DeskForm =>
  ({ ...of, door: { id: "samples", may, all: true } }) as unknown as DeskForm;

/** A stored record that holds these. */
export const record = (id: number, values: Record<string, unknown> = {}, version = 1): StoredRecord =>
  ({ id, row: id, version, values }) as StoredRecord;

/** The browser's storage and window, empty. */
export function browser() {
  const kept = new Map<string, string>();
  const storage = new Proxy(
    {
      getItem: (name: string) => kept.get(name) ?? null,
      setItem: (name: string, value: string) => kept.set(name, value),
      removeItem: (name: string) => kept.delete(name),
    },
    {
      ownKeys: () => [...kept.keys()],
      getOwnPropertyDescriptor: () => ({ enumerable: true, configurable: true }),
    },
  );
  vi.stubGlobal("localStorage", storage);
  vi.stubGlobal("sessionStorage", storage);
  vi.stubGlobal("window", new EventTarget());
  return kept;
}

interface Sent {
  path: string;
  body: Record<string, unknown>;
  key: string | undefined;
  query: Record<string, unknown>;
  ifMatch: string | undefined;
}

type Came = { status: number; body: unknown; tag?: string } | undefined;

/** A server that answers each request by this; no answer at all where it says nothing. */
export function server(answer: (sent: Sent) => Came | Promise<Came>) {
  const all: Sent[] = [];
  const asked = async (path: string, init: never) => {
    const { body, params } = init as {
      body?: Record<string, unknown>;
      params: { header?: Record<string, string>; query?: Record<string, unknown> };
    };
    const sent = {
      path,
      body: structuredClone(body ?? {}),
      key: params.header?.["Idempotency-Key"],
      query: params.query ?? {},
      ifMatch: params.header?.["If-Match"],
    };
    all.push(sent);
    const came = await answer(sent);
    if (!came) throw new TypeError("no connection");
    const headers = new Headers(came.tag === undefined ? {} : { ETag: came.tag });
    const response = { ok: came.status < 300, status: came.status, headers } as Response;
    return response.ok ? { data: came.body, response } : { error: came.body, response };
  };
  for (const method of ["GET", "POST", "PUT", "DELETE"] as const)
    vi.spyOn(api, method).mockImplementation(asked as never);
  return all;
}

/** What the browser's requests are answered with. */
export function came(status: number, body: unknown) {
  vi.stubGlobal("fetch", async () => ({ ok: status < 300, status, json: async () => body }));
}

/** Numbers below 1, the same for the same seed (a linear congruential generator, as in Numerical Recipes). */
export function chance(seed: number) {
  let state = seed;
  return () => {
    state = (state * 1_664_525 + 1_013_904_223) % 2 ** 32;
    return state / 2 ** 32;
  };
}

/** Lets so many milliseconds of made-up time pass, and waits them. */
export const pass = (millis: number) => vi.advanceTimersByTimeAsync(millis);
export const after = (millis: number) => new Promise<void>((resolve) => setTimeout(resolve, millis));
