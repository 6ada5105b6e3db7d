import { Subscribable } from "../../model/subscribable";
import { type Came, type Read, ruleOf } from "./reading";

/** What a line of rules needs of the Bench. */
export interface RuleHands {
  read: (text: string) => Promise<Came>;
  /** Over when all fields that were typed before are there to be spoken of. */
  settled: () => Promise<void>;
  /** Makes rules of what was read; answers those that could not be made. */
  make: (read: Read[]) => Promise<Read[]>;
  /** Rules are being made until then. */
  busy: (made: Promise<void>) => void;
  /** Something that its builder must know. */
  say: (text: string) => void;
  /** All that stands in the box is chosen, so that the next key is of another line. */
  choose: () => void;
  /** The cursor is at the end again, to go on with what was not taken. */
  end: () => void;
}

interface RuleLinesState {
  text: string;
  /** Whether nothing is offered: the line was taken, or one wants it so. */
  quiet: boolean;
  /** Lines that could not be made rules when others were typed already. */
  left: Read[];
}

/**
 * Lines of rules that are typed one after the other, each made in its turn, however fast they are typed. A line stays in its box, all of
 * it chosen, until it is made; one that is refused stays there, or among those that are left where another is typed by then.
 */
export class RuleLines extends Subscribable<RuleLinesState> {
  private readonly taking: string[] = [];
  private turn = Promise.resolve();
  private hands: RuleHands | undefined;

  constructor(start = "") {
    super({ text: start, quiet: false, left: [] });
  }

  /** Works with those hands from now on. */
  take(hands: RuleHands) {
    this.hands = hands;
  }

  type = (text: string) => this.set({ text, quiet: false });

  hush = () => this.set({ quiet: true });

  /** Puts a line that was left into the box again; what stood there is left in its place. */
  again = (line: string) => {
    const { text } = this.state;
    const left = this.state.left.filter((each) => each.line !== line);
    const typed = text.trim()
      ? [{ line: text, rule: null, said: null, unclear: "It is not made yet.", at: 0 }]
      : [];
    this.set({ text: line, quiet: false, left: [...left, ...typed] });
  };

  /** Makes rules of what stands in the box, in their turn; `known` is how it was read, where that is known. */
  enter = (known?: Came) => {
    const sent = this.state.text;
    if (!sent.trim() || this.taking.includes(sent)) return;
    this.taking.push(sent);
    this.hands?.choose();
    this.turn = this.turn.then(() => this.taken(sent, known));
    this.hands?.busy(this.turn);
  };

  private async taken(sent: string, known: Came | undefined) {
    const { hands } = this;
    if (!hands) return;
    try {
      await hands.settled();
      // What was not understood may speak of a field that was not there yet.
      const clear = known?.read.every((read) => ruleOf(read));
      const { read } = clear && known ? known : await hands.read(sent);
      this.leave(sent, read.length, await hands.make(read));
    } catch (e) {
      hands.say((e as Error).message);
      if (this.state.text !== sent)
        this.set({
          left: [
            ...this.state.left,
            { line: sent, rule: null, said: null, unclear: (e as Error).message, at: 0 },
          ],
        });
    } finally {
      this.taking.splice(this.taking.indexOf(sent), 1);
      if (this.state.text === sent) hands.end();
    }
  }

  /** A single line that is refused and stands in the box still is put right there. */
  private leave(sent: string, lines: number, refused: Read[]) {
    const { text, left } = this.state;
    const stands = text === sent;
    const others = left.filter(({ line }) => line !== sent);
    if (stands && lines === 1 && refused.length > 0) this.set({ quiet: true, left: others });
    else this.set({ text: stands ? "" : text, quiet: stands, left: [...others, ...refused] });
  }
}
