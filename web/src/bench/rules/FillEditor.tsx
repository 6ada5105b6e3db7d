import type { Form, FormFill, Schemas } from "../../api/client";
import { Choice, Flag, Row } from "../settings";
import { ColumnSelect, FieldSelect, TableSelect, Ties, useColumns } from "./Ties";

const NONE = { leave: "nothing happens", ask: "it is asked about", stop: "the entry is stopped" };
const SEVERAL = { choose: "one is chosen from a list", ...NONE };

interface FillProps {
  form: Form;
  fill: FormFill;
  set: (fill: FormFill) => void;
}

/** A fill: what must match, what it brings in, and what happens where it cannot. */
export function FillEditor({ form, fill, set }: FillProps) {
  const own = useColumns(form.table);
  const links = own
    .filter((column) => fill.table !== "" && column.to === fill.table)
    .map((column): [string, string] => [column.name, `the record that ${column.title} links to`]);
  const through = fill.keys.find((key) => key.source === "");
  const first = (table: string) => own.find((column) => table !== "" && column.to === table)?.name;
  return (
    <div className="grid gap-2">
      <Row name="From the table">
        <TableSelect
          name="From the table"
          value={fill.table}
          set={(table) => {
            const column = first(table);
            set({ ...fill, table, keys: column ? [{ column, source: "" }] : [], brings: [] });
          }}
        />
      </Row>
      {links.length > 0 && (
        <Choice
          name="Found by"
          value={through?.column ?? ""}
          choices={{ "": "fields that match", ...Object.fromEntries(links) }}
          set={(column) => set({ ...fill, keys: column ? [{ column, source: "" }] : [] })}
        />
      )}
      {!through && (
        <Ties
          form={form}
          name="When"
          table={fill.table}
          ties={fill.keys}
          between="is"
          set={(keys) => set({ ...fill, keys })}
        />
      )}
      <Ties
        form={form}
        name="Bring in"
        table={fill.table}
        ties={fill.brings}
        between="gets"
        set={(brings) => set({ ...fill, brings })}
      />
      <Choice
        name="When none matches"
        value={fill.none}
        choices={NONE}
        set={(none) => set({ ...fill, none })}
      />
      <Choice
        name="When several match"
        value={fill.several}
        choices={SEVERAL}
        set={(several) => set({ ...fill, several })}
      />
      <Flag
        name="What is typed over it is written back"
        value={fill.writesBack}
        set={(writesBack) => set({ ...fill, writesBack })}
      />
    </div>
  );
}

type List = Schemas["FormChoices"];

/** A choice list that is a column of a table. */
export function ListEditor({ form, list, set }: { form: Form; list: List; set: (list: List) => void }) {
  const columns = useColumns(list.table);
  return (
    <div className="grid gap-2">
      <Row name="Field">
        <FieldSelect
          form={form}
          name="Field"
          value={list.column}
          set={(column) => set({ ...list, column })}
        />
      </Row>
      <Row name="From the table">
        <TableSelect
          name="From the table"
          value={list.table}
          set={(table) => set({ ...list, table, source: "", shown: "", when: [] })}
        />
      </Row>
      <Row name="Its column">
        <ColumnSelect
          columns={columns}
          name="Its column"
          value={list.source}
          set={(source) => set({ ...list, source })}
        />
      </Row>
      <Row name="Beside it">
        <ColumnSelect
          columns={columns}
          name="Beside it"
          none="nothing"
          value={list.shown}
          set={(shown) => set({ ...list, shown })}
        />
      </Row>
      <Ties
        form={form}
        name="Only those where"
        table={list.table}
        ties={list.when}
        between="is"
        set={(when) => set({ ...list, when })}
      />
      <Flag name="Takes what is not on the list" value={list.open} set={(open) => set({ ...list, open })} />
    </div>
  );
}
