import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { api, type Form } from "../api/client";
import { field, form } from "../testing/given";
import type { Edit } from "./edits";
import { WorkingCopy } from "./workingCopy";

type Came = "done" | "lost before" | "lost after" | "refused";

/** A server with one working copy, which answers after so long, and whose answers get lost where it is said. */
class Server {
  revision = 1;
  form: Form = form([field("site")]);
  sent: string[] = [];
  come: () => { came: Came; after: number } = () => ({ came: "done", after: 10 });

  constructor() {
    vi.spyOn(api, "GET").mockImplementation((async () => this.answer("GET", () => 200)) as never);
    vi.spyOn(api, "PUT").mockImplementation((async (_: string, init: never) => {
      const { params, body } = init as { params: { header: { "If-Match": string } }; body: Form };
      const seen = params.header["If-Match"];
      const put = structuredClone(body);
      return this.answer(`PUT ${seen}`, () => {
        if (seen !== `"${this.revision}"`) return 412;
        this.form = put;
        this.revision++;
        return 200;
      });
    }) as never);
  }

  /** Somebody else changes the form. */
  other(edit: Edit) {
    this.form = edit(structuredClone(this.form));
    this.revision++;
  }

  private async answer(what: string, done: () => number) {
    this.sent.push(what);
    const { came, after } = this.come();
    await new Promise((resolve) => setTimeout(resolve, after / 2));
    if (came === "lost before") throw new TypeError("no connection");
    const status = came === "refused" && what !== "GET" ? 400 : done();
    const [data, revision] = [structuredClone(this.form), this.revision];
    await new Promise((resolve) => setTimeout(resolve, after / 2));
    if (came === "lost after") throw new TypeError("no connection");
    const response = {
      ok: status === 200,
      status,
      headers: new Headers({ ETag: `"${revision}"` }),
    } as Response;
    return status === 200 ? { data, response } : { error: { detail: "It can't be so." }, response };
  }
}

const titled =
  (more: string): Edit =>
  (each) => ({ ...each, title: each.title + more });

let server: Server;
let said: string[];
let copy: WorkingCopy;
const pass = (millis = 5_000) => vi.advanceTimersByTimeAsync(millis);
const puts = () => server.sent.filter((each) => each.startsWith("PUT"));

beforeEach(() => {
  vi.useFakeTimers();
  server = new Server();
  said = [];
  copy = new WorkingCopy({ form: structuredClone(server.form), revision: 1 });
  copy.tell({ say: (text) => said.push(text), known: () => {} });
});
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
});

