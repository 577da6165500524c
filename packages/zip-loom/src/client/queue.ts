/**
 * The one queue through which every change of the page passes. One request in the foreground; no answer from the background
 * lands while it runs, and one that was asked before it ended is asked again. So an old answer never overwrites a newer one.
 */

export interface Task {
  /** A form that changes something is never given up; a page that is only looked at is. */
  canBeReplaced: boolean;
  /** How many times as long as others it may take: nobody tells how far files have come. Default: 1. */
  patience?: number;
  /**
   * @param isCurrent whether nothing has begun after it, so that its answer may land
   * @param alive says that it goes on, and is not late
   */
  run(signal: AbortSignal, isCurrent: () => boolean, alive: () => void): Promise<void>;
  /** Told when a task that is never given up has taken so long that others go on. */
  onLate(): void;
}

export interface Queue<Kind extends Task> {
  /** What runs and what comes next, in order. A form among them is never given up. */
  tasks(): readonly Kind[];
  /** Runs a task, after one that may not be given up, instead of one that may. */
  foreground(task: Kind): void;
  /** Gives up what may be given up, as when the visitor goes back. */
  cancel(): void;
  /**
   * Asks in the background and lands the answer when nothing newer has come between.
   * @param ask gives the answer
   * @param land puts it into the page, at once; told which of the names are not asked for again meanwhile
   */
  background<Answer>(
    names: readonly string[],
    ask: (signal: AbortSignal) => Promise<Answer>,
    land: (answer: Answer, isNewest: (name: string) => boolean) => void,
  ): Promise<void>;
}

/**
 * @param limit milliseconds after which a task that is never given up holds nobody up any longer
 * @param onChange told when tasks begin or end
 */
export function createQueue<Kind extends Task>(limit: number, onChange: (tasks: readonly Kind[]) => void): Queue<Kind> {
  let tasks: Kind[] = [];
  let running = new AbortController();
  /** Grows when a foreground request begins or ends: answers asked in another era are old. */
  let era = 0;
  let idle: Array<() => void> = [];
  /** Requests of the background: they make room for one that somebody waits for. */
  const asking = new Set<AbortController>();
  /** Counts what was asked in the background, by name: only the newest may land. */
  const newest = new Map<string, number>();

  function changed(): void {
    era++;
    onChange(tasks);
    if (tasks.length > 0) return;
    for (const wake of idle) wake();
    idle = [];
  }

  async function start(task: Kind): Promise<void> {
    running = new AbortController();
    const { signal } = running;
    for (const one of asking) one.abort();
    changed();
    const mine = era;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let alive = () => {};
    const late = new Promise<void>((resolve) => {
      if (task.canBeReplaced) return;
      alive = () => {
        clearTimeout(timer);
        timer = setTimeout(
          () => {
            finish(task);
            task.onLate();
            resolve();
          },
          limit * (task.patience ?? 1),
        );
      };
    });
    alive();
    const isCurrent = () => !signal.aborted && (tasks[0] === task || (tasks.length === 0 && era === mine + 1));
    await Promise.race([task.run(signal, isCurrent, alive), late]).finally(() => {
      clearTimeout(timer);
      finish(task);
    });
  }

  /** Goes on with what comes next. */
  function finish(task: Kind): void {
    if (tasks[0] !== task) return;
    tasks = tasks.slice(1);
    if (tasks[0]) void start(tasks[0]);
    else changed();
  }

  function cancel(): void {
    if (tasks[0]?.canBeReplaced) running.abort();
    tasks = tasks.filter((one) => !one.canBeReplaced);
    changed();
  }

  return {
    tasks: () => tasks,
    cancel,
    foreground(task) {
      cancel();
      tasks.push(task);
      if (tasks.length === 1) void start(task);
      else onChange(tasks);
    },
    async background(names, ask, land) {
      const mine = new Map(names.map((name) => [name, (newest.get(name) ?? 0) + 1]));
      for (const [name, number] of mine) newest.set(name, number);
      const isNewest = (name: string) => newest.get(name) === mine.get(name);
      while (names.some(isNewest)) {
        while (tasks.length > 0) await new Promise<void>((resolve) => idle.push(resolve));
        const asked = era;
        const controller = new AbortController();
        asking.add(controller);
        const answer = await ask(controller.signal).catch((error: unknown) => {
          if (!controller.signal.aborted) throw error;
        });
        asking.delete(controller);
        if (asked !== era || tasks.length > 0) continue;
        if (answer !== undefined) land(answer, isNewest);
        return;
      }
    },
  };
}
