import type { Sitting } from "../entry/sitting";
import { Subscribable } from "../model/subscribable";

export type LeavingAnswer = "save" | "put back" | "stay";

interface LeavingState {
  /** Answers whether to save what is changed before one moves on; there while that is asked. */
  answer: ((answer: LeavingAnswer) => void) | undefined;
}

/** What becomes of what is typed before one leaves it. */
export class Leaving extends Subscribable<LeavingState> {
  private asks = false;

  /** @param save saves the changes of a stored record; says whether they are stored */
  constructor(
    private readonly sitting: Pick<Sitting, "entry" | "send" | "putAside" | "snapshot">,
    private readonly save: () => Promise<boolean>,
  ) {
    super({ answer: undefined });
  }

  /** Asks from now on, or saves without asking. */
  follow(asks: boolean) {
    this.asks = asks;
  }

  /**
   * A change of a stored record is saved before one moves on, or asked about; a new entry is never saved by that: it waits and is
   * given back. Says whether one may go.
   */
  leave = async (): Promise<boolean> => {
    const { entry, send, putAside } = this.sitting;
    const { record, pending } = entry.snapshot();
    const { question } = this.sitting.snapshot();
    if (question?.key) {
      question.aside();
      return true;
    }
    if (!entry.dirty && !pending) return true;
    if (!record && !pending) {
      putAside(true);
      return true;
    }
    if (this.asks && !pending) {
      const answer = await new Promise<LeavingAnswer>((resolve) => this.set({ answer: resolve }));
      this.set({ answer: undefined });
      if (answer === "stay") return false;
      if (answer === "put back") {
        entry.putBack();
        return true;
      }
    }
    return record ? this.save() : send();
  };
}
