import { type Assessment, answered, api, type Finding, Problem, type Schemas } from "../api/client";
import { Delivery } from "../entry/delivery";
import { Entry } from "../entry/entry";
import { Measure } from "../entry/measure";
import type { Typed } from "../entry/outbox";
import { Subscribable } from "../model/subscribable";

export type Paper = Schemas["PaperJson"];
export type TwiceState = Schemas["TwiceState"];
type Both = Schemas["BothJson"];

/** What the second keyer was last told. */
export interface Said {
  text: string;
  tone: "" | "ok" | "ask" | "stop";
}

/** The second keying as the page shows it. */
export interface SecondState {
  /** The paper in hand; none while none is. */
  paper: Paper | undefined;
  /** Whether none waits. */
  none: boolean;
  /** Fields that differ from the first keying and are to be keyed again, with what was keyed. */
  differs: ReadonlyMap<string, string>;
  /** Where both keyings are known, and one is to be chosen. */
  choose: { column: string; both: Both } | undefined;
  said: Said;
  /** Papers that were not ended when the next one was keyed already: they come back. */
  aside: Paper[];
  /** How many were keyed in this sitting. */
  done: number;
  busy: boolean;
}

/** What the page does for it. */
export interface Hands {
  /** Puts the cursor into a field, with what stands in it chosen; into the first one where none is said. */
  focus: (column?: string) => void;
  /** The field the cursor is in. */
  at: () => string | undefined;
  /** Presses those keys where the cursor is. */
  press: (keys: string[]) => void;
}

const ANSWER_WITHIN = 15_000;
const QUIET: Said = { text: "", tone: "" };
const kept = (door: string, record: number) => `weft.second.${door}.${record}`;

/** What is typed is read as a new entry, but for the first keying of the same paper. */
class SecondEntry extends Entry {
  record = 0;
  protected override ask(body: Schemas["DraftJson"], signal: AbortSignal): Promise<Assessment> {
    return answered(
      api.POST("/api/doors/{door}/twice/{record}/assess", {
        params: { path: { door: this.place, record: this.record } },
        body,
        signal,
      }),
    );
  }
}

/**
 * A second keying, from taking a paper to its end. What was keyed first never comes here, but for a field that was keyed the same
 * twice. What is typed stays in this page's storage until it is done.
 */
export class Second extends Subscribable<SecondState> {
  readonly entry: SecondEntry;
  private measure: Measure | undefined;
  private readonly delivery = new Delivery(ANSWER_WITHIN);
  /** By column, what was last compared. */
  private compared: Typed = {};
  private choices: Record<string, Schemas["Which"]> = {};
  /** What was keyed while the last paper was being ended: it belongs to the next. */
  private ahead: string[] = [];
  /** Whether the page is open: one that was left ends what is on its way, and takes no further paper. */
  private open = true;
  private hands: Hands = { focus: () => {}, at: () => undefined, press: () => {} };

  constructor(
    private readonly door: string,
    private readonly rules: TwiceState,
  ) {
    super({
      paper: undefined,
      none: false,
      differs: new Map(),
      choose: undefined,
      said: QUIET,
      aside: [],
      done: 0,
      busy: false,
    });
    this.entry = new SecondEntry(door);
  }

  take(hands: Hands) {
    this.hands = hands;
  }

  /** Goes on until what it answers with is called. */
  stay(): () => void {
    this.open = true;
    return () => {
      this.open = false;
    };
  }

  /** Counts how the papers are keyed, in fields of that order; answers what ends it. */
  watch(order: string[]): () => void {
    this.measure = new Measure(this.entry, order);
    return this.measure.watch();
  }

  private get atOnce() {
    return this.rules.way === "at once";
  }

  private say(text: string, tone: Said["tone"] = "") {
    this.set({ said: { text, tone } });
  }

  private async taken(asked: Typed | null): Promise<Paper | undefined> {
    const but = this.state.aside.map(({ record }) => record);
    const { paper } = await answered(
      api.POST("/api/doors/{door}/twice/take", {
        params: { path: { door: this.door } },
        body: { paper: asked, but },
      }),
    );
    return paper ?? undefined;
  }

