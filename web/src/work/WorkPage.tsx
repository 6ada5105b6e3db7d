import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useParams, useSearchParams } from "react-router";
import { answered, api } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { doorQuery, publishedQuery } from "../api/queries";
import { WayOf } from "../model/way";
import { builds, sessionQuery } from "../people/session";
import { DayInput } from "../ui/DayInput";
import { Trouble } from "../ui/Trouble";
import { Cards } from "./Cards";
import { EntriesPlot } from "./EntriesPlot";
import { Stumbles, Suggested } from "./Stumbles";
import { FieldsTable, PeopleTable } from "./tables";
import "./work.css";

/** How keying on a form goes: how much, how fast, where keyers stumble, how right it is. */
export function WorkPage() {
  const id = useParams().door ?? "";
  const [search, setSearch] = useSearchParams();
  const query = {
    from: search.get("from") ?? undefined,
    to: search.get("to") ?? undefined,
    person: search.get("person") ?? undefined,
  };
  const door = useQuery(doorQuery(id)).data;
  const form = useQuery(publishedQuery(id)).data?.form;
  const building = builds(useQuery(sessionQuery).data?.person);
  const came = useQuery({
    queryKey: queryKeyOf("work", id, query),
    queryFn: () => answered(api.GET("/api/doors/{door}/work", { params: { path: { door: id }, query } })),
    placeholderData: keepPreviousData,
    staleTime: 0,
  });
  const work = came.data;
  const ask = (changed: Record<string, string>) => {
    const next = new URLSearchParams(search);
    for (const [name, value] of Object.entries(changed)) {
      if (value) next.set(name, value);
      else next.delete(name);
    }
    setSearch(next, { replace: true });
  };
  const bench = building ? `/bench/${form?.id ?? ""}` : undefined;
  return (
    <main className="place work-page">
      <header className="top">
        <h1>Work on {form?.title ?? "…"}</h1>
        {work && (
          <>
            <WayOf value={form}>
              <DayInput name="From" value={work.from} set={(from) => ask({ from })} />
              <span>to</span>
              <DayInput name="To" value={work.to} set={(to) => ask({ to })} />
            </WayOf>
            {work.everybody ? (
              <select
                className="chip"
                aria-label="Whose work"
                value={query.person ?? ""}
                onChange={(e) => ask({ person: e.target.value })}
              >
                <option value="">everybody</option>
                {work.people.map(({ name, title }) => (
                  <option key={name} value={name}>
                    {title}
                  </option>
                ))}
              </select>
            ) : (
              <span className="chip">your own work</span>
            )}
          </>
        )}
        <span className="flex-1" />
        {door?.twice && (
          <Link className="btn" to={`/d/${id}/settle`}>
            Keyed twice: settle
          </Link>
        )}
        {work && (
          <a
            className="btn"
            href={`/api/doors/${id}/work/csv?${new URLSearchParams(
              Object.entries(query).flatMap(([name, value]) => (value ? [[name, value]] : [])),
            )}`}
            download
          >
            Export as CSV
          </a>
        )}
      </header>
      <div className="overflow-auto p-5">
        <Trouble error={came.error} />
        {work && work.whole.entries + work.whole.twice === 0 && (
          <p className="box mb-4 p-4">
            Nothing was keyed in these days{work.kept === 0 ? ", or figures of this form are not kept" : ""}.
          </p>
        )}
        {work && (
          <div className="work-grid">
            <Cards work={work} desk={`/d/${id}`} twice={door?.keyedTwice ?? false} />
            <EntriesPlot work={work} desk={`/d/${id}`} />
            <Stumbles work={work} bench={bench} />
            <Suggested work={work} bench={bench} />
            <FieldsTable work={work} bench={bench} />
            <PeopleTable work={work} desk={`/d/${id}`} choose={(person) => ask({ person })} />
            {building && form && <Kept form={form.id} days={work.kept} />}
          </div>
        )}
      </div>
    </main>
  );
}

/** For how long figures are kept, which who builds the form says. */
function Kept({ form, days }: { form: string; days: number }) {
  const queries = useQueryClient();
  const keep = (kept: number) =>
    answered(
      api.PUT("/api/forms/{form}/work/kept", { params: { path: { form } }, body: { days: kept } }),
    ).finally(() => queries.invalidateQueries({ queryKey: queryKeyOf("work") }));
  const usual = [0, 31, 92, 366, 731, 1827];
  const words: Record<number, string> = {
    0: "not at all",
    31: "a month",
    92: "three months",
    366: "a year",
    731: "two years",
    1827: "five years",
  };
  return (
    <label className="kept-for">
      Figures are counts and times by day, never what was keyed. They are kept{" "}
      <select className="entry small" value={days} onChange={(e) => keep(Number(e.target.value))}>
        {[...new Set([...usual, days])].map((each) => (
          <option key={each} value={each}>
            {words[each] ?? `${each} days`}
          </option>
        ))}
      </select>
      ; older months are let go.
    </label>
  );
}
