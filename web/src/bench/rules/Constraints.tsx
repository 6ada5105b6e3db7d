import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answered, api, type ConstraintAsked, type Table } from "../../api/client";
import { Choice, Row, Writing } from "../settings";
import { ColumnSelect } from "./Ties";

const KINDS = {
  unique: "no two records alike in these columns",
  overlap: "no times that overlap within the same",
};

/** What holds between the records of the table, whoever writes and by whichever form. */
export function Constraints({ table }: { table: Table }) {
  const queries = useQueryClient();
  const key = ["constraints", table.name];
  const path = { table: table.name };
  const all =
    useQuery({
      queryKey: key,
      queryFn: () => answered(api.GET("/api/tables/{table}/constraints", { params: { path } })),
    }).data ?? [];
  const [asked, setAsked] = useState<ConstraintAsked>();
  const [said, setSaid] = useState("");
  const again = () => queries.invalidateQueries({ queryKey: key });
  const add = async () => {
    if (!asked) return;
    try {
      await answered(api.POST("/api/tables/{table}/constraints", { params: { path }, body: asked }));
      setAsked(undefined);
      setSaid("It holds from now on.");
      again();
    } catch (e) {
      setSaid((e as Error).message);
    }
  };
  const remove = async (id: string) => {
    await answered(
      api.DELETE("/api/tables/{table}/constraints/{id}", { params: { path: { ...path, id } } }),
    ).catch((e: Error) => setSaid(e.message));
    again();
  };
  return (
    <div className="grid gap-2">
      <p className="text-soft">
        These hold for every form that writes to {table.title}, and the database keeps them too.
      </p>
      {all.map((each) => (
        <div key={each.id} className="flex items-center gap-2">
          <span className="flex-1">{each.words}.</span>
          <button type="button" className="btn small" onClick={() => remove(each.id)}>
            Take it away
          </button>
        </div>
      ))}
      {asked ? (
        <div className="grid gap-2">
          <Choice
            name="What must be so"
            value={asked.kind as keyof typeof KINDS}
            choices={KINDS}
            set={(kind) => setAsked({ ...asked, kind })}
          />
          <Row name="Columns">
            <div className="ticks">
              {table.columns.map((column) => {
                const name = column.name;
                return (
                  <label key={name}>
                    <input
                      type="checkbox"
                      className="checkbox checkbox-xs"
                      checked={asked.columns.includes(name)}
                      onChange={(e) =>
                        setAsked({
                          ...asked,
                          columns: e.target.checked
                            ? [...asked.columns, name]
                            : asked.columns.filter((each) => each !== name),
                        })
                      }
                    />
                    {column.title}
                  </label>
                );
              })}
            </div>
          </Row>
          {asked.kind === "overlap" &&
            (["from", "to"] as const).map((end) => (
              <Row key={end} name={end === "from" ? "Begins in" : "Ends in"}>
                <ColumnSelect
                  columns={table.columns.filter(
                    (column) => column.type === "datetime" || column.type === "date",
                  )}
                  name={end === "from" ? "Begins in" : "Ends in"}
                  value={asked[end] ?? ""}
                  set={(column) => setAsked({ ...asked, [end]: column })}
                />
              </Row>
            ))}
          <Writing
            name="In these words"
            value={asked.message ?? ""}
            none="made from the rule"
            set={(message) => setAsked({ ...asked, message })}
          />
          <span className="flex gap-2">
            <button type="button" className="btn small go" onClick={add}>
              Let it hold
            </button>
            <button type="button" className="btn small" onClick={() => setAsked(undefined)}>
              Not this
            </button>
          </span>
        </div>
      ) : (
        <button
          type="button"
          className="btn small justify-self-start"
          onClick={() => setAsked({ kind: "unique", columns: [] })}
        >
          Add one
        </button>
      )}
      <p className="say" role="status">
        {said}
      </p>
    </div>
  );
}