  /** Takes the paper that waits longest, or the one that is asked for by what it is recognised by; else one that was put aside. */
  async next(asked: Typed = {}): Promise<boolean> {
    const wanted = Object.values(asked).some((text) => text.trim());
    try {
      const paper = await this.taken(wanted ? asked : null);
      if (!paper && wanted) {
        this.say("No such paper waits for you here. Look at the number, or take the next one.", "ask");
        return false;
      }
      if (paper || this.state.aside.length === 0) this.begin(paper);
      else this.back();
      return paper !== undefined;
    } catch (e) {
      this.say((e as Error).message, "stop");
      return false;
    }
  }

  /** Back to the paper that was put aside first; the one in hand waits in its place. */
  back() {
    const { paper, aside } = this.state;
    const [first, ...others] = aside;
    if (!first) return;
    this.set({ aside: paper && paper !== first ? [...others, paper] : others });
    this.begin(first);
  }

  /** Puts a paper that is not ended aside for the next one, to which keys were pressed already; says whether there is one. */
  private async stepAside(paper: Paper): Promise<boolean> {
    if (this.ahead.length === 0) return false;
    const { aside } = this.state;
    this.set({ aside: [...aside, paper] });
    const next = await this.taken(null).catch(() => undefined);
    if (!next) {
      this.set({ aside });
      return false;
    }
    this.begin(next);
    this.say(`${paper.words} is put aside: something is to be seen to. Alt+B goes back to it.`, "ask");
    return true;
  }

  private begin(paper: Paper | undefined) {
    this.compared = {};
    this.choices = {};
    this.set({ paper, none: !paper, differs: new Map(), choose: undefined });
    this.entry.record = paper?.record ?? 0;
    this.entry.turn();
    if (!paper) return;
    for (const [column, text] of Object.entries(this.draft(paper))) this.entry.type(column, text);
    this.hands.focus();
  }

  private draft(paper: Paper): Typed {
    return JSON.parse(sessionStorage.getItem(kept(this.door, paper.record)) ?? "{}");
  }

  type = (column: string, text: string) => {
    this.entry.type(column, text);
    const { paper, differs } = this.state;
    if (!paper) return;
    sessionStorage.setItem(kept(this.door, paper.record), JSON.stringify(this.entry.snapshot().typed));
    delete this.choices[column];
    if (text && differs.has(column)) {
      this.set({ differs: new Map([...differs].filter(([each]) => each !== column)) });
    }
  };

  /** A field is left: where differences are told at once, it is compared. */
  leave = async (column: string) => {
    this.entry.leave(column);
    const { paper, choose } = this.state;
    const typed = this.entry.snapshot().typed[column] ?? "";
    const due = this.atOnce && paper && !choose && this.rules.compared.includes(column);
    if (!due || !typed.trim() || this.compared[column] === typed) return;
    this.compared[column] = typed;
    const before = { ...this.entry.snapshot().typed };
    try {
      const told = await answered(
        api.POST("/api/doors/{door}/twice/{record}/fields/{column}", {
          params: { path: { door: this.door, record: paper.record, column } },
          body: { values: this.entry.values, version: this.entry.version },
        }),
      );
      if (this.state.paper !== paper || this.entry.snapshot().typed[column] !== typed) return;
      this.tell(column, told.said, told.both, before);
    } catch (e) {
      delete this.compared[column];
      // Of a paper that is ended by then there is nothing to say.
      if (e instanceof Problem && this.state.paper === paper) this.say(e.message, "stop");
    }
  };

  /** What differs is said at its field, and the cursor goes back there unless something is typed elsewhere by now. */
  private tell(column: string, said: string, both: Both | null | undefined, before: Typed) {
    if (said === "choose" && both) {
      this.set({ choose: { column, both } });
      return;
    }
    if (said !== "differs") return;
    // What is keyed again is keyed from nothing, not left as it stands.
    const keyed = before[column] ?? "";
    delete this.compared[column];
    this.type(column, "");
    this.set({ differs: new Map(this.state.differs).set(column, keyed) });
    const at = this.hands.at();
    if (at && at !== column && (this.entry.snapshot().typed[at] ?? "") === (before[at] ?? "")) {
      this.hands.focus(column);
    }
  }

  /** Which keying holds in the field that is asked about; the keys go on in the field after it. */
  choice(which: "first" | "second", after?: string) {
    const { choose } = this.state;
    if (!choose) return;
    this.choices[choose.column] = which;
    this.set({ choose: undefined });
    this.hands.focus(after ?? choose.column);
  }

