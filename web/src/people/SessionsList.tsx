import { useQuery, useQueryClient } from "@tanstack/react-query";
import { answered, api } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { when } from "../model/when";
import { Trouble } from "../ui/Trouble";

/** Who is signed in, and since when. */
export function SessionsList() {
  const queries = useQueryClient();
  const sessions = useQuery({
    queryKey: queryKeyOf("sessions"),
    queryFn: () => answered(api.GET("/api/sessions")),
  });
  const end = async (session: string) => {
    await answered(api.DELETE("/api/sessions/{session}", { params: { path: { session } } })).catch(() => {});
    queries.invalidateQueries({ queryKey: queryKeyOf("sessions") });
  };
  return (
    <div className="grid max-w-3xl gap-4">
      <Trouble error={sessions.error} />
      <table className="box listing">
        <thead>
          <tr>
            <th scope="col">Person</th>
            <th scope="col">Since</th>
            <th scope="col">Last seen</th>
            <th scope="col">
              <span className="sr-only">What can be done</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {sessions.data?.map((open) => (
            <tr key={open.id}>
              <td className="font-mono">{open.name}</td>
              <td>{when(open.since)}</td>
              <td>{when(open.seen)}</td>
              <td>
                <button type="button" className="btn small" onClick={() => end(open.id)}>
                  End it<span className="sr-only"> for {open.name}</span>
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
