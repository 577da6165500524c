/**
 * One connection for all tabs of a visitor: browsers open no more than six to a server that speaks HTTP/1.1. The tab that has the lock
 * (Web Locks) is connected, for all that the tabs want, and tells the others (BroadcastChannel, HTML §9.5) what it hears.
 */
import { comparePositions } from '../../protocol/index.ts';
import { type Line, openLine, type Wanted, type Word } from './line.ts';

/** What tabs say to each other. */
type Message =
  | { kind: 'word'; from: string; word: Word }
  /** A tab wants channels; none where it leaves. */
  | { kind: 'want'; tab: string; number: number; wanted: Wanted }
  /** The tab that is connected hears what another has wanted, from now on. */
  | { kind: 'known'; from: string; tab: string; number: number }
  /** Another tab is connected now: whoever wants something tells it. */
  | { kind: 'new' }
  /** Whether the tab that is connected is awake, and its answer. */
  | { kind: 'ask' }
  | { kind: 'awake'; from: string };

/** Milliseconds after which a tab that does not answer is taken for one that the browser has frozen. */
const longestSilence = 3000;

/** Milliseconds between two questions whether it is awake, in a tab that is looked at. */
const askEvery = 20_000;

/** Whether the browser has what is needed; it has not where the page is not secure. */
export function canShare(): boolean {
  return 'BroadcastChannel' in globalThis && 'locks' in navigator;
}

export function openSharedLine(address: string, tell: (word: Word) => void): Line {
  const name = `zip-loom ${address}`;
  const own = crypto.randomUUID();
  const talk = new BroadcastChannel(name);
  const leaving = new AbortController();
  /** Ends the wait for the lock, or gives it back. */
  let stepBack = () => {};
  let wanted: Wanted = new Map();
  /** Of what was told last. */
  let number = 0;
  /** Whose words count: another’s may leave out what is wanted here, and so may those that were on their way when it was told. */
  let leader: string | undefined;
  /** What all tabs want, while this one is connected for them. */
  let wants: Map<string, Wanted> | undefined;
  let line: Line | undefined;
  let silence: ReturnType<typeof setTimeout> | undefined;

  talk.onmessage = ({ data }: MessageEvent<Message>) => receive(data);
  // Held as long as the tab lives: the browser tells when it is gone.
  const alive = hold(lockOf(own), leaving.signal);
  queue();
  const asking = setInterval(() => {
    if (leader === undefined || wanted.size === 0 || document.hidden) return;
    say({ kind: 'ask' });
    waitForAnswer();
  }, askEvery);

  return {
    listen(given) {
      wanted = given;
      ask();
    },
    hurry() {
      line?.hurry();
      ask();
    },
    close() {
      say({ kind: 'want', tab: own, number: 0, wanted: new Map() });
      leaving.abort();
      stepBack();
      clearTimeout(silence);
      clearInterval(asking);
      talk.close();
    },
  };

  function lockOf(tab: string): string {
    return `${name} ${tab}`;
  }

  function say(message: Message): void {
    talk.postMessage(message);
  }

  function receive(message: Message): void {
    if (message.kind === 'word') {
      if (message.from === leader) tell(message.word);
    } else if (message.kind === 'new') {
      ask();
    } else if (message.kind === 'awake') {
      clearTimeout(silence);
      if (message.from !== leader) ask();
    } else if (message.kind === 'ask') {
      if (wants) say({ kind: 'awake', from: own });
    } else if (message.kind === 'known') {
      if (message.tab !== own || message.number !== number) return;
      leader = message.from;
      clearTimeout(silence);
    } else if (wants) {
      want(message.tab, message.wanted);
      line!.hurry();
      say({ kind: 'known', from: own, tab: message.tab, number: message.number });
    }
  }

  /** Tells the connected tab what is wanted here. One that is silent while this is looked at is replaced. */
  async function ask(): Promise<void> {
    await alive;
    if (leaving.signal.aborted) return;
    if (wants) {
      want(own, wanted);
      return;
    }
    leader = undefined;
    say({ kind: 'want', tab: own, number: ++number, wanted });
    if (wanted.size > 0 && !document.hidden) waitForAnswer();
  }

  function waitForAnswer(): void {
    clearTimeout(silence);
    silence = setTimeout(() => {
      if (!document.hidden) queue({ steal: true });
    }, longestSilence);
  }

  /** Waits for the lock, and is connected as long as it has it. */
  function queue(options: LockOptions = {}): void {
    stepBack();
    const waiting = new AbortController();
    let giveBack = () => {};
    stepBack = () => {
      waiting.abort();
      giveBack();
    };
    const given = options.steal ? options : { signal: waiting.signal };
    const isOver = () => {
      stop();
      // Taken away while the browser held this tab still.
      if (!waiting.signal.aborted && !leaving.signal.aborted) queue();
    };
    navigator.locks
      .request(name, given, () => {
        if (waiting.signal.aborted) return undefined;
        lead();
        return new Promise<void>((resolve) => {
          giveBack = resolve;
        });
      })
      .then(isOver, (error: DOMException) => {
        if (error.name === 'AbortError') isOver();
        // Locks are forbidden here, as in a frame that is shut off: this tab is on its own.
        else lead();
      });
  }

  function lead(): void {
    clearTimeout(silence);
    leader = undefined;
    wants = new Map();
    line = openLine(address, (word) => {
      for (const [tab, one] of wants ?? []) wants!.set(tab, heardOf(one, word.position));
      say({ kind: 'word', from: own, word });
      tell(word);
    });
    say({ kind: 'new' });
    want(own, wanted);
  }

  function stop(): void {
    line?.close();
    line = wants = undefined;
  }

  function want(tab: string, given: Wanted): void {
    const isNew = !wants!.has(tab);
    if (given.size > 0) wants!.set(tab, given);
    else wants!.delete(tab);
    if (isNew && tab !== own && given.size > 0) {
      const mine = wants;
      void hold(lockOf(tab), leaving.signal, () => mine === wants && want(tab, new Map()));
    }
    line!.listen(together(wants!.values()));
  }
}

/** Has a lock until the signal, or for as long as a call takes. Resolves when it has it. */
function hold(name: string, signal: AbortSignal, call?: () => unknown): Promise<void> {
  return new Promise((resolve) => {
    navigator.locks
      .request(name, { signal }, () => {
        resolve();
        if (call) return void call();
        return new Promise<void>((end) => signal.addEventListener('abort', () => end()));
      })
      // It was no longer wanted.
      .catch(() => resolve());
  });
}

function heardOf(wanted: Wanted, position: string): Wanted {
  if (position === '') return wanted;
  return new Map([...wanted].map(([name, after]) => [name, comparePositions(after, position) < 0 ? position : after]));
}

/** Each channel from the first position that somebody needs. */
function together(all: Iterable<Wanted>): Wanted {
  const least = new Map<string, string>();
  for (const wanted of all)
    for (const [name, after] of wanted)
      if (!least.has(name) || comparePositions(after, least.get(name)!) < 0) least.set(name, after);
  return least;
}
