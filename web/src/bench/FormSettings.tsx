import { useQueryClient } from "@tanstack/react-query";
import { answered, api, type Form, type Table } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { Cover } from "../ui/Cover";
import { Choice, Row, SIZES, TONES } from "./settings";
import type { BenchDoings } from "./useBench";

const DENSITIES = { airy: "airy", regular: "regular", tight: "tight" };
const ENTER = { saves: "saves the entry", "moves-on": "moves on, and saves from the last field" };
const LEAVING = { saves: "is saved first", asks: "is asked about" };
const DAYS = {
  "month-first": "8/1 is 1 August",
  "day-first": "8/1 is 8 January",
  "year-first": "26/8/1 is 1 August 2026",
};
const SIGNS = { point: "7.5", comma: "7,5" };
const MOST_LEVELS = 8;
const PLACES = { "after-last": "after the last row", "first-free": "into the first free row" };

/** What holds of a whole form. */
export function FormSettings({
  bench,
  table,
  close,
}: {
  bench: BenchDoings;
  table: Table;
  close: () => void;
}) {
  const { form, edit } = bench;
  const queries = useQueryClient();
  const set = (patch: Partial<Form>) => edit((each) => ({ ...each, ...patch }));
  const place = async (placement: Table["placement"]) => {
    await answered(
      api.PUT("/api/tables/{table}", { params: { path: { table: table.name } }, body: { placement } }),
    ).catch((e: Error) => bench.say(e.message, true));
    queries.invalidateQueries({ queryKey: queryKeyOf("table", table.name) });
  };
  const titles = Object.fromEntries(table.columns.map((column) => [column.name, column.title]));
  const order = form.order ?? [];
  const ways = Object.entries(titles).flatMap(([name, title]) => [
    [name, `${title}, upwards`],
    [`-${name}`, `${title}, downwards`],
  ]);
  /** Sets a level of the order; the ones below it stay, and a column counts where it comes first. */
  const sort = (at: number, way: string) => {
    const level = { column: way.replace(/^-/, ""), down: way.startsWith("-") };
    const all = [...order.slice(0, at), ...(way ? [level, ...order.slice(at + 1)] : [])];
    set({ order: all.filter((one, i) => all.findIndex(({ column }) => column === one.column) === i) });
  };
  return (
    <Cover name="Settings of the form" close={close}>
      <div className="grid gap-2 p-5">
        <h2 className="mb-1">Settings of {form.title}</h2>
        <Choice name="Density" value={form.density} choices={DENSITIES} set={(density) => set({ density })} />
        <Choice
          name="Text size"
          value={form.size ?? "normal"}
          choices={SIZES}
          set={(size) => set({ size })}
        />
        <Choice
          name="Tone of headings"
          value={form.tone ?? "plain"}
          choices={TONES}
          set={(tone) => set({ tone })}
        />
        <Choice name="Enter" value={form.enter} choices={ENTER} set={(enter) => set({ enter })} />
        <Choice
          name="When you move on, a changed record"
          value={form.leaving ?? "saves"}
          choices={LEAVING}
          set={(leaving) => set({ leaving })}
        />
        <Choice name="Dates" value={form.dayOrder} choices={DAYS} set={(dayOrder) => set({ dayOrder })} />
        <Choice
          name="Decimals"
          value={form.decimalSign}
          choices={SIGNS}
          set={(decimalSign) => set({ decimalSign })}
        />
        {[...order, undefined].slice(0, MOST_LEVELS).map((level, at) => (
          <Choice
            key={level?.column ?? ""}
            name={at === 0 ? "Records come by" : "then by"}
            value={level ? `${level.down ? "-" : ""}${level.column}` : ""}
            choices={Object.fromEntries([["", at === 0 ? "their row" : "nothing more"], ...ways])}
            set={(way) => sort(at, way)}
          />
        ))}
        <Row name="The tray shows">
          <div className="ticks">
            {table.columns.slice(0, 40).map((column) => {
              const name = column.name;
              const on = form.tray?.includes(name) ?? false;
              return (
                <label key={name}>
                  <input
                    type="checkbox"
                    className="checkbox checkbox-xs"
                    checked={on}
                    disabled={!on && (form.tray?.length ?? 0) >= 8}
                    onChange={() =>
                      set({
                        tray: on ? form.tray?.filter((each) => each !== name) : [...(form.tray ?? []), name],
                      })
                    }
                  />
                  {column.title}
                </label>
              );
            })}
          </div>
        </Row>
        <Choice name="New entries go" value={table.placement} choices={PLACES} set={place} />
        <button type="button" className="btn mt-2 justify-self-start" onClick={close}>
          Close <kbd>Esc</kbd>
        </button>
      </div>
    </Cover>
  );
}
