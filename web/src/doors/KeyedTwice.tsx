import { useQuery } from "@tanstack/react-query";
import { Chips, type Choosable } from "./Chips";
import { type DoorAnswer, doorsOfQuery } from "./useDoor";

type Twice = NonNullable<DoorAnswer["twice"]>;

interface Props {
  door: DoorAnswer;
  form: string;
  columns: Choosable[];
  change: (part: Partial<DoorAnswer>) => void;
}

/** How papers are keyed twice when nothing else is said. */
const USUAL: Twice = {
  share: 100,
  way: "at once",
  paper: [],
  leftOut: [],
  blanks: false,
  case: false,
  of: [],
};

/** Which papers are keyed a second time at this door, how they are recognised, and what is compared. */
export function KeyedTwice({ door, form, columns, change }: Props) {
  const doors = useQuery(doorsOfQuery(form)).data ?? [];
  const { twice } = door;
  if (!twice) {
    return (
      <label className="tick">
        <input type="checkbox" checked={false} onChange={() => change({ twice: USUAL })} />a second person
        keys papers again here, without seeing the first keying
      </label>
    );
  }
  const set = (part: Partial<typeof twice>) => change({ twice: { ...twice, ...part } });
  const whose = doors.map(({ id, title, everything }) => ({
    name: id,
    title: everything ? "Everything" : title,
  }));
  return (
    <>
      <label className="tick">
        <input type="checkbox" checked onChange={() => change({ twice: undefined })} />a second person keys
        papers again here, without seeing the first keying
      </label>
      <label>
        Of a hundred entries{" "}
        <input
          type="number"
          min={0.1}
          max={100}
          step="any"
          className="entry inline-block w-20!"
          aria-label="Of a hundred entries so many are keyed again"
          value={twice.share ?? 100}
          onChange={(e) => {
            const share = Number(e.target.value);
            if (share > 0 && share <= 100) set({ share });
          }}
        />{" "}
        are keyed again{(twice.share ?? 100) < 100 && ", drawn when each is saved"}.
      </label>
      <select
        className="entry"
        aria-label="What becomes of differences"
        value={twice.way ?? "at once"}
        onChange={(e) => set({ way: e.target.value as Twice["way"] })}
      >
        <option value="at once">at once: a field that differs says so as it is left</option>
        <option value="blind">blind: a third person settles afterwards</option>
      </select>
      <h4>A paper is recognised by</h4>
      <Chips
        label="what a paper is recognised by"
        add="By a field"
        all={columns}
        chosen={twice.paper ?? []}
        change={(paper) => set({ paper })}
      />
      <p className="text-[13.5px] text-soft">
        Such as the number on the paper. Without any, by who keyed it first, on which day, and its place among
        theirs.
      </p>
      <h4>Not compared</h4>
      <Chips
        label="what is not compared"
        add="Do not compare a field"
        all={columns.filter(({ name }) => !(twice.paper ?? []).includes(name))}
        chosen={twice.leftOut ?? []}
        change={(leftOut) => set({ leftOut })}
      />
      <div className="flex flex-wrap gap-x-4 gap-y-1">
        <label className="tick">
          <input
            type="checkbox"
            checked={twice.blanks !== false}
            onChange={(e) => set({ blanks: e.target.checked })}
          />
          blanks make a difference
        </label>
        <label className="tick">
          <input
            type="checkbox"
            checked={twice.case !== false}
            onChange={(e) => set({ case: e.target.checked })}
          />
          capitals make a difference
        </label>
      </div>
      <h4>Whose entries</h4>
      <Chips
        label="whose entries are keyed again"
        add="Take the entries of a door"
        all={whose}
        chosen={twice.of ?? []}
        change={(of) => set({ of })}
      />
      <p className="text-[13.5px] text-soft">
        Without any, those that are saved by this door. Who may change records here settles what differs,
        unless they keyed it.
      </p>
    </>
  );
}
