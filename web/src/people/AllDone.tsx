import { Quiet } from "./Quiet";

/** The end of a door that closes behind one. */
export function AllDone() {
  return (
    <Quiet title="Done">
      <p>What you saved is kept. This page can be closed.</p>
    </Quiet>
  );
}
