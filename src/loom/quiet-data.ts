/** Promises in the data of a page that nobody waits for. */
import { quieten } from '../runtime/index.ts';

/** So many values are looked at, so that large data costs no time: promises stand near the top. */
const mostValues = 200;

/**
 * Sees to it that no promise of the data can end the process when it fails unread. Getters are left alone: they may be a way
 * to fetch only what is read.
 * @param isDeep whether to look into objects and lists too, for pages that wait for something
 */
export function quietenData(data: object, isDeep: boolean): void {
  const waiting: object[] = [data];
  let seen = 0;
  for (let one = waiting.shift(); one && seen < mostValues; one = waiting.shift()) {
    for (const { value } of Object.values(Object.getOwnPropertyDescriptors(one)) as PropertyDescriptor[]) {
      if (++seen > mostValues) break;
      if (typeof value !== 'object' || value === null) continue;
      quieten(value);
      if (isDeep && isPlain(value)) waiting.push(value);
    }
    if (!isDeep) break;
  }
}

function isPlain(value: object): boolean {
  if (Array.isArray(value)) return true;
  const prototype: unknown = Object.getPrototypeOf(value);
  return prototype === null || prototype === Object.prototype;
}
