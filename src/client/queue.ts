/**
 * The one queue through which every change of the page passes. One request in the foreground; no answer from the background
 * lands while it runs, and one that was asked before it ended is asked again. So an old answer never overwrites a newer one.
 */

export interface ForegroundTask {
  /** A form that changes something is never given up; a page that is only looked at is. */
  canBeReplaced: boolean;
  run(signal: AbortSignal): Promise<void>;
}

export class Queue {
  private running: { task: ForegroundTask; controller: AbortController } | undefined;
  /** What comes next, in order. A form among them is never given up. */
  private waiting: ForegroundTask[] = [];
  /** Grows when a foreground request begins or ends: answers asked in another era are old. */
  private era = 0;
  private readonly idle: Array<() => void> = [];
  /** Counts what was asked in the background, by region: only the newest may land. */
  private readonly newest = new Map<string, number>();

  /** Whether a request runs in the foreground. */
  get isBusy(): boolean {
    return this.running !== undefined;
  }

  /** Runs a task, after one that may not be given up, instead of one that may. */
  foreground(task: ForegroundTask): void {
    if (this.running && !this.running.task.canBeReplaced) {
      this.waiting = [...this.waiting.filter((one) => !one.canBeReplaced), task];
      return;
    }
    this.running?.controller.abort();
    void this.start(task);
  }

  /** Gives up what runs in the foreground, where that is possible, as when the visitor goes back. */
  cancel(): void {
    this.waiting = this.waiting.filter((one) => !one.canBeReplaced);
    if (this.running?.task.canBeReplaced) this.running.controller.abort();
    this.era++;
  }

  /**
   * Asks in the background and lands the answer when nothing newer has come between.
   * @param ask gives the answer, or nothing when there is none
   * @param land puts it into the page, at once
   */
  async background<Answer>(
    region: string,
    ask: () => Promise<Answer | undefined>,
    land: (answer: Answer) => void,
  ): Promise<void> {
    const mine = (this.newest.get(region) ?? 0) + 1;
    this.newest.set(region, mine);
    for (;;) {
      await this.untilIdle();
      const { era } = this;
      const answer = await ask();
      if (this.newest.get(region) !== mine || answer === undefined) return;
      if (era === this.era && !this.isBusy) {
        land(answer);
        return;
      }
    }
  }

  private async start(task: ForegroundTask): Promise<void> {
    const controller = new AbortController();
    const mine = { task, controller };
    this.running = mine;
    this.era++;
    try {
      await task.run(controller.signal);
    } finally {
      this.era++;
      if (this.running === mine) {
        this.running = undefined;
        const next = this.waiting.shift();
        if (next) void this.start(next);
        else for (const wake of this.idle.splice(0)) wake();
      }
    }
  }

  private async untilIdle(): Promise<void> {
    while (this.isBusy) await new Promise<void>((resolve) => this.idle.push(resolve));
  }
}
