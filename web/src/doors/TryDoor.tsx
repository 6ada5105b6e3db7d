import { useEffect, useState } from "react";
import { Link, useParams } from "react-router";
import { tryDoors } from "../api/client";
import { DeskAt } from "../desk/Desk";

/** A door as whoever it is for finds it, tried by a builder, who stays who they are. */
export function TryDoor() {
  const { form = "", door = "" } = useParams();
  const [ready, setReady] = useState(false);
  useEffect(() => {
    tryDoors(true);
    setReady(true);
    return () => tryDoors(false);
  }, []);
  return (
    <div className="trying">
      <p role="note">
        You are trying this door. What you save is kept, under your own name.{" "}
        <Link className="underline underline-offset-2" to={`/forms/${form}/doors/${door}`}>
          Back to its settings
        </Link>
      </p>
      {ready && <DeskAt key={door} id={door} tried />}
    </div>
  );
}
