import { type DeskForm as Form, Problem } from "../api/client";
import { mine } from "../entry/mine";
import type { Sitting } from "../entry/sitting";
import { Subscribable } from "../model/subscribable";
import { type Ask, EVERYTHING, finding } from "../rows/ask";
import type { Browsing } from "./browsing";

/** What asking needs of the page. */
interface AskingHands {
  /** Has the change drawn, and the cursor in the field that it was in. */
  turn: (change: () => void) => void;
  /** Puts the cursor into the field of that column, or into the first one. */
  focus: (column: string | undefined) => void;
}

interface AskingState {
  /** Whether the form is a question just now. */
  asking: boolean;
  criteria: Record<string, string>;
}

/** The form as a question. It owns the criteria that are typed. */
export class Asking extends Subscribable<AskingState> {
  constructor(
    private readonly sitting: Pick<Sitting, "entry" | "say">,
    private readonly browsing: Browsing,
    private readonly hands: AskingHands,
    private form: Form,
  ) {
    super({ asking: false, criteria: {} });
  }

  /** Goes by that version of the form from now on. */
  follow(form: Form) {
    this.form = form;
  }

  /** What is asked as it is typed. */
  get asked(): Ask {
    return { ...this.browsing.snapshot().ask, where: this.state.criteria };
  }

  type = (column: string, text: string) => this.set({ criteria: { ...this.state.criteria, [column]: text } });

  /** Turns the form into a question; in a question, brings the last one back. */
  open = () => {
    if (!this.form.door.may.includes("see")) return;
    if (this.state.asking) {
      this.set({ criteria: JSON.parse(localStorage.getItem(this.lastPlace) ?? "{}") });
      return;
    }
    this.set({ criteria: this.browsing.snapshot().ask.where });
    this.turn(true);
    this.sitting.say("Say what to find. Enter goes to the first match.");
  };

  /** Goes to the first match of what is asked, unless it can't be read or nothing matches. */
  first = async (ask: Ask = this.asked): Promise<void> => {
    const { say, entry } = this.sitting;
    if (!finding(ask)) {
      say("Nothing is asked yet. Type what to find into any field.", "stop");
      return;
    }
    try {
      if (await this.browsing.go("first", ask)) {
        if (Object.keys(ask.where).length > 0)
          localStorage.setItem(this.lastPlace, JSON.stringify(ask.where));
        if (this.state.asking) this.turn(false);
      } else if (!entry.dirty) {
        say("No record matches.", "stop");
      }
    } catch (e) {
      if (!(e instanceof Problem)) throw e;
      say(e.message, "stop");
      if (this.state.asking) this.hands.focus(e.errors[0]?.where);
    }
  };

  /** Every record is in view again; the one in the form stays. */
  leave = () => {
    this.set({ criteria: {} });
    this.browsing.refresh({ ...EVERYTHING, sort: this.browsing.snapshot().ask.sort });
    if (this.state.asking) this.turn(false);
    this.sitting.say("");
  };

  private turn(asking: boolean) {
    this.hands.turn(() => this.set({ asking }));
  }

  private get lastPlace() {
    return `${mine("find")}${this.form.door.id}`;
  }
}
