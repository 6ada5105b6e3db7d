import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { answered, api, type Column, type Schemas, type Table } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { counted } from "../model/counted";
import { when } from "../model/when";
import { OfTable, useOwnDoor } from "../tables/OfTable";
import { Trouble } from "../ui/Trouble";
import { AlikeGroup } from "./AlikeGroup";
import { comparable, percent } from "./words";

type Look = Schemas["AlikeLookJson"];

const EVERY = 700;

/** A look over all records of a table for those that are nearly the same. */
export function AlikePage() {
  return <OfTable what="Alike">{(table) => <Looked table={table} />}</OfTable>;
}

function Looked({ table }: { table: Table }) {
  const [search, setSearch] = useSearchParams();
  const asked = search.getAll("column").filter((name) => table.columns.some((each) => each.name === name));
  const sound = search.has("sound");
  const [error, setError] = useState<unknown>(null);
  const queries = useQueryClient();
  const latest = useQuery({
    queryKey: queryKeyOf("alike", table.name, asked.join(","), sound),
    queryFn: () =>
      answered(
        api.GET("/api/tables/{table}/alike", {
          params: { path: { table: table.name }, query: { columns: asked, sound } },
        }),
      ),
    refetchInterval: ({ state }) => (state.data?.look?.state === "running" ? EVERY : false),
  });
  const look = latest.data?.look ?? undefined;
  const columns = asked.length > 0 ? asked : (look?.columns ?? []);
  const compare = (names: string[], bySound: boolean) =>
    setSearch(
      [
        ...names.map((each): [string, string] => ["column", each]),
        ...(bySound ? [["sound", ""] as [string, string]] : []),
      ],
      {
        replace: true,
      },
    );
  const done = () => queries.invalidateQueries({ queryKey: queryKeyOf("alike", table.name) });
  const begin = () => {
    setError(null);
    answered(
      api.POST("/api/tables/{table}/alike", {
        params: { path: { table: table.name } },
        body: { columns, sound },
      }),
    )
      .then((begun) => compare(begun.columns, begun.sound))
      .catch(setError)
      .finally(done);
  };
  const end = () =>
    look &&
    answered(
      api.DELETE("/api/tables/{table}/alike/{look}", {
        params: { path: { table: table.name, look: look.id } },
      }),
    )
      .catch(setError)
      .finally(done);
  const begins = useRef<HTMLButtonElement>(null);
  const there = latest.data !== undefined;
  useEffect(() => {
    // Where nothing is chosen yet, one begins by choosing.
    const first = begins.current?.disabled
      ? begins.current.closest("section")?.querySelector("button")
      : begins.current;
    if (there && document.activeElement === document.body) first?.focus();
  }, [there]);
  const running = look?.state === "running";
  return (
    <>
      <section className="box mb-4 grid max-w-[1240px] gap-3 p-4" aria-label="What is compared">
        <p className="max-w-prose">
          Records are alike when they are nearly the same in all of these columns: letters swapped, left out
          or doubled, words in another order, day and month turned. Choose what tells one record from another.
        </p>
        <div className="flex flex-wrap gap-2">
          {comparable(table.columns).map(({ name, title }) => (
            <button
              key={name}
              type="button"
              className={`btn small ${columns.includes(name) ? "go" : ""}`}
              aria-pressed={columns.includes(name)}
              disabled={running}
              onClick={() =>
                compare(
                  columns.includes(name) ? columns.filter((each) => each !== name) : [...columns, name],
                  sound,
                )
              }
            >
              {title}
            </button>
          ))}
        </div>
        <div className="flex flex-wrap items-center gap-4">
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={sound || (asked.length === 0 && !!look?.sound)}
              disabled={running}
              onChange={(e) => compare(columns, e.target.checked)}
            />
            what sounds alike too
          </label>
          {running ? (
            <button ref={begins} type="button" className="btn" onClick={end}>
              End
            </button>
          ) : (
            <button
              ref={begins}
              type="button"
              className="btn go"
              disabled={columns.length === 0}
              onClick={begin}
            >
              {look ? "Look over all records again" : "Look over all records"}
            </button>
          )}
          {look && <Stands look={look} />}
        </div>
        <Trouble error={error ?? latest.error} />
      </section>
      {look && (look.state === "done" || look.state === "too-many") && (
        <Groups key={look.id} table={table} look={look} />
      )}
    </>
  );
}

/** How far it is, or what it came to. */
function Stands({ look }: { look: Look }) {
  if (look.state === "running")
    return (
      <span className="flex items-center gap-3" role="status">
        <progress
          className="progress progress-primary w-44"
          aria-label="How far it is"
          value={percent(look)}
          max={100}
        />
        {percent(look)} %, {counted(look.found, "pair")} so far
      </span>
    );
  return (
    <span role="status" className={look.state === "done" ? "text-soft" : "text-madder"}>
      {look.state === "done" && `${counted(look.found, "pair is", "pairs are")} nearly the same`}
      {look.state === "too-many" &&
        "So many records are alike in these columns that they do not tell one from another. Compare more of them. The first are below"}
      {look.state === "ended" && "The look was ended before it was through"}
      {look.state === "failed" && "The look failed. Try again"}, {when(look.begun)} by {look.by}.
    </span>
  );
}

function Groups({ table, look }: { table: Table; look: Look }) {
  const pages = useInfiniteQuery({
    queryKey: queryKeyOf("alike-groups", table.name, look.id),
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      answered(
        api.GET("/api/tables/{table}/alike/{look}/groups", {
          params: { path: { table: table.name, look: look.id }, query: { after: pageParam, limit: 20 } },
        }),
      ),
    getNextPageParam: ({ next }) => next,
    refetchOnWindowFocus: false,
  });
  const door = useOwnDoor(table);
  const groups = pages.data?.pages.flatMap((page) => page.groups) ?? [];
  const shown: Column[] = [
    ...look.columns.flatMap((name) => table.columns.filter((each) => each.name === name)),
    ...comparable(table.columns).filter(({ name }) => !look.columns.includes(name)),
  ].slice(0, 7);
  return (
    <>
      <Trouble error={pages.error} />
      {pages.data && groups.length === 0 && (
        <p className="text-soft">
          No records are left that are nearly the same and were not said to be different.
        </p>
      )}
      <ol className="grid max-w-[1240px] gap-3" aria-label="Records that are nearly the same">
        {groups.map((group) => (
          <AlikeGroup key={group.place} table={table} look={look} columns={shown} group={group} door={door} />
        ))}
      </ol>
      {pages.hasNextPage && (
        <button
          type="button"
          className="btn mt-4"
          disabled={pages.isFetching}
          onClick={() => pages.fetchNextPage()}
        >
          Show more
        </button>
      )}
    </>
  );
}
