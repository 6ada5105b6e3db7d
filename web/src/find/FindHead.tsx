import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answered, api, type DeskForm as Form } from "../api/client";
import { queryKeyOf } from "../api/keys";
import { counted } from "../model/counted";
import { askOf, question } from "../rows/ask";
import { KEYED } from "../rows/source";
import type { DeskDoings } from "../sitting/useDesk";

const HINTS = ["> 70", "1 to 3", "wen*", '"exactly"', "empty", "filled", "not x", "a or b"];

/** The head of the form as a question: how many match, and what is asked, in words. */
export function FindHead({ form, desk }: { form: Form; desk: DeskDoings }) {
  const { read } = desk.find;
  const count = read?.total.count ?? 0;
  return (
    <div className="ask-head" aria-live="polite">
      <b>
        {read?.words
          ? `Finding: ${read.total.exact ? "" : "about "}${counted(count, "match", "matches", form)}`
          : "Find"}
      </b>
      <span>{read?.words || "Type what to find into any field; several are all to match."}</span>
    </div>
  );
}

/** What can be done with a question. */
export function FindFoot({ form, desk }: { form: Form; desk: DeskDoings }) {
  const { find, browse } = desk;
  const kept = useQuery(findsQuery(form.door.id)).data ?? [];
  return (
    <div className="acts">
      <button type="button" className="btn go" onClick={() => find.first()}>
        First match <kbd>Enter</kbd>
      </button>
      <button type="button" className="btn" onClick={find.leave}>
        Leave Find <kbd>Esc</kbd>
      </button>
      <button type="button" className="btn quiet" onClick={find.open}>
        Last find <kbd>Ctrl F</kbd>
      </button>
      {form.door.keyedTwice && (
        <label>
          Keyed{" "}
          <select
            className="entry kept"
            value={find.criteria[KEYED] ?? ""}
            onChange={(e) => find.type(KEYED, e.target.value)}
          >
            <option value="">however often</option>
            <option value="once">once</option>
            <option value="waiting">waiting for its second keying</option>
            <option value="differing">twice, and differing</option>
            <option value="settled">twice, and settled</option>
          </select>
        </label>
      )}
      {kept.length > 0 && (
        <select
          className="entry kept"
          aria-label="Saved finds"
          value=""
          onChange={(e) => {
            const chosen = kept.find((each) => each.name === e.target.value);
            if (chosen) find.first(askOf(chosen.where, chosen.any, chosen.sort || browse.ask.sort));
          }}
        >
          <option value="">Saved finds…</option>
          {kept.map((each) => (
            <option key={each.name}>{each.name}</option>
          ))}
        </select>
      )}
      <span className="flex-1" />
      <span className="hints">
        {HINTS.map((hint) => (
          <kbd key={hint}>{hint}</kbd>
        ))}
      </span>
    </div>
  );
}

const findsQuery = (door: string) => ({
  queryKey: queryKeyOf("finds", door),
  queryFn: () => answered(api.GET("/api/doors/{door}/finds", { params: { path: { door } } })),
});

/** Gives the find in view a name, under which it is kept with the form. */
export function KeepFind({ form, desk }: { form: Form; desk: DeskDoings }) {
  const [name, setName] = useState<string>();
  const queries = useQueryClient();
  const keep = async () => {
    if (!name?.trim()) return;
    const { where, any, sort } = question(desk.find.settled);
    await answered(
      api.PUT("/api/doors/{door}/finds/{name}", {
        params: { path: { door: form.door.id, name: name.trim() } },
        body: { where, any, sort },
      }),
    ).then(
      () => desk.sitting.say(`Saved as “${name.trim()}”`, "ok"),
      (e: Error) => desk.sitting.say(e.message, "stop"),
    );
    queries.invalidateQueries({ queryKey: queryKeyOf("finds", form.door.id) });
    setName(undefined);
  };
  if (name === undefined) {
    return (
      <button type="button" className="btn small" onClick={() => setName("")}>
        Save this find…
      </button>
    );
  }
  return (
    <form
      className="flex gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        keep();
      }}
    >
      <input
        className="entry small"
        aria-label="Name of the find"
        placeholder="Name of the find"
        // biome-ignore lint/a11y/noAutofocus: it appears because one asked for it
        autoFocus
        value={name}
        maxLength={80}
        onChange={(e) => setName(e.target.value)}
        onKeyDown={(e) => e.key === "Escape" && setName(undefined)}
      />
      <button type="submit" className="btn small go">
        Keep
      </button>
    </form>
  );
}
