/** What the visitor did, while it is on its way. */
import type { Action } from './actions.ts';
import type { Task } from './queue.ts';

export interface Errand extends Task {
  action: Action;
}
