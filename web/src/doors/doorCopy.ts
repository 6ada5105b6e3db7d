import { answered, api, Problem, type Schemas } from "../api/client";
import { Subscribable } from "../model/subscribable";

export type DoorAnswer = Schemas["DoorAnswer"];
export type DoorDocument = Schemas["DoorJson"];

interface DoorState {
  /** The door with all that was changed here; none until it came. */
  door: DoorAnswer | undefined;
  /** Why it is not there, or what was changed is not saved. */
  trouble: unknown;
}

const SAVE_AFTER = 400;
const AGAIN_AFTER = 1_500;

/** The document of what is known of a door. */
const document = ({ everything: _e, linked: _l, frays: _f, twice, ...door }: DoorAnswer): DoorDocument => ({
  ...door,
  twice: twice ?? undefined,
});

/**
 * A door that is worked on. Each change is shown at once and saved a moment later, one save at a time, on the version that was
 * seen. A change that is not saved yet is never dropped: where somebody else was first, it is made again on top of theirs.
 */
export class DoorCopy extends Subscribable<DoorState> {
  private tag = "";
  private revision = 0;
  /** What was changed here and is not saved. */
  private mine: Partial<DoorAnswer> = {};
  private timer: ReturnType<typeof setTimeout> | undefined;
  private saving = false;
  private readonly path: { form: string; door: string };

  /** @param told runs when something of it was saved */
  constructor(
    form: string,
    door: string,
    private readonly told: () => void,
  ) {
    super({ door: undefined, trouble: undefined });
    this.path = { form, door };
  }

  /** Looks at it anew; what was changed here stays. */
  fetch = async () => {
    try {
      const asked = api.GET("/api/forms/{form}/doors/{door}", { params: { path: this.path } });
      this.adopt(await answered(asked), await asked);
    } catch (e) {
      this.set({ trouble: e });
    }
  };

  change = (changed: Partial<DoorAnswer>) => {
    const { door } = this.state;
    if (!door) return;
    this.mine = { ...this.mine, ...changed };
    this.set({ door: { ...door, ...changed } });
    clearTimeout(this.timer);
    this.timer = setTimeout(this.save, SAVE_AFTER);
  };

  /** Saves what was changed here; over when all of it is, or when it is refused. */
  save = async () => {
    clearTimeout(this.timer);
    if (this.saving) return;
    this.saving = true;
    while (this.state.door && Object.keys(this.mine).length > 0) {
      const sent = this.mine;
      this.mine = {};
      try {
        const asked = api.PUT("/api/forms/{form}/doors/{door}", {
          params: { path: this.path, header: { "If-Match": this.tag } },
          body: document(this.state.door),
        });
        this.adopt(await answered(asked), await asked);
        this.told();
      } catch (e) {
        this.mine = { ...sent, ...this.mine };
        this.set({ trouble: e });
        // What is refused stays as it was set, to be put right with the next change.
        if (e instanceof Problem && e.status !== 412) break;
        const { tag } = this;
        if (e instanceof Problem) await this.fetch();
        if (this.tag === tag) await new Promise((resolve) => setTimeout(resolve, AGAIN_AFTER));
      }
    }
    this.saving = false;
  };

  /** Makes a new secret address of it; the one before opens nothing any more. */
  link = async (): Promise<string> => {
    const { address } = await answered(
      api.POST("/api/forms/{form}/doors/{door}/link", { params: { path: this.path } }),
    );
    await this.fetch();
    this.told();
    return address;
  };

  remove = async () => {
    this.mine = {};
    clearTimeout(this.timer);
    await answered(api.DELETE("/api/forms/{form}/doors/{door}", { params: { path: this.path } }));
    this.told();
  };

  private adopt(there: DoorAnswer, { response }: { response: Response }) {
    const tag = response.headers.get("ETag") ?? "";
    const revision = Number(tag.replace(/\D/g, ""));
    // An answer that comes late is of what it was before.
    if (revision < this.revision) return;
    this.tag = tag;
    this.revision = revision;
    this.set({ door: { ...there, ...this.mine }, trouble: undefined });
  }
}
