import { useQueries, useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import type { DeskForm, Door, Form } from "../api/client";
import { doorQuery, linesQuery, publishedQuery, ruledQuery, seenTableQuery } from "../api/queries";
import { linesOf } from "../entry/sheet";
import { Pictures, picturesAt } from "../model/pictures";
import { WayOf } from "../model/way";
import { Trouble } from "../ui/Trouble";
import { DeskOf } from "./DeskOf";
import { useParts } from "./later";

/** The place where the form behind a door is used on records. */
export function Desk() {
  const id = useParams().door ?? "";
  return <DeskAt key={id} id={id} />;
}

/** The form as it is open at a door. Where anybody may come next, no value of an entry stays for the next. */
const atDoor = (form: Form, door: Door): DeskForm => ({
  ...(door.byLink
    ? {
        ...form,
        sections: form.sections.map((section) => ({
          ...section,
          items: section.items.map((item) => (item.kind === "field" ? { ...item, carried: false } : item)),
        })),
      }
    : form),
  door,
});

/** The same for a door that is known otherwise than by the address. */
export function DeskAt({ id, tried = false }: { id: string; tried?: boolean }) {
  const found = useQuery(doorQuery(id, tried));
  const published = useQuery(publishedQuery(id, tried));
  const ruled = useQuery(ruledQuery(id, tried));
  const table = useQuery(seenTableQuery(id, tried));
  const door = found.data;
  const [chosen, setChosen] = useState<boolean>();
  const document = published.data?.form;
  const form = useMemo(() => document && door && atDoor(document, door), [document, door]);
  // Lines are drawn once it is known what they are made of, so that no key meets a cell that is still to change.
  const lined = useQueries({
    queries: (form ? linesOf(form) : []).map((lines) => linesQuery(id, lines.id, published.data?.revision)),
  });
  const adds = !!form?.door.may.includes("add");
  const many = adds && (chosen ?? form?.door.lines === "many");
  const parts = useParts();
  const Keyed = many ? parts?.BatchDesk : DeskOf;
  if (
    form &&
    table.data &&
    ruled.data &&
    Keyed &&
    lined.every(({ isPending }) => !isPending) &&
    (parts || linesOf(form).length === 0)
  ) {
    return (
      <Pictures value={picturesAt(id)}>
        <WayOf value={form}>
          <Keyed
            form={form}
            version={published.data?.revision}
            table={table.data}
            ruled={ruled.data}
            other={adds && form.door.lines === "both" ? () => setChosen(!many) : undefined}
          />
        </WayOf>
      </Pictures>
    );
  }
  const error = found.error ?? published.error ?? ruled.error ?? table.error;
  return (
    <main className="place">
      <header className="top">
        <h1>{error ? "This door is not open" : "Desk"}</h1>
      </header>
      <div className="grid content-start justify-items-start gap-4 p-5">
        <Trouble error={error} />
        {error ? (
          <Link className="btn" to="/">
            To the doors
          </Link>
        ) : (
          <p className="text-soft">One moment …</p>
        )}
      </div>
    </main>
  );
}
