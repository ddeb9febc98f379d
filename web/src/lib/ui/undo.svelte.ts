/** Earlier states of one document, newest last; going back keeps what was left for going forward again. */
export class Undo<T> {
  past: T[] = $state.raw([]);
  future: T[] = $state.raw([]);

  /** Remember a state before it changes. */
  keep(state: T) {
    this.past = [...this.past.slice(-99), state];
    this.future = [];
  }

  /** The state before, given the present one. */
  back(now: T): T | undefined {
    const before = this.past.at(-1);
    if (before === undefined) return undefined;
    this.past = this.past.slice(0, -1);
    this.future = [...this.future, now];
    return before;
  }

  /** The state that was left by going back. */
  forward(now: T): T | undefined {
    const after = this.future.at(-1);
    if (after === undefined) return undefined;
    this.future = this.future.slice(0, -1);
    this.past = [...this.past, now];
    return after;
  }
}
