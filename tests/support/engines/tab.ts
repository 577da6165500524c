/** What tests do with a browser, whichever it is. */

/** A window of a visitor of their own: its cookies and its storage are not those of others. */
export interface Tab {
  /** Goes to a URL and waits until it is loaded. */
  goto(url: string): Promise<void>;
  reload(): Promise<void>;
  back(): Promise<void>;
  forward(): Promise<void>;
  url(): Promise<string>;
  /** Runs a function in the page. Arguments and result are JSON; a promise is waited for. */
  run<Arguments extends readonly unknown[], Result>(
    work: (...given: Arguments) => Result,
    ...given: Arguments
  ): Promise<Awaited<Result>>;
  /** Presses the middle of the first element that is found, as a mouse does. */
  click(selector: string): Promise<void>;
  /** Presses keys, one for each character. */
  type(text: string): Promise<void>;
  press(key: Key): Promise<void>;
  /** Another tab of the same visitor. */
  sibling(): Promise<Tab>;
  close(): Promise<void>;
}

export type Key = 'Enter' | 'Tab' | 'Escape' | 'Backspace';

/** A browser that runs. */
export interface Engine {
  name: EngineName;
  /** A visitor who has never been here. */
  open(): Promise<Tab>;
  close(): Promise<void>;
}

export const engineNames = ['chromium', 'firefox', 'webkit'] as const;
export type EngineName = (typeof engineNames)[number];

/** A call of a function in a page, as an expression: no policy of the page minds it. */
export function callOf(work: unknown, given: readonly unknown[]): string {
  return `(${String(work)})(...${JSON.stringify(given)})`;
}

/** Waits until the function gives something in the page. */
export async function until<Arguments extends readonly unknown[], Result>(
  tab: Tab,
  work: (...given: Arguments) => Result,
  ...given: Arguments
): Promise<Awaited<Result>> {
  const end = Date.now() + 30_000;
  for (;;) {
    // A page that is just being left cannot answer.
    const result = await tab.run(work, ...given).catch(() => undefined);
    if (result) return result;
    if (Date.now() > end) {
      const page = await tab.run(() => `${location.href}\n${document.body.innerHTML.slice(0, 2000)}`).catch(String);
      throw new Error(`This never came true: ${String(work)} with ${JSON.stringify(given)} on ${page}`);
    }
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}

/** Waits until an element shows a text. */
export function untilText(tab: Tab, selector: string, text: string): Promise<unknown> {
  return until(
    tab,
    (where: string, what: string) =>
      [...document.querySelectorAll(where)].some((one) => one.textContent?.includes(what)),
    selector,
    text,
  );
}
