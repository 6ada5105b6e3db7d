/** What pages have asked the server for and keep, by its name, and what tells one of a kind from another. */
interface Kept {
  adoptable: [schema: string, name: string, key: string];
  alike: [table: string, columns: string, sound: boolean];
  unusual: [table: string];
  "alike-groups": [table: string, look: number];
  append: [path: unknown, asked: unknown];
  audit: [];
  begin: [title: string, asked: unknown];
  bench: [form: string, since: "since", version: number | undefined];
  check: [path: unknown, asked: string];
  "column-used": [table: string, column: string];
  day: [];
  dependents: [table: string];
  door: [door: string, tried: boolean];
  "door-picture": [door: string, drawn: string];
  doors: [secret: string];
  "doors-of": [form: string];
  finds: [door: string];
  forms: [];
  groups: [];
  history: [door: string, record: number, version: number];
  "history of lines": [door: string, record: number, lines: unknown];
  import: [id: string];
  imports: [];
  invitation: [secret: string];
  line: [form: string, revision: number | undefined, text: string];
  "lines-of": [door: string, lines: string, version: number | undefined];
  "lines-offered": [form: string];
  "made-one": [door: string, asked: unknown];
  messages: [];
  "next-row": [door: string];
  others: [kind: string, id: string, seat: string];
  parts: [];
  pattern: [pattern: string, text: string];
  people: [];
  practice: [form: string, revision: number | undefined];
  progress: [report: string];
  published: [door: string, tried: boolean];
  removed: [table: string, door: string, since: unknown];
  /** By a door one sees other rows than by another, so they are kept apart; the last of a table by what they come after. */
  rows: [table: string, page: number | "last", seen: string | number];
  ruled: [door: string, tried: boolean];
  said: [form: string, revision: number | undefined, draft: unknown];
  "seen-table": [door: string, tried: boolean];
  sentence: [form: string, lines: string | undefined, revision: number | undefined, asked: unknown];
  session: [];
  sessions: [];
  table: [table: string];
  tables: [];
  "to-settle": [door: string, after: unknown];
  tokens: [];
  twice: [door: string];
  version: [form: string, version: number];
  versions: [form: string];
  view: [table: string, door: string, asked: unknown, page: number | "count"];
  whom: [form: string];
  work: [form: string, asked: unknown];
  "working-copy": [form: string];
}

/** The key that it is kept under; with only the first of its parts, that of all that begin so, to be asked for anew. */
export const queryKeyOf = <Name extends keyof Kept>(name: Name, ...parts: Partial<Kept[Name]>) =>
  [name, ...parts] as const;
