import { useQuery } from "@tanstack/react-query";
import { answered, api, type Form } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { withRevision } from "../api/queries";
import { Sketch } from "../bench/Sketch";
import { counted } from "../model/counted";
import { fieldsOf } from "../model/items";
import { Trouble } from "../ui/Trouble";
import type { DoorAnswer } from "./useDoor";

const TRIED = { "Weft-Try": "yes" };

/** What a new entry has in it by that door, before anything is typed. */
async function begun(door: string): Promise<Record<string, string>> {
  const { values } = await answered(
    api.POST("/api/doors/{door}/assess", {
      params: { path: { door } },
      headers: TRIED,
      body: { values: {} },
    }),
  );
  return Object.fromEntries(
    Object.entries(values).flatMap(([column, value]) => (value == null ? [] : [[column, String(value)]])),
  );
}

/** What whoever comes in by a door finds behind it, as it is sent to them; and what is never sent. */
export function DoorPicture({ form, door }: { form: Form; door: DoorAnswer }) {
  const path = { door: door.id };
  const key = JSON.stringify([door.may, door.view, door.filled, door.fields]);
  const seen = useQuery({
    queryKey: queryKeyOf("door-picture", door.id, key),
    queryFn: async () => ({
      ...(await withRevision(api.GET("/api/doors/{door}/published", { params: { path }, headers: TRIED }))),
      typed: door.may.includes("add") ? await begun(door.id) : {},
      table: await answered(api.GET("/api/doors/{door}/table", { params: { path }, headers: TRIED })),
    }),
    placeholderData: (before) => before,
  });
  const rows = useQuery({
    queryKey: queryKeyOf("table", form.table),
    queryFn: () => answered(api.GET("/api/tables/{table}", { params: { path: { table: form.table } } })),
  }).data?.rows;
  const gone = fieldsOf(form).filter((field) => door.fields.leftOut?.includes(field.column));
  const stored = rows === undefined ? "" : `${counted(rows, "record is", "records are")} stored`;
  return (
    <aside className="door-picture" aria-label="What people see by this door">
      <h2>What people see by this door</h2>
      <Trouble error={seen.error} />
      {seen.data && (
        <Sketch
          form={seen.data.form}
          table={seen.data.table}
          marked={[]}
          name={seen.data.form.title}
          typed={seen.data.typed}
        />
      )}
      {gone.length > 0 && (
        <p>
          Left out:{" "}
          {gone.map((field, at) => (
            <span key={field.id}>
              {at > 0 && ", "}
              <s>{field.label}</s>
            </span>
          ))}
        </p>
      )}
      <p className="text-soft">
        {stored}
        {stored && "; "}
        {door.may.includes("see")
          ? door.view.own || (door.view.where?.length ?? 0) > 0
            ? "by this door only those in view can be listed, found, stepped to, counted or removed."
            : "by this door all of them are in view."
          : "by this door none can be listed, found, stepped to, removed, or guessed from what a check says."}
      </p>
    </aside>
  );
}
