import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";
import { flushSync } from "react-dom";
import type { Finding, Form } from "../api/client";
import { inputId } from "../form/FieldView";
import { Entry } from "./entry";
import { Outbox, type Outgoing, type Typed } from "./outbox";
import type { Kept } from "./sitting";

interface Said {
  text: string;
  tone: "" | "ok" | "stop" | "wait";
}

const KEPT = 1_000;
/** A stopped entry comes back into the form only when nobody has typed for so long. */
const QUIET = 700;

/** One keyer's sitting at one form: the entry in the form, those on their way, those saved. */
export function useSitting(form: Form) {
  const entry = useMemo(() => new Entry(form.id), [form.id]);
  const outbox = useMemo(() => new Outbox(form.id), [form.id]);
  const state = useSyncExternalStore(entry.subscribe, entry.snapshot);
  const outgoing = useSyncExternalStore(outbox.subscribe, outbox.snapshot);
  const [kept, setKept] = useState<Kept[]>([]);
  const [said, say] = useState<Said>({ text: "", tone: "" });
  const typedAt = useRef(0);
  const fields = useMemo(() => form.sections.flatMap((section) => section.fields), [form]);

  const focusFirst = useCallback(() => {
    if (fields[0]) document.getElementById(inputId(fields[0].column))?.focus();
  }, [fields]);

  /** Begins the next entry in the form, now, so that the very next key lands in its first field. */
  const turn = useCallback(() => {
    flushSync(() => entry.turn());
    focusFirst();
  }, [entry, focusFirst]);

  const showStops = useCallback(
    (typed: Typed, stops: Finding[], message: string) => {
      flushSync(() => entry.stopped(typed, stops));
      const first = fields.find((field) => stops.some((stop) => stop.field === field.column));
      document.getElementById(inputId((first ?? fields[0])?.column ?? ""))?.focus();
      say({ text: stops[0]?.message ?? message, tone: "stop" });
    },
    [entry, fields],
  );

  useEffect(() => {
    outbox.start({
      saved: (sent, record) => {
        setKept((before) => [{ record, at: Date.now() }, ...before].slice(0, KEPT));
        say({ text: `Saved in row ${record.row} · ${clock()}`, tone: "ok" });
        if (entry.snapshot().pending === sent.key) turn();
      },
      stopped: (sent) => {
        if (entry.snapshot().pending === sent.key) {
          outbox.remove(sent.key);
          showStops(sent.typed, sent.findings, sent.message);
        } else {
          say({ text: "An earlier entry was stopped. It comes back when the form is free.", tone: "stop" });
        }
      },
      waiting: (sent) => {
        say({ text: "No connection. The entry is kept here and will be sent once.", tone: "wait" });
        if (entry.snapshot().pending === sent.key) turn();
      },
    });
    focusFirst();
    return () => outbox.stop();
  }, [outbox, entry, turn, showStops, focusFirst]);

  const bringBack = useCallback(
    (stopped: Outgoing) => {
      outbox.remove(stopped.key);
      showStops(stopped.typed, stopped.findings, stopped.message);
    },
    [outbox, showStops],
  );

  // A stopped entry never pushes itself under the hands of somebody who types the next one.
  useEffect(() => {
    const stopped = outgoing.find((each) => each.state === "stopped");
    if (!stopped) return;
    const timer = setInterval(() => {
      const free = entry.blank && !entry.snapshot().pending && Date.now() - typedAt.current > QUIET;
      if (free) bringBack(stopped);
    }, 100);
    return () => clearInterval(timer);
  }, [outgoing, entry, bringBack]);

  const save = useCallback(() => {
    if (entry.snapshot().pending) return;
    if (entry.blank) {
      say({ text: "Nothing is typed yet, so there is nothing to save.", tone: "stop" });
      focusFirst();
      return;
    }
    const typed = Object.fromEntries(
      Object.entries(entry.snapshot().typed).filter(([, text]) => text.trim() !== ""),
    );
    entry.await(outbox.add(typed).key);
  }, [entry, outbox, focusFirst]);

  const clear = useCallback(() => {
    turn();
    say({ text: "", tone: "" });
  }, [turn]);

  /** Opens a stopped entry from the tray, unless another one stands in the form. */
  const reopen = useCallback(
    (stopped: Outgoing) => {
      if (entry.blank) bringBack(stopped);
      else say({ text: "Save or clear the entry in the form first.", tone: "stop" });
    },
    [entry, bringBack],
  );

  const keyed = useCallback(() => {
    typedAt.current = Date.now();
  }, []);

  return { entry, state, outgoing, kept, said, save, clear, turn, reopen, keyed, focusFirst };
}

function clock(): string {
  return new Date().toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
}
