import { answered, api, Problem, type Schemas } from "../api/client";
import { newKey } from "./key";

export type Pressed = Schemas["Pressed"];
type Body = Schemas["DraftJson"];

/**
 * Presses buttons that have steps. One press goes at a time, under a key of its own; the same press made again after its
 * answer was lost goes under the same key, so that what it saved is saved once.
 */
export class Press {
  private busy = false;
  private unanswered: { what: string; key: string } | undefined;

  /** What the press came to; nothing while another one is under way. */
  async of(door: string, button: string, body: Body, version?: number): Promise<Pressed | undefined> {
    if (this.busy) return undefined;
    const { values, record } = body;
    const what = JSON.stringify([door, button, values, record]);
    const key = this.unanswered?.what === what ? this.unanswered.key : newKey();
    this.busy = true;
    this.unanswered = { what, key };
    try {
      const pressed = await answered(
        api.POST("/api/doors/{door}/buttons/{button}/press", {
          params: {
            path: { door, button },
            header: {
              "Idempotency-Key": key,
              ...(version === undefined ? {} : { "If-Match": `"${version}"` }),
            },
          },
          body,
        }),
      );
      this.unanswered = undefined;
      return pressed;
    } catch (e) {
      // What is refused was not done; of anything else nobody knows.
      if (e instanceof Problem && e.status < 500) this.unanswered = undefined;
      throw e;
    } finally {
      this.busy = false;
    }
  }
}
