/** Whether entries are keyed one at a time or many, where the door leaves it open. */
export function LinesSwitch({ many, choose }: { many: boolean; choose: () => void }) {
  return (
    <span className="lines-switch" title="Alt+L">
      <button type="button" className="chip" aria-pressed={!many} onClick={() => many && choose()}>
        one entry
      </button>
      <button type="button" className="chip" aria-pressed={many} onClick={() => many || choose()}>
        many lines
      </button>
    </span>
  );
}
