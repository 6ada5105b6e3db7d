import { useEffect, useRef } from "react";
import { widthOf } from "../model/items";
import { change } from "./edits";
import type { BenchDoings } from "./useBench";

/** The keys at the Bench, wherever one is on it. Where one types, the keys of typing stay what they are. */
export function useBenchKeys(bench: BenchDoings, covered: boolean, rehearse: () => void) {
  const latest = useRef({ bench, covered, rehearse });
  latest.current = { bench, covered, rehearse };
  useEffect(() => {
    const typing = (e: Event) => {
      const { tagName, isContentEditable } = e.target as HTMLElement;
      return isContentEditable || /INPUT|TEXTAREA|SELECT/.test(tagName);
    };

    const size = (way: "width" | "height", by: number) => {
      const { bench } = latest.current;
      for (const item of bench.items) {
        const now = way === "width" ? widthOf(item) : "height" in item ? (item.height ?? 1) : 1;
        bench.edit(change([item.id], { [way]: Math.max(1, Math.min(12, now + by)) }));
      }
    };

    const arrows: Record<string, [() => void, () => void]> = {
      ArrowUp: [() => latest.current.bench.shift(-1), () => size("height", -1)],
      ArrowDown: [() => latest.current.bench.shift(1), () => size("height", 1)],
      ArrowLeft: [() => latest.current.bench.shift(-1), () => size("width", -1)],
      ArrowRight: [() => latest.current.bench.shift(1), () => size("width", 1)],
    };

    const doing = (e: KeyboardEvent): (() => void) | undefined => {
      const { bench } = latest.current;
      const command = e.ctrlKey || e.metaKey;
      const key = e.key.toLowerCase();
      if (e.key === "F9") return latest.current.rehearse;
      if (e.key === "F4") return () => bench.setFace(bench.face === "rules" ? "fields" : "rules");
      if ((e.target as Element).closest("[data-own-keys]") && !(command && (key === "z" || key === "y")))
        return undefined;
      if (e.altKey && arrows[e.key]) return arrows[e.key]?.[e.shiftKey ? 1 : 0];
      if (command && key === "z" && !typing(e)) return () => bench.step(e.shiftKey ? "forth" : "back");
      if (command && key === "y" && !typing(e)) return () => bench.step("forth");
      if (typing(e)) return undefined;
      if (e.key === "Delete") return bench.takeOff;
      if (command && key === "a") return bench.all;
      return undefined;
    };

    const pressed = (e: KeyboardEvent) => {
      if (latest.current.covered) return;
      const done = doing(e);
      if (!done) return;
      e.preventDefault();
      e.stopPropagation();
      done();
    };
    const copied = (e: ClipboardEvent) => {
      const { bench, covered } = latest.current;
      if (covered || typing(e) || bench.items.length === 0) return;
      e.clipboardData?.setData("text/plain", bench.copyItems());
      e.preventDefault();
      if (e.type === "cut") bench.takeOff();
      else bench.say(bench.items.length === 1 ? "Copied." : `${bench.items.length} items are copied.`);
    };
    const pasted = (e: ClipboardEvent) => {
      const { bench, covered } = latest.current;
      if (covered || typing(e)) return;
      e.preventDefault();
      bench.paste(e.clipboardData?.getData("text/plain") ?? "");
    };
    window.addEventListener("keydown", pressed, true);
    window.addEventListener("copy", copied);
    window.addEventListener("cut", copied);
    window.addEventListener("paste", pasted);
    return () => {
      window.removeEventListener("keydown", pressed, true);
      window.removeEventListener("copy", copied);
      window.removeEventListener("cut", copied);
      window.removeEventListener("paste", pasted);
    };
  }, []);
}
