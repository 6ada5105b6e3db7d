import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answered, api } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { Trouble } from "../ui/Trouble";
import { groupsQuery } from "./queries";

const ALWAYS = ["Administrators", "Builders"];

/** Groups, to which doors are opened. Two are always there. */
export function GroupsList() {
  const groups = useQuery(groupsQuery);
  const queries = useQueryClient();
  const [title, setTitle] = useState("");
  const [trouble, setTrouble] = useState<unknown>();
  const doing = async (what: Promise<unknown>) => {
    try {
      await what;
      setTrouble(undefined);
      setTitle("");
    } catch (e) {
      setTrouble(e);
    }
    queries.invalidateQueries({ queryKey: queryKeyOf("groups") });
    queries.invalidateQueries({ queryKey: queryKeyOf("people") });
  };
  return (
    <div className="grid max-w-3xl gap-4">
      <Trouble error={trouble ?? groups.error} />
      <form
        className="flex items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          doing(answered(api.POST("/api/groups", { body: { title } })));
        }}
      >
        <label className="grid flex-1 gap-1">
          <span className="font-semibold">Another group</span>
          <input className="entry" value={title} onChange={(e) => setTitle(e.target.value)} />
        </label>
        <button type="submit" className="btn go">
          Make it
        </button>
      </form>
      <table className="box listing">
        <thead>
          <tr>
            <th scope="col">Group</th>
            <th scope="col">Persons</th>
            <th scope="col">
              <span className="sr-only">What can be done</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {groups.data?.map((group) => (
            <tr key={group.name}>
              <td className="font-semibold">{group.title}</td>
              <td className="tabular-nums">{group.people}</td>
              <td>
                {ALWAYS.includes(group.name) ? (
                  <span className="text-soft">always there</span>
                ) : (
                  <button
                    type="button"
                    className="btn small"
                    onClick={() =>
                      doing(
                        answered(
                          api.DELETE("/api/groups/{group}", { params: { path: { group: group.name } } }),
                        ),
                      )
                    }
                  >
                    Delete<span className="sr-only"> {group.title}</span>
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
