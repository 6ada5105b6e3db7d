import { useQuery } from "@tanstack/react-query";
import { QRCodeSVG } from "qrcode.react";
import { type ReactNode, useState } from "react";
import { answered, api, type Form, type May } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { fieldsOf } from "../model/items";
import { WayOf } from "../model/way";
import { DayInput } from "../ui/DayInput";
import { Trouble } from "../ui/Trouble";
import { Chips } from "./Chips";
import { Keyed } from "./Keyed";
import { KeyedTwice } from "./KeyedTwice";
import { type Line, Lines } from "./Lines";
import type { DoorAnswer, useDoor } from "./useDoor";

const DOINGS: [May, string][] = [
  ["add", "add"],
  ["see", "see"],
  ["change", "change"],
  ["remove", "remove"],
  ["export", "export"],
];

interface Props {
  form: Form;
  door: DoorAnswer;
  doings: ReturnType<typeof useDoor>;
}

/** All that a door says, a line each; what is changed is kept at once. */
export function DoorSettings({ form, door, doings }: Props) {
  const { change } = doings;
  const whom = useQuery({
    queryKey: queryKeyOf("whom", form.id),
    queryFn: () => answered(api.GET("/api/forms/{form}/doors/whom", { params: { path: { form: form.id } } })),
  }).data;
  const { who } = door;
  const columns = fieldsOf(form).map((field) => ({ name: field.column, title: field.label }));
  const groups = whom?.groups ?? [];
  const people = whom?.people ?? [];
  const names = new Set(people.map((each) => each.name));
  const sees = door.may.includes("see");
  const where = (door.view.where ?? []).map(lineOf);
  return (
    <div className="door-settings">
      <Row label="Title">
        <input
          className="entry"
          aria-label="Title"
          value={door.title}
          onChange={(e) => e.target.value.trim() && change({ title: e.target.value })}
        />
      </Row>
      <Row label="Who">
        <Chips
          label="Who may go through"
          add="Add people or groups"
          all={[...groups, ...people]}
          chosen={[...(who.groups ?? []), ...(who.people ?? [])]}
          change={(chosen) =>
            change({
              who: {
                ...who,
                groups: chosen.filter((each) => !names.has(each)),
                people: chosen.filter((each) => names.has(each)),
              },
            })
          }
        />
        <label className="tick">
          <input
            type="checkbox"
            checked={!!who.link}
            onChange={(e) => change({ who: { ...who, link: e.target.checked } })}
          />
          anybody with its secret address, who may only add
        </label>
        <div className="flex flex-wrap items-center gap-2">
          <WayOf value={form}>
            <span className="flex items-center gap-2">
              <span className="w-9">from</span>
              <DayInput
                name="from"
                value={who.from?.slice(0, 10) ?? ""}
                set={(day) => change({ who: { ...who, from: day || undefined } })}
                empty
              />
            </span>
            <span className="flex items-center gap-2">
              <span className="w-9">until</span>
              <DayInput
                name="until"
                value={who.until?.slice(0, 10) ?? ""}
                set={(day) => change({ who: { ...who, until: day || undefined } })}
                empty
              />
            </span>
          </WayOf>
        </div>
      </Row>
      <Row label="May">
        <div className="flex flex-wrap gap-x-4 gap-y-1">
          {DOINGS.map(([what, words]) => (
            <label key={what} className="tick">
              <input
                type="checkbox"
                checked={door.may.includes(what)}
                onChange={(e) =>
                  change({
                    may: e.target.checked ? [...door.may, what] : door.may.filter((each) => each !== what),
                  })
                }
              />
              {words}
            </label>
          ))}
        </div>
        <label className="text-[13.5px] text-soft">
          Own entries may be taken back for{" "}
          <input
            type="number"
            min={0}
            max={10080}
            className="entry inline-block w-20!"
            aria-label="Minutes in which own entries may be taken back"
            value={door.takeBack}
            onChange={(e) => change({ takeBack: Math.max(0, Math.min(10080, Number(e.target.value) || 0)) })}
          />{" "}
          minutes.
        </label>
      </Row>
      <Row label="Records in view">
        {sees ? (
          <>
            <Lines
              label="Records in view"
              between="is"
              hint="as in Find: QB-*, above 8, this month"
              columns={columns}
              lines={where}
              change={(lines) =>
                change({ view: { ...door.view, where: lines.map((line) => `${line.column}:${line.text}`) } })
              }
            />
            <label className="tick">
              <input
                type="checkbox"
                checked={!!door.view.own}
                onChange={(e) => change({ view: { ...door.view, own: e.target.checked } })}
              />
              only those they entered themselves
            </label>
          </>
        ) : (
          <p className="text-soft">none: this door only adds</p>
        )}
      </Row>
      <Row label="Already filled in" hint="A new entry has what the formula comes to, and nobody types it.">
        <Lines
          label="Already filled in"
          between="="
          hint="today(), person"
          columns={columns}
          lines={Object.entries(door.filled).map(([column, text]) => ({ column, text }))}
          change={(lines) =>
            change({ filled: Object.fromEntries(lines.map((each) => [each.column, each.text])) })
          }
        />
      </Row>
      <Row label="Fields left out" hint="Never sent to whoever comes in by this door.">
        <Chips
          label="Fields left out"
          add="Leave a field out"
          all={columns}
          chosen={door.fields.leftOut ?? []}
          change={(leftOut) => change({ fields: { ...door.fields, leftOut } })}
        />
      </Row>
      <Row
        label="Fields locked"
        hint="Seen, and not changed. What opens the door may still give them a value."
      >
        <Chips
          label="Fields locked"
          add="Lock a field"
          all={columns}
          chosen={door.fields.locked ?? []}
          change={(locked) => change({ fields: { ...door.fields, locked } })}
        />
      </Row>
      <Row label="Keyed">
        <Keyed door={door} columns={columns} change={change} />
      </Row>
      <Row label="Keyed twice">
        <KeyedTwice door={door} form={form.id} columns={columns} change={change} />
      </Row>
      <Row label="Opens">
        <label className="tick">
          <input type="checkbox" checked={door.opens} onChange={(e) => change({ opens: e.target.checked })} />
          by itself after signing in
        </label>
        <label>
          When done:{" "}
          <select
            className="entry w-auto!"
            value={door.done}
            onChange={(e) => change({ done: e.target.value as DoorAnswer["done"] })}
          >
            <option value="stay">stay for the next entry</option>
            <option value="back">go back to where it was opened from</option>
            <option value="close">close</option>
          </select>
        </label>
      </Row>
      <Row label="Address">
        <code className="entry flex! items-center font-mono">/d/{door.id}</code>
        {who.link && <SecretAddress door={door} link={doings.link} />}
      </Row>
    </div>
  );
}

