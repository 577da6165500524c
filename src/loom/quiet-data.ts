/** Promises in the data of a page that nobody waits for. */
import { quieten } from '../runtime/index.ts';

/** So many values are looked at, so that large data costs no time: promises stand near the top. */
const mostValues = 200;

/**
 * Sees to it that no promise of the data can end the program when it fails unread. Getters are left alone: they may be a way
 * to fetch only what is read.
 * @param isDeep whether to look into objects and lists too, for pages that wait for something
 */
export function quietenData(data: object, isDeep: boolean): void {
  const waiting: object[] = [data];
  let left = mostValues;
  const look = (value: unknown) => {
    left--;
    if (typeof value !== 'object' || value === null) return;
    quieten(value);
    if (isDeep && isPlain(value)) waiting.push(value);
  };
  for (let one = waiting.shift(); one && left > 0; one = waiting.shift()) {
    if (Array.isArray(one)) {
      for (let at = 0; at < one.length && left > 0; at++) look(one[at]);
      continue;
    }
    for (const name in one) {
      if (left <= 0) break;
      look(Object.getOwnPropertyDescriptor(one, name)?.value);
    }
  }
}

function isPlain(value: object): boolean {
  if (Array.isArray(value)) return true;
  const prototype: unknown = Object.getPrototypeOf(value);
  return prototype === null || prototype === Object.prototype;
}
