/** Has something read while it is typed: a moment after the last key, each time in place of what was asked before. */
export class Assessing {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private asking: AbortController | undefined;

  /** @param read has it read; what comes after the signal is aborted counts for nothing */
  constructor(private readonly read: (signal: AbortSignal) => Promise<void>) {}

  /** Has it read when nothing was typed for so long. */
  soon(millis: number) {
    this.stop();
    this.timer = setTimeout(() => this.now(), millis);
  }

  /** Has it read right away. */
  now(): Promise<void> {
    this.stop();
    this.asking = new AbortController();
    return this.read(this.asking.signal);
  }

  /** What was asked is not awaited any more. */
  stop() {
    clearTimeout(this.timer);
    this.asking?.abort();
  }
}
