import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { answered, api, type Form, Problem } from "../api/client";
import { type Revised, withRevision, workingCopyQuery } from "../api/queries";
import type { Edit } from "./edits";

const SAVE_AFTER = 300;
const RETRY_AFTER = 1_500;

/**
 * The working copy of a form, changed here at once and saved a moment later. When somebody else changed it meanwhile, the
 * changes made here are made again on top of theirs, so that neither is lost.
 */
export function useWorkingCopy(start: Revised, say: (text: string, stop?: boolean) => void) {
  const queries = useQueryClient();
  const [form, setForm] = useState(start.form);
  const now = useRef({ form: start.form, revision: start.revision });
  const waiting = useRef<Edit[]>([]);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  /** What is under way with the server; one thing at a time, so that no answer undoes what another one brought. */
  const saving = useRef<Promise<void>>(undefined);
  /** Something was heard of while that was so. */
  const stale = useRef(false);
  const { id } = start.form;

  const show = useCallback((next: Form) => {
    now.current.form = next;
    setForm(next);
  }, []);

  const adopt = useCallback(
    (there: Revised) => {
      now.current.revision = there.revision;
      show(waiting.current.reduce((each, edit) => edit(each), there.form));
      queries.setQueryData(workingCopyQuery(id).queryKey, there);
      queries.invalidateQueries({ queryKey: ["bench", id] });
    },
    [id, queries, show],
  );

  const load = useCallback(
    async () => adopt(await withRevision(api.GET("/api/forms/{form}", { params: { path: { form: id } } }))),
    [adopt, id],
  );

  const save = useCallback(async () => {
    while (waiting.current.length > 0) {
      const sent = waiting.current;
      waiting.current = [];
      const params = { path: { form: id }, header: { "If-Match": `"${now.current.revision}"` } };
      try {
        const saved = await withRevision(api.PUT("/api/forms/{form}", { params, body: now.current.form }));
        now.current.revision = saved.revision;
        queries.invalidateQueries({ queryKey: ["bench", id] });
      } catch (e) {
        waiting.current = [...sent, ...waiting.current];
        if (e instanceof Problem && e.status === 412) {
          await load();
          say("Somebody else changed this form too. What you changed was made on top of it.");
        } else if (e instanceof Problem) {
          waiting.current = [];
          await load();
          say(`${e.message} The change was put back.`, true);
        } else {
          say("No connection. Your changes stay here and are saved when it is back.", true);
          await new Promise((resolve) => setTimeout(resolve, RETRY_AFTER));
        }
      }
    }
  }, [id, load, queries, say]);

  const again = useRef(async () => {});
  const flush = useCallback(async () => {
    clearTimeout(timer.current);
    while (saving.current || waiting.current.length > 0) {
      saving.current ??= save().finally(() => {
        saving.current = undefined;
      });
      await saving.current;
    }
    if (stale.current) again.current().catch(() => {});
  }, [save]);

  const edit = useCallback(
    (change: Edit) => {
      const next = change(now.current.form);
      if (JSON.stringify(next) === JSON.stringify(now.current.form)) return;
      waiting.current = [...waiting.current, change];
      show(next);
      clearTimeout(timer.current);
      timer.current = setTimeout(flush, SAVE_AFTER);
    },
    [flush, show],
  );

  /** Lets the server change the form, after what was changed here is saved; answers whether it did. */
  const ask = useCallback(
    async (asked: (ifMatch: string) => Parameters<typeof withRevision>[0]): Promise<boolean> => {
      const asking = async () => {
        try {
          adopt(await withRevision(asked(`"${now.current.revision}"`)));
        } catch (e) {
          if (!(e instanceof Problem) || e.status !== 412) throw e;
          await load();
          adopt(await withRevision(asked(`"${now.current.revision}"`)));
        }
      };
      try {
        do await flush();
        while (saving.current);
        const done = asking().finally(() => {
          saving.current = undefined;
        });
        saving.current = done.catch(() => {});
        await done;
        return true;
      } catch (e) {
        say((e as Error).message, true);
        return false;
      } finally {
        flush();
      }
    },
    [adopt, flush, load, say],
  );

  /** Somebody changed a definition: the form is looked at anew, once it is not being changed right here. */
  const heard = useCallback(async () => {
    const busy = () => saving.current !== undefined || waiting.current.length > 0;
    stale.current = true;
    while (stale.current && !busy()) {
      stale.current = false;
      const there = await withRevision(api.GET("/api/forms/{form}", { params: { path: { form: id } } }));
      // What was asked before a change that was made here tells nothing of it.
      if (busy() || there.revision < now.current.revision) stale.current = true;
      else if (
        there.revision > now.current.revision ||
        JSON.stringify(there.form) !== JSON.stringify(now.current.form)
      ) {
        adopt(there);
      }
    }
  }, [adopt, id]);
  again.current = heard;

  useEffect(() => {
    const leave = () => {
      flush();
    };
    window.addEventListener("pagehide", leave);
    return () => {
      window.removeEventListener("pagehide", leave);
      flush();
    };
  }, [flush]);

  const publish = useCallback(
    async (despite: boolean) => {
      await flush();
      return answered(
        api.POST("/api/forms/{form}/publish", {
          params: {
            path: { form: id },
            query: { despite: despite ? "frays" : undefined },
            header: { "If-Match": `"${now.current.revision}"` },
          },
        }),
      );
    },
    [flush, id],
  );

  const latest = useCallback(() => now.current.form, []);

  return { form, edit, ask, heard, publish, latest };
}
