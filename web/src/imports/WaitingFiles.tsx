import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { answered, api } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { counted } from "../model/counted";
import { when } from "../model/when";

/** The files that were brought in and not loaded yet: each is gone on with, or given up. */
export function WaitingFiles() {
  const queries = useQueryClient();
  const queryKey = queryKeyOf("imports");
  const files = useQuery({ queryKey, queryFn: () => answered(api.GET("/api/imports")), staleTime: 0 }).data;
  if (!files?.length) return null;
  const discard = (id: string) =>
    api
      .DELETE("/api/imports/{id}", { params: { path: { id } } })
      .finally(() => queries.invalidateQueries({ queryKey }));
  return (
    <section className="mb-4 max-w-4xl" aria-label="Files not loaded yet">
      <h2 className="mb-2">Files not loaded yet</h2>
      <ul className="box">
        {files.map(({ id, fileName, rows, at }) => (
          <li key={id} className="flex items-center gap-3 px-4 py-1.5">
            <Link
              className="font-semibold text-indigo underline-offset-2 hover:underline"
              to={`/imports/${id}`}
            >
              {fileName}
            </Link>
            <span className="flex-1 text-soft">
              {counted(rows, "row")}, {when(at)}
            </span>
            <button
              type="button"
              className="btn quiet small"
              aria-label={`Delete ${fileName}`}
              onClick={() => discard(id)}
            >
              Delete
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