describe("a working copy", () => {
  it("is changed at once, and saved a moment later in one go", async () => {
    copy.edit(titled("a"));
    copy.edit(titled("b"));
    expect(copy.snapshot().title).toBe("Samplesab");
    expect(server.sent).toEqual([]);
    await pass();
    expect(server.sent).toEqual(['PUT "1"']);
    expect(server.form.title).toBe("Samplesab");
  });

  it("sends what is changed during a save after it, on what that made", async () => {
    server.come = () => ({ came: "done", after: 1_000 });
    copy.edit(titled("a"));
    await pass(400);
    copy.edit(titled("b"));
    await pass();
    expect(puts()).toEqual(['PUT "1"', 'PUT "2"']);
    expect(server.form.title).toBe("Samplesab");
  });

  it("makes its changes again on top of somebody else's, and says so", async () => {
    server.other((each) => ({ ...each, density: "tight" }));
    copy.edit(titled("a"));
    await pass();
    expect(server.form).toMatchObject({ title: "Samplesa", density: "tight" });
    expect(copy.snapshot()).toEqual(server.form);
    expect(said).toEqual(["Somebody else changed this form too. What you changed was made on top of it."]);
  });

  it("puts back a change that is refused, with the server's sentence", async () => {
    server.come = () => ({ came: "refused", after: 10 });
    copy.edit(titled("a"));
    await pass();
    expect(copy.snapshot().title).toBe("Samples");
    expect(said).toEqual(["It can't be so. The change was put back."]);
  });

  it("keeps its changes while there is no connection, and saves them once", async () => {
    const answers: Came[] = ["lost before", "lost after", "lost before", "done"];
    server.come = () => ({ came: answers.shift() ?? "done", after: 10 });
    copy.edit((each) => ({ ...each, title: `${each.title}!` }));
    await pass(20_000);
    expect(server.form.title).toBe("Samples!");
    expect(copy.snapshot().title).toBe("Samples!");
    expect(said[0]).toContain("No connection");
  });

  it("is not undone by an answer that was asked for before a change", async () => {
    server.come = () => ({ came: "done", after: 2_000 });
    const heard = copy.heard();
    copy.edit(titled("a"));
    await pass(10_000);
    await heard;
    expect(copy.snapshot().title).toBe("Samplesa");
    expect(server.form.title).toBe("Samplesa");
  });

  it("lets the server change it after what is being saved, one ask after the other", async () => {
    const asks: string[] = [];
    const change = (more: string) => async (ifMatch: string) => {
      asks.push(`${more} ${ifMatch} ${server.form.title}`);
      server.other(titled(more));
      const response = { ok: true, status: 200, headers: new Headers({ ETag: `"${server.revision}"` }) };
      return { data: structuredClone(server.form), response: response as Response };
    };
    copy.edit(titled("a"));
    const both = Promise.all([copy.ask(change("b")), copy.ask(change("c"))]);
    await pass();
    expect(await both).toEqual([true, true]);
    expect(asks).toEqual(['b "2" Samplesa', 'c "3" Samplesab']);
    expect(copy.snapshot().title).toBe("Samplesabc");
  });

  it("says why an ask failed, and goes on", async () => {
    const done = copy.ask(async () => {
      throw new TypeError("no connection");
    });
    await pass();
    expect(await done).toBe(false);
    copy.edit(titled("a"));
    await pass();
    expect(server.form.title).toBe("Samplesa");
  });

  it("loses no change and makes none twice, however late, lost or overtaken the answers are", async () => {
    for (let seed = 1; seed <= 60; seed++) {
      const random = generator(seed);
      server = new Server();
      copy = new WorkingCopy({ form: structuredClone(server.form), revision: 1 });
      const fate: Came[] = ["done", "done", "lost before", "lost after"];
      server.come = () => ({ came: fate[Math.floor(random() * 4)] ?? "done", after: random() * 900 });
      let mine = "";
      let others = 0;
      for (let n = 0; n < 12; n++) {
        const what = random();
        if (what < 0.6) {
          const letter = String.fromCharCode(97 + n);
          mine += letter;
          copy.edit(titled(letter));
        } else if (what < 0.75) {
          others++;
          server.other((each) => ({ ...each, tray: [...(each.tray ?? []), `o${others}`] }));
          copy.heard().catch(() => {});
        } else copy.heard().catch(() => {});
        await pass(random() * 700);
      }
      server.come = () => ({ came: "done", after: 10 });
      await pass(30_000);
      const letters = server.form.title.slice("Samples".length);
      expect([...new Set(letters)].sort().join(""), `seed ${seed}`).toBe([...mine].sort().join(""));
      // Where somebody else was in between, a lost answer can't be told from none.
      if (others === 0) expect(letters, `seed ${seed}`).toBe(mine);
      expect(server.form.tray ?? [], `seed ${seed}`).toHaveLength(others);
      expect(copy.snapshot().title, `seed ${seed}`).toBe(server.form.title);
    }
  });
});

/** Numbers from 0 to 1, the same for the same seed. */
function generator(seed: number) {
  let state = seed * 2_654_435_761;
  return () => {
    state = (Math.imul(state ^ (state >>> 15), 1 | state) + 0x6d2b79f5) | 0;
    return ((state ^ (state >>> 14)) >>> 0) / 4_294_967_296;
  };
}
