import { Problem, Unreached } from "../api/client";

/** How one thing is sent. */
export interface Parcel<T> {
  /** Sends it, the same each time, so that the server does it once. */
  send: (signal: AbortSignal) => Promise<T>;
  /** Asks what became of it; 404 says that nothing did. Left out where sending it again tells that. */
  outcome?: (signal: AbortSignal) => Promise<T>;
  /** Told each time that no answer came, and why. */
  waiting: (why: string) => void;
}

const FIRST_PAUSE = 500;
const LONGEST_PAUSE = 5_000;

/**
 * Sends things until it is known what became of each. No answer: it is sent again, after longer and longer pauses. A server that
 * failed may have done it all the same, so that is asked, and nothing is taken for granted.
 */
export class Delivery {
  private wakeUp: () => void = () => {};
  private ended = false;

  /** @param within how many milliseconds an answer may take */
  constructor(private readonly within: number) {
    window.addEventListener("online", this.wake);
  }

  /** What came of it; nothing when the delivery was stopped before that was known. Throws the `Problem` that refused it. */
  async of<T>({ send, outcome, waiting }: Parcel<T>): Promise<T | undefined> {
    this.ended = false;
    for (let pause = FIRST_PAUSE; ; pause = Math.min(pause * 2, LONGEST_PAUSE)) {
      try {
        return await this.once(send, outcome);
      } catch (e) {
        if (e instanceof Problem) throw e;
        waiting((e as Error).message);
        await this.pause(pause);
        if (this.ended) return undefined;
      }
    }
  }

  /** What waits is sent again now. */
  wake = () => this.wakeUp();

  /** What waits is not sent again. */
  stop() {
    this.ended = true;
    this.wake();
  }

  private async once<T>(send: Parcel<T>["send"], outcome: Parcel<T>["outcome"]): Promise<T> {
    try {
      return await send(AbortSignal.timeout(this.within));
    } catch (failure) {
      if (!(failure instanceof Problem && failure.status >= 500)) throw failure;
      if (!outcome) return await send(AbortSignal.timeout(this.within));
      return await outcome(AbortSignal.timeout(this.within)).catch((e) => {
        throw e instanceof Problem && e.status === 404 ? failure : new Unreached();
      });
    }
  }

  private pause(millis: number): Promise<void> {
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, millis);
      this.wakeUp = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  }
}
