/**
 * Something that changes at once, outside React, and tells whoever subscribed to it. A component reads it by
 * `useSubscribed`.
 */
export class Subscribable<State> {
  private readonly subscribers = new Set<() => void>();

  constructor(protected state: State) {}

  subscribe = (subscriber: () => void): (() => void) => {
    this.subscribers.add(subscriber);
    return () => {
      this.subscribers.delete(subscriber);
    };
  };

  snapshot = (): State => this.state;

  /** Another state stands in its place. */
  protected become(state: State) {
    this.state = state;
    for (const subscriber of this.subscribers) subscriber();
  }

  /** Those parts of it are others. */
  protected set(part: Partial<State>) {
    this.become({ ...this.state, ...part });
  }
}
