/** A state that is told to who listens whenever it changes. */
export class Told<S> {
  private readonly listeners = new Set<() => void>();

  constructor(private state: S) {}

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly current = (): S => this.state;

  readonly tell = (state: S): void => {
    this.state = state;
    for (const listener of this.listeners) listener();
  };
}
