import { vi } from "vitest";
import {
  type Assessment,
  api,
  type Form,
  type FormField,
  type FormFill,
  type FormItem,
  type Schemas,
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
  rule: "",
});

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
}

type Came = { status: number; body: unknown } | undefined;

/** A server that answers each request by this; no answer at all where it says nothing. */
export function server(answer: (sent: Sent) => Came | Promise<Came>) {
  const all: Sent[] = [];
  const asked = async (path: string, init: never) => {
    const { body, params } = init as {
      body?: Record<string, unknown>;
      params: { header?: Record<string, string> };
    };
    const sent = { path, body: structuredClone(body ?? {}), key: params.header?.["Idempotency-Key"] };
    all.push(sent);
    const came = await answer(sent);
    if (!came) throw new TypeError("no connection");
    const response = { ok: came.status < 300, status: came.status } as Response;
    return response.ok ? { data: came.body, response } : { error: came.body, response };
  };
  vi.spyOn(api, "POST").mockImplementation(asked as never);
  vi.spyOn(api, "GET").mockImplementation(asked as never);
  return all;
}
