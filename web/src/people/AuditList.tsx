import { useInfiniteQuery } from "@tanstack/react-query";
import { answered, api } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { when } from "../model/when";
import { Trouble } from "../ui/Trouble";

/** What was done about people, doors and forms, and what left Weft, the latest first. */
export function AuditList() {
  const pages = useInfiniteQuery({
    queryKey: queryKeyOf("audit"),
    initialPageParam: 0,
    queryFn: ({ pageParam }) => answered(api.GET("/api/audit", { params: { query: { before: pageParam } } })),
    getNextPageParam: (page) => page.next ?? undefined,
  });
  return (
    <div className="grid max-w-5xl gap-4">
      <Trouble error={pages.error} />
      <table className="box listing">
        <thead>
          <tr>
            <th scope="col">When</th>
            <th scope="col">Who</th>
            <th scope="col">What</th>
            <th scope="col">About</th>
            <th scope="col">From</th>
          </tr>
        </thead>
        <tbody>
          {pages.data?.pages
            .flatMap((page) => page.entries)
            .map((entry) => (
              <tr key={entry.id}>
                <td className="whitespace-nowrap">{when(entry.at)}</td>
                <td className="font-mono">{entry.by}</td>
                <td className={entry.what.startsWith("sign-in-") ? "text-madder" : ""}>
                  {entry.what.replaceAll("-", " ")}
                </td>
                <td>{entry.about}</td>
                <td className="font-mono text-[13px] text-soft">{entry.address}</td>
              </tr>
            ))}
        </tbody>
      </table>
      {pages.hasNextPage && (
        <button type="button" className="btn justify-self-start" onClick={() => pages.fetchNextPage()}>
          Earlier
        </button>
      )}
    </div>
  );
}