  /** What was chosen in a field; nothing where nothing was to be. */
  chosen(column: string): Schemas["Which"] | undefined {
    return this.choices[column];
  }

  /** Keeps a key that is pressed between two papers for the next; says whether it did. */
  hold(key: string): boolean {
    const { busy } = this.state;
    if (busy) this.ahead.push(key);
    return busy;
  }

  /** Ends the keying, unless nothing is keyed yet: then the key was pressed twice. */
  end() {
    const { typed } = this.entry.snapshot();
    if (Object.values(typed).some((text) => text.trim())) this.finish();
    else this.say("Nothing is keyed yet. If the paper has nothing either, press Ctrl Enter.", "ask");
  }

  /** Ends the keying, and takes the next paper. */
  async finish() {
    const { paper, busy, choose } = this.state;
    if (!paper || busy || choose) return;
    this.set({ busy: true });
    this.ahead = [];
    const params = { path: { door: this.door, record: paper.record } };
    const body = {
      entry: {
        values: this.entry.values,
        version: this.entry.version,
        work: this.measure?.taken(this.entry.snapshot()),
      },
      choices: this.choices,
    };
    try {
      const ended = await this.delivery.of({
        send: (signal) => answered(api.POST("/api/doors/{door}/twice/{record}", { params, body, signal })),
        waiting: (why) => this.say(`${why} The keying is kept here and will be sent once.`, "ask"),
      });
      if (!ended) return;
      const open = Object.entries(ended.open);
      if (ended.standing === "waiting") {
        if (await this.stepAside(paper)) return;
        const before = { ...this.entry.snapshot().typed };
        for (const [column, told] of open)
          if (told.said === "differs") this.tell(column, told.said, undefined, before);
        const asks = open.find(([, told]) => told.said === "choose");
        if (asks) this.tell(asks[0], "choose", asks[1].both, before);
        else this.hands.focus(open[0]?.[0]);
        this.say(
          open.length === 1
            ? "One field differs. See to it first."
            : `${open.length} fields differ. See to them first.`,
          "ask",
        );
        return;
      }
      sessionStorage.removeItem(kept(this.door, paper.record));
      this.set({ done: this.state.done + 1 });
      if (!this.open) return;
      const settled = ended.standing === "settled";
      await this.next();
      this.say(
        settled
          ? `${paper.words} is settled.`
          : `${paper.words} is keyed. The keyings differ, and somebody else settles that.`,
        "ok",
      );
    } catch (e) {
      if (e instanceof Problem && e.findings.length > 0) {
        if (await this.stepAside(paper)) return;
        this.entry.stopped(this.entry.snapshot().typed, e.findings);
        this.measure?.stopped(e.findings);
        this.hands.focus(e.findings[0]?.field);
        this.say("Not ended yet. See what is said at the field.", "stop");
      } else {
        this.say((e as Error).message, "stop");
      }
    } finally {
      this.set({ busy: false });
      const next = this.state.paper;
      if (next && next !== paper) this.hands.press(this.ahead);
    }
  }

  /** A field in which something is typed is cleared; where none is, the paper is put back. */
  putBack(column: string) {
    const { typed } = this.entry.snapshot();
    if (typed[column]?.trim()) this.type(column, "");
    else if (Object.values(typed).some((text) => text.trim())) {
      this.say(
        "Something is keyed already. Clear it, or press Put it back: what is keyed stays in this page.",
      );
    } else this.leavePaper();
  }

  /** Puts the paper back for others; what was keyed is there again if it comes back. */
  async leavePaper() {
    const { paper } = this.state;
    if (!paper) return;
    await answered(
      api.POST("/api/doors/{door}/twice/{record}/leave", {
        params: { path: { door: this.door, record: paper.record } },
      }),
    ).catch(() => {});
    this.set({ paper: undefined, none: false, differs: new Map(), choose: undefined });
    this.entry.turn();
    this.say(`${paper.words} is put back for others.`);
  }

  /** What is said at fields: what differs, beside what is found. */
  findings(found: Finding[]): Finding[] {
    return [
      ...[...this.state.differs].map(
        ([field, keyed]): Finding => ({
          field,
          code: "differs",
          severity: "ask",
          message: keyed
            ? `“${keyed}” differs from the first keying. Look at the paper, and key it again.`
            : "The first keying has something here. Look at the paper, and key it again, or keep it empty.",
          rule: "",
        }),
      ),
      ...found,
    ];
  }
}
