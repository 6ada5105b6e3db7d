import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answered, api } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { doorsQuery } from "../api/queries";
import { DayInput } from "../ui/DayInput";
import { Trouble } from "../ui/Trouble";

const tokensQuery = { queryKey: queryKeyOf("tokens"), queryFn: () => answered(api.GET("/api/tokens")) };

/** By what programs go through one's own doors. */
export function Tokens() {
  const tokens = useQuery(tokensQuery);
  const doors = useQuery(doorsQuery).data ?? [];
  const queries = useQueryClient();
  const [title, setTitle] = useState("");
  const [door, setDoor] = useState("");
  const [until, setUntil] = useState("");
  const [made, setMade] = useState("");
  const [trouble, setTrouble] = useState<unknown>();
  const doing = async (what: () => Promise<unknown>) => {
    try {
      await what();
      setTrouble(undefined);
    } catch (e) {
      setTrouble(e);
    }
    queries.invalidateQueries({ queryKey: queryKeyOf("tokens") });
  };
  const make = () =>
    doing(async () => {
      const body = { title, door: door || doors[0]?.id || "", until };
      setMade((await answered(api.POST("/api/tokens", { body }))).token ?? "");
      setTitle("");
    });
  return (
    <form
      className="grid gap-3 border-t border-line pt-4"
      onSubmit={(e) => {
        e.preventDefault();
        make();
      }}
    >
      <h3 className="font-semibold">Tokens for programs</h3>
      <Trouble error={trouble ?? tokens.error} />
      {tokens.data?.map((token) => (
        <p key={token.id} className="flex items-center gap-3">
          <span className="flex-1">
            <b>{token.title}</b> through {token.door}, until {token.until.slice(0, 10)}
          </span>
          <button
            type="button"
            className="btn small"
            onClick={() =>
              doing(() => answered(api.DELETE("/api/tokens/{id}", { params: { path: { id: token.id } } })))
            }
          >
            End it<span className="sr-only">: {token.title}</span>
          </button>
        </p>
      ))}
      {made && (
        <p role="status" className="grid gap-1">
          <code className="entry flex! items-center font-mono text-[13px]">{made}</code>
          <span className="text-soft">
            It is shown only now. A program sends it as Authorization: Bearer.
          </span>
        </p>
      )}
      <div className="grid gap-3 sm:grid-cols-3">
        <label className="grid gap-1">
          What for
          <input className="entry" value={title} onChange={(e) => setTitle(e.target.value)} />
        </label>
        <label className="grid gap-1">
          Through
          <select className="entry" value={door} onChange={(e) => setDoor(e.target.value)}>
            {doors.map((each) => (
              <option key={each.id} value={each.id}>
                {each.id === each.form ? each.formTitle : each.title}
              </option>
            ))}
          </select>
        </label>
        <div className="grid gap-1">
          <span aria-hidden="true">Until</span>
          <DayInput name="Until" value={until} set={setUntil} empty />
        </div>
      </div>
      <button type="submit" className="btn justify-self-start">
        Make a token
      </button>
    </form>
  );
}