function lineOf(where: string): Line {
  const colon = where.indexOf(":");
  return { column: where.slice(0, colon), text: where.slice(colon + 1) };
}

function Row({ label, hint, children }: { label: string; hint?: string; children: ReactNode }) {
  return (
    <section aria-label={label}>
      <h3>{label}</h3>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-2">
        {children}
        {hint && <p className="text-[13.5px] text-soft">{hint}</p>}
      </div>
    </section>
  );
}

/** The address that anybody may come by. It is told once; a new one ends the one before. */
function SecretAddress({ door, link }: { door: DoorAnswer; link: () => Promise<string> }) {
  const [address, setAddress] = useState("");
  const [trouble, setTrouble] = useState<unknown>();
  const make = () => link().then(setAddress).catch(setTrouble);
  return (
    <div className="grid gap-2">
      <Trouble error={trouble} />
      {address && (
        <div className="secret">
          <QRCodeSVG value={address} size={132} title={`The address of ${door.title}`} marginSize={2} />
          <div className="grid gap-2">
            <code className="font-mono text-[13px] break-all">{address}</code>
            <p className="text-[13.5px] text-soft">
              It is shown only now. Print it, or copy it to where it is needed.
            </p>
            <span className="flex gap-2">
              <button
                type="button"
                className="btn small"
                onClick={() => navigator.clipboard.writeText(address)}
              >
                Copy
              </button>
              <button type="button" className="btn small" onClick={() => window.print()}>
                Print
              </button>
            </span>
          </div>
        </div>
      )}
      <button type="button" className="btn small justify-self-start" onClick={make}>
        {door.linked ? "Make another secret address" : "Make a secret address"}
      </button>
      {door.linked && !address && (
        <p className="text-[13.5px] text-soft">It has one now. Another one ends it at once.</p>
      )}
    </div>
  );
}
