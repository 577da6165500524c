/** Promises and sources in the data of a page that nobody reads. */
import { closeSource, isSource, quieten } from '../runtime/index.ts';
import { visitObjects } from './data-values.ts';

/** Sees to it that no promise of the data can end the program when it fails unread. */
export function quietenData(data: object): void {
  visitObjects(data, quieten);
}

/** Closes every async list of the data: its page failed, or nobody reads it. */
export function closeSources(data: object): void {
  visitObjects(data, (value) => {
    if (isSource(value)) closeSource(value);
  });
}
