/** Waiting with an end. */
export const late = Symbol('late');

/** So many turns of the microtask queue bring what is in memory already: most bodies need no timer. */
const turns = 16;

/** What a promise gives, or `late` where it takes longer than so many milliseconds. */
export async function inTime<T>(promise: Promise<T>, milliseconds: number): Promise<T | typeof late> {
  let isSettled = false;
  const settle = () => {
    isSettled = true;
  };
  promise.then(settle, settle);
  for (let turn = 0; turn < turns && !isSettled; turn++) await null;
  if (isSettled) return promise;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const tooLate = new Promise<typeof late>((resolve) => {
    timer = setTimeout(resolve, Math.max(0, milliseconds), late);
  });
  try {
    return await Promise.race([promise, tooLate]);
  } finally {
    clearTimeout(timer);
  }
}
