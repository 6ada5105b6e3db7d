import { useNavigate } from "react-router";
import type { Door } from "../api/client";

/** The way out of a door that leads on: back to where it was opened from, or to the end. */
export function Done({ door }: { door: Door }) {
  const navigate = useNavigate();
  if (door.done === "stay") return null;
  return (
    <button
      type="button"
      className="btn"
      onClick={() => (door.done === "back" ? navigate(-1) : navigate("/done"))}
    >
      Done
    </button>
  );
}
