import { Subscribable } from "../model/subscribable";

/** A line as the server reads it: why it is unclear, and what its heading tells. */
interface LineRead {
  unclear: string | null;
  proposal?: { say: string } | null;
}

/** What lines need of the Bench. */
export interface LineHands {
  read: (line: string) => Promise<LineRead>;
  /** Makes a field of a line, after that item; the item it is, or nothing when it could not be made. */
  make: (line: string, after: string | undefined) => Promise<string | undefined>;
  /** The item after which the first of them goes. */
  place: () => string | undefined;
  /** The item was made: the next line opens below it. */
  made?: (item: string) => void;
  /** A line that was not understood stands in the line again: all of it is chosen, so that the next key is of another. Whether its box is there. */
  back: () => boolean;
  /** What is not made is told, where its box is gone. */
  say: (text: string) => void;
  /** Fields are being made until then. */
  busy: (made: Promise<void>) => void;
}

interface LinesState {
  /** What stands in the line. */
  line: string;
  /** Lines that were not made when others were typed already. */
  left: { text: string; why: string }[];
}

const NOT_NOW = "It could not be added just now.";

/**
 * Lines that are typed one after the other, each made a field in its turn, however fast they are typed. Enter takes a line out of
 * the box, so that no key of the next one meets it; one that is not understood comes back, and is never typed over for good.
 */
export class QuickLines extends Subscribable<LinesState> {
  private waiting = 0;
  private turn = Promise.resolve();
  /** What the line before made: the next stands after it. */
  private last: string | undefined;
  /** A line that came back into the box, and why. */
  private back: { text: string; why: string } | undefined;
  private hands: LineHands | undefined;

  constructor() {
    super({ line: "", left: [] });
  }

  /** Works with those hands from now on. */
  take(hands: LineHands) {
    this.hands = hands;
  }

  type = (line: string) => {
    const { back } = this;
    this.back = undefined;
    // A key over all of what came back begins another line.
    const left = back && line.length === 1 ? [...this.state.left, back] : this.state.left;
    this.set({ line, left });
  };

  /** Puts a line that was left into the box again. */
  again = (text: string) => {
    const left = this.state.left.filter((each) => each.text !== text);
    const typed = this.state.line.trim();
    this.set({ line: text, left: typed ? [...left, { text: typed, why: "It is not added yet." }] : left });
  };

  /**
   * Adds a line: that in the box, or one that was typed elsewhere.
   *
   * @param plain as it stands, without what its heading tells
   */
  add = (typed: string, plain = false) => {
    const text = typed.trim();
    if (!text) return;
    this.back = undefined;
    if (this.state.line.trim() === text) this.set({ line: "" });
    this.waiting++;
    this.turn = this.turn.then(() => this.added(text, plain));
    this.hands?.busy(this.turn);
  };

  private async added(text: string, plain: boolean) {
    const why = await this.make(text, plain).catch((e: Error) => e.message || NOT_NOW);
    this.waiting--;
    if (why !== undefined) this.leave(text, why);
    if (this.waiting === 0) this.last = undefined;
  }

  /** Makes its field, with what its heading tells unless that is refused; says why it could not. */
  private async make(text: string, plain: boolean): Promise<string | undefined> {
    const { hands } = this;
    if (!hands) return NOT_NOW;
    const { unclear, proposal } = await hands.read(text);
    if (unclear !== null) return unclear;
    const whole = proposal && !plain ? `${text}, ${proposal.say}` : text;
    const item = await hands.make(whole, this.last ?? hands.place());
    if (!item) return NOT_NOW;
    this.last = item;
    hands.made?.(item);
    return undefined;
  }

  /** What is not made comes back, or stays below the box where others are typed by now. */
  private leave(text: string, why: string) {
    if (this.state.line !== "" || this.waiting > 0) {
      this.set({ left: [...this.state.left, { text, why }] });
      return;
    }
    this.back = { text, why };
    this.set({ line: text });
    if (this.hands?.back()) return;
    this.back = undefined;
    this.set({ line: "", left: [...this.state.left, { text, why }] });
    this.hands?.say(`“${text}” was not added. ${why}`);
  }
}
