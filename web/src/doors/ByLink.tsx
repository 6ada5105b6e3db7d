import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useParams } from "react-router";
import { bear } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { doorsQuery } from "../api/queries";
import { DeskAt } from "../desk/Desk";
import { keepFor } from "../entry/mine";
import { forgetStopped } from "../entry/outbox";
import { Quiet } from "../people/Quiet";

/** A door by its secret address, for anybody: one adds, and nothing of an entry is left in the page once it is saved. */
export function ByLink() {
  const secret = useParams().secret ?? "";
  const [ready, setReady] = useState(false);
  useEffect(() => {
    bear(secret);
    keepFor("(link)");
    // What somebody before could not save is theirs.
    forgetStopped();
    setReady(true);
    return () => bear("");
  }, [secret]);
  const doors = useQuery({
    ...doorsQuery,
    queryKey: queryKeyOf("doors", secret),
    enabled: ready,
    retry: false,
  });
  const door = doors.data?.[0];
  if (doors.error || (doors.data && !door))
    return (
      <Quiet title="This address leads nowhere">
        <p>It was replaced by another, or its time is over. Ask whoever gave it to you.</p>
      </Quiet>
    );
  if (!door) return null;
  return (
    <div className="by-link">
      <DeskAt id={door.id} />
    </div>
  );
}
