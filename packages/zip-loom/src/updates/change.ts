/** Changes by name: what an answer, or a channel, does to the page beside its regions. Plain data; nothing is rendered here. */
import { LoomError } from '../diagnostics/index.ts';
import { type TrustedMarkup, trustedMarkup } from '../kernel/index.ts';
import type { PutPlace } from '../protocol/index.ts';
import { updateDiagnostic } from './diagnostics.ts';

/** What is put somewhere: a template with its data, or markup that somebody vouches for. */
export type PutContent =
  | { readonly kind: 'template'; readonly name: string; readonly data: object }
  | { readonly kind: 'markup'; readonly html: string };

type Action =
  | { readonly kind: 'put'; readonly place: PutPlace; readonly target: string; readonly content: PutContent }
  | { readonly kind: 'remove'; readonly target: string }
  | { readonly kind: 'reload'; readonly target: string };

/** Makes a change. */
export let newChange: (action: Action) => Change;

/** The action of a change. */
export let actionOf: (change: Change) => Action;

/** One change of the page. Made by `put(…)`, `remove(…)` and `reload(…)`. */
export class Change {
  static {
    newChange = (action) => new Change(action);
    actionOf = (change) => change.#action;
  }

  readonly #action: Action;

  private constructor(action: Action) {
    this.#action = action;
  }
}

let newContent: (content: PutContent) => Content;

/** Content that still has to be told where it goes. A target is the name of a region, or the id of an element. */
export class Content {
  static {
    newContent = (content) => new Content(content);
  }

  private readonly content: PutContent;

  private constructor(content: PutContent) {
    this.content = content;
  }

  /** Before everything that is inside the target. */
  atStartOf(target: string): Change {
    return this.at('at-start-of', target);
  }

  /** After everything that is inside the target. */
  atEndOf(target: string): Change {
    return this.at('at-end-of', target);
  }

  /** Right before the target. */
  before(target: string): Change {
    return this.at('before', target);
  }

  /** Right after the target. */
  after(target: string): Change {
    return this.at('after', target);
  }

  /** In place of the target. */
  inPlaceOf(target: string): Change {
    return this.at('in-place-of', target);
  }

  /** In place of what is inside the target. */
  inside(target: string): Change {
    return this.at('inside', target);
  }

  private at(place: PutPlace, target: string): Change {
    return newChange({ kind: 'put', place, target: assertTarget(target), content: this.content });
  }
}

/** @throws {LoomError} for what is neither the name of a template nor trusted markup */
export function contentOf(what: string | TrustedMarkup, data: object = {}): Content {
  const html = typeof what === 'object' && what !== null ? trustedMarkup(what) : undefined;
  if (html !== undefined) return newContent({ kind: 'markup', html });
  if (typeof what !== 'string' || what === '') throw new LoomError(updateDiagnostic('invalid-content', {}));
  return newContent({ kind: 'template', name: what, data });
}

/** @throws {LoomError} for what can be neither the name of a region nor an id (HTML §3.2.6) */
export function assertTarget(target: string): string {
  if (typeof target === 'string' && /^[^\s]+$/.test(target)) return target;
  throw new LoomError(updateDiagnostic('invalid-target', { target: String(target).slice(0, 80) }));
}
