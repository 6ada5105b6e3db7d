import { useInfiniteQuery } from "@tanstack/react-query";
import { answered, api, type Column, type DeskForm as Form, type SeenTable as Table } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { useShown } from "../model/way";
import { when } from "../model/when";
import type { DeskDoings } from "../sitting/useDesk";
import { Trouble } from "../ui/Trouble";

interface Props {
  form: Form;
  table: Table;
  columns: Column[];
  /** What was removed before then is left out; nothing is where it is blank. */
  since: string;
  removal: DeskDoings["removal"];
  leave: () => void;
}

const SHOWN = 5;

/** Records that were deleted, the latest first, from where each can be put back. */
export function RemovedList({ form, table, columns, since, removal, leave }: Props) {
  const shown = useShown();
  const removed = useInfiniteQuery({
    queryKey: queryKeyOf("removed", table.name, form.door.id, since),
    queryFn: ({ pageParam }) =>
      answered(
        api.GET("/api/doors/{door}/removed", {
          params: {
            path: { door: form.door.id },
            query: { after: pageParam ?? undefined, since: since || undefined },
          },
        }),
      ),
    initialPageParam: null as number | null,
    getNextPageParam: (page) => page.next,
  });
  /** Puts a record back; one goes on at the one beside it. */
  const putBack = async (id: number, pressed: HTMLElement) => {
    const line = pressed.closest("li");
    const beside = line?.nextElementSibling ?? line?.previousElementSibling;
    const next = beside?.querySelector("button") ?? pressed.closest("section");
    const there = await removal.putBack(id);
    const at = document.activeElement;
    if (there && (at === pressed || at === document.body)) next?.focus();
  };
  const records = removed.data?.pages.flatMap((page) => page.records) ?? [];
  return (
    <section
      className="removed"
      aria-label="Removed records"
      tabIndex={0}
      onKeyDown={(e) => e.key === "Escape" && leave()}
    >
      <Trouble error={removed.error} />
      {removed.isSuccess && records.length === 0 && (
        <p className="p-4 text-soft">
          {since
            ? "Nothing is here that was removed since then."
            : "Nothing was removed from this table. What is deleted can be put back from here."}
        </p>
      )}
      <ul>
        {records.map((record) => (
          <li key={record.place}>
            <span className="row">{record.row}</span>
            <span className="min-w-0 flex-1 truncate">
              {columns
                .map((column) => shown(record.values[column.name], column.type))
                .filter(Boolean)
                .slice(0, SHOWN)
                .join(" · ")}
            </span>
            <span className="text-soft">
              {record.by}, {when(record.at)}
            </span>
            <button type="button" className="btn small" onClick={(e) => putBack(record.id, e.currentTarget)}>
              Put back
            </button>
          </li>
        ))}
      </ul>
      {removed.hasNextPage && (
        <button type="button" className="btn small m-3" onClick={() => removed.fetchNextPage()}>
          Show earlier ones
        </button>
      )}
    </section>
  );
}
