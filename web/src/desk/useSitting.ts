import {
  useCallback,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  useSyncExternalStore,
} from "react";
import { flushSync } from "react-dom";
import type { Finding, Form, Then } from "../api/client";
import { inputId } from "../form/FieldView";
import { fieldsOf, firstField } from "../form/items";
import { Entry } from "./entry";
import { Outbox, type Outgoing, type Typed } from "./outbox";
import type { Kept } from "./sitting";

interface Said {
  text: string;
  tone: "" | "ok" | "stop" | "wait";
}

/** What must be answered before an entry is saved. */
export interface Question {
  findings: Finding[];
  /** What Enter answers: yes, no or cancel; to go back where it only asks whether to save all the same. */
  usual: string | undefined;
  answered: () => void;
}

const KEPT = 1_000;
/** A stopped entry comes back into the form only when nobody has typed for so long. */
const QUIET = 700;

/** One keyer's sitting at one form: the entry in the form, those on their way, those saved. */
export function useSitting(form: Form, version: number | undefined) {
  const entry = useMemo(() => new Entry(form.id), [form.id]);
  const outbox = useMemo(() => new Outbox(form.id), [form.id]);
  useLayoutEffect(() => entry.follow(form, version), [entry, form, version]);
  const state = useSyncExternalStore(entry.subscribe, entry.snapshot);
  const outgoing = useSyncExternalStore(outbox.subscribe, outbox.snapshot);
  const [kept, setKept] = useState<Kept[]>([]);
  const [said, setSaid] = useState<Said>({ text: "", tone: "" });
  const [question, setQuestion] = useState<Question>();
  const after = useRef<(then: Then[]) => void>(() => {});
  const typedAt = useRef(0);
  const settling = useRef(new Map<string, (saved: boolean) => void>());
  const sendAgain = useRef<() => void>(() => {});
  const fields = useMemo(() => fieldsOf(form), [form]);

  const say = useCallback((text: string, tone: Said["tone"] = "") => setSaid({ text, tone }), []);

  const focusFirst = useCallback(() => {
    const first = firstField(form);
    const field = first && document.getElementById(inputId(first.column));
    field?.focus();
    // What stays of the last entry gives way to the first key.
    if (field instanceof HTMLInputElement) field.select();
  }, [form]);

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
      say(stops[0]?.message ?? message, stops.every(({ severity }) => severity === "ask") ? "wait" : "stop");
    },
    [entry, fields, say],
  );

  /** Where everything that is in the way only asks, the question is put. */
  const put = useCallback((findings: Finding[], usual: string | undefined, answered: () => void) => {
    if (findings.length > 0 && findings.every((finding) => finding.severity === "ask"))
      setQuestion({ findings, usual, answered });
  }, []);

  const settle = useCallback((key: string, saved: boolean) => {
    settling.current.get(key)?.(saved);
    settling.current.delete(key);
  }, []);

  useEffect(() => {
    outbox.start({
      saved: (sent, saved) => {
        const { then = [], ...record } = saved;
        entry.saved = record.id;
        setKept((before) => [{ record, at: Date.now(), taken: false }, ...before].slice(0, KEPT));
        say(`Saved in row ${record.row} · ${clock()}`, "ok");
        if (entry.snapshot().pending === sent.key) turn();
        settle(sent.key, true);
        after.current(then);
      },
      stopped: (sent) => {
        if (entry.snapshot().pending === sent.key) {
          outbox.remove(sent.key);
          showStops(sent.typed, sent.findings, sent.message);
          put(sent.findings, sent.usual, () => sendAgain.current());
        } else {
          say("An earlier entry was stopped. It comes back when the form is free.", "stop");
        }
        settle(sent.key, false);
      },
      waiting: (sent) => {
        say("No connection. The entry is kept here and will be sent once.", "wait");
        if (entry.snapshot().pending === sent.key) turn();
        settle(sent.key, true);
      },
    });
    focusFirst();
    return () => outbox.stop();
  }, [outbox, entry, turn, showStops, focusFirst, say, settle, put]);

  const bringBack = useCallback(
    (stopped: Outgoing) => {
      outbox.remove(stopped.key);
      showStops(stopped.typed, stopped.findings, stopped.message);
      put(stopped.findings, stopped.usual, () => sendAgain.current());
    },
    [outbox, showStops, put],
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

  /** Sends the new entry in the form; the answer comes when it is known whether it stands. */
  const send = useCallback((): Promise<boolean> => {
    const { pending } = entry.snapshot();
    const key = pending ?? outbox.add(entry.sent, entry.version, entry.beside).key;
    if (!pending) entry.await(key);
    return new Promise((resolve) => settling.current.set(key, resolve));
  }, [entry, outbox]);

  sendAgain.current = send;

  const save = useCallback(() => {
    if (entry.snapshot().pending) return;
    if (entry.blank) {
      say("Nothing is typed yet, so there is nothing to save.", "stop");
      focusFirst();
      return;
    }
    send();
  }, [entry, send, focusFirst, say]);

  /** Opens a stopped entry from the tray, unless another one stands in the form. */
  const reopen = useCallback(
    (stopped: Outgoing) => {
      if (entry.blank) bringBack(stopped);
      else say("Save or clear the entry in the form first.", "stop");
    },
    [entry, bringBack, say],
  );

  const keyed = useCallback(() => {
    typedAt.current = Date.now();
  }, []);

  return {
    entry,
    state,
    outgoing,
    kept,
    setKept,
    said,
    say,
    fields,
    save,
    send,
    turn,
    showStops,
    reopen,
    keyed,
    focusFirst,
    question,
    setQuestion,
    put,
    after,
  };
}

export type Sitting = ReturnType<typeof useSitting>;

function clock(): string {
  return new Date().toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
}
