/** The turns of the program’s event loop. */

/** Node’s own, which comes round as soon as waiting input has been seen to; browsers have none. */
const { setImmediate: soon } = globalThis as { setImmediate?: (callback: () => void) => unknown };

/** Resolves when everything else that is due has had its turn: promises alone would keep others waiting for as long as they last. */
export function nextTask(): Promise<void> {
  return new Promise((resolve) => {
    if (soon) soon(resolve);
    else setTimeout(resolve);
  });
}
